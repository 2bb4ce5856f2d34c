"""How one comes back after a mistake that is about more than its own bolt: another bolt, the order,
the setting."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import replace

from ...forms.stage import PassOut
from ...kinds.pass_kind import Fail
from ...kinds.prompts import ANOTHER_BOLT, BOLT, ORDER_LOST, OTHERS, Ask, Choice
from ...kinds.registry import PASS_KINDS
from ..log.event_log import Given
from ..log.step_id import end_of, step_id
from .pending import Pending
from .step_walker import Walk


def mistake(walk: Walk, asked: Pending, given: Given) -> Fail | None:
    """What stops the run after an answer that says more than one bolt is concerned; None for any
    other answer, and for a lost order where going round again does no harm."""
    one = asked.segment.one
    assert one is not None
    said: dict[str, object] = {
        "label": walk.named(asked.segment.position, *asked.move),
        "name": one.name,
    }
    if given.word == "another_bolt":
        others = {move[0] for move in asked.order if move != asked.move and move[0] != "-"}
        return Fail("another_bolt", said, (*_bolts(walk, asked, others), "accept"))
    if given.word == "order_lost" and asked.ask.turns:
        return Fail("order_lost", said, ("certain", "back", "accept"), asked.unit.stage.id)
    return None


def _bolts(walk: Walk, asked: Pending, places: Collection[str]) -> tuple[Choice, ...]:
    """Bolts to choose one of, as they are numbered; of a turn the other one has to be slackened,
    since its turn was made too early or twice. They have no keys: a digit would be taken for the
    number of a bolt."""
    then = ", now slackened" if asked.ask.turns else ""
    group = walk.group(asked.move[0])
    known = [p.id for p in group.places if p.id in places] if group is not None else []
    return tuple(
        Choice(BOLT + place, f"Bolt {walk.named(asked.segment.position, place)}{then}", "")
        for place in known
    )


def ask_of(ask: Ask, order: Sequence[Sequence[str]]) -> Ask:
    """What is asked at a bolt; where there is only one, no other can be taken for it."""
    if len(order) > 1:
        return ask
    return replace(ask, wrong=tuple(c for c in ask.wrong if c not in (ANOTHER_BOLT, ORDER_LOST)))


def begins_again(given: Given, one: PassOut) -> bool:
    """Whether a round is begun again from its first bolt: what stands already clicks without
    moving; a turn would be doubled."""
    return given.word == ORDER_LOST.word and not PASS_KINDS[one.do].ask.turns


def since(walk: Walk, asked: Pending, word: str) -> tuple[list[tuple[str, ...]], Pending | None]:
    """(the moves of this round that were pulled with a wrong setting, the decision that is open
    about since when)."""
    done = list(asked.order[: asked.number - 1])
    if word not in OTHERS or not done:
        return [], None
    named = walk.named(asked.segment.position, *asked.move)
    one = asked.segment.one
    places = tuple(
        replace(choice, label=f"Since {choice.label[0].lower()}{choice.label[1:]}")
        for choice in _bolts(walk, asked, {move[0] for move in done})
    )
    only = Choice(f"{BOLT}-", "Only at this bolt", "0")
    fail = Fail(
        "wrong_since",
        {"label": named, "name": one.name if one is not None else ""},
        (*places, only),
    )
    halted = walk.halt(asked, end_of(asked.segment.base()), fail)
    if halted.given is None:
        return [], halted.pending
    first = halted.given.word.removeprefix(BOLT)
    at = next((number for number, move in enumerate(done) if move[0] == first), len(done))
    return done[at:], None


def was_done(walk: Walk, asked: Pending, place: str) -> bool:
    """Whether a bolt was answered in this round already: it does not come again by itself."""
    return bool(walk.used.get(step_id(asked.segment.base(), asked.round, place, 1, asked.pull)))


def pulled_early(walk: Walk, asked: Pending, place: str) -> None:
    """Another bolt was pulled before its turn: that it does not turn then is no reason to stop."""
    one, position = asked.segment.one, asked.segment.position
    assert one is not None
    look = walk.bolt(position, place)
    share = max(look.percent, PASS_KINDS[one.do].height(one))
    walk.bolts[position, place] = replace(look, percent=share)
