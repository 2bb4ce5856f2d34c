"""The API: errors as problem details, sessions, drafts, runs, files; never a 500 for what somebody
sends."""

from __future__ import annotations

import csv
import io
import json
import uuid
from typing import Any

import pytest
from pypdf import PdfReader

from orthotorq.core.messages.terms import TERMS
from orthotorq.web import create_app
from orthotorq.web.api import helpers
from tests.api.conftest import end_open
from tests.core.test_fuzz import BAD, put, shapes
from tests.plans import cover


def first_plan(client: Any) -> dict[str, Any]:
    for machine in client.get("/api/v1/equipment").json["items"]:
        for joint in machine["joints"]:
            for plan in joint["plans"]:
                if plan["title"] == "Close the channel cover":
                    return plan
    raise AssertionError("the demo has no cover plan")


def pdf_text(data: bytes) -> str:
    return "\n".join(page.extract_text() for page in PdfReader(io.BytesIO(data)).pages)


def test_health_and_headers(client) -> None:
    answer = client().get("/health")
    assert (answer.status_code, answer.json) == (200, {"status": "ok"})
    assert "frame-ancestors 'none'" in answer.headers["Content-Security-Policy"]
    assert answer.headers["X-Content-Type-Options"] == "nosniff"
    assert answer.headers["X-Request-Id"]


def test_demo_people_are_shown_in_demo_mode_only(client, app) -> None:
    assert len(client().get("/api/v1/session").json["demo"]) == 4
    app.config["DEMO"] = False
    try:
        shown = client().get("/api/v1/session").json
        assert (shown["demo"], shown["demo_password"]) == ([], None)
    finally:
        app.config["DEMO"] = True


def test_sign_in_and_out(client) -> None:
    someone = client()
    wrong = someone.post("/api/v1/session", {"login": "mira", "password": "x"})
    assert wrong.status_code == 401
    assert "wrong" in wrong.json["detail"]
    mira = client("mira")
    assert mira.get("/api/v1/session").json["person"]["roles"] == ["planner"]
    assert (
        mira.flask.delete("/api/v1/session", headers={"X-CSRFToken": mira.csrf}).status_code == 200
    )
    assert mira.get("/api/v1/equipment").status_code == 401


def test_without_the_token_nothing_changes(client) -> None:
    mira = client("mira")
    answer = mira.flask.post("/api/v1/compute", json=cover())
    assert (answer.status_code, answer.json["code"]) == (403, "csrf")


@pytest.mark.parametrize(
    ("body", "kind", "status"),
    [
        (b"{", "application/json", 400),
        (b"[" * 20000, "application/json", 400),
        (b"x=1", "text/plain", 415),
        (b"", "application/json", 400),
    ],
)
def test_bodies_that_are_no_json(client, body: bytes, kind: str, status: int) -> None:
    mira = client("mira")
    answer = mira.flask.post(
        "/api/v1/compute", data=body, content_type=kind, headers={"X-CSRFToken": mira.csrf}
    )
    assert answer.status_code == status
    assert answer.content_type == "application/problem+json"
    assert answer.json["request_id"]


def test_a_body_that_is_missing_is_named(client) -> None:
    mira = client("mira")
    for address in ("/api/v1/compute", "/api/v1/plans", "/api/v1/runs"):
        answer = mira.flask.post(address, headers={"X-CSRFToken": mira.csrf})
        assert answer.status_code in (400, 415, 422), answer.text


def test_too_large_wrong_method_and_unknown_address(client) -> None:
    mira = client("mira")
    huge = mira.flask.post(
        "/api/v1/compute",
        data=b'"' + b"x" * 4_100_000 + b'"',
        content_type="application/json",
        headers={"X-CSRFToken": mira.csrf},
    )
    assert huge.status_code == 413
    patch = mira.flask.patch("/api/v1/equipment", json={}, headers={"X-CSRFToken": mira.csrf})
    assert patch.status_code == 405
    assert "GET" in patch.headers["Allow"]
    assert mira.get("/api/v1/nothing").status_code == 404
    assert mira.get(f"/api/v1/joints/{uuid.uuid4()}").json["code"] == "not_found"


def test_compute_answers_with_the_result_or_with_fields(client) -> None:
    mira = client("mira")
    assert mira.post("/api/v1/compute", cover()).json["groups"][0]["target"]["set_torque_Nm"] == 450
    wrong = mira.post("/api/v1/compute", put(cover(), ("groups", 0, "required_clamp"), "1,200 N"))
    assert wrong.status_code == 422
    assert [e["path"] for e in wrong.json["errors"]] == ["groups/0/required_clamp"]
    assert "1.200 or as 1200" in wrong.json["errors"][0]["text"]


def test_bad_fields_are_422_and_never_500(client) -> None:
    # each of them, at every place, is the core's own test; here it is how what comes of it is
    # answered
    mira = client("mira")
    for path in list(shapes(cover()).values())[::9]:
        for value in BAD[::2]:
            answer = mira.post("/api/v1/compute", put(cover(), path, value))
            assert answer.status_code in (200, 422), (path, value, answer.text)
            if answer.status_code == 422:
                assert answer.json["errors"][0]["text"]


def test_working(client) -> None:
    mira = client("mira")
    found = mira.post("/api/v1/working", {"document": cover(), "figure": "studs/preload"}).json
    assert found["steps"][0]["source"]
    assert mira.post("/api/v1/working", {"document": cover(), "figure": "x/y"}).status_code == 422
    assert mira.post("/api/v1/working", {"document": [], "figure": ""}).status_code == 422


def test_quick_sums_over_http(client) -> None:
    mira = client("mira")
    assert {s["name"] for s in mira.get("/api/v1/sums").json["items"]} >= {"torque", "tool", "pair"}
    found = mira.post(
        "/api/v1/sums/torque",
        {"texts": {"thread": "M20", "preload": "100 kN", "mu-thread": "0.12"}},
    ).json
    assert found["figures"][0] == {
        "key": "torque_Nm",
        "name": "torque",
        "value": "317.67 N·m",
        "second": "234.3 ft·lbf",
    }
    assert found["steps"][0]["source"]
    wrong = mira.post(
        "/api/v1/sums/torque", {"texts": {"thread": "M20", "preload": "100", "mu-thread": "0.12"}}
    )
    assert (wrong.status_code, wrong.json["errors"][0]["path"]) == (422, "preload")
    assert mira.post("/api/v1/sums/nothing", {"texts": {}}).status_code == 404
    assert mira.post("/api/v1/sums/torque", {"texts": []}).status_code == 422


def test_two_editors_over_http(client) -> None:
    one, two = client("mira"), client("mira")
    plan = first_plan(one)
    address = f"/api/v1/plans/{plan['id']}/draft"
    tag = one.get(address).headers["ETag"]
    document = one.get(address).json["document"]
    assert (
        one.put(
            address, {"document": {**document, "title": "One"}}, **{"If-Match": tag}
        ).status_code
        == 200
    )
    lost = two.put(address, {"document": {**document, "title": "Two"}}, **{"If-Match": tag})
    assert lost.status_code == 412
    assert "Other drafts" in lost.json["detail"]
    kept = two.get(f"/api/v1/plans/{plan['id']}/side-drafts").json["items"]
    assert [k["document"]["title"] for k in kept] == ["Two"]
    assert one.get(address).json["document"]["title"] == "One"
    assert one.put(address, {"document": document}).status_code == 422
    # a digit that is no number
    assert (
        one.put(
            address, {"document": document}, **{"If-Match": '"²"'.encode().decode("latin-1")}
        ).status_code
        == 422
    )
    tag = one.get(address).headers["ETag"]
    assert one.put(address, {"document": document}, **{"If-Match": tag}).status_code == 200


def test_roles_are_held_over_http(client) -> None:
    tam = client("tam")
    plan = first_plan(tam)
    answer = tam.post(f"/api/v1/plans/{plan['id']}/release", {}, **{"If-Match": '"2"'})
    assert (answer.status_code, answer.json["code"]) == (403, "forbidden")


def test_a_run_over_http(client) -> None:
    tam = client("tam")
    plan = first_plan(tam)
    end_open(tam)
    made = tam.post("/api/v1/runs", {"revision": plan["revision_id"], "device": "t1"})
    assert made.status_code == 201
    run = made.json["id"]
    step = tam.get(f"/api/v1/runs/{run}").json["state"]["instruction"]["step"]
    event = {
        "id": "01a20bd3-3300-76f8-88dd-2607edae5d49",
        "run": run,
        "step": step,
        "kind": "answer",
        "payload": {"answer": "done"},
        "device": "t1",
        "device_sequence": 1,
        "device_time": "2026-11-24T08:00:00Z",
        "lease": 1,
        "last_seen": 1,
    }
    batch = {"sent_at": "2026-11-24T08:00:01Z", "events": [event]}
    first = tam.post(f"/api/v1/runs/{run}/events", batch).json
    assert first["answers"][0]["verdict"] == "accepted"
    assert (
        tam.post(f"/api/v1/runs/{run}/events", batch).json["answers"][0]["verdict"] == "duplicate"
    )
    assert first["state"]["instruction"]["step"] != step
    assert tam.post(f"/api/v1/runs/{run}/events", {"sent_at": "x", "events": []}).status_code == 422
    assert (
        tam.post(f"/api/v1/runs/{run}/events", {"sent_at": "x", "events": [1] * 101}).status_code
        == 422
    )
    assert tam.get("/api/v1/runs?limit=2").json["next"] is not None
    assert tam.get("/api/v1/runs?limit=0").status_code == 422
    assert tam.post(f"/api/v1/runs/{run}/lease", {"device": "t2"}).json == {"epoch": 2}
    # the old device is told by a code, whatever the sentence says
    late = {
        **event,
        "id": "01a20bd3-3300-76f8-88dd-2607edae5d50",
        "device_sequence": 2,
        "step": first["state"]["instruction"]["step"],
    }
    told = tam.post(f"/api/v1/runs/{run}/events", {**batch, "events": [late]}).json["answers"][0]
    assert (told["verdict"], told["code"]) == ("conflict", "lease_lost")


def test_the_record_and_its_files(client) -> None:
    runa = client("runa")
    closed = next(
        r
        for r in runa.get("/api/v1/runs").json["items"]
        if r["status"] == "closed" and "cover" in r["title"]
    )
    record = runa.get(f"/api/v1/runs/{closed['id']}/record").json
    assert record["not_proven"] == ""
    assert len(record["record"]["tables"][0]["rows"]) == 16
    pdf = runa.get(f"/api/v1/runs/{closed['id']}/record.pdf")
    assert pdf.content_type == "application/pdf"
    text = pdf_text(pdf.data)
    for words in (
        "Close the channel cover",
        "Cover studs",
        "450 N·m",
        "Tam Hollis",
        "Check round",
        record["head_hash"][:16],
        "licensed practice",
    ):
        assert words in text
    table = list(
        csv.DictReader(
            io.StringIO(runa.get(f"/api/v1/runs/{closed['id']}/record.csv").data.decode())
        )
    )
    assert {row["person"] for row in table} and all(
        row["bolt"] and row["pass"] and row["answer"] for row in table
    )
    assert any(float(row["torque_Nm"]) > 1 for row in table if row["torque_Nm"])
    document = json.loads(runa.get(f"/api/v1/runs/{closed['id']}/record.json").data)
    assert document["format"] == "orthotorq.record"
    assert document["events"][-1]["hash"] == document["head_hash"]


def test_the_sheet_carries_figures_order_and_cautions(client) -> None:
    mira = client("mira")
    text = pdf_text(mira.get(f"/api/v1/revisions/{first_plan(mira)['revision_id']}/sheet.pdf").data)
    for words in (
        "450 N·m",
        "1 9 5 13 3 11 7 15",
        "Pressure off",
        "main 150, collar 8",
        "pressure off, cold",
        "socket 36 mm",
    ):
        assert words in text


def test_no_document_is_made_of_what_was_made_without(app, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(helpers, "DOCUMENTED", False)
    with pytest.raises(RuntimeError, match="without"):
        create_app()


def test_the_openapi_document_names_every_answer(app) -> None:
    document = app.api_doc
    assert document["openapi"].startswith("3.1")
    for path, methods in document["paths"].items():
        for method, operation in methods.items():
            assert {"401", "422"} <= set(operation["responses"]), (path, method)
            for answer in operation["responses"].values():
                for content in answer.get("content", {}).values():
                    reference = content["schema"].get("$ref", "")
                    if reference:
                        assert reference.rpartition("/")[2] in document["components"]["schemas"]
    assert document["components"]["schemas"]["Problem"]


def test_fields_that_are_terms_carry_their_meaning(app) -> None:
    schemas = app.api_doc["components"]["schemas"]
    nut_factor = next(term for term in TERMS if term.name == "Nut factor")
    said = schemas["FrictionOut"]["properties"]["nut_factor"]["description"]
    assert said == f"{nut_factor.meaning} (ASME PCC-1)"
    assert "description" not in schemas["GroupOut"]["properties"]["note"]


def test_tables_and_schema_are_served(client) -> None:
    mira = client("mira")
    tables = mira.get("/api/v1/tables").json
    assert "M24" in tables["threads"]
    assert "ISO 898-1 8.8" in tables["grades"]
    assert len(tables["lubricants"]) >= 20
    assert mira.get("/api/v1/plan-schema").json["properties"]["groups"]


def test_pages_are_served_for_every_screen_and_nothing_above_them(client) -> None:
    someone = client()
    for address in ("/", "/equipment", "/runs/x/record"):
        with someone.get(address) as answer:
            assert answer.content_type.startswith("text/html")
    with someone.get("/..%2f..%2f..%2fetc/passwd") as answer:
        assert b"root:" not in answer.data


def test_a_copied_cookie_is_worth_nothing_after_signing_out(client, app) -> None:
    tam = client("tam")
    cookie = tam.flask.get_cookie("orthotorq")
    assert cookie is not None
    copied = app.test_client()
    copied.set_cookie("orthotorq", cookie.value)
    assert copied.get("/api/v1/equipment").status_code == 200
    assert tam.flask.delete("/api/v1/session", headers={"X-CSRFToken": tam.csrf}).status_code == 200
    assert copied.get("/api/v1/equipment").status_code == 401


def test_the_password_of_the_demo_opens_nothing_where_the_demo_is_off(client, monkeypatch) -> None:
    nobody = client(None)
    monkeypatch.setenv("ORTHOTORQ_DEMO", "0")
    answer = nobody.post("/api/v1/session", {"login": "jory", "password": "saltworks"})
    assert (answer.status_code, answer.json["code"]) == (401, "not_signed_in")
