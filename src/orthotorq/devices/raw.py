"""The file of raw readings: one pull of a torque-and-angle wrench as lines of time, torque and
angle.

`# orthotorq.pull 1` / `seconds,torque_Nm,angle_deg` / one line a sample / `# end`. A file without
its last line was cut off.
"""

from __future__ import annotations

import csv
from collections.abc import Iterable

import numpy as np

from ..core.errors import Impossible, OrthotorqError
from ..core.messages import Message as Text
from ..core.simulation.pull import Trace

HEAD, COLUMNS, END = "# orthotorq.pull 1", "seconds,torque_Nm,angle_deg", "# end"
#: a pull of more samples than this is none; one of fewer shows nothing
MOST, LEAST = 20_000, 10
_MOST_TORQUE, _MOST_ANGLE = 200_000.0, 3600.0


def write_raw(trace: Trace) -> str:
    """A trace as a file."""
    rows = (
        f"{s:.3f},{t:.2f},{a:.2f}"
        for s, t, a in zip(trace.seconds, trace.torque, trace.angle, strict=True)
    )
    return "\n".join([HEAD, COLUMNS, *rows, END, ""])


def read_raw(text: str) -> Trace:
    """The trace of a file. Raises OrthotorqError with the line for what is no pull: nothing of it
    is used."""
    lines = text.splitlines()
    if [line.strip() for line in lines[:2]] != [HEAD, COLUMNS]:
        raise _bad(1, f"It begins with “{HEAD}” and “{COLUMNS}”")
    if lines[-1].strip() != END:
        raise _bad(len(lines), f"It was cut off: its last line is “{END}”")
    rows = lines[2:-1]
    if not LEAST <= len(rows) <= MOST:
        raise _bad(
            len(lines), f"A pull has between {LEAST} and {MOST} samples, this has {len(rows)}"
        )
    values = np.array([_row(number, cells) for number, cells in enumerate(csv.reader(rows), 3)])
    seconds, torque, angle = values.T
    if np.any(np.diff(seconds) <= 0):
        raise _bad(int(np.argmax(np.diff(seconds) <= 0)) + 4, "Its time goes back or stands still")
    return Trace(seconds, torque, angle)


def _row(number: int, cells: Iterable[str]) -> tuple[float, float, float]:
    try:
        seconds, torque, angle = (float(c) for c in cells)
    except ValueError:
        raise _bad(number, "A line has three numbers with a decimal point") from None
    # also false for what is no number
    if not (0 <= seconds < 1e5 and abs(torque) <= _MOST_TORQUE and abs(angle) <= _MOST_ANGLE):
        raise _bad(number, "Time, torque or angle cannot be")
    return seconds, torque, angle


def _bad(line: int, what: str) -> OrthotorqError:
    return Impossible(Text.RAW_FILE, ("file",), line=line, what=what)
