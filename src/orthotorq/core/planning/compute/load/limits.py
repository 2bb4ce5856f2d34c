"""Every bound of the clamp load of one bolt, each with its id and the steps that led to it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from ....documents.joint import FlatFace, Gasket, Group
from ....documents.plan import Plan
from ....errors import Impossible
from ....mechanics import angle as ang
from ....mechanics import gasket as gas
from ....mechanics import preload as pre
from ....mechanics import strength as lim
from ....mechanics.formula import Step, explain
from ....messages import Message
from ....tables import gaskets
from ....thresholds import WASHER_SPREAD
from ..inputs.facts import Facts
from ..inputs.friction_steps import bracket, per_preload
from ..inputs.stiffness import material_of
from ..inputs.target import Chosen
from .component import component_bounds
from .in_service import Hot, hot_bounds, work_bounds
from .limit import Bound, bound_from
from .losses import gasket_factors
from .thread_engagement import teeth_of


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


def _bolt_bounds(facts: Facts) -> list[Bound]:
    group, thread, strength = facts.group, facts.thread, facts.strength
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
    return [
        *out,
        replace(
            bound_from(
                "combined",
                "combined, at assembly",
                True,
                f"{base}/limits/nu",
                steps,
                (
                    "At typical friction, then at the low end of the band; each is compared with "
                    "the preload at the same friction."
                ),
                *split,
            ),
            ends=facts.yields(group.limits.nu),
        ),
    ]


def _pressed_ends(
    plan: Plan, facts: Facts, face: float, hole: float
) -> Iterator[tuple[str, Step, bool]]:
    """(part, clamp at its limit, whether that is the table's) for every face that is pressed on:
    under head or nut, and behind a washer, which spreads the load; on the nut's side too when the
    face is the table's."""
    group = facts.group
    ends = [group.stack]
    if (
        group.into is not None
        and group.into.kind == "nut"
        and not isinstance(group.fastener.face, FlatFace)
    ):
        ends.append(group.stack[::-1])
    for layers in ends:
        wide = face
        for layer in layers:
            limit = layer.limit.base if layer.limit else material_of(plan, layer.material).bearing
            step = explain(
                lim.clamp_at_bearing_pressure, pressure=limit, face_diameter=wide, hole=hole
            )
            yield layer.name or layer.material, step, layer.limit is None
            if not layer.washer:
                break
            spread = wide + WASHER_SPREAD.value * layer.thickness.base
            wide = min(spread, layer.outside.base) if layer.outside else spread


def _part_bounds(plan: Plan, facts: Facts) -> list[Bound]:
    return [*_pressed_and_stripped(plan, facts), *_entered_bounds(facts.group)]


def _pressed_and_stripped(plan: Plan, facts: Facts) -> list[Bound]:
    group = facts.group
    base = f"groups/{group.id}"
    out = []
    teeth = teeth_of(plan, facts)
    if teeth is not None and teeth.carries > 0:
        out.append(
            bound_from(
                "stripping",
                f"{teeth.weaker} thread strips",
                True,
                f"{base}/into/engaged",
                list(teeth.steps),
                f"The {teeth.weaker} thread gives way first. Add one pitch "
                f"({facts.thread.pitch:g} mm) for "
                "incomplete threads.",
            )
        )
    if group.stack and facts.face_diameter is not None and facts.hole is not None:
        name, step, typical = min(
            _pressed_ends(plan, facts, facts.face_diameter, facts.hole),
            key=lambda end: end[1].value,
        )
        out.append(
            replace(
                bound_from(
                    "bearing",
                    f"pressure on {name}",
                    True,
                    f"{base}/stack/limit",
                    [step],
                    f"The first of the parts pressed on to give way: {name}; the table's "
                    "limit is typical unless the "
                    "part's own is given. A washer spreads the load by 1.6 of its thickness.",
                ),
                typical=typical,
            )
        )
    if teeth is not None and teeth.dilated is not None and teeth.dilated.carries > 0:
        out.append(
            bound_from(
                "stripping_dilated",
                f"{teeth.dilated.weaker} thread strips, with dilation",
                True,
                f"{base}/into/engaged",
                list(teeth.dilated.steps),
                (
                    "Strength ratio and widening of the nut (Alexander); the more cautious of "
                    "both forms decides."
                ),
            )
        )
    return out


def _entered_bounds(group: Group) -> list[Bound]:
    base, out = f"groups/{group.id}", []
    if group.limits.soft_part is not None:
        out.append(
            Bound(
                "soft_part",
                "soft_part",
                "soft part",
                True,
                group.limits.soft_part.base,
                f"{base}/limits/soft_part",
                notes=("Entered by the planner: the limit of the soft part.",),
            )
        )
    if group.required_clamp is not None:
        out.append(
            Bound(
                "required",
                "required",
                "joint need",
                False,
                group.required_clamp.base,
                f"{base}/required_clamp",
                notes=("Entered by the planner: what the joint needs.",),
            )
        )
    return out


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


def bounds_of(plan: Plan, chosen: Chosen, most: dict[str, float], hot: Hot | None) -> list[Bound]:
    """Every bound of one bolt of a group, each above 0; `most` holds the torques [N·mm] that wrench
    and drive can give.

    Raises Impossible where a bound from above leaves no preload at all.
    """
    facts = chosen.facts
    every = [
        *_bolt_bounds(facts),
        *_part_bounds(plan, facts),
        *_gasket_bounds(facts),
        *component_bounds(facts),
        *work_bounds(plan, facts),
        *hot_bounds(facts, hot),
        *_torque_bounds(chosen, most),
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
