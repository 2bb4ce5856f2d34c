"""The work order of a run: units (a stage at a position) in order, each a sequence of segments.
Rounds are not enumerated."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import groupby

from ...forms.result import Result
from ...forms.stage import ItemOut, PassOut, StageOut
from ...kinds.registry import PASS_KINDS
from ...kinds.stage_kind import StageKind
from ...kinds.stage_registry import STAGE_KINDS
from ...planning.states import HOLDS
from ...planning.work_order import in_work_order
from ..log.setup import Setup
from ..log.step_id import base_of, step_id


@dataclass(frozen=True, slots=True)
class Unit:
    """A stage at a position; `cycle` counts redos."""

    stage: StageOut
    position: str | None
    cycle: int = 1

    @property
    def kind(self) -> StageKind:
        """The kind of its stage."""
        return STAGE_KINDS[self.stage.kind]

    @property
    def title(self) -> str:
        """The stage's title; one that is done again says so."""
        return (
            f"{self.stage.title}, again"
            if self.cycle > (2 if self.stage.only_again else 1)
            else self.stage.title
        )

    @property
    def gives_back(self) -> bool:
        """Whether it gives the machine back: a lock, guard or support comes off, or the load on."""
        stage = self.stage
        return stage.kind == "undo" and bool(set(stage.takes_out) - HOLDS or stage.brings)

    @property
    def key(self) -> tuple[str, str | None]:
        """Stage and position."""
        return self.stage.id, self.position


@dataclass(frozen=True, slots=True)
class Segment:
    """A piece of work of a unit: a condition (of the stage, or of the pass it stands before), one
    item (at one place, or at none), or one pass."""

    stage: StageOut
    position: str | None
    item: ItemOut | None = None
    one: PassOut | None = None
    place: str | None = None
    before: PassOut | None = None
    #: which of several readings at one place
    nth: int | None = None

    @property
    def condition(self) -> list[str]:
        """What must hold here."""
        if self.before is not None:
            return self.before.condition
        return [*self.stage.condition, *(self.one.condition if self.one else ())]

    def base(self) -> str:
        """`position/stage/pass` of the step ids in this segment."""
        part = self.one.id if self.one else self.item.id if self.item else "condition"
        # no id of a plan has a dot
        return base_of(
            self.position, self.stage.id, f"{self.before.id}.condition" if self.before else part
        )


def segments_of(unit: Unit) -> Iterator[Segment]:
    """The pieces of a unit in order: condition first, items, passes, each after what must hold for
    it."""
    stage, position = unit.stage, unit.position
    if stage.condition:
        yield Segment(stage, position)
    for item in stage.items:
        places: list[str | None] = [*item.places] or [None]
        for place in places:
            for nth in range(1, item.repeats + 1) if item.repeats else (None,):
                yield Segment(stage, position, item=item, place=place, nth=nth)
    asked: set[str] = set()
    for one in stage.passes:
        if one.condition and one.id not in asked:
            asked.add(one.id)
            yield Segment(stage, position, before=one)
        yield Segment(stage, position, one=one)


def sorted_stages(result: Result, setup: Setup, again: bool = False) -> list[StageOut]:
    """The stages of a run in work order; those done only when others are done again, where asked
    for."""
    taken = [
        setup.of_stage(s) for s in result.stages if setup.takes(s) and (again or not s.only_again)
    ]
    return in_work_order(taken, setup.occasion)


def units_of(result: Result, setup: Setup, again: bool = False) -> list[Unit]:
    """Every unit in work order; those done only again, where asked for.

    Neighbouring stages that go position by position form a block that is done whole at one position
    before the next; a stage at all positions first is a block of its own; a stage done once has no
    position.
    """
    positions: list[str | None] = [p.id for p in setup.at(result)] or [None]
    out: list[Unit] = []
    for across, block in groupby(sorted_stages(result, setup, again), key=lambda s: s.across):
        members = list(block)
        if across == "once":
            out += [Unit(s, None) for s in members]
        elif across == "all_positions_first":
            out += [Unit(s, p) for s in members for p in positions]
        else:
            out += [Unit(s, p) for p in positions for s in members]
    return out


def waited_for(result: Result, setup: Setup) -> dict[str, set[str]]:
    """By stage, the stages of this run that it comes after; one that another variant has hands on
    what it waits for."""
    after = {s.id: s.after.get(setup.occasion, []) for s in result.stages}
    taken = {s.id for s in result.stages if setup.takes(s)}
    out: dict[str, set[str]] = {}
    for name in taken:
        todo, seen, found = list(after[name]), set[str](), set[str]()
        while todo:
            one = todo.pop()
            if one in taken:
                found.add(one)
            elif one not in seen:
                seen.add(one)
                todo += after.get(one, [])
        out[name] = found
    return out


def waits_for(unit: Unit, units: list[Unit], waited: dict[str, set[str]]) -> list[Unit]:
    """The units a unit comes after: of the named stages, at the same position where both have
    one."""
    named = waited.get(unit.stage.id, set())
    return [
        u
        for u in units
        if u.stage.id in named
        and (
            u.position is None
            or unit.position is None
            or u.position == unit.position
            or u.stage.across == "all_positions_first" == unit.stage.across
        )
    ]


def again_by(moves: Sequence[Sequence[str]]) -> list[int]:
    """For each move of a round how often its first place was there before: where a sequence comes
    to a bolt again, the second pull is a step of the next round, so that each step has its own id.

    >>> again_by([["b.1"], ["b.5"], ["b.1"]])
    [0, 0, 1]
    """
    seen: Counter[str] = Counter()
    out = list[int]()
    for move in moves:
        out.append(seen[move[0]])
        seen[move[0]] += 1
    return out


def expand(result: Result, setup: Setup | None = None) -> list[str]:
    """Step ids of every step that can be known beforehand: first rounds and first pulls, in work
    order."""
    units = units_of(result, setup or Setup(variants=first_variants(result)))
    return [
        step_id(segment.base(), round_, place, 1, pull)
        for unit in units
        for segment in segments_of(unit)
        for round_, place, pull in first_steps(segment)
    ]


def first_steps(segment: Segment) -> Iterator[tuple[int | None, str | None, int | None]]:
    """(round, place, pull) of every step of a segment that can be known beforehand."""
    one = segment.one
    if one is None or PASS_KINDS[one.do].pause:
        yield None, segment.place, segment.nth
        return
    for move, again in zip(one.order, again_by(one.order), strict=True):
        yield 1 + again, None if move[0] == "-" else move[0], 1 if one.repeat_still else None


def first_variants(result: Result) -> tuple[str, ...]:
    """The first variant of each choice."""
    first: dict[str, str] = {}
    for variant in result.variants:
        first.setdefault(variant.choice, variant.id)
    return tuple(first.values())
