"""Records out and in, readings from tools in: what comes back is what went out, and what is wrong leaves nothing."""
from __future__ import annotations

import csv
import io
import json
from typing import Any

import pytest
from openpyxl import Workbook, load_workbook
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from orthotorq.core.forms.record_file import RecordFile
from orthotorq.services.errors import BadField
from orthotorq.services.running.foreign import foreign_record, list_foreign_records, read_record_file, record_file
from orthotorq.services.running.queries import read_record, record_book, record_table
from orthotorq.services.running.verify import verify_run
from orthotorq.store.models import ForeignRecord, Run
from tests.services.test_standing import Yard

TITLE = "Fit the conveyor drum journal nut"


@pytest.fixture
def yard(session: Session) -> Yard:
    return Yard(session)


@pytest.fixture
def run(yard: Yard) -> Any:
    made = yard.run(TITLE)
    yard.send(made, "note", "-", {"text": "=HYPERLINK(\"x\") on the guard"})
    return made


def sent(yard: Yard, run: Any) -> dict[str, Any]:
    made: dict[str, Any] = json.loads(record_file(yard.ctx("mira"), run).model_dump_json())
    return made


def test_a_record_read_in_again_is_the_same_and_marked_as_imported(yard: Yard, run: Any) -> None:
    file = sent(yard, run)
    kept = read_record_file(yard.ctx("mira"), json.dumps(file).encode())
    found = foreign_record(yard.ctx("tam"), kept)
    assert json.loads(found.file.model_dump_json()) == file and found.person == yard.person("mira").name
    assert found.file.record == read_record(yard.ctx("mira"), run).record
    # once, however often it is read; and never among the runs
    count = yard.session.scalar(select(func.count()).select_from(Run))
    assert read_record_file(yard.ctx("mira"), json.dumps(file, indent=3).encode()) == kept
    assert [x.id for x in list_foreign_records(yard.ctx("tam"))] == [kept]
    assert yard.session.scalar(select(func.count()).select_from(Run)) == count
    assert verify_run(yard.session, yard.session.get_one(Run, run)) is None


def _payload(file: dict[str, Any]) -> None:
    file["events"][3]["payload"] = {"answer": "done", "note": "another"}


def _text(file: dict[str, Any]) -> None:
    file["events"][3]["text"] = file["events"][3]["text"].replace("done", "good", 1) + " "


def _left_out(file: dict[str, Any]) -> None:
    del file["events"][3]


def _cut(file: dict[str, Any]) -> None:
    del file["events"][5:]


def _verdict(file: dict[str, Any]) -> None:
    file["events"][3]["accepted"] = False


def _nothing(file: dict[str, Any]) -> None:
    file["events"] = []


@pytest.mark.parametrize("change", [_payload, _text, _left_out, _cut, _verdict, _nothing])
def test_a_record_that_was_changed_is_refused_with_the_event(yard: Yard, run: Any, change: Any) -> None:
    file = sent(yard, run)
    change(file)
    with pytest.raises(BadField, match="does not hold at event"):
        read_record_file(yard.ctx("mira"), json.dumps(file).encode())
    assert yard.session.scalar(select(func.count()).select_from(ForeignRecord)) == 0


@pytest.mark.parametrize("data", [b"", b"{", b"[]", b"null", b"\xff\xfe", b'{"format": "orthotorq.plan"}', b"1e999",
                                  b'{"format":"orthotorq.record","version":2}', b"[" * 5000, b" " * 20_000_001])
def test_what_is_no_record_is_refused(yard: Yard, data: bytes) -> None:
    with pytest.raises(BadField, match="no record of ours"):
        read_record_file(yard.ctx("mira"), data)


def test_the_schema_takes_what_is_sent(yard: Yard, run: Any) -> None:
    assert RecordFile.model_validate(sent(yard, run)).version == 2
    assert set(RecordFile.model_json_schema()["properties"]) == set(sent(yard, run))


def test_the_workbook_says_what_the_table_says_and_holds_no_formula(yard: Yard, run: Any) -> None:
    name, data = record_book(yard.ctx("mira"), run)
    book = load_workbook(io.BytesIO(data))
    assert name.endswith(".xlsx") and book.sheetnames == ["Record", "Bolts", "How it went", "Deviations", "Signatures"]
    table = list(csv.reader(io.StringIO(record_table(yard.ctx("mira"), run)[1])))
    rows = [["" if c is None else f"{c:g}" if isinstance(c, float | int) else c for c in row]
            for row in book["Bolts"].iter_rows(values_only=True)]
    assert rows[0] == table[0] and len(rows) == len(table) > 2
    assert [row[2] for row in rows] == [row[2] for row in table] and [row[9] for row in rows] == [row[9] for row in table]
    cells = [c for sheet in book for row in sheet.iter_rows() for c in row]
    assert all(c.data_type != "f" for c in cells)
    assert any("on the guard" in str(c.value) for c in cells)


def test_a_workbook_keeps_words_that_look_like_formulas_as_words() -> None:
    from orthotorq.exchange.record_xlsx import _sheet
    book = Workbook(write_only=True)
    _sheet(book, "x", [["a"], ["=1+1"], ["@x"]])
    out = io.BytesIO()
    book.save(out)
    assert [row[0] for row in load_workbook(out)["x"].iter_rows(values_only=True)] == ["a", "'=1+1", "'@x"]
