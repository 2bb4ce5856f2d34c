"""What the record draws: the bolts after the last round, torque readings, movement in the checks,
gaps round by round."""

from __future__ import annotations

from collections.abc import Iterable

from ...errors import OrthotorqError
from ...forms.record import BoltNote, Chart, ChartBar, GroupTable
from ...forms.run import BoltState, Deviation
from ...thresholds import FULL
from ...units import parse
from ..log.step_id import parse as parse_step


def bolts_of(table: GroupTable, deviations: Iterable[Deviation]) -> list[BoltState]:
    """How each bolt of a table stands after its last answer."""
    steps = [parse_step(d.step) for d in deviations]
    bad = {(s.position, s.place) for s in steps if s is not None}
    out = []
    for row in table.rows:
        last = next(
            (
                (c, col)
                for c, col in zip(reversed(row.cells), reversed(table.columns), strict=True)
                if c
            ),
            None,
        )
        moved = last is not None and last[0].moved
        state = (
            "deviating"
            if (table.position, row.place) in bad
            else "moved"
            if moved
            else "checked"
            if last
            else "untouched"
        )
        out.append(BoltState(place=row.place, state=state, percent=100.0 if last else 0.0))
    return out


#: deviations in a word or two
_BRIEF = {
    "replaced": "replaced",
    "heated": "heated",
    "skipped": "skipped",
    "moved_at_recheck": "had moved",
    "cut_off": "cut off",
    "drilled_out": "drilled out",
    "turn_finished": "turn finished",
    "refuses": "refused",
    "turns_on": "kept turning",
    "past_click": "past the click",
    "past_pressure": "pumped too far",
    "past_mark": "past the mark",
    "stuck": "does not come loose",
    "no_reach": "not reached",
    "dropped": "part lost",
    "turn_unsure": "turn not known",
    "other_bolt": "another bolt pulled",
    "wrong_setting_mended": "wrong setting",
    "set_too_late": "compound had set",
    "stopped_early": "stopped early",
    "out_of_limit": "outside its limit",
    "out_of_window": "outside its window",
    "not_good": "not good",
}


def notes_of(table: GroupTable, deviations: Iterable[Deviation]) -> list[BoltNote]:
    """What deviated at the bolts of a table, in the order in which it happened: once for each bolt
    and pass."""
    labels = {row.place: row.label for row in table.rows}
    titles = {tuple(column.id.split("/")[2:4]): column.title for column in table.columns}
    out: dict[tuple[str, str], BoltNote] = {}
    for deviation in deviations:
        step = parse_step(deviation.step)
        if step is None or step.place not in labels or step.position != table.position:
            continue
        out.setdefault(
            (step.place, step.part),
            BoltNote(
                place=step.place,
                label=labels[step.place],
                where=titles.get((step.part, f"r{step.round}"), ""),
                text=_BRIEF.get(deviation.code, "deviation"),
            ),
        )
    return list(out.values())


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
        cells = (
            [cell for row in table.rows if (cell := row.cells[i]) is not None]
            if column.check
            else []
        )
        if cells:
            bars.append(
                ChartBar(label=column.title, value=sum(c.moved for c in cells), total=len(cells))
            )
    return [Chart(kind="moved", title="moved in the check, round by round", bars=bars)]


def _gaps(table: GroupTable) -> list[Chart]:
    bars: list[ChartBar] = []
    for i, column in enumerate(table.columns):
        values = [
            v
            for row in table.rows
            if (cell := row.cells[i]) is not None
            and cell.value is not None
            and (v := _reading(cell.value, "length")) is not None
        ]
        if values and not column.check:
            bars.append(ChartBar(label=str(len(bars) + 1), value=max(values), low=min(values)))
    return [Chart(kind="gaps", title="gaps, smallest to largest, round by round", bars=bars)]
