"""Coming back through the API: shift, calendar without a session, search, labels, registers looked
at first and then taken."""

from __future__ import annotations

import csv
import io
from typing import Any

import pytest
from icalendar import Calendar
from openpyxl import Workbook, load_workbook
from pypdf import PdfReader

from orthotorq.services.jobs import run_worker
from tests.conftest import Database


def rows(data: bytes) -> list[list[str]]:
    return list(csv.reader(io.StringIO(data.decode())))


def table(*lines: str) -> bytes:
    return "\r\n".join(lines).encode()


def look(client: Any, database: Database, register: str, data: bytes) -> Any:
    made = client.flask.post(
        f"/api/v1/registers/{register}/looks",
        data=data,
        headers={"X-CSRFToken": client.csrf, "Content-Type": "application/octet-stream"},
    )
    if made.status_code != 202:
        return made.json
    run_worker(database.app_url, wait=False)
    return client.get(f"/api/v1/register-jobs/{made.json['id']}").json


def take(client: Any, database: Database, job: str) -> Any:
    made = client.post(f"/api/v1/register-jobs/{job}/take")
    if made.status_code != 202:
        return made.json
    run_worker(database.app_url, wait=False)
    return client.get(f"/api/v1/register-jobs/{made.json['id']}").json


def test_a_shift_names_what_is_due_and_prints(client: Any) -> None:
    fitter = client("tam")
    view = fitter.get("/api/v1/shift").json
    assert view["person"] == "Tam Hollis"
    assert view["due_count"] == len(view["dues"]) > 5
    assert {"in_progress", "sign", "tools"} <= {one["id"] for one in view["lists"]}
    paper = fitter.get("/api/v1/shift.pdf?paper=Letter")
    text = "".join(page.extract_text() for page in PdfReader(io.BytesIO(paper.data)).pages)
    assert "Gearbox foot" in text and "Due" in text


def test_a_calendar_is_read_without_a_session_and_only_with_its_secret(client: Any) -> None:
    fitter, stranger = client("tam"), client(None)
    address = fitter.post("/api/v1/calendar", {"act": "make"}).json["address"]
    path = "/calendar/" + address.rpartition("/")[2]
    found = stranger.get(path)
    assert found.status_code == 200 and found.content_type.startswith("text/calendar")
    assert Calendar.from_ical(found.data).walk("VEVENT")
    assert fitter.get("/api/v1/calendar").json["address"] == ""
    fitter.post("/api/v1/calendar", {"act": "end"})
    assert stranger.get(path).status_code == 404
    assert stranger.get("/calendar/guess.ics").status_code == 404


@pytest.mark.parametrize(
    ("text", "title"),
    [
        ("trolley wheel", "Trolley wheel"),
        ("wheel trolley", "Trolley wheel"),
        ("M24", "Agitator coupling"),
        ("BP-3", "Brine pump 3"),
        ("twin", "Fit the twin drive wheels of the stacker"),
        ("TW-08", "TW-08"),
        ("run 401", "Run 401"),
        ("401", "Run 401"),
        ("gasketed", "Channel cover"),
        ("gaskets", "Gaskets"),
    ],
)
def test_everything_is_found_by_words_in_any_order(client: Any, text: str, title: str) -> None:
    hits = client("mira").flask.get("/api/v1/search", query_string={"find": text}).json
    assert title.lower() in [one["title"].lower() for one in hits["items"]], hits


@pytest.mark.parametrize("text", ["", "   ", "%_%", "_%", "no such thing", "\\", "²", "a" * 100])
def test_a_search_that_finds_nothing_says_so(client: Any, text: str) -> None:
    found = client("mira").flask.get("/api/v1/search", query_string={"find": text})
    assert (found.status_code, found.json["items"]) == (200, [])


def test_labels_carry_name_and_code(client: Any) -> None:
    planner = client("mira")
    tools = planner.get("/api/v1/tools").json["items"]
    for query, words in (
        ("what=joints", "Trolley wheel"),
        (f"what=tools&ids={tools[0]['id']}", tools[0]["serial"]),
    ):
        found = planner.get(f"/api/v1/labels.pdf?{query}")
        text = "".join(page.extract_text() for page in PdfReader(io.BytesIO(found.data)).pages)
        assert words in text
    assert (
        planner.get(
            "/api/v1/labels.pdf?what=tools&ids=00000000-0000-0000-0000-000000000000"
        ).status_code
        == 422
    )
    assert planner.get("/api/v1/labels.pdf?ids=x").status_code == 422


@pytest.mark.parametrize("register", ["machines", "joints", "tools", "readings"])
@pytest.mark.parametrize("kind", ["csv", "xlsx"])
def test_a_register_goes_out_and_comes_in_again_as_it_was(
    client: Any, database: Database, register: str, kind: str
) -> None:
    planner = client("mira")
    out = planner.get(f"/api/v1/registers/{register}?kind={kind}")
    assert out.status_code == 200 and f"{register}.{kind}" in out.headers["Content-Disposition"]
    if register == "readings":
        return  # none in this demo: the headings alone
    found = look(planner, database, register, out.data)
    assert found["status"] == "done"
    assert {k for k, v in found["counts"].items() if v} == {"same"}, found["rows"][:3]
    assert found["total"] == found["counts"]["same"]


def test_a_file_is_looked_at_first_and_changes_only_when_it_is_taken(
    client: Any, database: Database
) -> None:
    planner = client("mira")
    data = table(
        "Tag,Name,Area,Site",
        "BP-3,Brine pump three,Brine field,",
        "BP-9,Brine pump 9,Brine field,Quay",
        "AG-2,Agitator 2,Boiling house,",
    )
    seen = look(planner, database, "machines", data)
    assert seen["words"] == "1 new, 1 changed, 1 unchanged"
    assert [one["does"] for one in seen["rows"]] == ["changed", "new", "same"]
    assert "Brine pump 3 → Brine pump three" in seen["rows"][0]["words"]
    assert "BP-9" not in planner.get("/api/v1/registers/machines").text
    done = take(planner, database, seen["id"])
    assert (done["status"], done["takes"], done["words"]) == (
        "done",
        True,
        "1 new, 1 changed, 1 unchanged",
    )
    assert ["BP-9", "Brine pump 9", "Brine field", "Quay"] in rows(
        planner.get("/api/v1/registers/machines").data
    )
    # what was taken is not taken again
    assert take(planner, database, done["id"])["status"] == 404


def test_one_wrong_row_and_nothing_of_the_file_is_taken(client: Any, database: Database) -> None:
    planner = client("mira")
    seen = look(
        planner,
        database,
        "joints",
        table(
            "machine;tag;name;kind",
            "BP-3;cover-2;Second cover;casting_studs",
            "XX-1;a;b;wheel",
            "BP-3;bad tag;c;wheel",
            "BP-3;d;e;spaceship",
        ),
    )
    assert (seen["counts"]["wrong"], seen["counts"]["new"]) == (3, 1)
    assert [(one["row"], one["does"]) for one in seen["rows"][:3]] == [
        (3, "wrong"),
        (4, "wrong"),
        (5, "wrong"),
    ]
    assert "there is no machine XX-1" in seen["rows"][0]["words"]
    refused = take(planner, database, seen["id"])
    assert (
        refused["status"] == 422
        and "3 row(s) are wrong" in refused["detail"]
        and "row 3" in refused["detail"]
    )
    assert "cover-2" not in planner.get("/api/v1/registers/joints").text


def test_tools_and_readings_come_from_a_workbook(client: Any, database: Database) -> None:
    planner = client("mira")
    book = Workbook()
    assert book.active is not None
    for row in (
        ["serial", "kind", "low", "high", "place"],
        ["TW-90", "click wrench", "40 N·m", "200 N·m", "Store"],
        ["TW-91", "click wrench", "40", "200 N·m", ""],
    ):
        book.active.append(row)
    data = io.BytesIO()
    book.save(data)
    seen = look(planner, database, "tools", data.getvalue())
    assert [one["does"] for one in seen["rows"]] == ["wrong", "new"]
    assert (
        load_workbook(io.BytesIO(planner.get("/api/v1/registers/tools?kind=xlsx").data)).active
        is not None
    )
    machine = next(m for m in planner.get("/api/v1/equipment").json["items"] if m["tag"] == "TR-3")
    planner.post(f"/api/v1/equipment/{machine['id']}/meters", {"unit": "km"})
    client("runa").post(f"/api/v1/equipment/{machine['id']}/meters", {"unit": "km"})
    back = look(
        planner,
        database,
        "readings",
        table(
            "machine,unit,value,at",
            "TR-3,km,100,2026-01-02 07:00",
            "TR-3,km,90,2026-01-03 07:00",
            "TR-3,km,110,",
            "TR-3,h,5,2026-01-02",
        ),
    )
    assert [one["does"] for one in back["rows"]] == ["wrong", "wrong", "wrong", "new"]
    assert "is less than the reading before" in back["rows"][0]["words"]


@pytest.mark.parametrize(
    ("register", "data", "words"),
    [
        ("machines", b"tag,name\r\nA,B", "no column area"),
        ("machines", b"tag,name,area\r\n", "no rows"),
        ("machines", b"", "no column"),
        ("machines", b"\x00\x01", "table"),
        ("spoons", b"a,b\r\n1,2", "one of"),
        ("machines", b"tag,name,area\r\n" + b"A,B,C\r\n" * 50_001, "at most 50000 rows"),
    ],
)
def test_a_file_that_is_no_register_is_refused_with_a_sentence(
    client: Any, database: Database, register: str, data: bytes, words: str
) -> None:
    found = look(client("mira"), database, register, data)
    assert found["status"] == 422 and words in found["detail"] + " ".join(
        e["text"] for e in found["errors"]
    ), found


def test_what_a_file_says_twice_or_almost_is_not_taken_unasked(
    client: Any, database: Database
) -> None:
    mira = client("mira")
    twice = look(
        mira,
        database,
        "machines",
        table(
            "tag,name,area,site",
            "",
            "Q-6,Mill,Yard,Quay",
            "",
            "q-6,Press,Yard,Quay",
            "Q-06,Fan,Yard,Quay",
        ),
    )
    # numbers as a table program counts, blank lines and all
    said = {one["row"]: (one["does"], one["column"], one["words"]) for one in twice["rows"]}
    assert said[3][0] == "new"
    assert said[5][:2] == ("wrong", "tag") and "row 3" in said[5][2]
    assert said[6][:2] == ("ask", "tag") and "row 3" in said[6][2]
    assert (
        "error" not in take(mira, database, twice["id"])
        and not mira.get("/api/v1/equipment?find=Q-6").json["items"]
    )

    asks = table(
        "tag,name,area,site",
        "R-7,Mill,Yard,Saltworks",
        "tr3,Trolley,Yard,Quay",
        "R-8,Fan,Yard,Saltwroks",
    )
    asked = look(mira, database, "machines", asks)
    assert asked["counts"] == {"new": 1, "changed": 0, "same": 0, "ask": 2, "wrong": 0}
    words = {one["row"]: one["words"] for one in asked["rows"]}
    assert "TR-3 is registered already" in words[3] and "close to “Saltworks”" in words[4]
    unsure = mira.post(f"/api/v1/register-jobs/{asked['id']}/take")
    assert (unsure.status_code, unsure.json["code"]) == (409, "confirm")
    assert not mira.get("/api/v1/equipment?find=R-7").json["items"]
    made = mira.post(f"/api/v1/register-jobs/{asked['id']}/take", **{"X-Confirmed": "yes"}).json[
        "id"
    ]
    run_worker(database.app_url, wait=False)
    assert mira.get(f"/api/v1/register-jobs/{made}").json["counts"]["new"] == 3
    assert {m["tag"] for m in mira.get("/api/v1/equipment").json["items"]} >= {
        "R-7",
        "tr3",
        "TR-3",
        "R-8",
    }
    assert "Saltwroks" in {one["name"] for one in mira.get("/api/v1/sites").json["items"]}


def test_a_question_that_came_up_after_the_preview_is_not_answered_by_it(
    client: Any, database: Database
) -> None:
    mira = client("mira")
    seen = look(mira, database, "machines", table("tag,name,area,site", "W-2,Mill,Yard,Quay"))
    assert seen["counts"]["new"] == 1
    body = {"tag": "W-02", "name": "Winch", "area": "Yard", "site": "Quay"}
    assert mira.post("/api/v1/equipment", body).status_code == 201
    ended = take(mira, database, seen["id"])
    assert ended["status"] == "failed" and ended["counts"]["ask"] == 1
    assert not [
        m for m in mira.get("/api/v1/equipment?find=W-2").json["items"] if m["tag"] == "W-2"
    ]


@pytest.mark.parametrize(
    ("register", "lines", "row", "column"),
    [
        ("joints", ("machine,tag,name,kind", "TR-3,hub,Hub,door"), 2, "kind"),
        ("joints", ("machine,tag,name,kind", "", "ev02,hub,Hub,wheel"), 3, "machine"),
        ("tools", ("serial,kind,low,high", "TW-77,click wrench,20 N·m,5 apples"), 2, "high"),
        ("readings", ("machine,unit,value,at", "TR-3,km,many,2026-01-01"), 2, "value"),
    ],
)
def test_a_wrong_cell_is_named_by_row_and_column(
    client: Any, database: Database, register: str, lines: tuple[str, ...], row: int, column: str
) -> None:
    found = look(client("mira"), database, register, table(*lines))["rows"][0]
    assert (found["does"], found["row"], found["column"]) == ("wrong", row, column), found


def test_a_cell_that_is_too_long_is_named(client: Any, database: Database) -> None:
    found = look(
        client("mira"), database, "machines", table("tag,name,area", "", f"Z-9,{'x' * 300},Yard")
    )
    assert found["status"] == 422 and "Row 3, column B holds 300 characters" in found["detail"], (
        found
    )


def test_a_job_of_a_register_can_be_stopped(client: Any, database: Database) -> None:
    planner = client("mira")
    made = planner.flask.post(
        "/api/v1/registers/machines/looks",
        data=table("tag,name,area", "Z-1,Z,Z"),
        headers={"X-CSRFToken": planner.csrf, "Content-Type": "text/csv"},
    ).json["id"]
    assert planner.post(f"/api/v1/jobs/{made}/cancel").status_code == 200
    run_worker(database.app_url, wait=False)
    assert planner.get(f"/api/v1/register-jobs/{made}").json["status"] == "cancelled"


def test_readings_are_sent_by_another_system_all_or_none(client: Any) -> None:
    chief = client("runa")
    machine = next(m for m in chief.get("/api/v1/equipment").json["items"] if m["tag"] == "ST-1")
    assert (
        chief.post(f"/api/v1/equipment/{machine['id']}/meters", {"unit": "km"}).status_code == 201
    )
    one = {"machine": "ST-1", "unit": "km", "value": 5.0, "at": "2026-01-02T07:00:00Z"}
    for readings, kept in (
        ([one, {**one, "value": 4.0, "at": "2026-01-03T07:00:00Z"}], False),
        ([one], True),
        ([one], False),
    ):
        found = chief.post("/api/v1/meter-readings", {"readings": readings})
        assert (found.status_code, found.json["kept"]) == (200, kept), found.text
    for bad in ({**one, "value": "NaN"}, {**one, "value": 1e15}, {**one, "machine": 5}):
        assert chief.post("/api/v1/meter-readings", {"readings": [bad]}).status_code == 422


def test_own_records_teach_and_a_band_is_kept_by_a_planner_only(client: Any) -> None:
    assert client("tam").post("/api/v1/lessons").status_code == 403
    lessons = client("mira").post("/api/v1/lessons").json["items"]
    kinds = {one["kind"] for one in lessons}
    assert {"rig", "scatter", "time"} <= kinds
    for one in lessons:
        assert one["low"] <= one["typical"] <= one["high"] and one["count"] >= 10 and one["unit"]
    scatter = next(one for one in lessons if one["kind"] == "scatter")
    assert abs(scatter["typical"] - 1) < 0.02 and scatter["high"] - scatter["low"] < 0.1
