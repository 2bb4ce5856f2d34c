"""A fresh application over a copy of the demo, and clients that know about CSRF."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from typing import Any
from uuid import uuid4

import pytest
from flask import Flask
from flask.testing import FlaskClient

from orthotorq.web import create_app
from orthotorq.web.database import sessions
from tests.conftest import Database


@pytest.fixture(scope="module")
def app(database: Database) -> Iterator[Flask]:
    with pytest.MonkeyPatch.context() as patch:
        patch.setenv("ORTHOTORQ_DATABASE_URL", database.app_url)
        made = create_app()
        yield made
        sessions(made).kw["bind"].dispose()


def eventually(holds: Callable[[], bool], seconds: float = 15) -> None:
    """Wait until something holds, however slow the machine is."""
    until = time.monotonic() + seconds
    while not holds():
        assert time.monotonic() < until, "it never came"
        time.sleep(0.02)


class Client:
    """A signed-in client."""

    def __init__(self, flask: FlaskClient, login: str | None) -> None:
        self.flask = flask
        self.csrf = flask.get("/api/v1/session").json["csrf"]
        if login:
            answer = self.post("/api/v1/session", {"login": login, "password": "saltworks"})
            assert answer.status_code == 200, answer.text
            self.csrf = answer.json["csrf"]

    def get(self, path: str) -> Any:
        return self.flask.get(path)

    def post(self, path: str, body: Any = None, **headers: str) -> Any:
        return self.flask.post(path, json=body, headers={"X-CSRFToken": self.csrf, **headers})

    def put(self, path: str, body: Any, **headers: str) -> Any:
        return self.flask.put(path, json=body, headers={"X-CSRFToken": self.csrf, **headers})


@pytest.fixture
def client(app: Flask) -> Callable[[str | None], Client]:
    return lambda login=None: Client(app.test_client(), login)


def end_open(client: Client) -> None:
    """End every run in progress: two do not work on one joint."""
    for run in client.get("/api/v1/runs").json["items"]:
        if run["status"] == "running":
            event = {
                "id": f"0190a000-0000-7000-8000-{uuid4().hex[:12]}",
                "run": run["id"],
                "step": "-",
                "kind": "abandon",
                "payload": {"reason": "another one begins"},
                "device": uuid4().hex,
                "device_sequence": 1,
                "device_time": "2026-11-26T08:00:00Z",
                "lease": 1,
                "last_seen": 0,
            }
            client.post(
                f"/api/v1/runs/{run['id']}/events",
                {"sent_at": "2026-11-26T08:00:00Z", "events": [event]},
            )
