"""Walking passes: rounds and pulls of any kind; what is asked and what an answer leaves, the kind says."""
from __future__ import annotations

from collections.abc import Sequence
from functools import partial

from ..forms.run import TapeBand
from ..forms.stage import PassOut
from ..kinds.asks import SLACKEN
from ..kinds.pass_kind import At, Fail, History, PassKind
from ..kinds.registry import PASS_KINDS
from .fold import Given
from .program import Segment, Unit
from .setup import in_hand
from .step_id import end_of, step_id
from .walk import Pending, Settled, Walk


def band_of(unit: Unit, segment: Segment, one: PassOut, round_: int, total: int, answers: list[str],
            moved: list[int]) -> TapeBand:
    """One band of the tape, with an id of its own when its stage is done again; `moved` names the ticks at which a check
    found movement."""
    kind = PASS_KINDS[one.do]
    name = f"{segment.base()}/r{round_}" + (f"~{unit.cycle}" if unit.cycle > 1 else "")
    if len(segment.stage.groups) > 1:
        name = f"{name}/{one.group}"
    return TapeBand(id=name, label=one.name if round_ == 1 else f"{one.name}, round {round_}", position=segment.position,
                    percent=kind.height(one), total=total, done=len(answers), check=one.check, answers=answers,
                    moved=moved)


def sketch(walk: Walk, unit: Unit, segment: Segment) -> None:
    """A pass that is still to come, for the tape."""
    one = segment.one
    if one is not None and one.order:
        walk.tape.append(band_of(unit, segment, one, 1, len(one.order), [], []))


def _place(move: Sequence[str]) -> str | None:
    return None if move[0] == "-" else move[0]


def walk_pass(walk: Walk, unit: Unit, segment: Segment) -> Pending | None:
    """One pass with all its rounds; later rounds exist once they are needed or have begun."""
    one = segment.one
    assert one is not None
    kind, history = PASS_KINDS[one.do], History()
    if kind.pause:
        return _pause(walk, unit, segment, one, kind)
    walk.provisional |= kind.provisional
    for round_ in range(1, one.rounds_max + 1):
        order = kind.order_of_round(one, history)
        if not order:
            break
        pending, goes_on = _round(walk, unit, segment, one, round_, order, history)
        if pending is not None or one.until == "once":
            return pending
        begun = any(step_id(segment.base(), round_ + 1, _place(m)) in walk.log.answers for m in one.order)
        if not goes_on and not begun:
            break
        if round_ == one.rounds_max and goes_on and kind.exhausted is not None:
            walk.deviate(f"{segment.base()}/r{round_}/-", kind.exhausted, name=one.name, max=one.rounds_max)
    _verdict(walk, segment, one, kind, history)
    return None


def _verdict(walk: Walk, segment: Segment, one: PassOut, kind: PassKind, history: History) -> None:
    """What only the whole pass shows."""
    for code, params in kind.verdict(one, history):
        place = params.get("place")
        walk.deviate(end_of(segment.base()), code, **params, label=walk.label(str(place)) if place else "")


def _pause(walk: Walk, unit: Unit, segment: Segment, one: PassOut, kind: PassKind) -> Pending | None:
    """A pause inside a stage."""
    asked = Pending(unit, segment, kind.ask, ready_at=walk.last_at + (one.wait_s or 0.0))
    found = walk.settle(asked, lambda given: None)
    if found.given is None:
        return found.pending
    walk.step_done(found.given, segment.position)
    if found.given.word == "skip":
        walk.skipped(step_id(segment.base(), None, None, found.attempt), one.name, found.given)
    return None


def _round(walk: Walk, unit: Unit, segment: Segment, one: PassOut, round_: int, order: Sequence[list[str]],
           history: History) -> tuple[Pending | None, bool]:
    """(the open step of a round, if there is one; whether it asks for another)."""
    answers: list[str] = []
    moved: list[int] = []
    goes_on = False
    pending: Pending | None = None
    kind, moves = PASS_KINDS[one.do], tuple(tuple(m) for m in order)
    for number, move in enumerate(moves, 1):
        pending, given, left = _bolt(walk, unit, segment, one, round_, move, number, moves)
        if given is None:
            break
        answers.append(given.word)
        history.answers[move[0]] = given
        if left:
            history.left.add(move[0])
        slack = slackens(walk, one, round_, 1)
        if slack or kind.goes_on(one, given):
            # what was slackened turned because of that: it is checked in another round, and has not moved
            goes_on = True
            if one.check and not slack:
                moved.append(number - 1)
                history.moved.append(move[0])
    walk.tape.append(band_of(unit, segment, one, round_, len(moves), answers, moved))
    return pending, goes_on


def slackens(walk: Walk, one: PassOut, round_: int, pull: int | None) -> bool:
    """Whether a bolt is slackened before it is pulled: by the plan, or because this run's history is unknown."""
    setup = walk.log.setup
    first = (pull or 1) == 1 and round_ == 1
    return first and (one.slacken_first or (setup.history == "unknown" and one.check and setup.occasion == "recheck"))


def _bolt(walk: Walk, unit: Unit, segment: Segment, one: PassOut, round_: int, move: tuple[str, ...], number: int,
          order: tuple[tuple[str, ...], ...]) -> tuple[Pending | None, Given | None, bool]:
    """One bolt (or bolts moved together) of a round, its pulls until it is done: (open step, last answer, left as failed)."""
    kind, most, wanted, still = PASS_KINDS[one.do], one.repeat_max or 1, one.repeat_still or 0, 0
    judge = partial(_judged, kind, one, walk, move[0])
    given: Given | None = None
    for pull in range(1, most + 1):
        counted = pull if wanted else None
        at = At(one, round_, counted, slackens=slackens(walk, one, round_, counted))
        if at.slackens:
            slack = _slacken(walk, unit, segment, one, round_, move, number, order)
            if slack.given is None:
                return slack.pending, None, False
            if slack.fail is not None and slack.fail.code == "stuck":
                # left as it is: a click on it would prove nothing, it is not pulled
                return None, slack.given, True
        found = walk.settle(Pending(unit, segment, kind.asked(at), round_, move, 1, number, counted, order,
                                    slackens=at.slackens), judge)
        given = found.given
        if given is None:
            return found.pending, None, False
        walk.step_done(given, segment.position)
        if one.settings and kind.wrenched:
            walk.in_hand = in_hand(walk.log.setup.settings_of(unit.stage, one)[0])
        failed = found.fail is not None or given.word == "skip"
        _deviations(walk, unit, one, kind, move, given, found)
        _mark(walk, segment, kind, at, move, given, found.step, failed)
        still = still + 1 if given.word == "did_not_turn" else 0
        if not wanted or still >= wanted or failed:
            return None, given, failed
    walk.deviate(step_id(segment.base(), round_, _place(move)), "pulls_exhausted", label=walk.label(move[0]), max=most,
                 name=one.name)
    return None, given, False


def _slacken(walk: Walk, unit: Unit, segment: Segment, one: PassOut, round_: int, move: tuple[str, ...], number: int,
             order: tuple[tuple[str, ...], ...]) -> Settled:
    """The bolt slackened, as a step of its own before its first pull."""
    kind, place = PASS_KINDS["loosen"], move[0]
    found = walk.settle(Pending(unit, segment, SLACKEN, round_, move, 1, number, 0, order, slackens=True),
                        partial(_judged, kind, one, walk, place))
    if found.given is None:
        return found
    walk.step_done(found.given, segment.position)
    _deviations(walk, unit, one, kind, move, found.given, found)
    if found.fail is not None and found.fail.code == "stuck":
        _mark(walk, segment, kind, At(one, round_), move, found.given, found.step, True)
    return found


def _judged(kind: PassKind, one: PassOut, walk: Walk, place: str, given: Given) -> Fail | None:
    return kind.judge(one, given, walk.label(place))


def _deviations(walk: Walk, unit: Unit, one: PassOut, kind: PassKind, move: tuple[str, ...], given: Given,
                found: Settled) -> None:
    """What an answer deviates by: a pull after the compound has set breaks the bond; what failed and was left; a skip."""
    clock = walk.clock_for(unit)
    if clock is not None and kind.pulls and given.fact.happened > clock[1] and given.word != "skip":
        walk.deviate(found.step, "set_too_late", label=walk.label(move[0]), name=one.name, what=clock[0])
    if found.fail is not None:
        walk.deviate(found.step, found.fail.code, reason=found.reason, **found.fail.params)
    elif given.word == "skip":
        walk.skipped(found.step, f"bolt {walk.label(move[0])}, {one.name}", given)


def _mark(walk: Walk, segment: Segment, kind: PassKind, at: At, move: tuple[str, ...], given: Given, step: str,
          failed: bool) -> None:
    """What an answer means for the bolts of a move."""
    for place in move:
        if place == "-":
            continue
        group = walk.group(place)
        angled = group is not None and group.target is not None and group.target.angle_deg is not None
        here = At(at.one, at.round, at.pull, angled, at.slackens)
        look, code = kind.after(walk.bolt(segment.position, place), given, here, failed)
        walk.bolts[segment.position, place] = look
        if code is not None:
            walk.deviate(step, code, label=walk.label(place), name=at.one.name)
