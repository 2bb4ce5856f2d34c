"""What a line of a manual says, as a sum."""
from __future__ import annotations

import math
from typing import Any

from ..errors import BadQuantity
from ..messages import Message
from ..reading import read_line
from .fields import Answer


def line_sum(v: dict[str, Any]) -> Answer:
    """Figures, shares, order and rechecks of a line."""
    if not v["text"].strip():
        raise BadQuantity(Message.BAD_VALUE, ("text",), reason="Write the line as it stands in the manual")
    line = read_line(v["text"])

    def torque(value: float | None) -> float | None:
        return None if value is None else value / 1e3

    rechecks = [{"at": value, "unit": unit, "every": None} for one in line.rechecks for point in one.at
                for value, unit in point.ways]
    rechecks += [{"at": None, "unit": unit, "every": value} for one in line.rechecks if one.every is not None
                 for value, unit in one.every.ways]
    notes = [f"{note[0].upper()}{note[1:]}." for one in line.rechecks for note in one.notes]
    if line.equal_steps:
        notes.append("The steps are taken as equal: their shares are not said.")
    if line.left:
        notes.append(f"Not understood: {' '.join(line.left)}.")
    return Answer({"figures": [{
        "torque_Nm": torque(f.torque), "low_Nm": torque(f.low), "high_Nm": torque(f.high), "pair_agrees": f.pair_agrees,
        "angle_deg": None if f.angle is None else round(math.degrees(f.angle), 9)} for f in line.figures],
        "percents": list(line.percents), "order": line.order, "check_round": line.check_round, "recheck": rechecks,
        "lubricant": line.lubricant, "left": list(line.left)}, (), tuple(notes))
