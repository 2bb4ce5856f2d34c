"""Every field of an event given every bad value: a verdict and a sentence, never a 500, and the run
goes on."""

from __future__ import annotations

from typing import Any

import pytest

from tests.api.conftest import end_open
from tests.api.test_api import first_plan
from tests.core.test_fuzz import paths, put

BAD = [
    None,
    True,
    -1,
    0,
    10**18,
    "",
    "nonsense",
    [],
    {},
    {"answer": []},
    "x" * 5000,
    "01a20bd3-3300-46f8-88dd-2607edae5d49",
]


@pytest.fixture
def run(client) -> tuple[Any, str, str]:
    tam = client("tam")
    end_open(tam)
    made = tam.post(
        "/api/v1/runs", {"revision": first_plan(tam)["revision_id"], "device": "t"}
    ).json["id"]
    return tam, made, tam.get(f"/api/v1/runs/{made}").json["state"]["instruction"]["step"]


def event(run: str, step: str, number: int) -> dict[str, Any]:
    return {
        "id": f"01a20bd3-3300-7{number:03x}-88dd-{run[-12:]}",
        "run": run,
        "step": step,
        "kind": "answer",
        "payload": {"answer": "done"},
        "device": "t",
        "device_sequence": number,
        "device_time": "2026-11-24T08:00:00Z",
        "lease": 1,
        "last_seen": 1,
    }


def test_bad_events_are_refused_and_the_run_goes_on(run) -> None:
    tam, made, step = run
    number = 1
    for path in paths(event(made, step, 1)):
        for value in BAD:
            sent = put(event(made, step, number), path, value)
            answer = tam.post(f"/api/v1/runs/{made}/events", {"sent_at": "x", "events": [sent]})
            assert answer.status_code == 200, (path, value, answer.text)
            found = answer.json["answers"][0]
            assert found["verdict"] in ("refused", "gap", "conflict", "accepted", "duplicate")
            assert found["text"] or found["verdict"] == "accepted"
            number = max(number, highest(tam, made, number))
    state = tam.get(f"/api/v1/runs/{made}").json["state"]
    assert state["instruction"] is not None
    assert tam.get(f"/api/v1/runs/{made}/record").json["not_proven"] == ""


def highest(tam: Any, run: str, number: int) -> int:
    """The device's next number: found by asking with one that is far ahead."""
    ahead = {
        **event(run, "-", 4000),
        "kind": "note",
        "payload": {"text": "x"},
        "device_sequence": 9_000_000,
    }
    answer = tam.post(f"/api/v1/runs/{run}/events", {"sent_at": "x", "events": [ahead]}).json[
        "answers"
    ][0]
    return answer["missing"] or number


def test_a_batch_is_answered_event_by_event(run) -> None:
    tam, made, step = run
    batch = [
        event(made, step, 1),
        {"rubbish": True},
        event(made, "-/close/full/r1/studs.1", 2),
        event(made, "-", 9),
    ]
    found = tam.post(f"/api/v1/runs/{made}/events", {"sent_at": "x", "events": batch}).json[
        "answers"
    ]
    assert [a["verdict"] for a in found] == ["accepted", "refused", "refused", "gap"]
    assert found[3]["missing"] == 3


def test_a_run_of_somewhere_else_is_not_found(run) -> None:
    tam, made, step = run
    other = made[:-1] + ("0" if made[-1] != "0" else "1")
    assert (
        tam.post(
            f"/api/v1/runs/{other}/events", {"sent_at": "x", "events": [event(made, step, 1)]}
        ).status_code
        == 404
    )
    assert tam.get("/api/v1/runs/not-an-id").status_code == 404


@pytest.mark.parametrize("text", ["\x00", "\ud800", "a\udfffb"])
@pytest.mark.parametrize(
    "address", ["/api/v1/compute", "/api/v1/plans", "/api/v1/session", "/api/v1/sums/units", "RUN"]
)
def test_characters_that_are_no_text_are_refused_everywhere(run, address: str, text: str) -> None:
    tam, made, _ = run
    bodies = {
        "/api/v1/plans": {"joint": made, "title": text},
        "/api/v1/session": {"login": text, "password": text},
        "/api/v1/sums/units": {"texts": {"first": text}},
        "RUN": {
            "sent_at": "x",
            "events": [{**event(made, "-", 1), "kind": "note", "payload": {"text": text}}],
        },
    }
    body = bodies.get(address, {"format": "orthotorq.plan", "version": 1, "title": text})
    answer = tam.post(address.replace("RUN", f"/api/v1/runs/{made}/events"), body)
    assert answer.status_code == 400, answer.text
    assert "surrogate" in answer.json["detail"]
