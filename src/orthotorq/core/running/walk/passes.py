"""Walking passes: rounds and pulls of any kind; what is asked and what an answer leaves, the kind
says."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import partial

from ...forms.run import TapeBand
from ...forms.stage import PassOut
from ...kinds.pass_kind import At, Fail, History, PassKind
from ...kinds.prompts import CAUSES, SLACKEN, Ask
from ...kinds.registry import PASS_KINDS
from ...thresholds import GAP_FAR, RECHECK_ROUNDS
from ..log.event_log import Given
from ..log.setup import in_hand
from ..log.step_id import end_of, parse, step_id
from .bolt_step import at_step, deviations_of_answer, judged, mark_bolts, slackens
from .mistakes import ask_of, begins_again
from .pending import Pending, Settled
from .program import Segment, Unit, again_by
from .renewal import renewed, renewed_neighbours, settle_bolt
from .step_walker import Walk
from .unfit import NOT_PULLED_AGAIN


def band_of(
    unit: Unit,
    segment: Segment,
    one: PassOut,
    round_: int,
    total: int,
    answers: list[str],
    moved: list[int],
) -> TapeBand:
    """One band of the tape, with an id of its own when its stage is done again; `moved` names the
    ticks at which a check found movement."""
    kind = PASS_KINDS[one.do]
    name = f"{segment.base()}/r{round_}" + (f"~{unit.cycle}" if unit.cycle > 1 else "")
    if len(segment.stage.groups) > 1:
        name = f"{name}/{one.group}"
    return TapeBand(
        id=name,
        label=one.name if round_ == 1 else f"{one.name}, round {round_}",
        position=segment.position,
        percent=kind.height(one),
        total=total,
        done=len(answers),
        check=one.check,
        answers=answers,
        moved=moved,
    )


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
    # where a joint is looked at again, what moved is gone round again, whatever the plan says
    once = one.until == "once" and not (one.check and walk.log.setup.occasion == "recheck")
    each = max(one.rounds_max, 1 if once or one.until != "once" else int(RECHECK_ROUNDS.value))
    round_, most = 0, each
    while True:
        pending, round_, exhausted = _rounds(walk, unit, segment, one, round_, most, history)
        if pending is not None or walk.back is not None or once:
            return pending
        pending, again = _verdict(walk, unit, segment, one, round_, history, exhausted)
        if not again:
            return pending
        # what was mended is gone round anew, with as many rounds as the plan gives
        most, history = round_ + each, History()


def _rounds(
    walk: Walk,
    unit: Unit,
    segment: Segment,
    one: PassOut,
    done: int,
    most: int,
    history: History,
) -> tuple[Pending | None, int, bool]:
    """(the open step, the last round, whether the rounds ran out while it still went on)."""
    kind, round_ = PASS_KINDS[one.do], done
    while round_ < most and (order := kind.order_of_round(one, history)):
        round_ += 1
        pending, goes_on = _round(walk, unit, segment, one, round_, order, history)
        if pending is not None or walk.back is not None:
            return pending, round_, False
        begun = round_ < most and any(
            step_id(segment.base(), round_ + 1, _place(m)) in walk.log.answers for m in one.order
        )
        if not goes_on and not begun:
            return None, round_, False
        if round_ == most:
            return None, round_, goes_on
    return None, round_, False


def _verdict(
    walk: Walk,
    unit: Unit,
    segment: Segment,
    one: PassOut,
    round_: int,
    history: History,
    exhausted: bool,
) -> tuple[Pending | None, bool]:
    """(the decision that is open, whether another set of rounds was decided): what only the whole
    pass shows stops it."""
    kind = PASS_KINDS[one.do]
    found = list(kind.verdict(one, history))
    if exhausted and kind.exhausted is not None:
        found.insert(0, (kind.exhausted, {"name": one.name, "max": round_}))
    asked = Pending(unit, segment, kind.asked(At(one, round_)), round_)
    for code, params in found:
        place = params.get("place")
        said = {**params, "label": walk.named(segment.position, str(place)) if place else ""}
        halted = walk.halt(
            asked, end_of(segment.base()), Fail(code, said, kind.stops[code], unit.stage.id)
        )
        if halted.given is None or walk.back is not None:
            return halted.pending, False
        if halted.given.word == "again":
            return None, True
        if halted.given.word == "accept":
            walk.deviate(end_of(segment.base()), code, **said, reason=halted.reason)
    return None, False


def _pause(
    walk: Walk, unit: Unit, segment: Segment, one: PassOut, kind: PassKind
) -> Pending | None:
    """A pause inside a stage."""
    asked = Pending(unit, segment, kind.ask, ready_at=walk.ready_at(one.wait_s))
    found = walk.settle(asked, lambda given: None)
    if found.given is None:
        return found.pending
    walk.step_done(found.given, segment.position)
    if found.given.word == "skip":
        walk.skipped(found.step, one.name, found.given, proves=False)
    walk.untimed(asked, found.step, one.name, found.given)
    return None


def _round(
    walk: Walk,
    unit: Unit,
    segment: Segment,
    one: PassOut,
    round_: int,
    order: Sequence[list[str]],
    history: History,
) -> tuple[Pending | None, bool]:
    """(the open step of a round, if there is one; whether it asks for another)."""
    answers: list[str] = []
    moved: list[int] = []
    goes_on = False
    pending: Pending | None = None
    kind = PASS_KINDS[one.do]
    moves = tuple(_still_pulled(walk, segment, round_, order))
    every = list(enumerate(zip(moves, again_by(moves), strict=True), 1))
    todo = list(every)
    while todo:
        number, (move, again) = todo.pop(0)
        pending, given, left = _bolt(
            walk, _Turn(unit, segment, one, round_ + again, move, number, moves)
        )
        if given is None:
            break
        if begins_again(given, one):
            # what stands already clicks without moving
            todo, answers, moved, goes_on = list(every), [], [], False
            continue
        answers.append(given.word)
        history.answers[move[0]] = given
        if left:
            history.left.add(move[0])
        slack = slackens(walk, one, round_, 1)
        if slack or kind.goes_on(one, given):
            # what was slackened turned because of that: it is checked in another round, and has not
            # moved
            goes_on = True
            if one.check and not slack:
                moved.append(number - 1)
                history.moved.append(move[0])
    if moves:
        walk.tape.append(band_of(unit, segment, one, round_, len(moves), answers, moved))
    return pending, goes_on


def _still_pulled(
    walk: Walk, segment: Segment, round_: int, order: Sequence[list[str]]
) -> Iterator[tuple[str, ...]]:
    """The moves of a round without bolts that were left as not fit to be pulled; what an older
    program asked, and was answered, stays asked."""
    broken = {
        (at.position, at.place)
        for step, (code, _) in walk.failed.items()
        if code in NOT_PULLED_AGAIN and (at := parse(step)) is not None
    }
    for move in order:
        step = step_id(segment.base(), round_, _place(move))
        if (segment.position, move[0]) not in broken or step in walk.log.answers:
            yield tuple(move)


@dataclass(frozen=True, slots=True)
class _Turn:
    """Whose turn it is in a round: the bolt, or bolts that are moved together, with its number and
    the order of the round."""

    unit: Unit
    segment: Segment
    one: PassOut
    round: int
    move: tuple[str, ...]
    number: int
    order: tuple[tuple[str, ...], ...]

    def asks(self, ask: Ask, pull: int | None = None, slackens: bool = False) -> Pending:
        """A step of this turn."""
        return Pending(
            self.unit,
            self.segment,
            ask,
            self.round,
            self.move,
            1,
            self.number,
            pull,
            self.order,
            slackens=slackens,
        )


def _bolt(walk: Walk, turn: _Turn) -> tuple[Pending | None, Given | None, bool]:
    """One turn of a round, its pulls until it is done: (open step, last answer, left as failed)."""
    one, still = turn.one, 0
    wanted, given = one.repeat_still or 0, None
    for pull in range(1, (one.repeat_max or 1) + 1):
        pending, given, left = _pull(walk, turn, pull if wanted else None)
        if given is None or pending is not None:
            return pending, None, False
        still = still + 1 if given.word == "did_not_turn" else 0
        if not wanted or still >= wanted or left or begins_again(given, one):
            return None, given, left
    return _pulls_exhausted(walk, turn, given)


def _pull(walk: Walk, turn: _Turn, pull: int | None) -> tuple[Pending | None, Given | None, bool]:
    """One pull of a turn, with what comes before and after it: (open step, answer, left as
    failed)."""
    one, move, segment = turn.one, turn.move, turn.segment
    kind = PASS_KINDS[one.do]
    at = at_step(walk, segment.position, one, turn.round, pull, move[0])
    if at.slackens:
        slack = _slacken(walk, turn)
        if slack.given is None or (slack.fail is not None and slack.fail.code == "stuck"):
            # left as it is: a click on it would prove nothing, it is not pulled
            return slack.pending, slack.given, True
    asked = turn.asks(ask_of(kind.asked(at), turn.order), pull, at.slackens)
    if asked.ask.wanted == "length":
        asked.usual = _usual_gap(walk, segment.position, one, move[0])
    found = settle_bolt(walk, kind, at, asked)
    given = found.given
    if given is None:
        return found.pending, None, False
    walk.step_done(given, segment.position)
    if walk.back is not None:
        # the stage is done again: this answer says nothing of the bolt
        return None, None, False
    if begins_again(given, one):
        said = {"label": walk.named(segment.position, *move), "name": one.name}
        walk.deviate(found.step, "round_again", **said)
        return None, given, False
    if one.settings and kind.wrenched:
        walk.in_hand = in_hand(walk.log.setup.settings_of(turn.unit.stage, one)[0])
    failed = found.fail is not None or given.word == "skip"
    deviations_of_answer(walk, turn.unit, segment.position, one, kind, move, given, found)
    mark_bolts(walk, segment, kind, at, move, given, failed)
    if not failed and (beside := renewed_neighbours(walk, asked, move)) is not None:
        return beside, None, False
    seen_again = at.recheck and turn.round == 1 and one.check and not at.slackens
    if seen_again and not failed and kind.moved(one, given):
        return _cause(walk, asked, found.step), given, False
    return None, given, failed


def _pulls_exhausted(
    walk: Walk, turn: _Turn, given: Given | None
) -> tuple[Pending | None, Given | None, bool]:
    """A bolt that turns at every pull: nothing goes on before it is decided; a new one is pulled
    anew."""
    one, move, position = turn.one, turn.move, turn.segment.position
    step = step_id(turn.segment.base(), turn.round, _place(move))
    said: dict[str, object] = {
        "label": walk.named(position, move[0]),
        "max": one.repeat_max or 1,
        "name": one.name,
    }
    kind = PASS_KINDS[one.do]
    fail = Fail("pulls_exhausted", said, kind.stops["pulls_exhausted"])
    halted = walk.halt(turn.asks(kind.ask), step, fail)
    if halted.given is None:
        return halted.pending, None, False
    if halted.given.word == "replace":
        if (first := renewed(walk, turn.unit, one, move, True)) is not None:
            return first, None, False
        return _bolt(walk, turn)
    walk.deviate(step, "pulls_exhausted", **said, reason=halted.reason)
    return None, given, True


def _usual_gap(
    walk: Walk, position: str | None, one: PassOut, place: str
) -> tuple[float, float, str] | None:
    """Where the gap at a bolt can lie after one more turn: at most half as large, for what the
    neighbours draw; hardly larger."""
    before, group = walk.bolt(position, place).gap, walk.group(place)
    if before is None or group is None:
        return None
    draws = GAP_FAR.value * group.thread.pitch_mm * (one.turn_deg or 0.0) / 360
    return before - max(draws, before / 2), before + draws, f"it was {before:g} mm before this turn"


def _cause(walk: Walk, asked: Pending, step: str) -> Pending | None:
    """A nut that had moved when the joint was looked at again: why, as far as can be said; None
    once it was said."""
    one = asked.segment.one
    assert one is not None
    said: dict[str, object] = {
        "label": walk.named(asked.segment.position, asked.move[0]),
        "name": one.name,
    }
    halted = walk.halt(asked, step, Fail("moved_at_recheck", said, CAUSES))
    if halted.given is None:
        return halted.pending
    cause = next((c.label for c in CAUSES if c.word == halted.given.word), "")
    walk.deviate(step, "moved_at_recheck", **said, cause=cause[:1].lower() + cause[1:])
    return None


def _slacken(walk: Walk, turn: _Turn) -> Settled:
    """The bolt slackened, as a step of its own before its first pull."""
    kind, at, position = PASS_KINDS["loosen"], At(turn.one, turn.round), turn.segment.position
    asked = turn.asks(SLACKEN, 0, slackens=True)
    found = walk.settle(asked, partial(judged, kind, at, walk, asked))
    if found.given is None:
        return found
    walk.step_done(found.given, position)
    deviations_of_answer(walk, turn.unit, position, turn.one, kind, turn.move, found.given, found)
    if found.fail is None and found.given.word == "done":
        for bolt in turn.move:
            walk.mark(position, bolt, "turned", "slackened")
    if found.fail is not None and found.fail.code == "stuck":
        mark_bolts(walk, turn.segment, kind, at, turn.move, found.given, True)
    return found
