"""What the passes of a group over all its stages leave out or get wrong, and whether they do what
its figure says."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import pairwise

from ....documents.plan import Plan
from ....kinds.pass_kind import turn_words
from ....kinds.passes.back_off import BackOffPass
from ....kinds.passes.stretch import StretchPass, loads_of
from ....kinds.passes.torque import TorquePass
from ....kinds.registry import PASS_KINDS, Pass
from ....kinds.stages.apply import ApplyStage
from ....kinds.stages.tighten import TightenStage
from ....thresholds import ANGLE_SAME, FULL, RISING_FROM, STRETCH_SAME
from ....units import show
from ...findings import Finding
from ..inputs.facts import Facts
from ..inputs.figure_text import kilonewton, newton_metre
from ..inputs.finding_builder import Found, find
from ..inputs.target import Chosen
from ..load.context import Context
from .passes import pass_name


def _falls(before: TorquePass, after: TorquePass) -> bool:
    """Whether the percentages fall without a reason: coming back from over-torque rounds is one."""
    over = before.percent > FULL.value and before.rounds is not None and after.percent >= FULL.value
    return after.percent < before.percent and not after.falls and not over


def sequence_findings(context: Context) -> Iterator[Found]:
    """What the passes of one group over all install stages leave out or get wrong."""
    tightened = {g for s in context.tighten_stages() for g in s.groups}
    for group, fact in context.facts.items():
        if group not in tightened:
            yield find(Finding.NEVER_TIGHTENED, f"groups/{group}", group=fact.group.name)
        mine = list(context.tighten_stages(group, "install"))
        variants: list[str | None] = [*sorted({v for s in mine for v in s.variants})] or [None]
        for variant in variants:
            taken = [s for s in mine if not s.variants or variant in s.variants]
            every = [(s, p) for s in taken for p in context.passes[s.id]]
            yield from _sequence(context.plan, every, fact)
            if every and group in context.chosen:
                yield from _figure(context.plan, [p for _, p in every], context.chosen[group])


def _figure(plan: Plan, every: list[Pass], chosen: Chosen) -> Iterator[Found]:
    """Whether the passes do what the figure was computed for."""
    group = chosen.facts.group
    where = f"groups/{group.id}"
    yield from _stretched(every, chosen, where)
    given = [p for p in every if chosen.calculated or not PASS_KINDS[p.do].stretches]
    # a torque that somebody gave is not what stretching leaves
    if not any(PASS_KINDS[p.do].sets_figure for p in given):
        yield find(
            Finding.FIGURE_NOT_SET, where, group=group.name, torque=newton_metre(chosen.torque)
        )
    last = every[-1]
    if isinstance(last, BackOffPass) and not plan.traits.set_loose:
        yield find(
            Finding.ENDS_BACKED_OFF, where, group=group.name, turn=turn_words(str(last.turn))
        )
    turned = sum(PASS_KINDS[p.do].turned(p) for p in every)
    if abs(turned - chosen.angle) > math.radians(ANGLE_SAME.value):
        said, done = (f"{show(math.degrees(angle), 3)}°" for angle in (chosen.angle, turned))
        yield find(Finding.ANGLE_DIFFERS, where, group=group.name, said=said, turned=done)


def _stretched(every: list[Pass], chosen: Chosen, where: str) -> Iterator[Found]:
    """Whether the last pressure leaves the load of the target, and whether a last pass looks for
    nuts that others have relieved."""
    group = chosen.facts.group
    stretching = [p for p in every if isinstance(p, StretchPass)]
    if not stretching:
        return
    last, slender = stretching[-1], chosen.facts.slender
    if last.transfer is not None or slender is not None:
        left = loads_of(last, slender)[1].typical
        if abs(left / chosen.force - 1) > STRETCH_SAME.value / 100:
            yield find(
                Finding.STRETCH_DIFFERS,
                where,
                group=group.name,
                left=kilonewton(left),
                wanted=kilonewton(chosen.force),
                pressure=f"{chosen.force / left * last.pressure.base * 10:.0f} bar",
            )
    if group.layout.count > 1 and not last.check:
        yield find(Finding.STRETCH_UNCHECKED, where, group=group.name)


def _sequence(plan: Plan, every: list[tuple[TightenStage, Pass]], fact: Facts) -> Iterator[Found]:
    """The passes of one group in one variant."""
    seen = [p for _, p in every if isinstance(p, TorquePass)]
    where, name = f"groups/{fact.group.id}", fact.group.name
    if any(PASS_KINDS[p.do].provisional for _, p in every):
        yield find(Finding.PROVISIONAL, where, group=name)
    yield from _angles(every)
    if not seen:
        return
    for before, after in pairwise(seen):
        if _falls(before, after):
            yield find(
                Finding.PERCENT_FALLS,
                where,
                group=name,
                percent=f"{after.percent:g}",
                before=f"{before.percent:g}",
            )
    if max(p.percent for p in seen) < FULL.value:
        yield find(Finding.ENDS_BELOW_FULL, where, group=name, percent=f"{seen[-1].percent:g}")
    if seen[-1].percent > FULL.value:
        yield find(Finding.ENDS_ABOVE_FULL, where, group=name, percent=f"{seen[-1].percent:g}")
    if not _proved(plan, every, seen, fact):
        yield find(Finding.NO_CHECK_ROUND, where, group=name)
    if plan.traits.rises and fact.group.gasket is not None and seen[0].percent > RISING_FROM.value:
        yield find(Finding.NO_RISING_PASSES, where, group=name, percent=f"{seen[0].percent:g}")


def _proved(
    plan: Plan, every: list[tuple[TightenStage, Pass]], seen: list[TorquePass], fact: Facts
) -> bool:
    """Whether something checks the bolts after the last full pass, or nothing need: one bolt, an
    angle, a click each."""
    group = fact.group
    turned = any(p.do in ("angle", "back_off") for _, p in every)
    # what a threadlocker holds is not pulled again: the bond would break
    locked = any(
        isinstance(s, ApplyStage) and s.sets_in is not None and group.id in s.groups
        for s in plan.stages
    )
    return (
        group.layout.count == 1
        or turned
        or locked
        or plan.traits.one_click
        or any(p.check or p.repeat for p in seen)
    )


def _angles(every: list[tuple[TightenStage, Pass]]) -> Iterator[Found]:
    snug = False
    for stage, one in every:
        if PASS_KINDS[one.do].snug:
            snug = True
        elif one.do == "angle" and not snug:
            yield find(
                Finding.ANGLE_WITHOUT_SNUG,
                f"stages/{stage.id}",
                stage=stage.words,
                name=pass_name(one),
            )
