"""Bolts that are pulled again out of their turn: one that was loose or is new, those of a wrong
setting, their neighbours."""

from __future__ import annotations

import math
from dataclasses import replace
from functools import partial

from ...forms.group import GroupOut
from ...forms.stage import PassOut
from ...kinds.joints.registry import JOINTS
from ...kinds.pass_kind import At, Look, PassKind
from ...kinds.prompts import BOLT, LOOSENED, OTHERS
from ...kinds.registry import PASS_KINDS
from .bolt_step import at_step, deviations_of_answer, judged, mark_bolts, set_meanwhile
from .items import asked_of
from .mistakes import ask_of, pulled_early, since, was_done
from .pending import Pending, Settled
from .program import Segment, Unit, sorted_stages
from .step_walker import Walk
from .texts import BESIDE, NEW_BOLT, RENEWED, SET_RIGHT


def after_a_way_back(
    walk: Walk, move: tuple[str, ...], asked: Pending, word: str
) -> Pending | None:
    """What comes before a step is asked again, by what was done about it: the first open step of
    that, or None.

    A bolt that is loose or new has missed passes; what was pulled with a wrong setting is pulled
    again; another bolt that was turned is slackened and goes through its passes, too.
    """
    unit, one = asked.unit, asked.segment.one
    assert one is not None
    if word in LOOSENED:
        return renewed(walk, unit, one, move, word == "replace")
    if word.startswith(BOLT):
        other = word.removeprefix(BOLT)
        if not asked.ask.turns:
            pulled_early(walk, asked, other)
            return None
        return _loose_again(walk, asked, (other,), was_done(walk, asked, other))
    if word in OTHERS:
        moves, open_ = since(walk, asked, word)
        for each in moves if open_ is None else ():
            first = (
                _loose_again(walk, asked, each, True)
                if word == "too_high"
                else pass_again(walk, unit, one, each, SET_RIGHT)
            )
            if first is not None:
                return first
        return open_ or (renewed(walk, unit, one, move, False) if word == "too_high" else None)
    return None


def _loose_again(
    walk: Walk, asked: Pending, move: tuple[str, ...], this_too: bool
) -> Pending | None:
    """A bolt that was slackened through all passes before this one; where its turn is over, through
    this one, and those beside it then."""
    unit, one = asked.unit, asked.segment.one
    assert one is not None
    first = renewed(walk, unit, one, move, False)
    if first is None and this_too:
        first = pass_again(walk, unit, one, move) or renewed_neighbours(walk, asked, move)
    return first


def renewed_neighbours(walk: Walk, asked: Pending, move: tuple[str, ...]) -> Pending | None:
    """The bolts beside those of a move that were loose on the way, once they have their turn: each
    is pulled again to its click. Those that come later in the round are not asked for twice."""
    one, position = asked.segment.one, asked.segment.position
    prior = _click(asked.unit, one) if one is not None else None
    for bolt in move:
        group = walk.group(bolt)
        if (position, bolt) not in walk.renewed:
            continue
        walk.renewed.discard((position, bolt))
        if prior is None or group is None or not JOINTS[walk.result.joint_kind].shares_load:
            continue
        for place in beside(group, bolt):
            if (
                was_done(walk, asked, place)
                and (first := pass_again(walk, asked.unit, prior, (place,), BESIDE)) is not None
            ):
                return first
    return None


def settle_bolt(walk: Walk, kind: PassKind, at: At, asked: Pending) -> Settled:
    """How a step at a bolt stands, with what stops it, what comes before it is asked again, and
    what its answer is worth."""
    return walk.settle(
        asked,
        partial(judged, kind, at, walk, asked),
        partial(after_a_way_back, walk, asked.move),
        partial(set_meanwhile, kind, walk),
    )


def _click(unit: Unit, one: PassOut) -> PassOut | None:
    """The pull that shows whether a bolt still has its load: this pass, or the last torque before a
    turn."""
    if PASS_KINDS[one.do].wrenched:
        return one
    before = [p for p in unit.stage.passes if p.group == one.group]
    torques = [p for p in before[: before.index(one)] if PASS_KINDS[p.do].wrenched]
    return torques[-1] if torques and PASS_KINDS[one.do].adds_angle else None


def beside(group: GroupOut, place: str) -> list[str]:
    """The two bolts nearest to one, in the order of the group; as far as there are so many."""
    here = next((p for p in group.places if p.id == place), None)
    if here is None:
        return []
    far = {
        p.id: math.hypot(p.x_mm - here.x_mm, p.y_mm - here.y_mm)
        for p in group.places
        if p is not here
    }
    nearest = sorted(far, key=lambda one: round(far[one], 3))[:2]
    return [p.id for p in group.places if p.id in nearest]


def renewed(
    walk: Walk, unit: Unit, one: PassOut, move: tuple[str, ...], new: bool
) -> Pending | None:
    """What a bolt that is loose, or new, has to go through before a pass: its first open step. Its
    compound where it is new, then all passes up to this one."""
    for place in move:
        walk.renewed.add((unit.position, place))
        # it has nothing of what it had; where it stands, everything before is on this bolt's way
        # again
        for position in (unit.position, None):
            if (position, place) in walk.bolts:
                walk.bolts[position, place] = Look()
    for stage in sorted_stages(walk.result, walk.log.setup):
        position = unit.position if stage.across != "once" else None
        whose = Unit(stage, position, unit.cycle)
        if (
            new
            and stage.kind == "apply"
            and one.group in stage.groups
            and (first := _apply_again(walk, whose, move)) is not None
        ):
            return first
        for prior in stage.passes:
            if stage.id == unit.stage.id and prior.id == one.id and prior.group == one.group:
                return None
            kind = PASS_KINDS[prior.do]
            if (
                stage.kind != "tighten"
                or prior.group != one.group
                or kind.pause
                or prior.check
                or kind.provisional
            ):
                continue
            if (first := pass_again(walk, whose, prior, move)) is not None:
                return first
    return None


def _apply_again(walk: Walk, unit: Unit, move: tuple[str, ...]) -> Pending | None:
    """The compound on a new bolt, with what is recorded of it."""
    for item in unit.stage.items:
        segment = Segment(unit.stage, unit.position, item=item, place=move[0])
        asked = replace(
            asked_of(walk, unit, segment), move=move, number=1, order=(move,), out_of_turn=NEW_BOLT
        )
        found = walk.settle(asked, lambda _: None)
        if found.given is None:
            return found.pending
        walk.step_done(found.given, unit.position)
        if found.given.word == "skip":
            walk.skipped(
                found.step,
                f"{item.text}, bolt {walk.named(unit.position, *move)}",
                found.given,
                proves=False,
            )
    return None


def pass_again(
    walk: Walk, unit: Unit, prior: PassOut, move: tuple[str, ...], why: str = RENEWED
) -> Pending | None:
    """One pass at one bolt again, out of its turn."""
    kind, segment = PASS_KINDS[prior.do], Segment(unit.stage, unit.position, one=prior)
    at = at_step(walk, unit.position, prior, 1, None, move[0])
    at.slackens = False
    asked = Pending(
        unit, segment, ask_of(kind.asked(at), (move,)), 1, move, order=(move,), out_of_turn=why
    )
    found = settle_bolt(walk, kind, at, asked)
    if found.given is None:
        return found.pending
    walk.step_done(found.given, unit.position)
    deviations_of_answer(walk, unit, unit.position, prior, kind, move, found.given, found)
    mark_bolts(walk, segment, kind, at, move, found.given, found.fail is not None)
    return None
