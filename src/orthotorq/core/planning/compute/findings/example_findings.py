"""Values of the example that nobody has changed or confirmed: the plan is not yet the planner's
own."""

from __future__ import annotations

from collections.abc import Iterator

from ....documents.plan import Plan
from ...findings import Finding
from ...unconfirmed_defaults import by_part
from ..inputs.finding_builder import Found, find

_SHOWN = 6


def example_findings(plan: Plan) -> Iterator[Found]:
    """One finding for each part of the plan in which values stand as the example has them."""
    if not plan.examples:
        return
    stages = {s.id: s.words for s in plan.stages}
    groups = {g.id: g.name for g in plan.groups}
    many = len(groups) > 1
    for where, values in by_part(
        plan.model_dump(mode="python", by_alias=True, exclude_unset=True)
    ).items():
        kind, _, name = where.partition("/")
        of = f" of {groups[name]}" if many and name in groups else ""
        part = {
            "joint": f"Joint{of}",
            "figure": f"Torque target{of}",
            "tools": "Tools",
            "chains": "Between wrench and bolt",
            "stages": f"Stage “{stages.get(name, name)}”",
            "rechecks": "Recheck interval",
        }[kind]
        more = f" and {len(values) - _SHOWN} more" if len(values) > _SHOWN else ""
        one = len(values) == 1
        count = (
            "1 example value not confirmed"
            if one
            else f"{len(values)} example values not confirmed"
        )
        yield find(
            Finding.EXAMPLE_VALUES,
            where,
            part=part,
            count=count,
            values=", ".join(values[:_SHOWN]) + more,
        )._replace(sets={"where": where})
