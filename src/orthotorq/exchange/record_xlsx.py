"""The record of a run as a workbook: what it is, bolts by pass, how it went, deviations and
signatures."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Mapping

from openpyxl import Workbook
from openpyxl.styles import Font

from ..core.forms.record import Record
from .record_csv import record_csv, safe

#: columns of figures in the table of bolts: numbers there, words everywhere else
_FIGURES = ("torque_Nm", "angle_deg", "attempts", "pulls")


def record_xlsx(head: Mapping[str, str], record: Record, positions: Mapping[str, str]) -> bytes:
    """The workbook of a record; `head` says what it is of, `positions` are the names of positions
    by id."""
    book = Workbook(write_only=True)
    _sheet(book, "Record", [["what", "is"], *([k, v] for k, v in head.items())])
    table = list(csv.reader(io.StringIO(record_csv(record, positions))))
    _sheet(book, "Bolts", [table[0], *(_numbers(table[0], row) for row in table[1:])])
    _sheet(
        book,
        "Course of the run",
        [
            ["at", "until", "stage", "position", "what", "bolts", "text", "marks", "person"],
            *(
                [
                    x.at,
                    x.until or "",
                    x.stage,
                    positions.get(x.position or "", ""),
                    x.what,
                    ", ".join(x.bolts),
                    x.text,
                    "; ".join(x.marks),
                    x.person,
                ]
                for x in record.story
            ),
        ],
    )
    _sheet(
        book,
        "Deviations",
        [
            ["deviation", "accepted by", "reason"],
            *([d.text, d.accepted_by or "", d.reason or ""] for d in record.deviations),
        ],
    )
    _sheet(
        book,
        "Signatures",
        [
            ["role", "person", "at", "head hash"],
            *([s.role, s.person, s.at, s.head_hash] for s in record.sign_offs),
        ],
    )
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _numbers(head: list[str], row: list[str]) -> list[str | float]:
    return [
        float(cell) if name in _FIGURES and cell else cell
        for name, cell in zip(head, row, strict=True)
    ]


def _sheet(book: Workbook, title: str, rows: Iterable[list[str] | list[str | float]]) -> None:
    sheet = book.create_sheet(title)
    sheet.freeze_panes = "A2"
    for number, row in enumerate(rows):
        # words that a table program would take for a formula are kept as words
        cells = [safe(c) if isinstance(c, str) else c for c in row]
        if number == 0:
            sheet.append([_bold(sheet, str(c)) for c in cells])
        else:
            sheet.append(cells)


def _bold(sheet: object, text: str) -> object:
    from openpyxl.cell import WriteOnlyCell

    cell = WriteOnlyCell(sheet, value=text)
    cell.font = Font(bold=True)
    return cell
