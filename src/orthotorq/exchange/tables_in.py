"""Tables of readings from files: CSV with comma, semicolon or tab, and XLSX; row by row, so that a
long file is no burden."""

from __future__ import annotations

import csv
import io
import zipfile
from collections.abc import Iterator
from itertools import islice

from openpyxl import load_workbook
from openpyxl.utils import get_column_letter

from ..core.errors import Impossible, OrthotorqError
from ..core.messages import Message
from .sandboxed_worker import apart

#: rows that are looked at for the delimiter, cells of a row, and characters of a cell
_LOOKED_AT, MOST_COLUMNS, MOST_CELL = 20, 60, 200
#: what an XLSX may unpack to: its reader is given no more
_MOST_UNPACKED = 400_000_000
_NO_TEXT = "A table is text (UTF-8) with commas, semicolons or tabs, or XLSX"


Row = tuple[int, list[str]]


def rows_of(data: bytes) -> Iterator[Row]:
    """The rows of a table that hold anything: (its number as a table program counts, cells as
    text).

    Raises OrthotorqError for what is no table, with row and column where one cell is at fault.
    """
    for number, cells in enumerate(_xlsx(data) if data[:2] == b"PK" else _csv(data), 1):
        row = [c.strip() for c in cells]
        if not any(row):
            continue
        if len(row) > MOST_COLUMNS:
            raise _bad(
                f"Row {number} has {len(row)} cells; a table here has at most {MOST_COLUMNS}"
            )
        for column, cell in enumerate(row, 1):
            if len(cell) > MOST_CELL:
                raise _bad(
                    f"Row {number}, column {get_column_letter(column)} holds {len(cell)} "
                    f"characters; a cell holds at most {MOST_CELL}"
                )
        yield number, row


def read_rows(data: bytes, most: int) -> list[Row]:
    """The first rows of a table, read in a process of its own. Raises OrthotorqError."""
    return apart(_read_rows, data, most)


def _read_rows(data: bytes, most: int) -> list[Row]:
    return list(islice(rows_of(data), most))


def _bad(what: str) -> OrthotorqError:
    return Impossible(Message.TABLE_FILE, ("file",), what=what)


def _csv(data: bytes) -> Iterator[list[str]]:
    if b"\0" in data:
        raise _bad(_NO_TEXT)
    head = data[:20_000].decode("utf-8-sig", "replace").splitlines()[:_LOOKED_AT]
    delimiter = max(
        ",;\t", key=lambda d: min((line.count(d) for line in head if line.strip()), default=0)
    )
    try:
        yield from csv.reader(
            io.TextIOWrapper(io.BytesIO(data), "utf-8-sig", newline=""), delimiter=delimiter
        )
    except UnicodeDecodeError:
        raise _bad(_NO_TEXT) from None
    except csv.Error as error:
        raise _bad(f"The table breaks off: {error}") from None


def _xlsx(data: bytes) -> Iterator[list[str]]:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            if sum(i.file_size for i in archive.infolist()) > _MOST_UNPACKED:
                raise _bad("The workbook unpacks to too much")
        # values as they were computed last: no formula is worked out here
        book = load_workbook(io.BytesIO(data), read_only=True, data_only=True)
    except OrthotorqError:
        raise
    except Exception:  # the reader raises what its parsers raise
        raise _bad("The workbook cannot be read") from None
    try:
        sheet = book.worksheets[0] if book.worksheets else None
        if sheet is None:
            raise _bad("The workbook has no sheet")
        for row in sheet.iter_rows(values_only=True):
            yield [
                "" if v is None else v.isoformat(" ") if hasattr(v, "isoformat") else str(v)
                for v in row
            ]
    except OrthotorqError:
        raise
    except Exception:
        raise _bad("The workbook cannot be read") from None
    finally:
        book.close()
