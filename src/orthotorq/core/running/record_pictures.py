"""What the record draws: the bolts after the last round, torque readings, movement in the checks, gaps round by round."""
from __future__ import annotations

from collections.abc import Iterable

from ..errors import OrthotorqError
from ..forms.record import Chart, ChartBar, GroupTable
from ..forms.run import BoltState, Deviation
from ..thresholds import FULL
from ..units import parse
from .step_id import parse as parse_step


def bolts_of(table: GroupTable, deviations: Iterable[Deviation]) -> list[BoltState]:
    """How each bolt of a table stands after its last answer."""
    steps = [parse_step(d.step) for d in deviations]
    bad = {(s.position, s.place) for s in steps if s is not None}
    out = []
    for row in table.rows:
        last = next(((c, col) for c, col in zip(reversed(row.cells), reversed(table.columns), strict=True) if c), None)
        moved = last is not None and last[0].moved
        state = "deviating" if (table.position, row.place) in bad else "moved" if moved else "checked" if last else "untouched"
        out.append(BoltState(place=row.place, state=state, percent=100.0 if last else 0.0))
    return out


def _reading(text: str | None, kind: str) -> float | None:
    try:
        return parse(text, kind).base if text else None
    except OrthotorqError:
        return None


def charts_of(table: GroupTable, wanted: float | None) -> list[Chart]:
    """The charts of a table; `wanted` is the torque at the bolt [N·m]."""
    found = [*_torque(table, wanted), *_moved(table), *_gaps(table)]
    return [chart for chart in found if chart.bars]


def _torque(table: GroupTable, wanted: float | None) -> list[Chart]:
    """Readings of the last full pass that is no check."""
    full = [i for i, c in enumerate(table.columns) if c.percent == FULL.value and not c.check]
    if wanted is None or not full:
        return []
    bars: list[ChartBar] = []
    for row in table.rows:
        cell = row.cells[full[-1]]
        value = _reading(cell.torque, "torque") if cell else None
        if value is not None:
            bars.append(ChartBar(label=row.label, value=value / 1e3))
    return [Chart(kind="torque", title=table.columns[full[-1]].title, wanted=wanted, bars=bars)]


def _moved(table: GroupTable) -> list[Chart]:
    bars = []
    for i, column in enumerate(table.columns):
        cells = [cell for row in table.rows if (cell := row.cells[i]) is not None] if column.check else []
        if cells:
            bars.append(ChartBar(label=column.title, value=sum(c.moved for c in cells), total=len(cells)))
    return [Chart(kind="moved", title="moved in the check, round by round", bars=bars)]


def _gaps(table: GroupTable) -> list[Chart]:
    bars: list[ChartBar] = []
    for i, column in enumerate(table.columns):
        values = [v for row in table.rows if (cell := row.cells[i]) is not None and cell.value is not None
                  and (v := _reading(cell.value, "length")) is not None]
        if values and not column.check:
            bars.append(ChartBar(label=str(len(bars) + 1), value=max(values), low=min(values)))
    return [Chart(kind="gaps", title="gaps, smallest to largest, round by round", bars=bars)]
