"""A fresh application over a copy of the demo, and clients that know about CSRF."""
from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

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
