"""Findings about the joint at work beyond its bounds: the swing of the bolt, temperature, compounds
where they must not be."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ....documents.plan import Plan
from ....tables import gaskets, lubricants
from ...findings import Finding
from ..inputs.figure_text import kilonewton
from ..inputs.finding_builder import Found, find
from ..inputs.stiffness import material_of
from ..inputs.target import Chosen
from ..load.context import Context
from ..load.in_service import component_target, swing_of
from .load_findings import Load


def _megapascal(stress: float) -> str:
    return f"{stress:.3g} MPa"


def service_findings(context: Context, load: Load) -> Iterator[Found]:
    """Every finding of one group at work that is not a bound of its load."""
    chosen = load.chosen
    facts, where = chosen.facts, f"groups/{chosen.facts.group.id}"
    swing = swing_of(facts, load.seen.band.typical)
    if swing is not None and swing.amplitude > swing.limit:
        assert facts.group.work is not None
        yield find(
            Finding.FATIGUE,
            where,
            group=facts.group.name,
            swing=_megapascal(swing.amplitude),
            limit=_megapascal(swing.limit),
            thread=facts.group.work.thread,
        )
    left = min(load.seen.after.typical, load.seen.hot.typical if load.seen.hot else math.inf)
    if left <= 0 and not context.plan.traits.set_loose:
        yield find(
            Finding.NOTHING_LEFT,
            where,
            group=facts.group.name,
            typical=kilonewton(load.seen.band.typical),
            when="at working temperature"
            if load.seen.after.typical > 0
            else "after settling and creep",
        )
    yield from _hot(context, load, where)
    yield from _component(load, where)
    yield from _compounds(context.plan, chosen, where)


def _hot(context: Context, load: Load, where: str) -> Iterator[Found]:
    group, hot = load.chosen.facts.group, context.hot.get(load.chosen.facts.group.id)
    if group.at_work is None or hot is None or load.seen.hot is None:
        return
    yield find(
        Finding.TEMPERATURE_TYPICAL,
        where,
        group=group.name,
        bolt=str(group.at_work.bolt),
        parts=str(group.at_work.parts),
        cold=kilonewton(load.seen.after.typical),
        hot=kilonewton(max(0.0, load.seen.hot.typical)),
        unsure=", some of them unsure" if hot.unsure else "",
    )
    top = max(group.at_work.bolt.base, group.at_work.parts.base)
    shipped = lubricants.table().get(group.friction.lubricant or "")
    if shipped is not None and shipped.hottest is not None and top > shipped.hottest:
        yield find(
            Finding.COMPOUND_TOO_HOT,
            where,
            group=group.name,
            temperature=f"{top:g} °C",
            lubricant=shipped.name,
            limit=f"{shipped.hottest:g} °C",
        )
    kind = gaskets.table().get(group.gasket.type or "") if group.gasket is not None else None
    if (
        group.gasket is not None
        and kind is not None
        and kind.hottest is not None
        and group.at_work.parts.base > kind.hottest
    ):
        yield find(
            Finding.GASKET_TOO_HOT,
            where,
            group=group.name,
            temperature=str(group.at_work.parts),
            gasket=group.gasket.name,
            limit=f"{kind.hottest:g} °C",
        )


def _component(load: Load, where: str) -> Iterator[Found]:
    facts = load.chosen.facts
    target = component_target(facts.group, facts.thread.root_area)
    if target is None:
        return
    mine = [h.bound for h in load.held if h.bound.code.startswith("component_")]
    lower = max((b for b in mine if not b.upper), key=lambda b: b.clamp, default=None)
    upper = min((b for b in mine if b.upper), key=lambda b: b.clamp, default=None)

    def said(bound: object, clamp: float | None, name: str) -> str:
        return (
            f"{kilonewton(clamp)} ({name})"
            if bound is not None and clamp is not None
            else "no bound"
        )

    if lower is not None and upper is not None and lower.clamp > upper.clamp:
        yield find(
            Finding.COMPONENT_IMPOSSIBLE,
            where,
            group=facts.group.name,
            least=lower.name,
            low=kilonewton(lower.clamp),
            most=upper.name,
            high=kilonewton(upper.clamp),
        )
    yield find(
        Finding.COMPONENT_TARGET,
        where,
        group=facts.group.name,
        stress=_megapascal(target.value),
        load=kilonewton(target.value * facts.thread.root_area),
        least=said(lower, lower.clamp if lower else None, lower.name if lower else ""),
        most=said(upper, upper.clamp if upper else None, upper.name if upper else ""),
    )


def _compounds(plan: Plan, chosen: Chosen, where: str) -> Iterator[Found]:
    """A compound on a material or in a service that its table forbids."""
    facts = chosen.facts
    group, forbidden = facts.group, facts.friction.forbidden
    touched = [layer.material for layer in group.stack[:1]]
    touched += [group.into.material] if group.into and group.into.material else []
    places = [
        f"on {name}"
        for name in touched
        if material_of(plan, name).family == "aluminium" and "aluminium" in forbidden
    ]
    places += [f"in {word} service" for word in plan.service if word in forbidden]
    for place in dict.fromkeys(places):
        yield find(
            Finding.COMPOUND_NOT_HERE,
            where,
            group=group.name,
            lubricant=facts.friction.name,
            place=place,
        )
