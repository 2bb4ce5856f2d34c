"""Walking what is not a pass: conditions, things to tick, checks, readings, waits, things to watch."""
from __future__ import annotations

from dataclasses import replace

from ..forms.stage import ItemOut
from ..kinds.asks import AFTER_A_FAILURE, CONDITION, ITEMS, Choice
from ..kinds.pass_kind import Fail, reading_base
from ..thresholds import READING_FAR
from .fold import Given
from .program import Segment, Unit
from .step_id import step_id
from .walk import Pending, Walk

#: so often a failed look sends back; after that it is mended otherwise, or left with a supervisor's word
_MOST_BACK = 3


def _judge(item: ItemOut, place: str, cycle: int, given: Given) -> Fail | None:
    answer = given.answer or {}
    back = item.back if cycle <= _MOST_BACK else None
    choices = (*(("back",) if back else ()), *(item.on_fail or AFTER_A_FAILURE))
    if given.word == "not_good":
        note = f": {answer['note']}" if answer.get("note") else ""
        return Fail("not_good", {"text": item.text + place, "note": note}, choices, back)
    if given.word == "value":
        value = reading_base(answer.get("value"), item.quantity or "length")
        if value is not None and ((item.min is not None and value < item.min) or (item.max is not None and value > item.max)):
            return Fail("out_of_limit", {"text": item.text, "place": place, "value": answer.get("value"),
                                         "limit": item.limit_text}, choices, back)
    return None


def asked_of(walk: Walk, unit: Unit, segment: Segment) -> Pending:
    """What a condition or an item asks."""
    item = segment.item
    if item is None:
        return Pending(unit, segment, CONDITION)
    number = item.places.index(segment.place) + 1 if segment.place else 1
    ready = walk.ready_at(item.wait_s) if item.answer == "wait" else None
    ask = replace(ITEMS[item.answer], wanted=item.quantity)
    return Pending(unit, segment, replace(ask, choices=_said(item)) if item.good or item.bad else ask, None,
                   (segment.place,) if segment.place else (), number=number,
                   order=tuple((p,) for p in item.places), ready_at=ready, usual=usual(item))


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
        # a condition that is not met is asked again: the run stops until it is
        found = walk.settle(asked, lambda given: None)
        if found.given is not None:
            walk.step_done(found.given, segment.position)
        return found.pending
    where = f" at bolt {walk.label(segment.place)}" if segment.place else ""
    found = walk.settle(asked, lambda given: _judge(item, where, unit.cycle, given))
    if found.given is None:
        return found.pending
    step = step_id(segment.base(), None, segment.place, found.attempt)
    walk.step_done(found.given, segment.position)
    if found.given.word == "skip":
        walk.skipped(step, item.text, found.given)
    elif found.fail is not None:
        walk.deviate(step, found.fail.code, reason=found.reason, **found.fail.params)
        if segment.place:
            walk.bolts[segment.position, segment.place] = replace(walk.bolt(segment.position, segment.place), state="deviating")
    elif found.given.word == "moved" and unit.kind.again(unit.stage, "moved") is None:
        walk.deviate(step, "moved", text=item.text, seen=(item.bad or "it moved").lower())
    walk.untimed(asked, step, item.text, found.given)
    _effects(walk, unit, found.given)
    return None


def _effects(walk: Walk, unit: Unit, given: Given) -> None:
    """What a ticked item does: a compound begins to set."""
    effect = unit.kind.effect(unit.stage, given.word)
    if effect is not None and effect.sets is not None:
        at = walk.log.when(given.fact)
        walk.clocks[unit.key] = (effect.sets, at + (unit.stage.sets_in_s or 0.0), tuple(unit.stage.sets_before))


def stage_done(walk: Walk, unit: Unit) -> None:
    """What a finished stage leaves: something is in until it is taken out, everywhere or at its position."""
    for what in unit.stage.puts_in:
        walk.fitted[what, unit.position] = what
    for what in unit.stage.takes_out:
        walk.fitted = {key: one for key, one in walk.fitted.items()
                       if key[0] != what or (unit.position is not None and key[1] not in (unit.position, None))}
