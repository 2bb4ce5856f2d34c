"""Readings from the memory of tools: columns are named by a person, rows that are wrong are listed,
a stopped job leaves none."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Iterator
from datetime import UTC, datetime
from typing import Any

import pytest
from openpyxl import Workbook
from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session, sessionmaker

from orthotorq.core.running.present.tool_readings import Columns, RowRead, problem_of, read_row
from orthotorq.services.accounts.commands import actor_of
from orthotorq.services.context import Ctx
from orthotorq.services.errors import BadField
from orthotorq.services.planning import exchange
from orthotorq.services.running import readings
from orthotorq.services.running.readings import (
    list_readings,
    look_at_readings,
    run_readings,
    start_readings,
)
from orthotorq.store.models import Job, Person, Run, ToolReading
from tests.conftest import Database

COLUMNS = Columns(
    {"run": 0, "bolt": 1, "torque": 2, "angle": 3, "time": 4, "serial": 5},
    {"torque": "N·m", "angle": "deg"},
)


@pytest.fixture
def sessions(database: Database) -> Iterator[sessionmaker[Session]]:
    made = database.sessions()
    yield made
    made.kw["bind"].dispose()


def make(session: Session) -> Ctx:
    person = session.scalars(select(Person).where(Person.login == "mira")).one()
    return Ctx(session, datetime.now(UTC), actor_of(person))


def table(
    *rows: tuple[object, ...], head: str = "run,bolt,torque [N·m],angle [deg],time,serial"
) -> bytes:
    out = io.StringIO(newline="")
    out.write(head + "\n")
    csv.writer(out).writerows(rows)
    return out.getvalue().encode()


def read(
    sessions: sessionmaker[Session], data: bytes, columns: Columns = COLUMNS
) -> tuple[str, dict[str, Any]]:
    """(how the job ended, its answer)."""
    with sessions.begin() as session:
        job = start_readings(
            make(session), data, dict(columns.columns), dict(columns.units), columns.run
        ).run(make(session))
    run_readings(sessions, job, make)
    with sessions() as session:
        found = session.get_one(Job, job)
        assert found.payload is None or found.status == "cancelled"
        return found.status, json.loads(found.answer)


def kept(sessions: sessionmaker[Session]) -> int:
    with sessions() as session:
        return session.scalar(select(func.count()).select_from(ToolReading)) or 0


def wheel(sessions: sessionmaker[Session]) -> tuple[int, Any]:
    """(number, id) of a run without positions whose bolts are numbered."""
    with sessions() as session:
        for run in session.scalars(select(Run).order_by(Run.number)):
            result = readings.result_of(session, run)
            if (
                not result.positions
                and len(result.groups) == 1
                and len(result.groups[0].places) > 3
            ):
                return run.number, run.id
    raise AssertionError("no such run")


def test_good_rows_are_kept_and_bad_ones_are_listed_with_their_row(
    sessions: sessionmaker[Session],
) -> None:
    number, run = wheel(sessions)
    at = "2026-11-20 10:00:00"
    status, answer = read(
        sessions,
        table(
            (number, 1, 120.4, 31, at, "TW-03"),
            (number, 2, "88.8 ft·lbf", 30, at, "TW-03"),
            (99999, 1, 120, 30, at, ""),
            (number, 77, 120, 30, at, ""),
            (number, 1, 120.4, 31, at, "TW-03"),
            (number, 1, "", "", at, ""),
            (number, 3, -5, 30, at, ""),
            (number, 3, 120, 30, "yesterday", ""),
            ("", 3, 120, 30, at, ""),
            (number, "", 1, 1, at, ""),
            (number, 3, "1,200", 30, at, ""),
            (number, 4, "", 12.5, "", ""),
        ),
    )
    assert (status, answer["imported"], answer["refused"]) == ("done", 2, 10)
    assert readings._by_text([(2, "a"), (4, "b"), (9, "a")]) == [("a", [2, 9]), ("b", [4])]
    assert readings._named(list(range(2, 12))) == "rows 2, 3, 4, 5, 6 and 5 more"
    told = {e["file"]: e["text"] for e in answer["errors"]}
    assert told == {
        "row 3": "“88.8 ft·lbf” has another unit than its column (N·m).",
        "row 4": "There is no run 99999.",
        "row 5": f"Run {number} has no bolt “77”.",
        "row 6": "It is the same as row 2.",
        "row 7": "Neither torque nor angle.",
        "row 8": "“-5” cannot be.",
        "row 9": "“yesterday” is no time: write 2026-11-26 14:05:00.",
        "row 10": "“” is no number of a run.",
        "row 11": "No bolt is named.",
        "row 12": told["row 12"],
    }
    assert "1,200" in told["row 12"]
    with sessions() as session:
        view = list_readings(make(session), run)
    assert [(x.label, x.torque_Nm, x.angle_deg) for x in view.lines] == [
        ("1", 120.4, 31.0),
        ("4", None, 12.5),
    ]
    assert view.count == 2
    assert (
        view.by
        and view.lines[0].serial == "TW-03"
        and view.lines[0].at == datetime(2026, 11, 20, 10, tzinfo=UTC)
    )


def test_a_file_is_read_once(sessions: sessionmaker[Session]) -> None:
    number, _ = wheel(sessions)
    data = table((number, 1, 99, 9, "", ""))
    assert read(sessions, data)[0] == "done"
    with pytest.raises(BadField, match="read before"):
        read(sessions, data)


@pytest.mark.parametrize("delimiter", [",", ";", "\t"])
def test_the_delimiter_is_found_and_an_excel_file_reads_the_same(
    sessions: sessionmaker[Session], delimiter: str
) -> None:
    number, _ = wheel(sessions)
    figure = 100.5 + ord(delimiter) / 10
    data = f"run{delimiter}bolt{delimiter}torque\n{number}{delimiter}1{delimiter}{figure}\n".encode(
        "utf-8-sig"
    )
    mapping = Columns({"run": 0, "bolt": 1, "torque": 2}, {"torque": "ft·lbf"})
    before = kept(sessions)
    assert read(sessions, data, mapping)[1]["imported"] == 1 and kept(sessions) == before + 1
    book = Workbook()
    book.active.append(["run", "bolt", "torque", "when"])
    book.active.append([number, "2", figure, datetime(2026, 11, 20, 9, 30)])
    out = io.BytesIO()
    book.save(out)
    with sessions() as session:
        look = look_at_readings(make(session), out.getvalue()).run(make(session))
    assert (
        look.columns == {"run": 0, "bolt": 1, "torque": 2, "time": 3}
        and look.rows[1][3] == "2026-11-20 09:30:00"
    )
    assert (
        read(sessions, out.getvalue(), Columns(look.columns, {"torque": "ft·lbf"}))[1]["imported"]
        == 1
    )


@pytest.mark.parametrize(
    "data", [b"\xff\xfe\x00\x01", b"PK\x03\x04 no workbook", b"a,b\x00c", b"x" * 300]
)
def test_what_is_no_table_is_refused_at_once(sessions: sessionmaker[Session], data: bytes) -> None:
    before = kept(sessions)
    with pytest.raises(BadField), sessions.begin() as session:
        start_readings(make(session), data, {"bolt": 0, "torque": 1}, {"torque": "N·m"}, 1).run(
            make(session)
        )
    assert kept(sessions) == before


def test_a_table_that_breaks_off_leaves_nothing(sessions: sessionmaker[Session]) -> None:
    number, _ = wheel(sessions)
    before = kept(sessions)
    status, answer = read(
        sessions, table((number, 1, 55, 5, "", ""), (number, 2, 55, 5, "", "x" * 300))
    )
    assert status == "failed" and kept(sessions) == before
    assert "Nothing of the file was saved" in answer["errors"][0]["text"]


def test_a_job_that_is_stopped_leaves_nothing(
    sessions: sessionmaker[Session], monkeypatch: pytest.MonkeyPatch
) -> None:
    number, _ = wheel(sessions)
    before = kept(sessions)
    monkeypatch.setattr(readings, "STEP", 3)

    def stop(made: sessionmaker[Session], job: Any, done: int) -> bool:
        if done >= 6:
            with made.begin() as session:
                exchange.cancel_job(make(session), job)
        return exchange.progress(made, job, done)

    monkeypatch.setattr(readings, "progress", stop)
    status, _ = read(sessions, table(*((number, 1, 60 + i, 5, "", "") for i in range(12))))
    assert status == "cancelled" and kept(sessions) == before


def test_the_file_is_let_go_and_what_was_read_is_never_changed(
    sessions: sessionmaker[Session],
) -> None:
    with sessions() as session, pytest.raises(Exception, match="permission denied"):
        session.execute(delete(ToolReading))


@pytest.mark.parametrize(
    ("mapping", "says"),
    [
        (Columns({"torque": 0}, {"torque": "N·m"}, 1), "which column holds the bolt"),
        (Columns({"bolt": 0}, {}, 1), "torque or angle"),
        (Columns({"bolt": 0, "torque": 1}, {"torque": "N·m"}), "number of the run"),
        (Columns({"bolt": 0, "torque": 1}, {}, 1), "unit of torque"),
        (Columns({"bolt": 0, "angle": 1}, {"angle": "bar"}, 1), "of angle"),
        (Columns({"bolt": 0, "torque": 1, "mood": 2}, {"torque": "N·m"}, 1), "mood"),
    ],
)
def test_columns_that_cannot_be_used_are_named(mapping: Columns, says: str) -> None:
    assert says in (problem_of(mapping) or "")


@pytest.mark.parametrize(
    ("cell", "unit", "value"),
    [
        ("100", "N·m", 100.0),
        ("73.7562", "ft·lbf", 100.0),
        ("100 N·m", "N·m", 100.0),
        ("100 Nm", "N·m", 100.0),
        ("1e2", "N·m", 100.0),
    ],
)
def test_a_figure_takes_the_unit_of_its_column(cell: str, unit: str, value: float) -> None:
    found = read_row(["4", cell], Columns({"bolt": 0, "torque": 1}, {"torque": unit}, 7))
    assert (
        isinstance(found, RowRead)
        and found.torque_Nm == pytest.approx(value, rel=1e-4)
        and found.run == 7
    )


@pytest.mark.parametrize(
    "cell", ["nan", "inf", "-1", "300000", "1e999", "twelve", "12 bar", "1,200", "--", "12 12"]
)
def test_a_figure_that_cannot_be_is_a_sentence(cell: str) -> None:
    assert isinstance(
        read_row(["4", cell], Columns({"bolt": 0, "torque": 1}, {"torque": "N·m"}, 7)), str
    )
