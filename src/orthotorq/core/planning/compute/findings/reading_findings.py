"""Findings about readings that relate to others: what a run would have nothing to hold against."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from ....kinds.checks import Check
from ...findings import Finding
from ..inputs.finding_builder import Found, find
from ..load.context import Context

#: a run of each occasion, within a sentence
_RUNS = {"install": "tightening run", "recheck": "recheck", "dismantle": "dismantling run"}


def reading_findings(context: Context) -> Iterator[Found]:
    """Each check of each stage, with the stages whose readings it is held against."""
    for stage in context.plan.stages:
        for check in getattr(stage, "checks", ()):
            yield from _spread_of_one(context, stage, check)
            yield from _not_read_before(context, stage, check)


def _spread_of_one(context: Context, stage: Any, check: Check) -> Iterator[Found]:
    """A difference between places where there is one place."""
    places = len(context.facts[check.per].group.numbers) if check.per in context.facts else 1
    if check.spread is not None and places < 2:
        yield find(Finding.SPREAD_OF_ONE, f"stages/{stage.id}", stage=stage.words, what=check.words)


def _not_read_before(context: Context, stage: Any, check: Check) -> Iterator[Found]:
    """A change on an occasion on which the reading before it is not taken."""
    if check.change is None or check.change.limit is None:
        return
    before = check.change.since.partition("/")[0]
    taken = next((set(one.in_) for one in context.plan.stages if one.id == before), set())
    for occasion in stage.in_:
        if occasion not in taken:
            yield find(
                Finding.READING_NOT_BEFORE,
                f"stages/{stage.id}",
                stage=stage.words,
                what=check.words,
                occasion=_RUNS[occasion],
            )
