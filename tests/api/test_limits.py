"""Who asks too often is told to wait; others are not held up by it."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from concurrent.futures import Future, ThreadPoolExecutor, wait
from typing import Any

import pytest
from flask import Flask

from orthotorq.store.engine import POOL, POOL_MORE
from orthotorq.web import create_app
from orthotorq.web.database import sessions
from orthotorq.web.limits import COSTLY, COSTLY_ONES, IN_TURN, MOST_OF_ALL, MOST_OF_ONE
from tests.api.conftest import Client, eventually
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
    assert found[: RATE - 5] == [200] * (RATE - 5) and found[-1] == 429
    told = wild.get("/api/v1/session")
    assert (
        told.json["code"] == "too_many"
        and "wait a little" in told.json["detail"]
        and told.headers["Retry-After"]
    )
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
    made = {
        rule.endpoint
        for rule in app.url_map.iter_rules()
        if rule.rule.startswith("/api/v1/")
        and rule.rule.rsplit(".", 1)[-1] in ("pdf", "zip", "xlsx")
    }
    assert made <= set(COSTLY_ONES)


@pytest.fixture
def pressing(monkeypatch: pytest.MonkeyPatch) -> Iterator[threading.Event]:
    """Sheets of labels take until the event is set."""
    done = threading.Event()

    def slow(*_: object) -> bytes:
        done.wait(20)
        return b"%PDF"

    monkeypatch.setattr("orthotorq.services.registers.labels.render_labels", slow)
    yield done
    done.set()


def at_once(app: Flask, logins: list[str], path: str) -> list[Future[Any]]:
    """Ask from as many devices at the same time."""
    clients = [Client(app.test_client(), login) for login in logins]
    pool = ThreadPoolExecutor(len(clients))
    asked = [pool.submit(one.get, path) for one in clients]
    pool.shutdown(wait=False)
    return asked


def told(asked: list[Future[Any]], many: int) -> list[Any]:
    """The answers there are while the others are pressed; as many as come at once."""
    eventually(lambda: sum(one.done() for one in asked) >= many)
    return [one.result() for one in wait(asked, 0.5).done]


def test_one_person_has_only_so_much_in_hand_and_the_rest_is_told_at_once(
    app: Flask, pressing: threading.Event
) -> None:
    asked = at_once(app, ["mira"] * 9, "/api/v1/labels.pdf?what=joints&ids=")
    refused = told(asked, 9 - MOST_OF_ONE)
    assert [one.status_code for one in refused] == [429] * (9 - MOST_OF_ONE)
    assert (
        f"{MOST_OF_ONE} files of yours" in refused[0].json["detail"]
        and refused[0].headers["Retry-After"]
    )
    # others print, and are answered, meanwhile
    beside = Client(app.test_client(), "runa")
    assert beside.get("/api/v1/shift").status_code == 200
    assert beside.get("/api/v1/shift.pdf").status_code == 200
    pressing.set()
    assert sorted(one.result().status_code for one in asked) == [200] * MOST_OF_ONE + [429] * (
        9 - MOST_OF_ONE
    )
    assert (
        Client(app.test_client(), "mira").get("/api/v1/labels.pdf?what=joints&ids=").status_code
        == 200
    )


def test_all_of_them_together_leave_threads_for_what_is_quick(
    app: Flask, pressing: threading.Event
) -> None:
    people = ["mira", "tam", "runa", "jory"] * MOST_OF_ONE
    asked = at_once(app, people, "/api/v1/labels.pdf?what=joints&ids=")
    refused = told(asked, len(people) - MOST_OF_ALL)
    assert len(refused) == len(people) - MOST_OF_ALL and {one.status_code for one in refused} == {
        503
    }
    assert all(one.headers["Retry-After"] for one in refused)
    pressing.set()
    assert [one.result().status_code for one in asked].count(200) == MOST_OF_ALL


def test_no_connection_waits_while_the_helper_works(app: Flask, pressing: threading.Event) -> None:
    asked = at_once(app, ["mira", "tam", "runa"], "/api/v1/labels.pdf?what=joints&ids=")
    assert told(asked, 0) == []
    pool = sessions(app).kw["bind"].pool
    # each looks up who asks, and what for, before it comes to the helper: on a slow machine that
    # takes a while
    eventually(lambda: pool.checkedout() == 0)
    assert not any(one.done() for one in asked)
    pressing.set()
    assert {one.result().status_code for one in asked} == {200}


def test_who_finds_no_connection_is_told_to_come_again(
    app: Flask, monkeypatch: pytest.MonkeyPatch
) -> None:
    one = Client(app.test_client(), "mira")
    pool = sessions(app).kw["bind"].pool
    monkeypatch.setattr(pool, "_timeout", 0.2)
    held = [sessions(app).kw["bind"].connect() for _ in range(POOL + POOL_MORE)]
    try:
        found = one.get("/api/v1/equipment")
        assert (found.status_code, found.json["code"]) == (503, "busy") and found.headers[
            "Retry-After"
        ]
        assert (
            one.flask.get("/health").status_code == 503
            and one.flask.get("/ready").status_code == 503
        )
    finally:
        for connection in held:
            connection.close()
    assert one.get("/api/v1/equipment").status_code == 200


def test_everything_that_prints_or_opens_a_file_is_done_in_turn(app: Flask) -> None:
    takes = {
        "runs.post_photo",
        "records.post_look",
        "records.post_readings",
        "registers.post_register",
        "exchange.post_import",
    }
    assert takes | set(COSTLY_ONES) == set(IN_TURN)
