"""Bounds by the parts of a joint: threads that strip, faces pressed in, what was entered."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from ....documents.joint import FlatFace, Group
from ....documents.plan import Plan
from ....mechanics import strength as lim
from ....mechanics.formula import Step, explain
from ....thresholds import WASHER_SPREAD
from ..inputs.facts import Facts
from ..inputs.stiffness import material_of
from .limit import Bound, bound_from
from .thread_engagement import teeth_of


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


def part_bounds(plan: Plan, facts: Facts) -> list[Bound]:
    """Every bound of one bolt by the parts that it clamps and is screwed into."""
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
