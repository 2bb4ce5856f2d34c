"""Readings from the memory of a tool: columns named by a person, each row read on its own, what is
wrong said with its row."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from ...errors import OrthotorqError
from ...messages import Refusal, render
from ...thresholds import MOST_TURNS
from ...units import find_unit, parse, read_number

#: what a column may hold -> the words by which it is known in a head, without units and signs
KNOWN: dict[str, tuple[str, ...]] = {
    "run": ("run", "job", "order"),
    "position": ("position", "side"),
    "group": ("group",),
    "bolt": ("bolt", "stud", "nut", "place", "screw"),
    "torque": ("torque", "moment", "peak"),
    "angle": ("angle", "turn"),
    "time": ("time", "date", "at", "when"),
    "serial": ("serial", "wrench", "tool"),
}
COLUMNS = tuple(KNOWN)
#: units of the figures, by column, where a cell has none
UNITS = {"torque": ("N·m", "ft·lbf", "in·lbf", "kgf·m"), "angle": ("deg", "rad", "turn")}
#: the most a torque may be [N·m]
_MOST_TORQUE = 200_000.0


@dataclass(frozen=True, slots=True)
class Columns:
    """Which column holds what (numbers from 0), the units of figures without one, and the run where
    no column names it."""

    columns: Mapping[str, int]
    units: Mapping[str, str]
    run: int | None = None


@dataclass(frozen=True, slots=True)
class RowRead:
    """A row as read: run, position and group in words, bolt, torque [N·m], angle [deg], time and
    serial as they stand."""

    run: int
    position: str
    group: str
    bolt: str
    torque_Nm: float | None
    angle_deg: float | None
    time: str
    serial: str


def guess(head: Sequence[str]) -> tuple[dict[str, int], dict[str, str]]:
    """(columns, units) by the words of a head row; a person looks at it before anything is read.

    >>> guess(["Bolt no.", "Peak torque [ft-lb]", "When"])
    ({'bolt': 0, 'torque': 1, 'time': 2}, {'torque': 'ft·lbf'})
    """
    columns: dict[str, int] = {}
    units: dict[str, str] = {}
    for number, title in enumerate(head):
        words = "".join(c if c.isalpha() else " " for c in title.lower()).split()
        what = next((k for k in COLUMNS if k not in columns and set(words) & set(KNOWN[k])), None)
        if what is None:
            continue
        columns[what] = number
        if what in UNITS and "[" in title:
            found = find_unit(title.partition("[")[2].partition("]")[0])
            if found is not None and found[0] == what:
                units[what] = found[1]
    return columns, units


def problem_of(mapping: Columns) -> str | None:
    """Why a mapping cannot be used, or None."""
    if unknown := set(mapping.columns) - set(COLUMNS):
        return render(Refusal.READINGS_COLUMN, what=sorted(unknown)[0])
    if "bolt" not in mapping.columns or not {"torque", "angle"} & set(mapping.columns):
        return render(Refusal.READINGS_NEED)
    if "run" not in mapping.columns and mapping.run is None:
        return render(Refusal.READINGS_RUN)
    for what in ("torque", "angle"):
        if what in mapping.columns and mapping.units.get(what) not in UNITS[what]:
            return render(Refusal.READINGS_UNIT, what=what, units=", ".join(UNITS[what]))
    return None


def read_row(cells: Sequence[str], mapping: Columns) -> RowRead | str:
    """A row as read, or the sentence that says what is wrong with it."""
    said = {what: cells[at] if at < len(cells) else "" for what, at in mapping.columns.items()}
    run: int | None = mapping.run
    if run is None:
        if not said["run"].isdecimal() or len(said["run"]) > 9:
            return render(Refusal.READINGS_NO_RUN, cell=said["run"])
        run = int(said["run"])
    if not said["bolt"]:
        return render(Refusal.READINGS_NO_BOLT)
    figures: dict[str, float | None] = {}
    for what in ("torque", "angle"):
        figure = _figure(what, said.get(what, ""), mapping.units.get(what, ""))
        if isinstance(figure, str):
            return figure
        figures[what] = figure
    if figures["torque"] is None and figures["angle"] is None:
        return render(Refusal.READINGS_EMPTY)
    return RowRead(
        run,
        said.get("position", ""),
        said.get("group", ""),
        said["bolt"],
        figures["torque"],
        figures["angle"],
        said.get("time", ""),
        said.get("serial", "")[:60],
    )


@lru_cache(maxsize=32)
def _factor(what: str, unit: str) -> float:
    """How many base units one of a unit is: a file has a hundred thousand figures in one unit."""
    return parse(f"1 {unit}", what).base


def _figure(what: str, cell: str, unit: str) -> float | str | None:
    """A figure in N·m or degrees; None for an empty cell, a sentence for what cannot be."""
    if not cell:
        return None
    try:
        base = float(cell) * _factor(what, unit)
    except ValueError:
        try:
            own = read_number(cell)[2]
            known = find_unit(own) if own else None
            if own and (known is None or known[1] != unit):
                # one column, one unit: which one is wrong is for a person to say
                return render(Refusal.READINGS_MIXED, cell=cell, unit=unit)
            base = parse(cell if own else f"{cell} {unit}", what).base
        except OrthotorqError as error:
            return str(error)
    found = base / 1e3 if what == "torque" else base * 57.29577951308232
    most = _MOST_TORQUE if what == "torque" else MOST_TURNS.value * 360
    if not 0 <= found <= most:
        return render(Refusal.READINGS_CANNOT_BE, cell=cell)
    return found
