"""Files in and out, jobs, photos, tools, own tables, choices at the start of a run: through the
API."""

from __future__ import annotations

import io
import json
import uuid
import zipfile
from typing import Any

import pytest
from PIL import Image
from pypdf import PdfReader

from orthotorq.core.documents.read import canonical
from orthotorq.demo.load import plan_document, plan_names
from orthotorq.services.jobs import run_worker
from tests.cli.test_commands import run as run_command
from tests.conftest import Database


def zipped(files: dict[str, bytes]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    return out.getvalue()


def send(client: Any, path: str, data: bytes, kind: str) -> Any:
    return client.flask.post(
        path, data=data, headers={"X-CSRFToken": client.csrf, "Content-Type": kind}
    )


def plan_id(client: Any, joint: str) -> tuple[str, str]:
    for machine in client.get("/api/v1/equipment").json["items"]:
        for one in machine["joints"]:
            if one["name"] == joint:
                return one["plans"][0]["id"], one["plans"][0]["revision_id"]
    raise AssertionError(joint)


def finish(client: Any, database: Database, job: str) -> Any:
    run_worker(database.app_url, wait=False)
    return client.get(f"/api/v1/jobs/{job}").json


def test_every_plan_goes_out_and_comes_in_again_as_it_was(client: Any, database: Database) -> None:
    planner = client("mira")
    out = planner.get("/api/v1/plans.zip")
    with zipfile.ZipFile(io.BytesIO(out.data)) as archive:
        texts = {json.loads(archive.read(n))["title"]: archive.read(n) for n in archive.namelist()}
    for name in plan_names():
        document = plan_document(name)
        assert canonical(json.loads(texts[document["title"]])) == canonical(document)
    before = len(texts)
    job = send(planner, "/api/v1/imports", out.data, "application/zip")
    assert job.status_code == 202
    found = finish(planner, database, job.json["id"])
    assert (found["status"], found["done"], found["total"], found["imported"]) == (
        "done",
        before,
        before,
        before,
    )
    again = planner.get("/api/v1/plans.zip")
    with zipfile.ZipFile(io.BytesIO(again.data)) as archive:
        assert len(archive.namelist()) == 2 * before
        for name in archive.namelist():
            document = json.loads(archive.read(name))
            assert canonical(document) == canonical(json.loads(texts[document["title"]]))


def test_one_bad_file_keeps_the_whole_folder_out(client: Any, database: Database) -> None:
    planner = client("mira")
    before = len(planner.get("/api/v1/plans.zip").data)
    bad = plan_document("bellows-clamp")
    bad["groups"][0]["layout"]["count"] = 0
    nowhere = {**plan_document("bellows-clamp"), "joint": "XX-1/none"}
    late = {**plan_document("bellows-clamp"), "version": 99}
    files = {
        "good.json": plan_document("bellows-clamp"),
        "a/bad.json": bad,
        "nowhere.json": nowhere,
        "late.json": late,
    }
    data = zipped(
        {
            **{n: json.dumps(d).encode() for n, d in files.items()},
            "text.json": b"{",
            "huge.json": b" " * 10_000_000,
        }
    )
    job = send(planner, "/api/v1/imports", data, "application/zip").json["id"]
    found = finish(planner, database, job)
    assert (found["status"], found["imported"]) == ("failed", 0)
    assert {(e["file"], e["path"]) for e in found["errors"]} == {
        ("a/bad.json", "groups/0/layout/count"),
        ("nowhere.json", "joint"),
        ("late.json", "version"),
        ("text.json", ""),
        ("huge.json", ""),
    }
    assert len(planner.get("/api/v1/plans.zip").data) == before


def test_a_cancelled_import_does_nothing(client: Any, database: Database) -> None:
    planner = client("mira")
    job = send(
        planner, "/api/v1/imports", planner.get("/api/v1/plans.zip").data, "application/zip"
    ).json["id"]
    # whoever else may cancel what they began: not this
    refused = client("tam").post(f"/api/v1/jobs/{job}/cancel")
    assert refused.status_code == 403 and "Mira" in refused.json["detail"]
    assert planner.post(f"/api/v1/jobs/{job}/cancel").json["status"] == "cancelled"
    found = finish(planner, database, job)
    assert (found["status"], found["imported"]) == ("cancelled", 0)
    assert planner.post(f"/api/v1/jobs/{job}/cancel").status_code == 409


@pytest.mark.parametrize(
    ("data", "kind", "status"),
    [
        (b"no zip", "application/zip", 422),
        (zipped({"a.txt": b"x"}), "application/zip", 422),
        (b"{}", "text/plain", 422),
    ],
)
def test_what_is_no_folder_of_plans_is_refused(
    client: Any, data: bytes, kind: str, status: int
) -> None:
    answer = send(client("mira"), "/api/v1/imports", data, kind)
    assert answer.status_code == status
    assert answer.json["errors"][0]["path"] == "file"


def test_only_planners_import(client: Any) -> None:
    assert (
        send(
            client("tam"), "/api/v1/imports", zipped({"a.json": b"{}"}), "application/zip"
        ).status_code
        == 403
    )


def test_one_plan_as_a_file(client: Any) -> None:
    planner = client("mira")
    plan, _ = plan_id(planner, "Channel cover")
    answer = planner.get(f"/api/v1/plans/{plan}/file")
    assert json.loads(answer.data) == plan_document("evaporator-cover")
    assert "Close-the-channel-cover.json" in answer.headers["Content-Disposition"]


def start(client: Any, joint: str, **more: Any) -> Any:
    return client.post(
        "/api/v1/runs", {"revision": plan_id(client, joint)[1], "device": "tablet", **more}
    )


def test_a_run_starts_with_its_choices(client: Any) -> None:
    fitter = client("tam")
    assert start(fitter, "Twin drive wheel").json["errors"][0]["path"] == "variants"
    made = start(
        fitter,
        "Twin drive wheel",
        variants=["two", "both"],
        history="unknown",
        tools={"w": "TW-03"},
    )
    assert made.status_code == 201, made.text
    state = fitter.get(f"/api/v1/runs/{made.json['id']}").json["state"]
    assert (state["occasion"], state["variants"], state["history"]) == (
        "install",
        ["two", "both"],
        "unknown",
    )


@pytest.mark.parametrize(
    ("more", "words"),
    [
        ({"occasion": "picnic"}, "no work for the occasion “picnic”"),
        ({"tools": {"w": "TW-99"}}, "TW-99"),
        ({"tools": {"zzz": "TW-07"}}, "zzz"),
        ({"tools": {"w": "TW-01"}}, "TW-01 goes from 20 to 120"),
        ({"history": "guessed"}, "known or unknown"),
    ],
)
def test_choices_that_cannot_be_are_said(client: Any, more: dict[str, Any], words: str) -> None:
    answer = start(client("tam"), "Channel cover", **more)
    assert answer.status_code == 422
    assert words in answer.json["detail"]


def picture(kind: str, size: tuple[int, int] = (640, 480)) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", size, "#0c5a66").save(out, kind)
    return out.getvalue()


def event(
    run: str, number: int, kind: str, payload: dict[str, Any], step: str = "-"
) -> dict[str, Any]:
    return {
        "id": f"01900000-0000-7000-8000-{number:012d}",
        "run": run,
        "step": step,
        "kind": kind,
        "payload": payload,
        "device": "tablet",
        "device_sequence": number,
        "device_time": "2026-11-24T09:00:00Z",
        "lease": 1,
        "last_seen": 0,
    }


def test_a_photo_is_kept_named_and_shown_in_the_record(client: Any) -> None:
    fitter = client("tam")
    run = start(fitter, "Channel cover").json["id"]
    kept = send(fitter, f"/api/v1/runs/{run}/photos", picture("PNG", (5000, 300)), "image/png")
    assert kept.status_code == 201
    photo = kept.json["id"]
    with Image.open(io.BytesIO(fitter.get(f"/api/v1/photos/{photo}").data)) as shown:
        assert (shown.format, shown.width) == ("JPEG", 2048)
    events = [
        event(run, 1001, "photo", {"photo": photo, "text": "old gasket"}),
        {**event(run, 1002, "photo", {"photo": run}), "device_sequence": 2},
    ]
    events[0]["device_sequence"] = 1
    answers = fitter.post(
        f"/api/v1/runs/{run}/events", {"sent_at": "2026-11-24T09:00:01Z", "events": events}
    ).json["answers"]
    assert [a["verdict"] for a in answers] == ["accepted", "refused"]
    record = fitter.get(f"/api/v1/runs/{run}/record").json
    told = [line for line in record["record"]["story"] if line["photo"]]
    assert [(line["text"], line["photo"]) for line in told] == [("Photo: old gasket", photo)]
    # and on paper
    pages = PdfReader(io.BytesIO(fitter.get(f"/api/v1/runs/{run}/record.pdf").data)).pages
    # one picture, whatever pages share it
    assert {image.image.width for page in pages for image in page.images} == {900}
    assert record["not_proven"] == ""


@pytest.mark.parametrize(
    "data", [b"", b"GIF89a nonsense", b"\xff\xd8\xff" + b"x" * 50, picture("PNG")[:200]]
)
def test_what_is_no_picture_is_refused(client: Any, data: bytes) -> None:
    fitter = client("tam")
    run = start(fitter, "Channel cover").json["id"]
    assert send(fitter, f"/api/v1/runs/{run}/photos", data, "image/png").status_code == 422


def test_wishes_reach_the_planner(client: Any) -> None:
    fitter = client("tam")
    run = start(fitter, "Drum journal").json["id"]
    step = fitter.get(f"/api/v1/runs/{run}").json["state"]["instruction"]["step"]
    wish = {**event(run, 2001, "suggest", {"text": "say which valve"}, step), "device_sequence": 1}
    fitter.post(f"/api/v1/runs/{run}/events", {"sent_at": "2026-11-24T09:00:01Z", "events": [wish]})
    plan, _ = plan_id(fitter, "Drum journal")
    assert [
        w["text"] for w in client("mira").get(f"/api/v1/plans/{plan}/suggestions").json["items"]
    ] == ["say which valve"]


def test_tools_say_whether_they_are_good(client: Any) -> None:
    tools = {t["serial"]: t for t in client("tam").get("/api/v1/tools").json["items"]}
    assert tools["TW-07"]["good"]
    assert not tools["TW-08"]["good"]
    assert (tools["TW-21"]["low_Nm"], tools["TW-21"]["high_Nm"]) == (8, 8)


def test_own_entries_are_kept_apart_and_checked(client: Any) -> None:
    planner = client("mira")
    body = {"name": "Blue paste", "mu_thread": [0.1, 0.12, 0.14], "source": "sheet 4"}
    assert (
        planner.post(
            "/api/v1/own-entries", {"kind": "lubricant", "key": "blue", "body": body}
        ).status_code
        == 201
    )
    found = {e["key"]: e for e in planner.get("/api/v1/own-entries").json["items"]}
    assert found["blue"]["body"] == body
    for kind, key, wrong, path in (
        ("lubricant", "blue", {**body, "mu_thread": [0.3, 0.1, 0.2]}, "body/mu_thread"),
        ("grade", "x", {"yield_strength": "640"}, "body/yield_strength"),
        ("method", "m", {"name": "m", "passes": []}, "body/passes"),
        ("song", "x", {}, "kind"),
    ):
        answer = planner.post("/api/v1/own-entries", {"kind": kind, "key": key, "body": wrong})
        assert answer.status_code == 422
        assert path in {e["path"] for e in answer.json["errors"]}
    assert (
        planner.post(
            "/api/v1/own-entries", {"kind": "lubricant", "key": "moly-paste", "body": body}
        ).status_code
        == 409
    )
    assert (
        client("tam")
        .post("/api/v1/own-entries", {"kind": "lubricant", "key": "blue", "body": body})
        .status_code
        == 403
    )
    gone = planner.flask.delete(
        f"/api/v1/own-entries/{found['blue']['id']}", headers={"X-CSRFToken": planner.csrf}
    )
    assert gone.status_code == 204
    assert "blue" not in {e["key"] for e in planner.get("/api/v1/own-entries").json["items"]}


def test_stock_decides_which_lubricants_are_compared(client: Any) -> None:
    planner = client("mira")
    document = plan_document("evaporator-cover")
    assert (
        planner.post("/api/v1/stock", {"lubricant": "honey", "in_store": True}).status_code == 404
    )
    planner.post("/api/v1/stock", {"lubricant": "ptfe", "in_store": True})
    found = planner.post("/api/v1/other-lubricants", {"document": document, "group": "studs"}).json[
        "items"
    ]
    assert {"ptfe", "moly-paste", "vellmark-white"} <= {f["lubricant"] for f in found}
    planner.post("/api/v1/stock", {"lubricant": "ptfe", "in_store": False})
    found = planner.post("/api/v1/other-lubricants", {"document": document, "group": "studs"}).json[
        "items"
    ]
    assert "ptfe" not in {f["lubricant"] for f in found}


def test_tables_are_there_with_their_sources(client: Any) -> None:
    sheets = {s["id"]: s for s in client("tam").get("/api/v1/table-sheets").json["items"]}
    assert set(sheets) >= {
        "threads",
        "grades",
        "lubricants",
        "materials",
        "gaskets",
        "drives",
        "marks",
        "methods",
        "findings",
    }
    for sheet in sheets.values():
        assert len(sheet["source"]) > 15
        assert sheet["rows"] and all(len(r) == len(sheet["columns"]) for r in sheet["rows"])
    assert len(sheets["lubricants"]["rows"]) >= 20


def test_a_sum_comes_with_its_gauge_and_card(client: Any) -> None:
    fitter = client("tam")
    tool = fitter.post(
        "/api/v1/sums/tool",
        {
            "texts": {
                "torque": "1700 N·m",
                "ratio": ["5"],
                "efficiency": ["0.9"],
                "length": "750 mm",
                "adapter": "90 mm",
                "mark": "10 N·m",
            }
        },
    ).json
    assert [link["kind"] for link in tool["card"]["links"]] == ["wrench", "adapter", "multiplier"]
    assert tool["card"]["scale"]["main"] == "330"
    load = fitter.post(
        "/api/v1/sums/preload",
        {
            "texts": {
                "thread": "M24",
                "torque": "430 N·m",
                "mu-thread": "0.1,0.12,0.16",
                "grade": "ISO 898-1 8.8",
            }
        },
    ).json
    assert {x["code"] for x in load["gauge"]["limits"]} == {"yield", "proof", "combined"}
    assert (
        fitter.post("/api/v1/sums/pair", {"texts": {"first": "1 m", "second": "1 m"}}).json["card"]
        is None
    )


def test_a_job_and_its_place_in_the_queue_are_kept_together_or_not_at_all(
    client: Any, app: Any, monkeypatch: Any
) -> None:
    from sqlalchemy import text

    from orthotorq.services.jobs import defer
    from orthotorq.web import operation
    from orthotorq.web.database import sessions

    def counts() -> tuple[int, int]:
        with sessions(app)() as session:
            return (
                session.execute(text("SELECT count(*) FROM procrastinate_jobs")).scalar_one(),
                session.execute(text("SELECT count(*) FROM job")).scalar_one(),
            )

    def breaks_off(session: Any, kind: str, job: Any) -> None:
        defer(session, kind, job)
        raise ConnectionError("the request breaks off")

    planner, packed = client("mira"), zipped({"a.json": b"{}"})
    before = counts()
    with monkeypatch.context() as patch:
        patch.setattr(operation, "defer", breaks_off)
        assert send(planner, "/api/v1/imports", packed, "application/zip").status_code >= 500
    assert counts() == before
    assert send(planner, "/api/v1/imports", packed, "application/zip").status_code == 202
    assert counts() == (before[0] + 1, before[1] + 1)


def test_all_that_is_kept_about_a_joint_is_one_file(
    client: Any, database: Database, tmp_path: Any
) -> None:
    chief = client("runa")
    joint = next(
        joint
        for machine in chief.get("/api/v1/equipment").json["items"]
        for joint in machine["joints"]
        if joint["name"] == "Trolley wheel"
    )
    assert client("tam").get(f"/api/v1/joints/{joint['id']}/everything.zip").status_code == 403
    answer = chief.get(f"/api/v1/joints/{joint['id']}/everything.zip")
    assert answer.status_code == 200 and "TR-3-wheel.zip" in answer.headers["Content-Disposition"]
    with zipfile.ZipFile(io.BytesIO(answer.data)) as archive:
        names = archive.namelist()
        assert {"joint.json", "plans/1/draft.json", "plans/1/revision-1.json"} <= set(names)
        assert json.loads(archive.read("joint.json"))["machine_tag"] == "TR-3"
        assert json.loads(archive.read("plans/1/draft.json")) == plan_document("trolley-wheel")
        run = next(name for name in names if name.endswith("record.json"))
        # each record is whole: it can be read again, and proves itself
        assert json.loads(archive.read(run))["events"][0]["kind"] == "start"
        read = send(chief, "/api/v1/records", archive.read(run), "application/json")
        assert read.status_code == 201, read.text
    assert chief.get(f"/api/v1/joints/{uuid.UUID(int=0)}/everything.zip").status_code == 404
    out = tmp_path / "joint.zip"
    done = run_command(
        "admin", "joint", "TR-3", "wheel", "-o", str(out), ORTHOTORQ_DATABASE_URL=database.app_url
    )
    assert done.returncode == 0, done.stderr
    with zipfile.ZipFile(out) as archive:
        assert set(archive.namelist()) == set(names)
    done = run_command(
        "admin", "joint", "TR-3", "none", "-o", str(out), ORTHOTORQ_DATABASE_URL=database.app_url
    )
    assert done.returncode == 2 and "There is no joint none" in done.stderr
