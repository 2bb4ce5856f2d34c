"""Sheets that are kept with their revision: made once, anew where something changed, and never what
somebody else wrote."""

from __future__ import annotations

from typing import Any

from flask import Flask
from sqlalchemy import select, text

from orthotorq.services.planning import sheets
from orthotorq.store.models import KeptSheet
from orthotorq.web.database import sessions
from tests.api.test_api import first_plan


def kept(app: Flask) -> tuple[Any, bytes]:
    with sessions(app)() as session:
        row = session.scalars(select(KeptSheet).where(KeptSheet.name == "plan")).one()
        return row.made_at, row.data


def test_a_sheet_is_made_once_and_anew_where_something_changed(
    app: Flask, client: Any, monkeypatch: Any
) -> None:
    mira = client("mira")
    plan = first_plan(mira)
    address = f"/api/v1/revisions/{plan['revision_id']}/sheet.pdf"
    first = mira.get(address).data
    made = kept(app)
    assert first == made[1] and mira.get(address).data == first and kept(app) == made
    # another name on it, or another program: anew
    joint = next(
        (machine, one)
        for machine in mira.get("/api/v1/equipment").json["items"]
        for one in machine["joints"]
        if plan["id"] in [p["id"] for p in one["plans"]]
    )[1]
    body = {"tag": joint["tag"], "name": "Called otherwise", "kind": joint["kind"]}
    assert mira.put(f"/api/v1/joints/{joint['id']}", body).status_code in (200, 204)
    assert mira.get(address).data != first and kept(app)[0] > made[0]
    made = kept(app)
    monkeypatch.setattr(sheets, "_program", lambda: "newer")
    mira.get(address)
    assert kept(app)[0] > made[0]


def test_a_sheet_that_was_written_past_the_application_is_not_given_out(
    app: Flask, client: Any
) -> None:
    """People pull by what is printed: who has the password of the database writes no torque."""
    mira = client("mira")
    address = f"/api/v1/revisions/{first_plan(mira)['revision_id']}/sheet.pdf"
    mira.get(address)
    with sessions(app).begin() as session:
        session.execute(text("UPDATE kept_sheet SET data = '%PDF-1.7 990 N·m'::bytea"))
    answer = mira.get(address).data
    assert answer.startswith(b"%PDF") and b"990" not in answer[:40] and len(answer) > 10_000
    assert kept(app)[1] == answer
