"""A line from a manual, as a sum."""

from __future__ import annotations

import math
from typing import Any

from ..errors import BadQuantity
from ..messages import Message
from ..reading import Figure, read_line
from .fields import Answer


def line_sum(v: dict[str, Any]) -> Answer:
    """Figures, shares, order and rechecks of a line."""
    if not v["text"].strip():
        raise BadQuantity(
            Message.BAD_VALUE, ("text",), reason="Enter the line as printed in the manual"
        )
    line = read_line(v["text"])

    rechecks = [
        {"at": value, "unit": unit, "every": None}
        for one in line.rechecks
        for point in one.at
        for value, unit in point.ways
    ]
    rechecks += [
        {"at": None, "unit": unit, "every": value}
        for one in line.rechecks
        if one.every is not None
        for value, unit in one.every.ways
    ]
    notes = [f"{note[0].upper()}{note[1:]}." for one in line.rechecks for note in one.notes]
    if line.equal_steps:
        notes.append("The steps are taken as equal: their shares are not given.")
    notes += [
        f"“{v['text'][q.start : q.end]}” has two readings: {' or '.join(q.readings)}."
        for q in line.asked
    ]
    if line.left:
        notes.append(f"Not used: {' '.join(line.left)}.")
    turns = [angle for figure in line.figures for angle in figure.angles]
    return Answer(
        {
            "figures": [_figure(one) for one in line.figures],
            "percents": list(line.percents),
            "order": line.order,
            "check_round": line.check_round,
            "recheck": rechecks,
            "lubricant": line.lubricant,
            "sequence": list(line.sequence),
            "back_off_deg": _degrees(line.back_off),
            "wait_min": line.wait,
            "new_fasteners": line.new_fasteners,
            "angles_deg": [_degrees(one) for one in turns],
            "left": list(line.left),
        },
        (),
        tuple(notes),
    )


def _degrees(angle: float | None) -> float | None:
    return None if angle is None else round(math.degrees(angle), 9)


def _figure(one: Figure) -> dict[str, Any]:
    """A figure in N·m and degrees; null where not said."""

    def torque(value: float | None) -> float | None:
        return None if value is None else value / 1e3

    return {
        "torque_Nm": torque(one.torque),
        "low_Nm": torque(one.low),
        "high_Nm": torque(one.high),
        "pair_agrees": one.pair_agrees,
        "angle_deg": _degrees(one.angle),
        "lubricant": one.lubricant,
        "thread": one.thread,
        "percents_of_yield": list(one.yields) or None,
    }
