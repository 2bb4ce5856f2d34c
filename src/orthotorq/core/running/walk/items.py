"""Walking what is not a pass: conditions, things to tick, checks, readings, waits, things to
watch."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

from ...forms.stage import ItemOut
from ...kinds.pass_kind import Fail, reading_base
from ...kinds.prompts import (
    ACCEPT,
    AFTER_A_FAILURE,
    AFTER_A_REFUSAL,
    CONDITION,
    ITEMS,
    NOW_SO,
    REFUSES,
    Ask,
    Choice,
)
from ...thresholds import READING_FAR
from ..log.event_log import Given
from ..log.step_id import step_id
from .pending import Pending
from .program import Segment, Unit
from .reading_relations import keep_reading, related_fail
from .step_walker import Walk

#: so often a failed look sends back; after that it is mended otherwise, or left with a supervisor's
#: word
_MOST_BACK = 3


def _judge(walk: Walk, unit: Unit, segment: Segment, given: Given) -> Fail | None:
    """Whether what was seen or read stops the run, and what may be done about it."""
    item = segment.item
    assert item is not None
    place = f" at bolt {walk.named(segment.position, segment.place)}" if segment.place else ""
    stage, cycle = unit.stage, unit.cycle
    answer = given.answer or {}
    back = item.back if cycle <= _MOST_BACK else None
    choices = (*(("back",) if back else ()), *(item.on_fail or AFTER_A_FAILURE))
    if given.word == "refuses":
        never = {what for stage in walk.result.stages for one in stage.passes for what in one.never}
        ways = tuple(way for way in AFTER_A_REFUSAL if way not in never)
        return Fail("does_not_come_off", {"text": item.text}, ways)
    if given.word == "not_good":
        note = f": {answer['note']}" if answer.get("note") else ""
        return Fail("not_good", {"text": item.text + place, "note": note}, choices, back)
    if given.word == "moved":
        sent = stage.redo if cycle <= _MOST_BACK else None
        seen = (item.bad or "it moved").lower()
        return Fail(
            "moved",
            {"text": item.text, "seen": seen},
            (*(("back",) if sent else ()), "repair", "accept"),
            sent,
        )
    if given.word == "value":
        value = reading_base(answer.get("value"), item.quantity or "length")
        if value is not None and (
            (item.min is not None and value < item.min)
            or (item.max is not None and value > item.max)
        ):
            return Fail(
                "out_of_limit",
                {
                    "text": item.text,
                    "place": place,
                    "value": answer.get("value"),
                    "limit": item.limit_text,
                },
                choices,
                back,
            )
    return related_fail(walk, unit, segment, given, _MOST_BACK)


def asked_of(walk: Walk, unit: Unit, segment: Segment) -> Pending:
    """What a condition or an item asks."""
    item = segment.item
    if item is None:
        return Pending(unit, segment, CONDITION)
    number = item.places.index(segment.place) + 1 if segment.place in item.places else 1
    ready = walk.ready_at(item.wait_s) if item.answer == "wait" else None
    ask = _ask(item.answer, item.quantity, unit.kind.may_refuse)
    if item.good or item.bad:
        ask = replace(ask, choices=_said(item))
    return Pending(
        unit,
        segment,
        ask,
        None,
        (segment.place,) if segment.place else (),
        number=number,
        pull=segment.nth,
        order=tuple((p,) for p in item.places),
        ready_at=ready,
        usual=usual(item),
    )


@lru_cache(maxsize=256)
def _ask(answer: str, quantity: str | None, may_refuse: bool) -> Ask:
    """What is asked where the plan says nothing in words of its own."""
    wrong = (REFUSES.saying("It does not come off"),) if may_refuse else ()
    return replace(ITEMS[answer], wanted=quantity, wrong=wrong)


def usual(item: ItemOut) -> tuple[float, float, str] | None:
    """Where readings of an item lie, good or not: so many widths of its limit around it."""
    ends = [end for end in (item.min, item.max) if end is not None]
    width = (ends[1] - ends[0] if len(ends) == 2 else abs(ends[0])) if ends else 0.0
    if width <= 0:
        return None
    far = READING_FAR.value * width
    return ends[0] - far, ends[-1] + far, f"the limit is {item.limit_text}"


def _said(item: ItemOut) -> tuple[Choice, ...]:
    """The answers to something watched, in the plan's own words."""
    still, moved = ITEMS["moved"].choices
    return still.saying(item.good or still.label), moved.saying(item.bad or moved.label)


def walk_item(walk: Walk, unit: Unit, segment: Segment) -> Pending | None:
    """One condition, item, check, reading, wait or watch; None when it is done."""
    item, asked = segment.item, asked_of(walk, unit, segment)
    if item is None:
        return _condition(walk, asked)
    found = walk.settle(asked, lambda given: _judge(walk, unit, segment, given))
    if found.given is None:
        return found.pending
    step = step_id(segment.base(), None, segment.place, found.attempt, segment.nth)
    walk.step_done(found.given, segment.position)
    if found.given.word == "skip":
        walk.skipped(step, item.text, found.given, proves=item.answer in ("good", "value", "moved"))
    elif found.fail is not None:
        walk.deviate(step, found.fail.code, reason=found.reason, **found.fail.params)
        if segment.place:
            walk.bolts[segment.position, segment.place] = replace(
                walk.bolt(segment.position, segment.place), state="deviating"
            )
    keep_reading(walk, unit, segment, found.given, found.fail is None)
    walk.untimed(asked, step, item.text, found.given)
    _effects(walk, unit, found.given)
    return None


def _condition(walk: Walk, asked: Pending) -> Pending | None:
    """A condition that is not met stops the run, until it is; who works all the same leaves the
    joint unfit."""
    said: dict[str, object] = {"condition": ", ".join(asked.segment.condition)}
    not_so = Fail(
        "not_in_condition", said, (NOW_SO, ACCEPT.saying("Work all the same, with a reason"))
    )
    found = walk.settle(asked, lambda given: not_so if given.word == "not_good" else None)
    if found.given is not None:
        walk.step_done(found.given, asked.segment.position)
        if found.fail is not None:
            walk.deviate(found.step, found.fail.code, reason=found.reason, **said)
    return found.pending


def _effects(walk: Walk, unit: Unit, given: Given) -> None:
    """What a ticked item does: a compound begins to set."""
    effect = unit.kind.effect(unit.stage, given.word)
    if effect is not None and effect.sets is not None:
        at = walk.log.when(given.fact)
        walk.clocks[unit.key] = (
            effect.sets,
            at + (unit.stage.sets_in_s or 0.0),
            tuple(unit.stage.sets_before),
        )


def stage_done(walk: Walk, unit: Unit) -> None:
    """What a finished stage leaves: something is in until it is taken out, everywhere or at its
    position."""
    for what in unit.stage.puts_in:
        walk.fitted[what, unit.position] = what
    for what in unit.stage.takes_out:
        walk.fitted = {
            key: one
            for key, one in walk.fitted.items()
            if key[0] != what or (unit.position is not None and key[1] not in (unit.position, None))
        }
