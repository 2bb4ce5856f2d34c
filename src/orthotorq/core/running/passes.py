"""Walking passes: rounds and pulls of any kind; what is asked and what an answer leaves, the kind says."""
from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import partial

from ..forms.run import TapeBand
from ..forms.stage import PassOut
from ..kinds.asks import ACCEPT, BACK, SLACKEN, Choice
from ..kinds.pass_kind import At, Fail, History, Look, PassKind
from ..kinds.registry import PASS_KINDS
from ..thresholds import GAP_FAR, RECHECK_ROUNDS
from .fold import Given
from .program import Segment, Unit, sorted_stages
from .setup import in_hand
from .step_id import base_of, end_of, step_id, then_of
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


def _rounds(walk: Walk, unit: Unit, segment: Segment, one: PassOut, done: int, most: int, history: History,
            ) -> tuple[Pending | None, int, bool]:
    """(the open step, the last round, whether the rounds ran out while it still went on)."""
    kind, round_ = PASS_KINDS[one.do], done
    while round_ < most and (order := kind.order_of_round(one, history)):
        round_ += 1
        pending, goes_on = _round(walk, unit, segment, one, round_, order, history)
        if pending is not None or walk.back is not None:
            return pending, round_, False
        begun = round_ < most and any(
            step_id(segment.base(), round_ + 1, _place(m)) in walk.log.answers for m in one.order)
        if not goes_on and not begun:
            return None, round_, False
        if round_ == most:
            return None, round_, goes_on
    return None, round_, False


def _verdict(walk: Walk, unit: Unit, segment: Segment, one: PassOut, round_: int, history: History,
             exhausted: bool) -> tuple[Pending | None, bool]:
    """(the decision that is open, whether another set of rounds was decided): what only the whole pass shows stops it."""
    kind = PASS_KINDS[one.do]
    found = list(kind.verdict(one, history))
    if exhausted and kind.exhausted is not None:
        found.insert(0, (kind.exhausted, {"name": one.name, "max": round_}))
    asked = Pending(unit, segment, kind.asked(At(one, round_)), round_)
    for code, params in found:
        place = params.get("place")
        said = {**params, "label": walk.label(str(place)) if place else ""}
        halted = walk.halt(asked, end_of(segment.base()), Fail(code, said, kind.stops[code], unit.stage.id))
        if halted.given is None or walk.back is not None:
            return halted.pending, False
        if halted.given.word == "again":
            return None, True
        if halted.given.word == "accept":
            walk.deviate(end_of(segment.base()), code, **said, reason=halted.reason)
    return None, False


def _pause(walk: Walk, unit: Unit, segment: Segment, one: PassOut, kind: PassKind) -> Pending | None:
    """A pause inside a stage."""
    asked = Pending(unit, segment, kind.ask, ready_at=walk.ready_at(one.wait_s))
    found = walk.settle(asked, lambda given: None)
    if found.given is None:
        return found.pending
    walk.step_done(found.given, segment.position)
    if found.given.word == "skip":
        walk.skipped(step_id(segment.base(), None, None, found.attempt), one.name, found.given)
    walk.untimed(asked, step_id(segment.base(), None, None, found.attempt), one.name, found.given)
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
    given: Given | None = None
    for pull in range(1, most + 1):
        counted = pull if wanted else None
        at = _at(walk, segment.position, one, round_, counted, move[0])
        if at.slackens:
            slack = _slacken(walk, unit, segment, one, round_, move, number, order)
            if slack.given is None:
                return slack.pending, None, False
            if slack.fail is not None and slack.fail.code == "stuck":
                # left as it is: a click on it would prove nothing, it is not pulled
                return None, slack.given, True
        asked = Pending(unit, segment, kind.asked(at), round_, move, 1, number, counted, order, slackens=at.slackens)
        if asked.ask.wanted == "length":
            asked.usual = _usual_gap(walk, segment.position, one, move[0])
        found = walk.settle(asked, partial(_judged, kind, at, walk, segment.position, move[0]),
                            partial(_renewed, walk, unit, one, move), partial(_set_meanwhile, kind, walk))
        given = found.given
        if given is None:
            return found.pending, None, False
        walk.step_done(given, segment.position)
        if one.settings and kind.wrenched:
            walk.in_hand = in_hand(walk.log.setup.settings_of(unit.stage, one)[0])
        failed = found.fail is not None or given.word == "skip"
        _deviations(walk, unit, one, kind, move, given, found)
        _mark(walk, segment, kind, at, move, given, failed)
        if at.recheck and round_ == 1 and one.check and not at.slackens and not failed and kind.moved(one, given):
            cause = _cause(walk, asked, found.step)
            if cause is not None:
                return cause, None, False
        still = still + 1 if given.word == "did_not_turn" else 0
        if not wanted or still >= wanted or failed:
            return None, given, failed
    return _pulls_exhausted(walk, unit, segment, one, round_, move, number, order, given)


def _pulls_exhausted(walk: Walk, unit: Unit, segment: Segment, one: PassOut, round_: int, move: tuple[str, ...], number: int,
                     order: tuple[tuple[str, ...], ...], given: Given | None) -> tuple[Pending | None, Given | None, bool]:
    """A bolt that turns at every pull: nothing goes on before it is decided; a new one is pulled anew."""
    step = step_id(segment.base(), round_, _place(move))
    said: dict[str, object] = {"label": walk.label(move[0]), "max": one.repeat_max or 1, "name": one.name}
    asked = Pending(unit, segment, PASS_KINDS[one.do].ask, round_, move, 1, number, None, order)
    halted = walk.halt(asked, step, Fail("pulls_exhausted", said, PASS_KINDS[one.do].stops["pulls_exhausted"]))
    if halted.given is None:
        return halted.pending, None, False
    if halted.given.word == "replace":
        if (first := _renewed(walk, unit, one, move)) is not None:
            return first, None, False
        return _bolt(walk, unit, segment, one, round_, move, number, order)
    walk.deviate(step, "pulls_exhausted", **said, reason=halted.reason)
    return None, given, True


def _usual_gap(walk: Walk, position: str | None, one: PassOut, place: str) -> tuple[float, float, str] | None:
    """Where the gap at a bolt can lie after one more turn: at most half as large, for what the neighbours draw; hardly larger."""
    before, group = walk.bolt(position, place).gap, walk.group(place)
    if before is None or group is None:
        return None
    draws = GAP_FAR.value * group.thread.pitch_mm * (one.turn_deg or 0.0) / 360
    return before - max(draws, before / 2), before + draws, f"it was {before:g} mm before this turn"


def _at(walk: Walk, position: str | None, one: PassOut, round_: int, pull: int | None, place: str) -> At:
    """Where a step of a pass stands."""
    group = walk.group(place)
    angled = group is not None and group.target is not None and group.target.angle_deg is not None
    return At(one, round_, pull, angled, slackens(walk, one, round_, pull), walk.log.setup.occasion == "recheck",
              walk.bolt(position, place).percent > 0)


def _cause(walk: Walk, asked: Pending, step: str) -> Pending | None:
    """A nut that had moved when the joint was looked at again: why, as far as can be said; None once it was said."""
    one = asked.segment.one
    assert one is not None
    said: dict[str, object] = {"label": walk.label(asked.move[0]), "name": one.name}
    stops = PASS_KINDS[one.do].stops["moved_at_recheck"]
    halted = walk.halt(asked, step, Fail("moved_at_recheck", said, stops))
    if halted.given is None:
        return halted.pending
    cause = next((c.label for c in stops if isinstance(c, Choice) and c.word == halted.given.word), "")
    walk.deviate(step, "moved_at_recheck", **said, cause=cause[:1].lower() + cause[1:])
    return None


def _set_meanwhile(kind: PassKind, walk: Walk, asked: Pending, attempt: int, step: str, given: Given | None) -> Pending | None:
    """The stop before a pull for which the compound has set meanwhile, once a visit, whichever attempt it is; None where there is
    nothing to decide.

    A pull that was made without asking, as without network, stays a deviation.
    """
    unit, clock = asked.unit, walk.clock_for(asked.unit)
    if not kind.pulls or clock is None or (unit.key, unit.cycle) in walk.pulled_late:
        return None
    what, deadline, applied = clock
    if walk.redone.get(step, 0) < len(walk.log.redos.get(step, [])):
        # a stage was done again from here: what is past is not stopped now
        return None
    key = end_of(base_of(unit.position, unit.stage.id, "condition"))
    decided = walk.log.answers.get(then_of(key, walk.used.get(then_of(key), 0) + 1))
    before = given is not None and (decided is None or given.fact.sequence < decided.fact.sequence)
    if before or (decided is None and walk.now <= deadline):
        return None
    halted = walk.halt(replace(asked, attempt=attempt), key, Fail("set_too_late", {"what": what}, (
        BACK, ACCEPT.saying("Pull all the same, with a reason")), applied))
    if halted.given is not None and walk.back is None:
        walk.pulled_late.add((unit.key, unit.cycle))
    return halted.pending


def _renewed(walk: Walk, unit: Unit, one: PassOut, move: tuple[str, ...]) -> Pending | None:
    """What a new bolt still has to go through of the passes that the old one had: its first open step."""
    for place in move:
        # it has nothing of what the old one had; where it stands, everything before is on this bolt's way again
        for position in (unit.position, None):
            if (position, place) in walk.bolts:
                walk.bolts[position, place] = Look()
    for stage in sorted_stages(walk.result, walk.log.setup):
        position = unit.position if stage.across != "once" else None
        segment_of = partial(Segment, stage, position)
        for prior in stage.passes:
            kind = PASS_KINDS[prior.do]
            if stage.id == unit.stage.id and prior.id == one.id and prior.group == one.group:
                return None
            if stage.kind != "tighten" or prior.group != one.group or kind.pause or prior.check or kind.back or kind.provisional:
                continue
            at = _at(walk, position, prior, 1, None, move[0])
            at.slackens = False
            asked = Pending(Unit(stage, position, unit.cycle), segment_of(one=prior), kind.asked(at), 1, move, order=(move,),
                            renews=True)
            found = walk.settle(asked, partial(_judged, kind, at, walk, position, move[0]),
                                partial(_renewed, walk, asked.unit, prior, move))
            if found.given is None:
                return found.pending
            walk.step_done(found.given, position)
            _deviations(walk, asked.unit, prior, kind, move, found.given, found)
            _mark(walk, asked.segment, kind, at, move, found.given, found.fail is not None)
    return None


def _slacken(walk: Walk, unit: Unit, segment: Segment, one: PassOut, round_: int, move: tuple[str, ...], number: int,
             order: tuple[tuple[str, ...], ...]) -> Settled:
    """The bolt slackened, as a step of its own before its first pull."""
    kind, place = PASS_KINDS["loosen"], move[0]
    found = walk.settle(Pending(unit, segment, SLACKEN, round_, move, 1, number, 0, order, slackens=True),
                        partial(_judged, kind, At(one, round_), walk, segment.position, place))
    if found.given is None:
        return found
    walk.step_done(found.given, segment.position)
    _deviations(walk, unit, one, kind, move, found.given, found)
    if found.fail is not None and found.fail.code == "stuck":
        _mark(walk, segment, kind, At(one, round_), move, found.given, True)
    return found


def _judged(kind: PassKind, at: At, walk: Walk, position: str | None, place: str, given: Given) -> Fail | None:
    """What stops the run at an answer: what the answer says by itself, or that it is not credible as the bolt stands."""
    label = walk.label(place)
    found = kind.judge(at.one, given, label)
    if found is not None or (code := kind.suspicious(walk.bolt(position, place), given.word, at)) is None:
        return found
    return Fail(code, {"label": label, "name": at.one.name}, kind.stops[code])


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


def _mark(walk: Walk, segment: Segment, kind: PassKind, at: At, move: tuple[str, ...], given: Given, failed: bool) -> None:
    """What an answer means for the bolts of a move."""
    for place in move:
        if place == "-":
            continue
        walk.bolts[segment.position, place] = kind.after(walk.bolt(segment.position, place), given, at, failed)
