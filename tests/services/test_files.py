"""Records out and in, readings from tools in: what comes back is what went out, and what is wrong
leaves nothing."""

from __future__ import annotations

import csv
import io
import json
from typing import Any

import pytest
from openpyxl import Workbook, load_workbook
from sqlalchemy import func, select, text
from sqlalchemy.orm import Session

from orthotorq.core.forms.record_file import RecordFile
from orthotorq.exchange.record_csv import safe
from orthotorq.services.errors import BadField, Refused
from orthotorq.services.running.chain import GENESIS, chain_hash
from orthotorq.services.running.imported_records import (
    foreign_record,
    list_foreign_records,
    read_record_file,
    record_file,
)
from orthotorq.services.running.queries import read_record
from orthotorq.services.running.record_files import record_book, record_table
from orthotorq.services.running.verify import verify_run
from orthotorq.store.models import ForeignRecord, Run
from tests.services.test_run_end import Yard

TITLE = "Fit the conveyor drum journal nut"


@pytest.fixture
def yard(session: Session) -> Yard:
    return Yard(session)


@pytest.fixture
def run(yard: Yard) -> Any:
    made = yard.run(TITLE)
    yard.send(made, "note", "-", {"text": '=HYPERLINK("x") on the guard'})
    return made


def sent(yard: Yard, run: Any) -> dict[str, Any]:
    made: dict[str, Any] = json.loads(record_file(yard.ctx("mira"), run).model_dump_json())
    return made


def test_a_record_read_in_again_is_the_same_and_marked_as_imported(yard: Yard, run: Any) -> None:
    file = sent(yard, run)
    kept = read_record_file(yard.ctx("mira"), json.dumps(file).encode())
    found = foreign_record(yard.ctx("tam"), kept)
    assert (
        json.loads(found.file.model_dump_json()) == file
        and found.person == yard.person("mira").name
    )
    assert found.file.record == read_record(yard.ctx("mira"), run).record
    # the codes of this server hold: it is proved, and said to be
    assert found.not_proved == "" and [
        one.proved for one in list_foreign_records(yard.ctx("tam"))
    ] == [True]
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


def _person(file: dict[str, Any]) -> None:
    file["events"][3]["person"] = "Somebody Else"


def _time(file: dict[str, Any]) -> None:
    file["events"][3]["at"] = "2026-01-01T00:00:00.000000Z"


@pytest.mark.parametrize(
    "change", [_payload, _text, _left_out, _cut, _verdict, _nothing, _person, _time]
)
def test_a_record_that_was_changed_is_refused_with_the_event(
    yard: Yard, run: Any, change: Any
) -> None:
    file = sent(yard, run)
    change(file)
    with pytest.raises(BadField, match="does not hold at event"):
        read_record_file(yard.ctx("mira"), json.dumps(file).encode())
    assert yard.session.scalar(select(func.count()).select_from(ForeignRecord)) == 0


def _cells(file: dict[str, Any]) -> None:
    for table in file["record"]["tables"]:
        for row in table["rows"]:
            row["cells"] = [None for _ in row["cells"]]
    file["record"]["lines"] = []


def _signed(file: dict[str, Any]) -> None:
    file["record"]["sign_offs"] = [
        {
            "role": "supervisor",
            "person": "Runa Tesk",
            "at": "2026-01-01T00:00:00Z",
            "head_hash": "0",
        }
    ]


def _figures(file: dict[str, Any]) -> None:
    result = json.loads(file["proof"]["revision"]["result"])
    result["groups"][0]["target"]["set_torque_Nm"] *= 3
    file["proof"]["revision"]["result"] = json.dumps(result)


def _no_result(file: dict[str, Any]) -> None:
    file["proof"]["revision"]["result"] = "{}"


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (_cells, "record"),
        (_signed, "record"),
        (_figures, "groups"),
        (_no_result, "proof"),
        (lambda file: file.update(equipment="Another machine"), "equipment"),
        (lambda file: file.update(title="Another"), "title"),
        (lambda file: file.update(revision=9), "revision"),
        (lambda file: file.update(joint="Another"), "joint"),
        (lambda file: file["proof"].update(run="00000000-0000-0000-0000-000000000001"), "proof"),
    ],
)
def test_words_that_do_not_follow_from_the_entries_are_refused(
    yard: Yard, run: Any, change: Any, says: str
) -> None:
    file = sent(yard, run)
    change(file)
    with pytest.raises(BadField, match=f"Under “{says}”"):
        read_record_file(yard.ctx("mira"), json.dumps(file).encode())


def _invented(file: dict[str, Any], codes: str = "") -> dict[str, Any]:
    """A chain that hangs together and says what somebody wants it to say: `codes` is what stands
    for codes, or the real ones."""
    previous, name = GENESIS, "Somebody Else"
    for event in file["events"]:
        event["text"] = event["text"].replace(json.dumps(event["person"])[1:-1], name)
        event["person"] = name
        event["hash"] = previous = chain_hash(previous, event["text"])
        event["code"] = codes or event["code"]
    file["head_hash"] = previous
    file["record"]["people"] = [name]
    for table in file["record"]["tables"]:
        for cell in (cell for row in table["rows"] for cell in row["cells"] if cell):
            cell["person"] = name
    for line in [*file["record"]["lines"], *file["record"]["story"]]:
        line["person"] = name
    if codes:
        file["proof"]["code"] = file["proof"]["revision"]["code"] = codes
    return file


def test_a_chain_that_was_invented_is_not_proved_and_shown_so(yard: Yard, run: Any) -> None:
    genuine = sent(yard, run)
    for codes, why in (
        ("elsewhere:00", "keys of another server"),
        ("secret:00", "keys of another server"),
    ):
        kept = read_record_file(
            yard.ctx("mira"), json.dumps(_invented(sent(yard, run), codes)).encode()
        )
        assert why in foreign_record(yard.ctx("tam"), kept).not_proved
    assert [one.proved for one in list_foreign_records(yard.ctx("tam"))] == [False, False]
    # with codes of ours left beside others somebody has changed it, and that is said
    with pytest.raises(BadField, match=r"This record was changed: entry 1 does not hold"):
        read_record_file(yard.ctx("mira"), json.dumps(_invented(sent(yard, run))).encode())
    # the genuine file later is itself, and not what was invented
    own = read_record_file(yard.ctx("mira"), json.dumps(genuine).encode())
    found = foreign_record(yard.ctx("tam"), own)
    assert found.not_proved == "" and json.loads(found.file.model_dump_json()) == genuine


def test_files_of_the_same_chain_with_other_proofs_are_two(yard: Yard, run: Any) -> None:
    file = sent(yard, run)
    first = read_record_file(yard.ctx("mira"), json.dumps(file).encode())
    file["proof"]["revision"]["reason"] += " "
    with pytest.raises(BadField, match="the revision does not hold"):
        read_record_file(yard.ctx("mira"), json.dumps(file).encode())
    bare = {**sent(yard, run), "version": 2, "proof": None}
    second = read_record_file(yard.ctx("mira"), json.dumps(bare).encode())
    assert (
        first != second and "earlier version" in foreign_record(yard.ctx("mira"), second).not_proved
    )


def test_a_record_that_does_not_hold_is_not_sent_out(yard: Yard, run: Any) -> None:
    yard.session.execute(text("UPDATE run SET status = 'signed' WHERE id = :id"), {"id": run})
    yard.session.expire_all()
    with pytest.raises(Refused, match="is not as it was saved"):
        record_file(yard.ctx("mira"), run)


@pytest.mark.parametrize(
    "data",
    [
        b"",
        b"{",
        b"[]",
        b"null",
        b"\xff\xfe",
        b'{"format": "orthotorq.plan"}',
        b"1e999",
        b'{"format":"orthotorq.record","version":2}',
        b"[" * 5000,
        b" " * 20_000_001,
    ],
)
def test_what_is_no_record_is_refused(yard: Yard, data: bytes) -> None:
    with pytest.raises(BadField, match="no record of ours"):
        read_record_file(yard.ctx("mira"), data)


def test_the_schema_takes_what_is_sent(yard: Yard, run: Any) -> None:
    assert RecordFile.model_validate(sent(yard, run)).version == 3
    assert set(RecordFile.model_json_schema()["properties"]) == set(sent(yard, run))


def test_the_workbook_says_what_the_table_says_and_holds_no_formula(yard: Yard, run: Any) -> None:
    name, data = record_book(yard.ctx("mira"), run).run(yard.ctx("mira"))
    book = load_workbook(io.BytesIO(data))
    assert name.endswith(".xlsx") and book.sheetnames == [
        "Record",
        "Bolts",
        "Course of the run",
        "Deviations",
        "Signatures",
    ]
    table = list(csv.reader(io.StringIO(record_table(yard.ctx("mira"), run)[1])))
    rows = [
        ["" if c is None else f"{c:g}" if isinstance(c, float | int) else c for c in row]
        for row in book["Bolts"].iter_rows(values_only=True)
    ]
    assert rows[0] == table[0] and len(rows) == len(table) > 2
    assert [row[2] for row in rows] == [row[2] for row in table] and [row[9] for row in rows] == [
        row[9] for row in table
    ]
    cells = [c for sheet in book for row in sheet.iter_rows() for c in row]
    assert all(c.data_type != "f" for c in cells)
    assert any("on the guard" in str(c.value) for c in cells)


@pytest.mark.parametrize(
    "word", ["=1+1", "  =1+1", "\u00a0=1+1", "\n=1+1", "\t=1", "\uff1d1+1", " +1", " -1", " @x"]
)
def test_no_cell_is_taken_for_a_formula_whatever_stands_before_it(word: str) -> None:
    assert safe(word) == f"'{word}"
    assert safe("a = 1") == "a = 1" and safe("") == ""


def test_a_workbook_keeps_words_that_look_like_formulas_as_words() -> None:
    from orthotorq.exchange.record_xlsx import _sheet

    book = Workbook(write_only=True)
    _sheet(book, "x", [["a"], ["=1+1"], ["@x"]])
    out = io.BytesIO()
    book.save(out)
    assert [row[0] for row in load_workbook(out)["x"].iter_rows(values_only=True)] == [
        "a",
        "'=1+1",
        "'@x",
    ]
