"""The walk through a run: what stands, what is open, what deviates; units in order, redone when the
plan or a person says so."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace

from ...forms.group import GroupOut
from ...forms.result import Result
from ...forms.run import BoltState, Clock, Deviation, TapeBand
from ...kinds.pass_kind import Fail, Look
from ...kinds.prompts import BOLT, TRIED, decision, word_of
from ...thresholds import CLOCK_BACK, MOST_TRIES
from ..log.event_log import Given, Log
from ..log.step_id import parse, step_id, then_of
from .pending import Pending, ReadAt, Settled, _unit_of
from .program import Unit
from .texts import deviation_texts
from .unfit import leaves_unfit


@dataclass(slots=True)
class Walk:
    """The walk so far."""

    result: Result
    log: Log
    now: float
    bolts: dict[tuple[str | None, str], Look] = field(default_factory=dict)
    tape: list[TapeBand] = field(default_factory=list)
    deviations: list[Deviation] = field(default_factory=list)
    fitted: dict[tuple[str, str | None], str] = field(default_factory=dict)
    clocks: dict[tuple[str, str | None], tuple[str, float, tuple[str, ...]]] = field(
        default_factory=dict
    )
    used: dict[str, int] = field(default_factory=dict)
    redone: dict[str, int] = field(default_factory=dict)
    #: by event, the step that it answered: which answers it took, and may still take in a
    #: correction
    asked: dict[str, tuple[Pending, int]] = field(default_factory=dict)
    done: int = 0
    answered: int = 0
    last_at: float = 0.0
    position: str | None = None
    #: the position at which the last answer of a position was given
    last_at_position: str | None = None
    in_hand: tuple[str, ...] | None = None
    provisional: bool = False
    #: stages, by visit, in which it was decided to pull although the compound has set
    pulled_late: set[tuple[tuple[str, str | None], int]] = field(default_factory=set)
    #: the stage that a failed look sends the run back to
    back: str | None = None
    groups: dict[str, GroupOut] = field(default_factory=dict)
    #: by bolt, what was done with it in this run: turned, slackened, pulled, checked, moved
    marks: dict[tuple[str | None, str], set[str]] = field(default_factory=dict)
    #: bolts that were loose, or are new, and whose neighbours are not yet pulled again
    renewed: set[tuple[str | None, str]] = field(default_factory=set)
    #: by step, (code, sentence) of what failed and was left, until its stage is done again
    failed: dict[str, tuple[str, str]] = field(default_factory=dict)
    #: stages, with their positions, that were done without a failure
    held: set[tuple[str, str | None]] = field(default_factory=set)
    #: whether the stages that give the machine back were held back, since something failed and was
    #: left
    left_locked: bool = False
    #: by stage, position, item and place, what was read there on this visit, in base units, and
    #: whether it was good
    readings: dict[ReadAt, list[tuple[float, bool]]] = field(default_factory=dict)
    #: steps that prove nothing and were left out, in words
    left_out: list[str] = field(default_factory=list)

    #: names of bolts that were said once
    _names: dict[tuple[str | None, tuple[str, ...]], str] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.groups = {g.id: g for g in self.result.groups if self.log.setup.has(g.variants)}

    def bolt(self, position: str | None, place: str) -> Look:
        """How the bolt of a place stands."""
        return self.bolts.get((position, place)) or Look()

    def group(self, place: str) -> GroupOut | None:
        """The group of a place."""
        return self.groups.get(place.rpartition(".")[0])

    def label(self, place: str) -> str:
        """The bolt's number as painted: by place, or in tightening order."""
        group, number = self.group(place), place.rpartition(".")[2]
        known = group is not None and number.isdecimal() and int(number) <= len(group.places)
        return group.places[int(number) - 1].label if group is not None and known else number

    def where(self, position: str | None, place: str) -> str:
        """What tells a bolt from others with its number: its position where there are several,
        and its group where another one has a bolt of that number."""
        positions, group, label = self.result.positions, self.group(place), self.label(place)
        twice = any(
            p.label == label for g in self.groups.values() if g is not group for p in g.places
        )
        return ", ".join(
            (
                *(p.name for p in positions if p.id == position and len(positions) > 1),
                *((group.name,) if group is not None and twice else ()),
            )
        )

    def named(self, position: str | None, *places: str) -> str:
        """Bolts in a sentence: their numbers, and where they are, where that is needed to know
        which are meant."""
        key = position, places
        if key not in self._names:
            self._names[key] = self._name_of(position, places)
        return self._names[key]

    def _name_of(self, position: str | None, places: tuple[str, ...]) -> str:
        known = [place for place in places if place != "-"]
        where = self.where(position, known[0]) if known else ""
        labels = " + ".join(map(self.label, known))
        return f"{labels} ({where})" if where else labels

    def deviate(self, step: str, code: str, **params: object) -> None:
        """Note a deviation; its id is made of step and code, so the same events give the same
        ids."""
        text, advice = deviation_texts()[code]
        said = text.format(**params)
        self.deviations.append(
            Deviation(
                id=f"{step}:{code}",
                step=step,
                code=code,
                text=said,
                advice=advice,
                accepted_by=None,
                reason=None,
            )
        )
        if leaves_unfit(code):
            self.failed[step] = code, said

    def mark(self, position: str | None, place: str, *words: str) -> None:
        """Note what was done with a bolt."""
        if place != "-":
            self.marks.setdefault((position, place), set()).update(words)

    def begin(self, unit: Unit) -> None:
        """A stage begins: what failed in it before is answered anew."""
        self.held.discard(unit.key)
        self.readings = {at: read for at, read in self.readings.items() if at[:2] != unit.key}
        self.failed = {step: one for step, one in self.failed.items() if _unit_of(step) != unit.key}

    def end(self, unit: Unit) -> None:
        """A stage is done: it held, unless something failed in it."""
        if all(_unit_of(step) != unit.key for step in self.failed):
            self.held.add(unit.key)

    def skipped(self, step: str, what: str, given: Given, proves: bool = True) -> None:
        """Note a step that was skipped; one that tightens or proves is missing then."""
        reason = (given.answer or {}).get("reason", "")
        self.deviate(step, "skipped", text=what, reason=reason)
        if not proves:
            self.failed.pop(step, None)
            self.left_out.append(f"“{what}” was skipped")

    def step_done(self, given: Given, position: str | None) -> None:
        """Count an answered step."""
        self.done += 1
        self.answered += 1
        self.last_at = max(self.last_at, self.log.when(given.fact))
        self.position = position
        self.last_at_position = position or self.last_at_position

    def ready_at(self, wait_s: float | None) -> float | None:
        """When a wait is over; None where the clock that it would be counted by has gone back: it
        cannot be timed here."""
        gone_back = self.now > 0 and self.last_at > self.now + CLOCK_BACK.value
        return None if gone_back else self.last_at + (wait_s or 0.0)

    def untimed(self, asked: Pending, step: str, name: str, given: Given) -> None:
        """Note a wait that was ended although it was not over, which is taken only where it could
        not be timed."""
        early = (
            asked.ready_at is not None
            and self.log.when(given.fact) < asked.ready_at - CLOCK_BACK.value
        )
        if early and self.log.back and given.word == "done":
            self.deviate(step, "untimed", text=name)

    def settle(
        self,
        asked: Pending,
        judge: Callable[[Given], Fail | None],
        renew: Callable[[Pending, str], Pending | None] = lambda *_: None,
        stop: Callable[[Pending, int, str, Given | None], Pending | None] = lambda *_: None,
    ) -> Settled:
        """How a step stands.

        “Not sure”, a voided answer and the words the ask repeats on repeat it; a failed one asks
        what was done about it, and is repeated after repair or replacement; what a bolt that is
        loose or new has missed (`renew`) is done before, and what stops an attempt before it is
        made (`stop`) is decided first. Attempts go on counting when a redo visits the step again.
        """
        base, repeats = asked.segment.base(), asked.ask.repeats
        key = step_id(base, asked.round, asked.place, 1, asked.pull)
        attempt = self.used.get(key, 0) + 1
        tried, finishes = 0, False
        while True:
            step = step_id(base, asked.round, asked.place, attempt, asked.pull)
            given = self.log.answers.get(step)
            if (held := stop(asked, attempt, step, given)) is not None or self.back is not None:
                return Settled(None, attempt, step, held)
            if given is None or self.redone_before(step, given):
                return Settled(
                    None, attempt, step, replace(asked, attempt=attempt, finishes=finishes)
                )
            self.asked[given.fact.id] = asked, attempt
            if not asked.ask.turns and (given.answer is None or given.word in repeats):
                attempt += 1
                continue
            fail = None if given.word == "skip" else judge(given)
            if fail is None:
                self.used[key] = attempt
                return Settled(given, attempt, step)
            if tried >= MOST_TRIES.value:
                # mended again and again is not mended
                fail = replace(
                    fail, choices=tuple(c for c in fail.choices if word_of(c) != "repair")
                )
            question = self._question(asked, fail, attempt)
            then, open_step = self._then(step, question)
            if (
                then is None
                and step_id(base, asked.round, asked.place, attempt + 1, asked.pull)
                in self.log.answers
            ):
                # an older program asked again at once, where this one asks what is done about it
                attempt += 1
                continue
            if then is None:
                return Settled(None, attempt, step, replace(question, decision=open_step))
            if then.word in TRIED or then.word.startswith(BOLT):
                self._mended(asked, open_step, then)
                attempt, tried, finishes = attempt + 1, tried + 1, then.word == "finish"
                if (first := renew(asked, then.word)) is not None:
                    return Settled(None, attempt, step, first)
                continue
            self.used[key] = attempt
            return self._left(Settled(given, attempt, step), fail, then)

    def _left(self, found: Settled, fail: Fail, then: Given) -> Settled:
        """A step that failed and is not asked again: it was cut off or drilled out, a stage is done
        again, or it stays."""
        if then.word in ("cut", "drill"):
            bolt = "" if "label" in fail.params else "part_"
            fail = replace(fail, code=bolt + {"cut": "cut_off", "drill": "drilled_out"}[then.word])
        elif then.word == "back":
            self.back = fail.back
            return found
        return replace(found, fail=fail, reason=str((then.answer or {}).get("reason", "")))

    def _mended(self, asked: Pending, step: str, then: Given) -> None:
        """Note what was done about a bolt that the next reader of the record must know of: heat,
        or a new one in its place."""
        code = {
            "heat": "heated",
            "finish": "turn_finished",
            "replace": "replaced" if asked.place else None,
            "too_low": "wrong_setting_mended",
            "too_high": "wrong_setting_mended",
            "certain": "order_found",
        }.get(then.word or "")
        if then.word.startswith(BOLT):
            name = asked.segment.one.name if asked.segment.one is not None else ""
            other = self.named(asked.segment.position, then.word.removeprefix(BOLT))
            self.deviate(step, "other_bolt", label=self.what(asked), name=name, other=other)
        elif code is not None:
            one, item, reason = (
                asked.segment.one,
                asked.segment.item,
                (then.answer or {}).get("reason", ""),
            )
            name = one.name if one is not None else item.text if item is not None else ""
            self.deviate(
                step,
                code,
                label=self.what(asked),
                name=name,
                reason=reason,
                why=f": {reason}" if reason else "",
            )

    def _question(self, asked: Pending, fail: Fail, attempt: int) -> Pending:
        """The decision about something that is not good."""
        return replace(
            asked,
            attempt=attempt,
            fail=fail,
            ask=decision(fail.choices, self.title(fail.back), asked.segment.one is not None),
        )

    def halt(self, asked: Pending, step: str, fail: Fail) -> Settled:
        """A stop of its own: nothing goes on before it is decided. Every visit decides anew; its
        decisions are counted under `step`. Back to a stage is taken here; any other word is the
        caller's."""
        attempt = self.used.get(then_of(step), 0) + 1
        question = self._question(asked, fail, asked.attempt)
        then, name = self._then(step, question, attempt)
        if then is None:
            return Settled(None, 1, name, replace(question, decision=name))
        self.decided(name)
        if then.word == "back":
            self.back = fail.back
        return Settled(then, 1, name, None, fail, str((then.answer or {}).get("reason", "")))

    def decided(self, name: str) -> None:
        """Count a decision as had: the next visit asks anew."""
        found = parse(name)
        self.used[then_of(name.partition("/then")[0])] = found.then if found else 1

    def title(self, stage: str | None) -> str:
        """A stage in words."""
        return next((s.title for s in self.result.stages if s.id == stage), "")

    def what(self, asked: Pending) -> str:
        """The bolt of a step, or its item."""
        if asked.place:
            return self.named(asked.segment.position, asked.place)
        return asked.segment.item.text if asked.segment.item else ""

    def redone_before(self, step: str, given: Given) -> bool:
        """Whether a stage was done again at this step before it was answered: on this visit it is
        then still open, and what was done again comes first. Without this, what happened in the
        repeat would be lost once the step is answered."""
        asked, seen = self.log.redos.get(step, []), self.redone.get(step, 0)
        return seen < len(asked) and asked[seen].sequence < given.fact.sequence

    def _then(self, step: str, question: Pending, attempt: int = 1) -> tuple[Given | None, str]:
        """(what was done about a failed step, the decision's step that is open)."""
        while True:
            name = then_of(step, attempt)
            then = self.log.answers.get(name)
            if then is None or self.redone_before(name, then):
                return None, name
            self.asked[then.fact.id] = replace(question, decision=name), question.attempt
            if then.answer is not None:
                return then, name
            attempt += 1

    def step_of(self, event: str) -> Pending | None:
        """The step an event answered, as it was asked; None when the answer no longer counts in the
        walk."""
        found = self.asked.get(event)
        return replace(found[0], attempt=found[1]) if found is not None else None

    def clock_for(self, unit: Unit) -> tuple[str, float, str] | None:
        """The compound that is setting on a stage's bolts, when it must be done, and the stage that
        applied it; the earliest."""
        found = [
            (what, deadline, applied)
            for (applied, position), (what, deadline, stages) in self.clocks.items()
            if unit.stage.id in stages and position in (None, unit.position)
        ]
        return min(found, key=lambda x: x[1], default=None)

    def clock_outs(self) -> list[Clock]:
        """Every clock that was started."""
        return [
            Clock(what=w, deadline=d, stages=list(s), set=self.now > d)
            for w, d, s in self.clocks.values()
        ]

    def bolt_states(self, position: str | None) -> list[BoltState]:
        """Every bolt at a position (groups without positions stand at None)."""
        out = []
        for group in self.groups.values():
            for place in group.places:
                look = (
                    self.bolts.get((position, place.id))
                    or self.bolts.get((None, place.id))
                    or Look()
                )
                out.append(
                    BoltState.model_construct(
                        place=place.id,
                        state=look.state,  # type: ignore[arg-type]
                        percent=look.percent,
                        gap_mm=look.gap,
                    )
                )
        return out
