"""One step at a bolt: where it stands, what stops it, what an answer deviates by and leaves."""

from __future__ import annotations

from dataclasses import replace

from ...forms.stage import PassOut
from ...kinds.pass_kind import At, Fail, PassKind
from ...kinds.prompts import ACCEPT, BACK
from ..log.event_log import Given
from ..log.step_id import base_of, end_of, then_of
from .mistakes import mistake
from .pending import Pending, Settled
from .program import Segment, Unit
from .step_walker import Walk


def slackens(walk: Walk, one: PassOut, round_: int, pull: int | None) -> bool:
    """Whether a bolt is slackened before it is pulled: by the plan, or because this run's history
    is unknown."""
    setup = walk.log.setup
    first = (pull or 1) == 1 and round_ == 1
    return first and (
        one.slacken_first
        or (setup.history == "unknown" and one.check and setup.occasion == "recheck")
    )


def at_step(
    walk: Walk, position: str | None, one: PassOut, round_: int, pull: int | None, place: str
) -> At:
    """Where a step of a pass stands."""
    group = walk.group(place)
    angled = group is not None and group.target is not None and group.target.angle_deg is not None
    return At(
        one,
        round_,
        pull,
        angled,
        slackens(walk, one, round_, pull),
        walk.log.setup.occasion == "recheck",
        walk.bolt(position, place).percent > 0,
    )


def set_meanwhile(
    kind: PassKind, walk: Walk, asked: Pending, attempt: int, step: str, given: Given | None
) -> Pending | None:
    """The stop before a pull for which the compound has set meanwhile, once a visit, whichever
    attempt it is; None where there is nothing to decide.

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
    halted = walk.halt(
        replace(asked, attempt=attempt),
        key,
        Fail(
            "set_too_late",
            {"what": what},
            (BACK, ACCEPT.saying("Pull all the same, with a reason")),
            applied,
        ),
    )
    if halted.given is not None and walk.back is None:
        walk.pulled_late.add((unit.key, unit.cycle))
    return halted.pending


def judged(kind: PassKind, at: At, walk: Walk, asked: Pending, given: Given) -> Fail | None:
    """What stops the run at an answer: what the answer says by itself, or that it is not credible
    as the bolt stands."""
    position, place = asked.segment.position, asked.move[0]
    label = walk.named(position, place)
    found = mistake(walk, asked, given) or kind.judge(at.one, given, label)
    if (
        found is not None
        or (code := kind.suspicious(walk.bolt(position, place), given.word, at)) is None
    ):
        return found
    return Fail(code, {"label": label, "name": at.one.name}, kind.stops[code])


def deviations_of_answer(
    walk: Walk,
    unit: Unit,
    position: str | None,
    one: PassOut,
    kind: PassKind,
    move: tuple[str, ...],
    given: Given,
    found: Settled,
) -> None:
    """What an answer deviates by: a pull after the compound has set breaks the bond; what failed
    and was left; a skip."""
    clock, label = walk.clock_for(unit), walk.named(position, move[0])
    if clock is not None and kind.pulls and given.fact.happened > clock[1] and given.word != "skip":
        walk.deviate(found.step, "set_too_late", label=label, name=one.name, what=clock[0])
    if found.fail is not None:
        walk.deviate(found.step, found.fail.code, reason=found.reason, **found.fail.params)
    elif given.word == "skip":
        walk.skipped(found.step, f"bolt {label}, {one.name}", given)


def mark_bolts(
    walk: Walk,
    segment: Segment,
    kind: PassKind,
    at: At,
    move: tuple[str, ...],
    given: Given,
    failed: bool,
) -> None:
    """What an answer means for the bolts of a move."""
    one = at.one
    for place in move:
        if place == "-":
            continue
        walk.bolts[segment.position, place] = kind.after(
            walk.bolt(segment.position, place), given, at, failed
        )
        if given.word == "skip":
            continue
        walk.mark(segment.position, place, "turned")
        if failed:
            continue
        if kind.frees and kind.back:
            walk.mark(segment.position, place, "slackened")
        if one.check or one.height >= 100:
            walk.mark(segment.position, place, "pulled")
        if one.check and not at.slackens:
            moved = at.round == 1 and kind.moved(one, given)
            walk.mark(segment.position, place, "checked", *(("moved",) if moved else ()))
