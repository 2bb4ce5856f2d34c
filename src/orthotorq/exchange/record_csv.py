"""The record of a run as a table: one row for every bolt in every pass and round. UTF-8 with commas
(RFC 4180)."""

from __future__ import annotations

import csv
import io
from collections.abc import Mapping

from ..core.forms.record import Cell, Column, Record
from ..core.units import parse

HEAD = (
    "position",
    "group",
    "bolt",
    "pass",
    "setting",
    "answer",
    "torque_Nm",
    "angle_deg",
    "reading",
    "person",
    "at",
    "attempts",
    "pulls",
    "moved_in_check",
    "whole_round",
    "faster_than_a_hand",
    "corrected",
    "measured",
)
#: what a table program would take for a formula
_FORMULA = ("=", "+", "-", "@", "\t", "\r", "\uff1d", "\uff0b", "\uff0d", "\uff20")


def safe(text: str) -> str:
    """Words that no table program takes for a formula.

    >>> safe("=1+1"), safe("  =1+1"), safe("Clicked, it turned")
    ("'=1+1", "'  =1+1", 'Clicked, it turned')
    """
    # some programs pass over blanks of every kind before they look for a formula
    return f"'{text}" if text.startswith(_FORMULA) or text.lstrip().startswith(_FORMULA) else text


def _figure(text: str | None, quantity: str, per: float) -> str:
    """A reading as a number in the unit of its column; empty where there is none."""
    return "" if text is None else f"{parse(text, quantity).base / per:.6g}"


def _row(column: Column, cell: Cell) -> list[str]:
    yes = {True: "yes", False: ""}
    return [
        column.title,
        column.setting or "",
        cell.text,
        _figure(cell.torque, "torque", 1e3),
        _figure(cell.angle, "angle", 0.017453292519943295),
        cell.value or "",
        cell.person,
        cell.at,
        str(cell.attempt),
        str(cell.pulls),
        yes[cell.moved],
        yes[cell.whole],
        yes[cell.fast],
        yes[cell.corrected],
        cell.measured,
    ]


def record_csv(record: Record, positions: Mapping[str, str]) -> str:
    """The table of a record; `positions` are the names of positions by id."""
    out = io.StringIO(newline="")
    writer = csv.writer(out)
    writer.writerow(HEAD)
    for table in record.tables:
        place = positions.get(table.position or "", "")
        for row in table.rows:
            for column, cell in zip(table.columns, row.cells, strict=True):
                if cell is not None:
                    writer.writerow(
                        [safe(x) for x in (place, table.name, row.label, *_row(column, cell))]
                    )
    return out.getvalue()
