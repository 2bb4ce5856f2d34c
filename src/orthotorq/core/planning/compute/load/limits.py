"""Every bound of the clamp load of one bolt, each with its id and the steps that led to it."""

from __future__ import annotations

from dataclasses import replace

from ....documents.joint import Gasket
from ....documents.plan import Plan
from ....errors import Impossible
from ....mechanics import angle as ang
from ....mechanics import gasket as gas
from ....mechanics import preload as pre
from ....mechanics import strength as lim
from ....mechanics.formula import Step, explain
from ....messages import Message
from ....tables import gaskets
from ....tables.lubricants import Band
from ..inputs.facts import Facts
from ..inputs.friction_steps import bracket, per_preload
from ..inputs.target import Chosen
from .component import component_bounds
from .in_service import Hot, hot_bounds, work_bounds
from .limit import Bound, bound_from
from .losses import gasket_factors
from .part_limits import part_bounds


def share_bound(facts: Facts) -> Bound | None:
    """The share of yield that the planner allows in tension alone."""
    group, strength = facts.group, facts.strength
    if (fraction := group.limits.yield_fraction) is None:
        return None
    step = explain(
        lim.preload_at_fraction, fraction=fraction, yield_strength=strength.yield_, area=facts.area
    )
    return bound_from(
        "share",
        f"{fraction * 100:g} % of yield",
        True,
        f"groups/{group.id}/limits/yield_fraction",
        [step],
        f"Strength: {strength.name}, {strength.certainty}; stress on the {facts.area_words}.",
    )


def _bolt_bounds(facts: Facts, stretched: bool) -> list[Bound]:
    group, strength = facts.group, facts.strength
    base, mu, (area, diameter) = f"groups/{group.id}", facts.joint.thread_friction(), facts.carrying
    out = [found] if (found := share_bound(facts)) is not None else []
    if strength.proof is not None:
        step = explain(
            lim.preload_at_fraction, fraction=1.0, yield_strength=strength.proof, area=area
        )
        out.append(
            bound_from(
                "proof",
                "proof load",
                True,
                f"{base}/fastener/grade",
                [step],
                f"Proof strength of {strength.name} in place of yield.",
            )
        )
    if stretched:
        return [*out, _pumped_bound(facts, area)]
    return [*out, _combined_bound(facts, mu, area, diameter)]


def _combined_bound(facts: Facts, mu: Band, area: float, diameter: float) -> Bound:
    """The share of yield under tension with the torsion of the torque that gives it."""
    group, thread, strength = facts.group, facts.thread, facts.strength
    steps = [
        explain(
            lim.combined_preload,
            fraction=group.limits.nu,
            yield_strength=strength.yield_,
            stress_area=area,
            pitch=thread.pitch,
            pitch_diameter=thread.pitch_diameter,
            stress_diameter=diameter,
            mu_thread=one,
        )
        for one in (mu.typical, mu.low)
    ]
    split = (
        (
            (
                "The nut factor does not separate thread and face: both are taken to have the "
                "same friction."
            ),
        )
        if facts.joint.nut_factor is not None
        else ()
    )
    return replace(
        bound_from(
            "combined",
            "combined, at assembly",
            True,
            f"groups/{group.id}/limits/nu",
            steps,
            (
                "At typical friction, then at the low end of the band; each is compared with "
                "the preload at the same friction."
            ),
            *split,
        ),
        ends=facts.yields(group.limits.nu),
    )


def _pumped_bound(facts: Facts, area: float) -> Bound:
    """The share of yield that a bolt may reach while it is stretched: in tension alone, since no
    torque twists it."""
    group, strength = facts.group, facts.strength
    step = explain(
        lim.preload_at_fraction,
        fraction=group.limits.nu,
        yield_strength=strength.yield_,
        area=area,
    )
    return bound_from(
        "pumped",
        "tension, while pumped",
        True,
        f"groups/{group.id}/limits/nu",
        [step],
        f"Strength: {strength.name}, {strength.certainty}; held against the load while pumped.",
    )


def _inches(gasket: Gasket) -> bool:
    """Whether a gasket is drawn in inches: the code's narrow width is then a quarter of one."""
    return gasket.outside.quantity.unit in ("in", "ft")


def _gasket_bounds(facts: Facts) -> list[Bound]:
    """What the gasket's sheet (its stress window) asks of one bolt."""
    gasket = facts.group.gasket
    if gasket is None:
        return []
    base, bolts = f"groups/{facts.group.id}/gasket", float(facts.group.layout.count)
    kind = gaskets.table().get(gasket.type) if gasket.type else None
    area = explain(lim.ring_area, outside=gasket.outside.base, inside=gasket.inside.base)
    out = []
    asked = (
        ("seating", "gasket seating", False, gasket.seating, kind.seating if kind else None),
        ("service", "gasket in service", False, gasket.service, None),
        ("damage", "gasket damage", True, gasket.damage, kind.damage if kind else None),
    )
    for field, name, upper, given, typical in asked:
        stress = given.base if given else typical
        if stress is None:
            continue
        steps = [
            area,
            explain(
                lim.clamp_at_gasket_stress, stress=stress, contact_area=area.value, bolts=bolts
            ),
        ]
        if field == "service" and gasket.pressure is not None:
            widths = gas.gasket_widths(gasket.outside.base, gasket.inside.base, _inches(gasket))
            end = explain(
                gas.end_force,
                reaction_diameter=widths.reaction_diameter,
                pressure=gasket.pressure.base,
            )
            steps += [
                end,
                explain(
                    gas.clamp_with_end_force,
                    stress_clamp=steps[-1].value,
                    end=end.value,
                    bolts=bolts,
                ),
            ]
        said = (
            "Stress from the gasket's sheet."
            if given
            else f"Typical stress of the type “{kind.name if kind else ''}”."
        )
        out.append(bound_from(f"gasket_{field}", name, upper, f"{base}/{field}", steps, said))
    return [*out, *_code_bounds(facts)]


def _code_bounds(facts: Facts) -> list[Bound]:
    """What a code (gasket factors m and y) asks of one bolt."""
    gasket = facts.group.gasket
    assert gasket is not None
    base, bolts = f"groups/{facts.group.id}/gasket", float(facts.group.layout.count)
    widths = gas.gasket_widths(gasket.outside.base, gasket.inside.base, _inches(gasket))
    note = (
        f"b is the effective seating width, {widths.effective:.4g} mm, with the factor 2.52; "
        "the code's SI edition "
        "rounds it to 2.5."
    )
    out = []
    if gasket.y is not None:
        load = explain(
            gas.seating_load,
            effective=widths.effective,
            reaction_diameter=widths.reaction_diameter,
            seating=gasket.y.base,
        )
        out.append(
            bound_from(
                "gasket_y",
                "code, seating (y)",
                False,
                f"{base}/y",
                [load, explain(gas.share_of_bolt, load=load.value, bolts=bolts)],
                note,
            )
        )
    m, _, _ = gasket_factors(gasket)
    if m is not None and gasket.pressure is not None:
        load = explain(
            gas.operating_load,
            effective=widths.effective,
            reaction_diameter=widths.reaction_diameter,
            factor=m,
            pressure=gasket.pressure.base,
        )
        out.append(
            bound_from(
                "gasket_m",
                "code, operating (m)",
                False,
                f"{base}/m",
                [load, explain(gas.share_of_bolt, load=load.value, bolts=bolts)],
                note,
            )
        )
    return out


def _of_torque(chosen: Chosen, torque: float) -> list[Step]:
    """The clamp load of a torque [N·mm] at typical friction, and after the angle where the figure
    has one."""
    facts = chosen.facts
    inner = bracket(facts, "typical")
    steps = [
        *inner,
        explain(
            pre.preload_from_torque,
            torque=torque,
            per_preload=per_preload(facts, inner, "typical"),
            prevailing=facts.joint.prevailing,
        ),
    ]
    if chosen.angle and facts.stiffness is not None:
        gain = explain(
            ang.preload_gain,
            pitch=facts.thread.pitch,
            turn=chosen.angle,
            resilience=facts.stiffness.both,
        )
        steps += [gain, explain(ang.after_angle, snug=steps[-1].value, gain=gain.value)]
    return steps


def _torque_bounds(chosen: Chosen, most: dict[str, float]) -> list[Bound]:
    """Bounds that are torques: of codes, and of what wrench and drive can give; as clamp at typical
    friction."""
    prevailing = chosen.facts.joint.prevailing
    out = []
    for reading in chosen.sources.readings:
        for field, upper in (("at_most", True), ("at_least", False)):
            bound = getattr(reading.source.says, field)
            if bound is not None and reading.struck is None and bound.base > prevailing:
                out.append(
                    replace(
                        bound_from(
                            f"code_{field}",
                            f"{reading.source.by}, {field.replace('_', ' ')}",
                            upper,
                            f"sources/{reading.source.id}",
                            _of_torque(chosen, bound.base),
                            "The clamp load at the bound, at typical friction.",
                            own=reading.source.id,
                        ),
                        torque=bound.base,
                    )
                )
    for name, torque in most.items():
        if torque > prevailing:
            out.append(
                bound_from(
                    name,
                    f"{name} limit",
                    True,
                    f"tools/{name}",
                    _of_torque(chosen, torque),
                    f"The clamp load at the most the {name} can give, at typical friction.",
                )
            )
    return out


def bounds_of(
    plan: Plan, chosen: Chosen, most: dict[str, float], hot: Hot | None, stretched: bool = False
) -> list[Bound]:
    """Every bound of one bolt of a group, each above 0; `most` holds the torques [N·mm] that wrench
    and drive can give; a `stretched` bolt gets no torque.

    Raises Impossible where a bound from above leaves no preload at all.
    """
    facts = chosen.facts
    every = [
        *_bolt_bounds(facts, stretched),
        *part_bounds(plan, facts),
        *_gasket_bounds(facts),
        *component_bounds(facts),
        *work_bounds(plan, facts),
        *hot_bounds(facts, hot),
        *([] if stretched else _torque_bounds(chosen, most)),
    ]
    for one in every:
        if one.upper and min(one.clamps) <= 0:
            # no preload at all lies under it: what is beyond it already is said at its field
            place = tuple(one.input.split("/"))
            raise Impossible(
                Message.NOTHING_LEFT,
                place[2:] if place[0] == "groups" else place,
                group=facts.group.name,
                bound=one.name,
            )
    # what asks for nothing bounds nothing
    return [one for one in every if one.upper or min(one.clamps) > 0]
