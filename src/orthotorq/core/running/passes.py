"""Walking one segment: items, hand passes and torque passes with their rounds."""
from __future__ import annotations

from dataclasses import dataclass, field

from ..documents.result import PassOut, Result
from ..documents.run import BoltState, Deviation, TapeBand
from ..errors import OrthotorqError
from ..units import parse
from .fold import Given, Log
from .instruct import Pending, label_of
from .program import Segment, step_id
from .texts import DEVIATIONS


@dataclass(slots=True)
class Bolt:
    """What a bolt at one position has had so far."""

    percent: float = 0.0
    state: str = "untouched"


@dataclass(slots=True)
class Walk:
    """The walk so far: bolts by position, tape, deviations; `blocked` once a step is pending."""

    result: Result
    log: Log
    bolts: dict[tuple[str | None, str], Bolt] = field(default_factory=dict)
    tape: list[TapeBand] = field(default_factory=list)
    deviations: list[Deviation] = field(default_factory=list)
    done: int = 0
    blocked: bool = False
    position: str | None = None
    last_setting: str | None = None

    def bolt(self, position: str | None, place: str) -> Bolt:
        """The bolt of a place, made when first met."""
        return self.bolts.setdefault((position, place), Bolt())

    def deviate(self, step: str, code: str, **params: object) -> None:
        """Note a deviation; its id is made of step and code, so the same events give the same ids."""
        self.deviations.append(Deviation(id=f"{step}:{code}", step=step, code=code,
                                         text=DEVIATIONS[code].format(**params), accepted_by=None, reason=None))

    def bolt_states(self, position: str | None) -> list[BoltState]:
        """Every bolt at a position (groups without positions stand at None)."""
        out = []
        for group in self.result.groups:
            for place in group.places:
                bolt = self.bolts.get((position, place.id)) or self.bolts.get((None, place.id)) or Bolt()
                out.append(BoltState(place=place.id, state=bolt.state, percent=bolt.percent))
        return out


def settled(log: Log, base: str, round_: int | None, place: str | None) -> tuple[Given | None, int]:
    """(the answer of a step that holds, or None; the attempt that is open or holds).

    "Not sure", a voided answer and a condition that is not met repeat the step.
    """
    attempt = 1
    while True:
        given = log.answers.get(step_id(base, round_, place, attempt))
        if given is None:
            return None, attempt
        if given.answer is not None and given.answer.get("answer") != "not_sure" and not given.answer.get("again"):
            return given, attempt
        attempt += 1


def walk_item(walk: Walk, segment: Segment) -> Pending | None:
    """One condition, item, check or reading."""
    base = segment.base()
    given, attempt = settled(walk.log, base, None, None)
    while given is not None and segment.item is None and (given.answer or {}).get("answer") == "not_good":
        # a condition that is not met is asked again: the run stops until it is
        attempt += 1
        again = walk.log.answers.get(step_id(base, None, None, attempt))
        given = again if again is not None and again.answer is not None else None
    if given is None or walk.blocked:
        return None if walk.blocked else Pending(segment, None, [], attempt)
    walk.done += 1
    walk.position = segment.position
    _judge_item(walk, segment, given, step_id(base, None, None, attempt))
    return None


def _judge_item(walk: Walk, segment: Segment, given: Given, step: str) -> None:
    item, answer = segment.item, given.answer or {}
    if item is None:
        return
    if answer.get("answer") == "not_good":
        note = f": {answer['note']}" if answer.get("note") else ""
        walk.deviate(step, "not_good", text=item.text, note=note)
    elif answer.get("answer") == "value":
        value = reading_mm(str(answer.get("value", "")))
        low, high = item.min_mm, item.max_mm
        if value is not None and ((low is not None and value < low) or (high is not None and value > high)):
            walk.deviate(step, "out_of_limit", text=item.text, value=answer.get("value"), limit=item.limit_text)


def reading_mm(text: str) -> float | None:
    """A length reading in mm, or None when the text is none."""
    try:
        return parse(text, "length").base
    except OrthotorqError:
        return None


def walk_pass(walk: Walk, segment: Segment) -> Pending | None:
    """One pass with all its rounds; later rounds exist once they are needed or have begun."""
    one = segment.one
    assert one is not None
    for round_ in range(1, one.rounds_max + 1):
        pending, moved = _walk_round(walk, segment, one, round_)
        if pending is not None:
            return pending
        if walk.blocked or one.until == "once":
            return None
        begun = any(step_id(segment.base(), round_ + 1, move[0], 1) in walk.log.answers for move in one.order)
        if not moved and not begun:
            return None
        if round_ == one.rounds_max and moved:
            walk.deviate(f"{segment.base()}/r{round_}/-", "rounds_exhausted", name=one.name, max=one.rounds_max)
    return None


def _walk_round(walk: Walk, segment: Segment, one: PassOut, round_: int) -> tuple[Pending | None, bool]:
    base = segment.base()
    answers: list[str] = []
    moved = False
    pending: Pending | None = None
    if not walk.blocked:
        for number, move in enumerate(one.order, 1):
            given, attempt = settled(walk.log, base, round_, move[0])
            if given is None:
                pending = Pending(segment, round_, move, attempt, number)
                break
            answer = str((given.answer or {}).get("answer"))
            answers.append(answer)
            moved |= answer == "turned"
            walk.done += 1
            walk.position = segment.position
            _mark(walk, segment, one, round_, move, answer, step_id(base, round_, move[0], attempt))
        walk.last_setting = one.settings[0].text if one.settings and answers else walk.last_setting
    label = one.name if round_ == 1 else f"{one.name}, round {round_}"
    walk.tape.append(TapeBand(id=f"{base}/r{round_}", label=label, position=segment.position,
                              percent=one.percent or 0.0, total=len(one.order), done=len(answers), check=one.check,
                              answers=answers))
    return pending, moved


def _mark(walk: Walk, segment: Segment, one: PassOut, round_: int, move: list[str], answer: str, step: str) -> None:
    """What an answer means for the bolts of a move."""
    for place in move:
        bolt = walk.bolt(segment.position, place)
        before = bolt.percent
        if one.do == "hand":
            bolt.state = "hand"
            continue
        percent = one.percent or 0.0
        bolt.percent = max(before, percent)
        if answer == "did_not_turn" and round_ == 1 and not one.check and percent > before > 0:
            bolt.state = "deviating"
            walk.deviate(step, "did_not_turn", label=label_of(place), name=one.name)
        elif bolt.state == "deviating":
            continue
        elif one.check:
            bolt.state = "moved" if answer == "turned" else "checked"
        else:
            bolt.state = "full" if bolt.percent >= 100 else "part"
