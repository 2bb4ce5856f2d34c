"""Whether an answer fits the step it is given to: the same for an answer and for what a correction
puts in its place."""

from __future__ import annotations

import math
from typing import Any

from ...errors import OrthotorqError
from ...kinds.recorded_fields import TYPED, WITH, WORDS
from ...messages import Refusal
from ...thresholds import MOST_TURNS, READING_OVER
from ...units import parse
from ..walk.pending import Pending

MAX_TEXT = 1000
#: characters of a batch number, or of initials
MOST_RECORDED = 60
#: code and parameters of what is wrong with an answer
Problem = tuple[Refusal, dict[str, object]]
_TURN = 2 * math.pi
#: the most a reading of a kind can be, in base units, and what to write
_MOST = {
    "length": (10_000.0, "0.4 mm"),
    "angle": (MOST_TURNS.value * _TURN, "30 deg"),
    "torque": (1e9, "120 N·m"),
    "force": (1e8, "12 kN"),
    "stress": (1e4, "3 bar"),
    "time": (3.2e7, "10 min"),
    "temperature": (900.0, "48 °C"),
}
#: no torque [N·mm] and no angle [rad] that anybody could read is above this
_FANCY = 1e10


def form_problem(payload: dict[str, Any]) -> Problem | None:
    """What is wrong with the form of an answer, whatever step it is to: a record can show only what
    has it."""
    if unknown := set(payload) - {
        "answer",
        "value",
        "note",
        "reading",
        "reason",
        "sure",
        "whole",
        "pull",
        *TYPED,
    }:
        return Refusal.NO_SUCH_FIELD, {"field": sorted(unknown)[0]}
    for field in ("note", "reason"):
        if not isinstance(payload.get(field, ""), str) or len(payload.get(field, "")) > MAX_TEXT:
            return Refusal.TEXT_TOO_LONG, {"field": field, "most": MAX_TEXT}
    if not isinstance(payload.get("pull", ""), str):
        return Refusal.NO_SUCH_FIELD, {"field": "pull"}
    for field in ("sure", "whole"):
        if not isinstance(payload.get(field, False), bool):
            return Refusal.NO_SUCH_FIELD, {"field": field}
    for name in TYPED:
        given = payload.get(name)
        if given is not None and (not isinstance(given, str) or len(given) > MOST_RECORDED):
            return Refusal.TEXT_TOO_LONG, {"field": name, "most": MOST_RECORDED}
    value, reading = payload.get("value"), payload.get("reading")
    if value is not None and (not isinstance(value, str) or len(value) > MOST_RECORDED):
        return Refusal.READING_UNIT, {"example": "0.4 mm"}
    if reading is None:
        return None
    if not isinstance(reading, dict) or set(reading) - {"torque", "angle"}:
        return Refusal.READING_FORM, {}
    return next(
        (wrong for name, one in reading.items() if (wrong := _read(name, one)) is not None), None
    )


def _read(name: str, value: object) -> Problem | None:
    """Whether a reading can be read, and is no figure of fancy; against its step it is held
    elsewhere."""
    if not isinstance(value, str):
        return Refusal.READING_TEXT, {"name": name}
    return _held(value, name, (-_FANCY, _FANCY))


def answer_problem(pending: Pending, payload: dict[str, Any], now: float) -> Problem | None:
    """What is wrong with an answer to a step at a time, or None; its form was looked at before
    (`form_problem`)."""
    answer, takes = payload.get("answer"), pending.takes()
    if answer not in takes:
        return Refusal.NO_SUCH_ANSWER, {"answer": str(answer)[:40], "answers": ", ".join(takes)}
    wants = next((c.reason for c in pending.ask.choices if c.word == answer), answer == "skip")
    if wants and not str(payload.get("reason", "")).strip():
        return Refusal.SAY_WHY, {}
    if (missing := _missing(pending, payload, answer)) is not None:
        return missing
    if (
        pending.ask.timed
        and answer == "done"
        and pending.ready_at is not None
        and now < pending.ready_at
    ):
        return Refusal.STILL_WAITING, {"minutes": math.ceil((pending.ready_at - now) / 60)}
    if answer == "value" or (answer == "cap" and "value" in payload):
        item = pending.segment.item
        below = pending.ask.wanted == "temperature" or (
            item is not None
            and (
                item.change_from is not None
                or any(x is not None and x < 0 for x in (item.min, item.max))
            )
        )
        wrong = _value(payload.get("value"), pending.ask.wanted or "length", below)
        return wrong or (
            None if payload.get("sure") else _unlikely(pending, str(payload.get("value")))
        )
    return _reading(pending, payload.get("reading"))


def _missing(pending: Pending, payload: dict[str, Any], answer: object) -> Problem | None:
    """What the plan asks to be recorded with an answer and was not given."""
    item = pending.segment.item
    asked = item.asks if item is not None and pending.decision is None and answer in WITH else []
    for name in TYPED:
        if name in asked and not str(payload.get(name) or "").strip():
            return Refusal.TO_BE_RECORDED, {"what": WORDS[name]}
    return None


def _value(value: object, quantity: str, below: bool) -> Problem | None:
    most, example = _MOST[quantity]
    if not isinstance(value, str):
        return Refusal.READING_UNIT, {"example": example}
    return _held(value, quantity, (-most if below else 0.0, most))


def _held(value: str, quantity: str, within: tuple[float, float]) -> Problem | None:
    """Whether a reading is of its quantity and lies within what can be, in base units."""
    try:
        base = parse(value, quantity).base
    except OrthotorqError as error:
        return Refusal.READING_UNREAD, {"reason": str(error)}
    return (
        None
        if within[0] <= base <= within[1]
        else (Refusal.READING_CANNOT_BE, {"value": value, "example": _MOST[quantity][1]})
    )


def _unlikely(pending: Pending, value: str) -> Problem | None:
    """A reading that can be and hardly is: asked back before it is kept, as for a slipped decimal
    point."""
    if pending.usual is None:
        return None
    low, high, words = pending.usual
    base = parse(value, pending.ask.wanted or "length").base
    return (
        None
        if low <= base <= high
        else (Refusal.READING_UNLIKELY, {"value": value, "usual": words})
    )


def _reading(pending: Pending, reading: dict[str, str] | None) -> Problem | None:
    """A torque and an angle read by the wrench, whose form was looked at before."""
    one = pending.segment.one
    if reading is None:
        return None
    if one is None:
        return Refusal.READING_FORM, {}
    for name, value in reading.items():
        base = parse(value, name).base
        wanted = (one.torque_Nm or 0.0) * 1e3
        if name == "torque" and (base < 0 or (wanted and base > READING_OVER.value * wanted)):
            return Refusal.TORQUE_CANNOT_BE, {"value": value, "torque": f"{wanted / 1e3:g}"}
        if name == "angle" and not 0 <= base <= MOST_TURNS.value * _TURN:
            return Refusal.ANGLE_CANNOT_BE, {"value": value, "most": f"{MOST_TURNS.value:g}"}
    return None
