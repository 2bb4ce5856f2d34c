"""The work order of a run: stages over positions, each a sequence of segments. Rounds are not enumerated beforehand."""
from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import groupby

from ..documents.result import ItemOut, PassOut, Result, StageOut


@dataclass(frozen=True, slots=True)
class Segment:
    """A piece of work at one stage and position: its condition, one item, or one pass."""

    stage: StageOut
    position: str | None
    item: ItemOut | None = None
    one: PassOut | None = None

    def base(self) -> str:
        """`position/stage/pass` of the step ids in this segment."""
        part = self.one.id if self.one else self.item.id if self.item else "condition"
        return f"{self.position or '-'}/{self.stage.id}/{part}"


def step_id(base: str, round_: int | None, place: str | None, attempt: int) -> str:
    """`position/stage/pass/rROUND/place`, with `/aATTEMPT` after a redo and `-` where there is none.

    >>> step_id("L/full/again", 1, "inner.3", 1), step_id("-/chock/stand", None, None, 2)
    ('L/full/again/r1/inner.3', '-/chock/stand/-/-/a2')
    """
    text = f"{base}/{f'r{round_}' if round_ else '-'}/{place or '-'}"
    return text if attempt == 1 else f"{text}/a{attempt}"


def _at_position(stage: StageOut, position: str | None) -> Iterator[Segment]:
    if stage.condition:
        yield Segment(stage, position)
    for item in stage.items:
        yield Segment(stage, position, item=item)
    for one in stage.passes:
        yield Segment(stage, position, one=one)


def segments(result: Result, occasion: str = "install") -> list[Segment]:
    """Every segment in work order.

    Neighbouring stages that go position by position form a block that is done whole at one position before the next;
    a stage at all positions first is a block of its own; a stage done once has no position.
    """
    positions: list[str | None] = [p.id for p in result.positions] or [None]
    stages = [s for s in result.stages if occasion in s.occasions]
    out: list[Segment] = []
    for across, block in groupby(stages, key=lambda s: s.across):
        members = list(block)
        if across == "once":
            out += [seg for s in members for seg in _at_position(s, None)]
        elif across == "all_positions_first":
            out += [seg for s in members for p in positions for seg in _at_position(s, p)]
        else:
            out += [seg for p in positions for s in members for seg in _at_position(s, p)]
    return out
