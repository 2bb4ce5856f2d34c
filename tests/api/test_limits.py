"""Who asks too often is told to wait; others are not held up by it."""
from __future__ import annotations

from collections.abc import Iterator

import pytest
from flask import Flask

from orthotorq.web import create_app
from orthotorq.web.database import sessions
from orthotorq.web.limits import COSTLY, COSTLY_ONES
from tests.api.conftest import Client
from tests.conftest import Database

RATE = 60


@pytest.fixture
def app(database: Database) -> Iterator[Flask]:
    with pytest.MonkeyPatch.context() as patch:
        patch.setenv("ORTHOTORQ_DATABASE_URL", database.app_url)
        patch.setenv("ORTHOTORQ_RATE", str(RATE))
        made = create_app()
        yield made
        sessions(made).kw["bind"].dispose()


def test_a_device_that_asks_without_end_is_told_to_wait_and_others_are_not(app: Flask) -> None:
    wild, calm = Client(app.test_client(), "tam"), Client(app.test_client(), "tam")
    found = [wild.get("/api/v1/session").status_code for _ in range(RATE + 5)]
    assert found[:RATE - 5] == [200] * (RATE - 5) and found[-1] == 429
    told = wild.get("/api/v1/session")
    assert told.json["code"] == "too_many" and "wait a little" in told.json["detail"] and told.headers["Retry-After"]
    # the same person on another device, and who looks whether the server is well
    assert calm.get("/api/v1/session").status_code == 200
    assert wild.flask.get("/health").status_code == 200


def test_what_costs_seconds_is_counted_by_person_on_whatever_device(app: Flask) -> None:
    one, two, other = (Client(app.test_client(), login) for login in ("mira", "mira", "runa"))
    found = [(one, two)[n % 2].get("/api/v1/plans.zip").status_code for n in range(COSTLY + 1)]
    assert found == [200] * COSTLY + [429]
    # one count for all of it
    assert one.get("/api/v1/labels.pdf?what=joints&ids=").status_code == 429
    assert one.get("/api/v1/session").status_code == 200
    assert other.get("/api/v1/plans.zip").status_code == 200


def test_every_file_that_is_made_or_read_is_among_what_costs(app: Flask) -> None:
    made = {rule.endpoint for rule in app.url_map.iter_rules()
            if rule.rule.startswith("/api/v1/") and rule.rule.rsplit(".", 1)[-1] in ("pdf", "zip", "xlsx")}
    assert made <= set(COSTLY_ONES)
