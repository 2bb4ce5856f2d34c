"""Files over HTTP: every address that takes one takes it, says what is wrong with it, and refuses
one that is too large."""

from __future__ import annotations

import json
from typing import Any
from urllib.parse import quote

import pytest
from flask import Flask

from orthotorq.core.simulation.pull import Pull, trace_of
from orthotorq.devices.raw import write_raw
from orthotorq.web.request_limits import FILES
from tests.api.conftest import Client
from tests.api.test_streams import open_run


def send(client: Client, path: str, data: bytes, kind: str = "text/csv") -> Any:
    return client.flask.post(
        path, data=data, headers={"X-CSRFToken": client.csrf, "Content-Type": kind}
    )


def test_every_address_for_a_file_is_one_and_refuses_more_than_its_most(
    app: Flask, client: Any
) -> None:
    mira = client("mira")
    for endpoint, most in FILES.items():
        rule = next(r for r in app.url_map.iter_rules() if r.endpoint == endpoint)
        path = rule.rule.replace("<uuid:id>", "00000000-0000-0000-0000-000000000000")
        answer = send(mira, f"{path}?step=x&how=x", b"0" * (most + 1))
        assert answer.status_code == 413, endpoint
        assert "large" in answer.json["detail"].lower()


def test_a_pull_from_a_file(client: Any) -> None:
    tam = client("tam")
    run, step = open_run(tam)
    path = f"/api/v1/runs/{run}/pulls/raw?step={quote(step['step'])}"
    made = send(tam, path, write_raw(trace_of(Pull(180.0, 27.0, 2.4))).encode())
    assert made.status_code == 201 and made.json["device"] == "file"
    told = send(tam, path, b"# orthotorq.pull 1\nseconds,torque_Nm,angle_deg\n1,2,3\n")
    assert told.status_code == 422 and "cut off" in told.json["detail"]
    assert tam.get(f"/api/v1/runs/{run}").json["state"]["instruction"]["step"] == step["step"]


def test_readings_from_a_table(client: Any) -> None:
    mira = client("mira")
    number = mira.get("/api/v1/runs").json["items"][0]["number"]
    data = f"run;bolt;torque\n{number};1;55,5\n".encode()
    look = send(mira, "/api/v1/readings/look", data)
    assert look.json["columns"] == {"run": 0, "bolt": 1, "torque": 2}
    how = quote(json.dumps({"columns": look.json["columns"], "units": {"torque": "N·m"}}))
    assert send(mira, f"/api/v1/readings?how={how}", data).status_code == 202
    for bad in ("", "{}", "[", json.dumps({"columns": {"bolt": -1}})):
        assert send(mira, f"/api/v1/readings?how={quote(bad)}", data).status_code == 422, bad
    assert send(mira, "/api/v1/readings/look", b"\xff\xfe\x00").status_code == 422


@pytest.mark.parametrize("kind", ["application/octet-stream", "application/json"])
def test_a_record_goes_out_and_comes_in_again(client: Any, kind: str) -> None:
    mira = client("mira")
    run = mira.get("/api/v1/runs").json["items"][-1]["id"]
    sent = mira.get(f"/api/v1/runs/{run}/record.json")
    made = send(mira, "/api/v1/records", sent.data, kind)
    assert made.status_code == 201
    assert mira.get(f"/api/v1/records/{made.json['id']}").json["file"] == sent.json
    assert made.json["id"] in [x["id"] for x in mira.get("/api/v1/records").json["items"]]
    broken = sent.data.replace(b'"accepted":true', b'"accepted":false', 1)
    assert "does not hold" in send(mira, "/api/v1/records", broken, kind).json["detail"]
    assert (
        mira.get("/api/v1/schemas/record").json["properties"]["format"]["const"]
        == "orthotorq.record"
    )
    book = mira.get(f"/api/v1/runs/{run}/record.xlsx")
    assert book.data[:2] == b"PK" and "spreadsheetml" in book.content_type
