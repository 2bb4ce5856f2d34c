"""The steps behind the figures that are no bounds: torque, preload band, stiffness, losses, and
what is put on the wrench."""

from __future__ import annotations

from ....documents.targets import PreloadTarget, YieldTarget
from ....forms.stage import PassOut
from ....mechanics import angle as ang
from ....mechanics import losses as loss
from ....mechanics import preload as pre
from ....mechanics import stiffness as stiff
from ....mechanics import strength as lim
from ....mechanics import tensioner
from ....mechanics import thermal as the
from ....mechanics import tools as mech
from ....mechanics.formula import Step, explain
from ....thresholds import GAUGE_OFF, STIFFNESS_SCATTER, TRANSFER_OFF
from ....units import show, show_quantity
from ..inputs.facts import Facts
from ..inputs.friction_steps import bracket, per_preload
from ..inputs.stiffness import fastener_modulus
from ..inputs.target import Chosen
from ..inputs.wrench_settings import Chain
from ..load.bolt_load import Seen, Setting
from ..load.in_service import Hot, swing_of
from ..load.losses import loss_of

Derived = tuple[list[Step], list[str]]


def torque(chosen: Chosen) -> Derived:
    """How the target's torque came to be."""
    facts, target = chosen.facts, chosen.target
    notes = [f"Chosen because: {chosen.why}."]
    force: float | None = None
    steps: list[Step] = []
    if isinstance(target, YieldTarget):
        steps.append(
            explain(
                lim.preload_at_fraction,
                fraction=target.fraction,
                yield_strength=facts.strength.yield_,
                area=facts.area,
            )
        )
        force = steps[0].value
        notes.append(f"Stress on the {facts.area_words}.")
    elif isinstance(target, PreloadTarget):
        force = target.preload.base
    if force is None:
        return [], [*notes, "The figure is given, not calculated."]
    if facts.joint.nut_factor is not None:
        return [
            *steps,
            explain(
                pre.torque_from_nut_factor,
                preload=force,
                nut_factor=facts.joint.nut_factor.typical,
                diameter=facts.thread.diameter,
            ),
        ], notes
    inner = bracket(facts, "typical")
    last = explain(
        pre.torque_from_preload,
        preload=force,
        per_preload=per_preload(facts, inner, "typical"),
        prevailing=facts.joint.prevailing,
    )
    return [*steps, *inner, last], notes


def stretched(chosen: Chosen, one: PassOut) -> Derived:
    """How a pressure comes to the load that is left: what is pumped, what is lost on release."""
    facts, steps = chosen.facts, []
    pumped, left = one.pumped_N[1], one.left_N[1]
    own = pumped / left
    if facts.stiffness is not None:
        rule = explain(
            tensioner.transfer_factor,
            diameter=facts.thread.diameter,
            grip=facts.stiffness.grip,
        )
        steps += [rule] if abs(rule.value / own - 1) < 1e-9 else []
    steps.append(explain(tensioner.load_left, pumped=pumped, transfer=own))
    source = "the common rule" if len(steps) > 1 else "the tool's sheet, as entered"
    return steps, [
        f"Pumped to {one.pressure}: {show_quantity(pumped, 'force', 'kN')}.",
        f"Load transfer factor {own:.4g}: {source}; it may be off by {TRANSFER_OFF.value:g}, the "
        f"gauge by {GAUGE_OFF.value:g} %.",
        "No torque acts: the nut is run down by hand. Limits are held against the load while "
        "pumped, which is the larger one.",
    ]


def preload(chosen: Chosen, seen: Seen) -> Derived:
    """The preload band: typical, high, low, each by the setting that gives it; with an angle, the
    load it adds."""
    facts = chosen.facts
    high, low = seen.high_by or seen.setting, seen.low_by or seen.setting
    steps: list[Step] = []
    for end, torque in (("typical", seen.setting.torque), ("low", high.high), ("high", low.low)):
        inner = bracket(facts, end)
        steps += inner if end == "typical" else inner[-1:]
        steps.append(
            explain(
                pre.preload_from_torque,
                torque=torque,
                per_preload=per_preload(facts, inner, end),
                prevailing=facts.joint.prevailing,
            )
        )
    notes = [
        f"Typical first; then the high end (low friction, {_by(high, chosen.torque)} high) "
        "and the low end (high friction, "
        f"{_by(low, chosen.torque)} low): worst case.",
        f"Friction: {facts.friction.source}.",
    ]
    if chosen.angle and facts.stiffness is not None:
        stiff_steps, _ = stiffness(facts)
        gain = explain(
            ang.preload_gain,
            pitch=facts.thread.pitch,
            turn=chosen.angle,
            resilience=facts.stiffness.both,
        )
        steps += [*stiff_steps, gain]
        notes.append(
            f"The angle adds {show_quantity(gain.value, 'force', 'kN')} to each, and scatters by "
            f"{STIFFNESS_SCATTER.value * 100:g} % with the stiffness and with the window of "
            "its pass. At each end the "
            "load stops where the bolt yields there."
        )
    return steps, notes


def _by(setting: Setting, figure: float) -> str:
    """A setting in words: its share of the figure and how far its tools may be off."""
    share = (
        f"the pass at {show(setting.torque / figure * 100, 3)} %, "
        if setting.torque > figure * 1.015
        else ""
    )
    return f"{share}tools {sum(setting.accuracies) * 100:.3g} %"


def stiffness(facts: Facts) -> Derived:
    """Resiliences of fastener and parts."""
    s = facts.stiffness
    if s is None:
        return [], ["No clamped stack is given."]
    slope = explain(
        stiff.cone_slope_tapped if s.tapped else stiff.cone_slope_through,
        grip=s.grip,
        face_diameter=s.face,
        outer_diameter=s.outside,
    )
    bolt = explain(
        stiff.fastener_resilience,
        diameter=facts.thread.diameter,
        minor_area=facts.thread.minor_area,
        grip=s.grip,
        shank=s.shank,
        modulus=fastener_modulus(facts.strength),
        head=s.head,
        mate=0.33 if s.tapped else 0.4,
        mate_modulus=s.mate_modulus,
        shank_area=s.shank_area,
        engaged=s.engaged,
    )
    parts = stiff.explain_parts(s.layers, s.face, s.hole, s.outside, s.slope, s.tapped)
    notes = [
        (
            "Every layer counts with its own outside; the cone's slope is that of their mean by "
            "thickness."
        )
    ]
    if s.gasket is not None:
        return [bolt, slope, parts, s.gasket], [
            *notes,
            "The gasket is in the grip and is compressed with the parts.",
        ]
    return [bolt, slope, parts], notes


def losses(facts: Facts) -> Derived:
    """What settling takes."""
    out = loss_of(facts)
    steps: list[Step] = []
    notes = []
    if facts.stiffness is not None and out.embedding_mm is not None:
        steps.append(
            explain(
                loss.embedding_loss,
                amount=out.embedding_mm,
                fastener=facts.stiffness.fastener,
                parts=facts.stiffness.parts,
            )
        )
        amount = f"{out.embedding_mm * 1e3:g} µm"
        notes.append(
            f"Faces of {facts.group.roughness} (R_z): {amount} over thread, bearing and "
            "joint faces."
        )
    else:
        notes.append("Embedding is not known without the clamped stack.")
    if out.creep_share:
        steps.append(
            explain(loss.creep_share, total=out.creep_share, hours=1000.0, reference=1000.0)
        )
        notes.append(
            f"Gasket creep {out.creep_share * 100:g} % in the first 1000 h, in the logarithm "
            "of time."
        )
    return steps, notes


def hot(at_work: Hot | None, seen: Seen) -> Derived | None:
    """What temperature leaves of the typical load after losses; None where no temperature is
    given."""
    if at_work is None:
        return None
    lost = at_work.step(seen.after.typical)
    return [lost, explain(the.preload_hot, preload=seen.after.typical, lost=lost.value)], [
        "Expansion and modulus from a table, in a straight line between its rows"
        + (", some of them unsure." if at_work.unsure else "; typical figures."),
        (
            "Steady temperatures. Cold again, what was left after losses is there again as long "
            "as nothing has yielded."
        ),
    ]


def swing(facts: Facts, seen: Seen) -> Derived | None:
    """The alternating stress and what the thread bears; None where the load is steady."""
    found = swing_of(facts, seen.band.typical)
    if found is None or facts.group.work is None:
        return None
    return list(found.steps), [
        (
            f"Thread {facts.group.work.thread}: endurance limit ±{found.limit:.3g} MPa. Cut, "
            "plated or rusty threads: less."
        )
    ]


def chain_steps(chain: Chain, torque_at_bolt: float, percent: float) -> Derived:
    """From a share of the torque at the bolt through multipliers and adapter to the wrench."""
    steps: list[Step] = []
    drive = torque_at_bolt * percent / 100
    whole = show_quantity(torque_at_bolt, "torque", "N·m")
    notes = [f"{percent:g} % of {whole} is {show(drive / 1e3, 5)} N·m at the bolt."]
    for m in chain.multipliers:
        steps.append(
            explain(mech.multiplier_setting, torque=drive, ratio=m.multiplier, efficiency=m.band[1])
        )
        drive = steps[-1].value
    if chain.multipliers:
        steps.append(
            explain(mech.reaction_torque, torque=torque_at_bolt * percent / 100, setting=drive)
        )
    if chain.adapter is not None and chain.tool.length is not None:
        steps.append(
            explain(
                mech.adapter_setting,
                torque=drive,
                length=chain.tool.length.base,
                adapter=chain.adapter.adapter.base,
                angle=chain.adapter.angle.base,
            )
        )
        drive = steps[-1].value
    if chain.tool.increment is not None:
        marked = mech.settable(drive, chain.tool.increment.base).value
        notes.append(
            f"Rounded to the wrench's increment of {chain.tool.increment}, nearest, half upwards: "
            f"{show_quantity(marked, 'torque', 'N·m')}."
        )
    if chain.tool.length is not None:
        steps.append(explain(mech.hand_force, setting=drive, length=chain.tool.length.base))
    return steps, notes
