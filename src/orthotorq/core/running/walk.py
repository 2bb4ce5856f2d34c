"""The walk through a run: what stands, what is open, what deviates; units in order, redone when the plan or a person says so."""
from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

from ..documents.result import GroupOut, Result
from ..documents.run import BoltState, Clock, Deviation, TapeBand
from .fold import Given, Log
from .program import Segment, Unit, step_id
from .texts import DEVIATIONS


@dataclass(slots=True)
class Bolt:
    """What a bolt at one position has had so far."""

    percent: float = 0.0
    state: str = "untouched"
    gap: float | None = None


@dataclass(frozen=True, slots=True)
class Fail:
    """An answer that is not good: code of the deviation, its parameters, what may be done about it."""

    code: str
    params: dict[str, object]
    choices: tuple[str, ...] = ("repair", "replace", "accept")


@dataclass(frozen=True, slots=True)
class Pending:
    """The step without an answer: its unit, segment, kind, round, bolts, attempt, pull, and its number in the round."""

    unit: Unit
    segment: Segment
    kind: str
    round: int | None
    move: list[str]
    attempt: int
    number: int = 1
    pull: int | None = None
    order: list[list[str]] = field(default_factory=list)
    fail: Fail | None = None
    decision: str | None = None
    ready_at: float | None = None
    spread: float | None = None

    @property
    def step(self) -> str:
        """The step id to be answered."""
        if self.decision is not None:
            return self.decision
        place = None if not self.move or self.move[0] == "-" else self.move[0]
        return step_id(self.segment.base(), self.round, place, self.attempt, self.pull)


@dataclass(frozen=True, slots=True)
class Settled:
    """How a step stands: its answer and attempt, or the attempt that is open, or the decision that is."""

    given: Given | None
    attempt: int
    fail: Fail | None = None
    decision: str | None = None
    reason: str = ""


@dataclass(slots=True)
class Walk:
    """The walk so far."""

    result: Result
    log: Log
    now: float
    bolts: dict[tuple[str | None, str], Bolt] = field(default_factory=dict)
    tape: list[TapeBand] = field(default_factory=list)
    deviations: list[Deviation] = field(default_factory=list)
    fitted: dict[tuple[str, str | None], str] = field(default_factory=dict)
    clocks: dict[tuple[str, str | None], tuple[str, float, tuple[str, ...]]] = field(default_factory=dict)
    used: dict[str, int] = field(default_factory=dict)
    redone: dict[str, int] = field(default_factory=dict)
    done: int = 0
    answered: int = 0
    last_at: float = 0.0
    position: str | None = None
    in_hand: tuple[str, ...] | None = None
    provisional: bool = False

    def bolt(self, position: str | None, place: str) -> Bolt:
        """The bolt of a place, made when first met."""
        return self.bolts.setdefault((position, place), Bolt())

    def label(self, place: str) -> str:
        """The bolt's number as painted."""
        return label_of(self.result, place)

    def deviate(self, step: str, code: str, **params: object) -> None:
        """Note a deviation; its id is made of step and code, so the same events give the same ids."""
        text, advice = DEVIATIONS[code]
        self.deviations.append(Deviation(id=f"{step}:{code}", step=step, code=code, text=text.format(**params), advice=advice,
                                         accepted_by=None, reason=None))

    def step_done(self, given: Given, position: str | None) -> None:
        """Count an answered step."""
        self.done += 1
        self.answered += 1
        self.last_at = max(self.last_at, given.fact.happened)
        self.position = position

    def settle(self, base: str, round_: int | None, place: str | None, pull: int | None,
               judge: Callable[[Given], Fail | None], repeats: tuple[str, ...] = ("not_sure",)) -> Settled:
        """How a step stands.

        “Not sure”, a voided answer and the words in `repeats` repeat it; a failed one asks what was done about it, and
        is repeated after repair or replacement. Attempts go on counting when a redo visits the step again.
        """
        key = step_id(base, round_, place, 1, pull)
        attempt = self.used.get(key, 0) + 1
        while True:
            step = step_id(base, round_, place, attempt, pull)
            given = self.log.answers.get(step)
            if given is None:
                return Settled(None, attempt)
            if given.answer is None or given.word in repeats:
                attempt += 1
                continue
            fail = None if given.word == "skip" else judge(given)
            if fail is None:
                self.used[key] = attempt
                return Settled(given, attempt)
            then, open_step = self._then(step)
            if then is None:
                return Settled(None, attempt, fail, open_step)
            if then.word in ("repair", "replace"):
                attempt += 1
                continue
            self.used[key] = attempt
            return Settled(given, attempt, fail, None, str((then.answer or {}).get("reason", "")))

    def _then(self, step: str) -> tuple[Given | None, str]:
        """(what was done about a failed step, the decision's step that is open)."""
        attempt = 1
        while True:
            name = f"{step}/then" if attempt == 1 else f"{step}/then/a{attempt}"
            then = self.log.answers.get(name)
            if then is None or then.answer is not None:
                return then, name
            attempt += 1

    def clock_for(self, unit: Unit) -> tuple[str, float] | None:
        """The compound that is setting on a stage's bolts and when it must be done, the earliest."""
        found = [(what, deadline) for (_, position), (what, deadline, stages) in self.clocks.items()
                 if unit.stage.id in stages and position in (None, unit.position)]
        return min(found, key=lambda x: x[1], default=None)

    def clock_outs(self) -> list[Clock]:
        """Every clock that was started."""
        return [Clock(what=w, deadline=d, stages=list(s), set=self.now > d) for w, d, s in self.clocks.values()]

    def bolt_states(self, position: str | None) -> list[BoltState]:
        """Every bolt at a position (groups without positions stand at None)."""
        out = []
        for group in self.result.groups:
            for place in group.places:
                bolt = self.bolts.get((position, place.id)) or self.bolts.get((None, place.id)) or Bolt()
                out.append(BoltState.model_construct(place=place.id, state=bolt.state,  # type: ignore[arg-type]
                                                      percent=bolt.percent, gap_mm=bolt.gap))
        return out


def group_of(result: Result, place: str) -> GroupOut | None:
    """The group of a place."""
    name = place.rpartition(".")[0]
    return next((g for g in result.groups if g.id == name), None)


def label_of(result: Result, place: str) -> str:
    """The bolt's number as painted: by place, or in tightening order."""
    group, _, number = place.rpartition(".")
    for one in result.groups:
        if one.id == group and number.isdigit() and int(number) <= len(one.places):
            return one.places[int(number) - 1].label
    return number
