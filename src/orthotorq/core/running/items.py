"""Walking what is not a pass: conditions, things to tick, checks, readings, waits, things to watch."""
from __future__ import annotations

from ..documents.result import ItemOut
from ..errors import OrthotorqError
from ..units import parse
from .fold import Given
from .program import Segment, Unit, step_id
from .walk import Fail, Pending, Walk

KINDS = {"done": "item", "good": "check", "value": "reading", "wait": "wait", "moved": "watch"}


def reading_base(text: str, quantity: str) -> float | None:
    """A reading in base units, or None when the text is none."""
    try:
        return parse(text, quantity).base
    except OrthotorqError:
        return None


def _judge(item: ItemOut, place: str, given: Given) -> Fail | None:
    answer = given.answer or {}
    choices = tuple(item.on_fail) or ("repair", "replace", "accept")
    if given.word == "not_good":
        note = f": {answer['note']}" if answer.get("note") else ""
        return Fail("not_good", {"text": item.text + place, "note": note}, choices)
    if given.word == "value":
        value = reading_base(str(answer.get("value", "")), item.quantity or "length")
        if value is not None and ((item.min is not None and value < item.min) or (item.max is not None and value > item.max)):
            return Fail("out_of_limit", {"text": item.text, "place": place, "value": answer.get("value"),
                                         "limit": item.limit_text}, choices)
    return None


def walk_item(walk: Walk, unit: Unit, segment: Segment) -> Pending | None:
    """One condition, item, check, reading, wait or watch; None when it is done."""
    item, base = segment.item, segment.base()
    if item is None:
        # a condition that is not met is asked again: the run stops until it is
        found = walk.settle(base, None, None, None, lambda given: None, ("not_sure", "not_good"))
        if found.given is None:
            return Pending(unit, segment, "condition", None, [], found.attempt)
        walk.step_done(found.given, segment.position)
        return None
    where = f" at bolt {walk.label(segment.place)}" if segment.place else ""
    found = walk.settle(base, None, segment.place, None, lambda given: _judge(item, where, given))
    move = [segment.place] if segment.place else []
    step = step_id(base, None, segment.place, found.attempt)
    if found.given is None:
        ready = None
        if item.answer == "wait":
            ready = walk.last_at + (item.wait_s or 0.0)
        number = item.places.index(segment.place) + 1 if segment.place else 1
        return Pending(unit, segment, "decision" if found.decision else KINDS[item.answer], None, move, found.attempt, number,
                       order=[[place] for place in item.places], fail=found.fail, decision=found.decision, ready_at=ready)
    walk.step_done(found.given, segment.position)
    if found.given.word == "skip":
        walk.deviate(step, "skipped", text=item.text, reason=(found.given.answer or {}).get("reason", ""))
    elif found.fail is not None:
        walk.deviate(step, found.fail.code, reason=found.reason, **found.fail.params)
        if segment.place:
            walk.bolt(segment.position, segment.place).state = "deviating"
    elif found.given.word == "moved" and unit.stage.redo is None:
        walk.deviate(step, "moved", text=item.text)
    _effects(walk, unit, found.given)
    return None


def _effects(walk: Walk, unit: Unit, given: Given) -> None:
    """What a ticked stage does: something is in, something is out, a compound begins to set."""
    stage = unit.stage
    if stage.kind == "fit" and stage.temporary and given.word == "done":
        walk.fitted[unit.key] = stage.items[0].text.removeprefix("Fit: ")
    elif stage.kind == "remove" and stage.fit is not None:
        for key in [k for k in walk.fitted if k[0] == stage.fit and (k[1] == unit.position or None in (k[1], unit.position))]:
            del walk.fitted[key]
    elif stage.kind == "apply" and stage.sets_in_s is not None:
        walk.clocks[unit.key] = (stage.items[0].text, given.fact.happened + stage.sets_in_s, tuple(stage.sets_before))
