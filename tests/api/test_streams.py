"""Streams of samples: server-sent events in the pace of the pull, so many at once, ended with their
result."""

from __future__ import annotations

import json
from types import SimpleNamespace
from typing import Any
from uuid import uuid4

import pytest

from orthotorq.web.api import devices
from tests.api.conftest import Client, end_open


def open_run(client: Client) -> tuple[str, dict[str, Any]]:
    """A run whose open step takes a pull."""
    plans = client.get("/api/v1/equipment").json
    joint = next(
        j["id"]
        for machine in plans["items"]
        for j in machine["joints"]
        if j["name"] == "Channel cover"
    )
    revision = client.get(f"/api/v1/joints/{joint}").json["plans"][0]["revision_id"]
    end_open(client)
    run = client.post("/api/v1/runs", {"revision": revision, "device": "d"}).json["id"]
    for number in range(1, 60):
        state = client.get(f"/api/v1/runs/{run}").json["state"]
        step = state["instruction"]
        if "pull" in step["devices"]:
            return run, step
        answer: dict[str, Any] = {"answer": step["buttons"][0]["answer"]}
        if step["entry"] == "reading":
            answer |= {
                "value": step["limit_text"]
                .split(",")[0]
                .removeprefix("at least ")
                .removeprefix("at most "),
                "sure": True,
            }
        event = {
            "id": f"0190a000-0000-7000-8000-{uuid4().hex[:12]}",
            "run": run,
            "step": step["step"],
            "kind": "answer",
            "payload": answer,
            "device": "d",
            "device_sequence": number,
            "device_time": "2026-11-26T08:00:00Z",
            "lease": 1,
            "last_seen": 0,
        }
        answered = client.post(
            f"/api/v1/runs/{run}/events", {"sent_at": "2026-11-26T08:00:00Z", "events": [event]}
        ).json
        assert answered["answers"][0]["verdict"] == "accepted", answered["answers"]
    raise AssertionError("no step takes a pull")


def events(text: str) -> list[tuple[str, Any]]:
    """(name, data) of every server-sent event."""
    parts = [
        dict(line.split(": ", 1) for line in part.splitlines())
        for part in text.strip().split("\n\n")
    ]
    return [(part["event"], json.loads(part["data"])) for part in parts]


def test_a_stream_keeps_the_pace_of_the_pull_and_ends_with_its_result(
    client: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    slept = list[float]()
    clock = SimpleNamespace(sleep=slept.append, monotonic=lambda: sum(slept), time=lambda: 0.0)
    monkeypatch.setattr(devices, "time", clock)
    tam = client("tam")
    run, step = open_run(tam)
    pull = tam.post(
        f"/api/v1/runs/{run}/pulls", {"step": step["step"], "device": "simulated-angle-wrench"}
    ).json
    answer = tam.get(f"/api/v1/pulls/{pull['id']}/stream")
    assert (
        answer.content_type.startswith("text/event-stream")
        and answer.headers["Cache-Control"] == "no-store"
    )
    told = events(answer.text)
    answer.close()
    assert [name for name, _ in told[:-1]] == ["samples"] * (len(told) - 1) and told[-1][
        0
    ] == "result"
    assert sum(slept) == pytest.approx(pull["seconds"], abs=0.02)
    seconds = [s for _, part in told[:-1] for s in part["seconds"]]
    assert len(seconds) / seconds[-1] >= 50 and 8 <= (len(told) - 1) / seconds[-1] <= 12
    assert told[-1][1] == {"pull": pull["id"], **pull["result"]}


def test_one_worker_serves_so_many_streams_at_once_and_says_when_it_is_full(client: Any) -> None:
    tam = client("tam")
    run, step = open_run(tam)
    pull = tam.post(
        f"/api/v1/runs/{run}/pulls", {"step": step["step"], "device": "simulated-click-wrench"}
    ).json["id"]
    held = [
        tam.flask.get(f"/api/v1/pulls/{pull}/stream", buffered=False)
        for _ in range(devices.STREAMS)
    ]
    assert {h.status_code for h in held} == {200}
    full = tam.get(f"/api/v1/pulls/{pull}/stream")
    assert full.status_code == 503 and "Too many measurements" in full.json["detail"]
    # one that is cut in the middle gives its place back, even one that was never read
    for one in held:
        one.close()
    after = tam.flask.get(f"/api/v1/pulls/{pull}/stream", buffered=False)
    assert after.status_code == 200
    after.close()


@pytest.mark.parametrize(
    ("path", "status"),
    [
        ("/api/v1/pulls/00000000-0000-0000-0000-000000000000/stream", 404),
        ("/api/v1/pulls/x/stream", 404),
        ("/api/v1/runs/00000000-0000-0000-0000-000000000000/traces", 404),
    ],
)
def test_what_is_not_there_is_not_streamed(client: Any, path: str, status: int) -> None:
    assert client("tam").get(path).status_code == status
