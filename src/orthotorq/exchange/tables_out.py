"""Tables to files: CSV and XLSX; words that a table program would take for a formula stay words."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable

from openpyxl import Workbook
from openpyxl.styles import Font

from .record_csv import safe


def table_csv(rows: Iterable[list[str]]) -> bytes:
    """Rows as CSV in UTF-8, the headings first."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    for row in rows:
        writer.writerow([safe(cell) for cell in row])
    return out.getvalue().encode()


def table_xlsx(rows: Iterable[list[str]]) -> bytes:
    """Rows as a workbook of one sheet; cells are words, as they would be read in again."""
    book = Workbook()
    sheet = book.active
    assert sheet is not None
    sheet.freeze_panes = "A2"
    for row in rows:
        sheet.append([safe(cell) for cell in row])
    for cell in sheet[1]:
        cell.font = Font(bold=True)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()
