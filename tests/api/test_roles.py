"""Every address against every role: who may, who may not, and nobody without signing in."""

from __future__ import annotations

import json
import uuid
from typing import Any

import pytest

from tests.api.test_api import first_plan
from tests.plans import cover

PEOPLE = {"planner": "mira", "fitter": "tam", "supervisor": "runa", "administrator": "jory"}
EVERYBODY = set(PEOPLE)
NOBODY_ID = str(uuid.UUID(int=0))


def calls(client: Any) -> dict[str, tuple[set[str], Any]]:
    """Address -> (roles that may, the call)."""
    plan = first_plan(client("tam"))
    revision, draft = plan["revision_id"], f"/api/v1/plans/{plan['id']}/draft"
    machine = client("tam").get("/api/v1/equipment").json["items"][0]
    joint = machine["joints"][0]["id"]
    typed, unnamed = {"tag": "", "name": "", "area": ""}, {"tag": "", "name": "", "kind": ""}
    device = {"device": "d"}
    return {
        "equipment": (EVERYBODY, lambda c: c.get("/api/v1/equipment")),
        "joint": (EVERYBODY, lambda c: c.get(f"/api/v1/joints/{joint}")),
        "compute": (EVERYBODY, lambda c: c.post("/api/v1/compute", cover())),
        "working": (
            EVERYBODY,
            lambda c: c.post("/api/v1/working", {"document": cover(), "figure": "studs/torque"}),
        ),
        "sum": (EVERYBODY, lambda c: c.post("/api/v1/sums/units", {"texts": {"first": "1 N·m"}})),
        "draft": (EVERYBODY, lambda c: c.get(draft)),
        "sides": (EVERYBODY, lambda c: c.get(f"/api/v1/plans/{plan['id']}/side-drafts")),
        "revision": (EVERYBODY, lambda c: c.get(f"/api/v1/revisions/{revision}")),
        "sheet": (EVERYBODY, lambda c: c.get(f"/api/v1/revisions/{revision}/sheet.pdf")),
        "runs": (EVERYBODY, lambda c: c.get("/api/v1/runs")),
        "save": ({"planner"}, lambda c: c.put(draft, {"document": cover()}, **{"If-Match": '"1"'})),
        "release": (
            {"planner"},
            lambda c: c.post(f"/api/v1/plans/{plan['id']}/release", {}, **{"If-Match": '"1"'}),
        ),
        "new plan": (
            {"planner"},
            lambda c: c.post("/api/v1/plans", {"joint": joint, "title": "New"}),
        ),
        "new machine": ({"planner", "administrator"}, lambda c: c.post("/api/v1/equipment", typed)),
        "change machine": (
            {"planner", "administrator"},
            lambda c: c.put(f"/api/v1/equipment/{machine['id']}", typed),
        ),
        "new joint": (
            {"planner", "administrator"},
            lambda c: c.post("/api/v1/joints", {"equipment": machine["id"], **unnamed}),
        ),
        "change joint": (
            {"planner", "administrator"},
            lambda c: c.put(f"/api/v1/joints/{joint}", unnamed),
        ),
        "start": (
            {"fitter", "supervisor"},
            lambda c: c.post("/api/v1/runs", {"revision": revision, **device}),
        ),
        "lease": (
            {"fitter", "supervisor"},
            lambda c: c.post(f"/api/v1/runs/{NOBODY_ID}/lease", device),
        ),
        "events": (
            {"planner", "fitter", "supervisor"},
            lambda c: c.post(f"/api/v1/runs/{NOBODY_ID}/events", {"sent_at": "x", "events": [{}]}),
        ),
    }


@pytest.mark.parametrize("role", PEOPLE)
def test_each_role_may_what_the_table_says(client, role: str) -> None:
    someone = client(PEOPLE[role])
    for name, (roles, call) in calls(client).items():
        answer = call(someone)
        refused = answer.status_code == 403
        assert refused is (role not in roles), (name, answer.status_code, answer.text[:200])
        assert answer.status_code < 500, name
        if refused:
            assert answer.json["code"] == "forbidden"
            assert "role" in answer.json["detail"]


def test_nobody_may_anything(client) -> None:
    nobody = client()
    for name, (_, call) in calls(client).items():
        assert call(nobody).status_code == 401, name


def test_a_forged_session_is_nobody(client) -> None:
    nobody = client()
    nobody.flask.set_cookie("orthotorq", "eyJwZXJzb24iOiJ4In0.forged.signature")
    assert nobody.get("/api/v1/equipment").status_code == 401


def test_a_person_who_is_no_longer_active_is_nobody(client, app) -> None:
    from sqlalchemy import update

    from orthotorq.store.models import Person
    from orthotorq.web.database import sessions

    jory = client("jory")
    with sessions(app).begin() as session:
        session.execute(update(Person).where(Person.login == "jory").values(active=False))
    try:
        assert jory.get("/api/v1/equipment").status_code == 401
    finally:
        with sessions(app).begin() as session:
            session.execute(update(Person).where(Person.login == "jory").values(active=True))


def test_request_lines_carry_the_id_and_no_password(client, capsys) -> None:
    someone = client()
    answer = someone.post("/api/v1/session", {"login": "mira", "password": "a very secret word"})
    printed = capsys.readouterr().out
    assert answer.headers["X-Request-Id"] in printed
    assert "a very secret word" not in printed
    assert '"status": 401' in printed


def test_what_opens_something_is_in_no_line_of_the_log(client, capsys) -> None:
    nobody = client()
    nobody.get("/api/v1/invitations/a-link-that-is-secret")
    nobody.post(
        "/api/v1/invitations/a-link-that-is-secret", {"password": "five grey herons on a dyke"}
    )
    nobody.get("/calendar/a-calendar-that-is-secret.ics")
    nobody.get("/api/v1/a-made-up-address-that-is-secret")
    refused = client("tam").post("/api/v1/people/00000000-0000-0000-0000-000000000001/link")
    assert refused.status_code == 403
    printed = capsys.readouterr().out
    assert "secret" not in printed and "herons" not in printed
    lines = [json.loads(line) for line in printed.splitlines() if '"request"' in line]
    assert {"/api/v1/invitations/<token>"} <= {line["path"] for line in lines}
    # ids open nothing, and are what somebody looks for
    assert any("00000000-0000-0000-0000-000000000001" in line["path"] for line in lines)
    events = client("jory").get("/api/v1/security-events").json["items"]
    assert any(
        "/people/00000000-0000-0000-0000-000000000001/link" in one["words"] for one in events
    )
