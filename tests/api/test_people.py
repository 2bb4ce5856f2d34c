"""People: invited, given roles, put out of action; passwords, sessions, what is watched; whether
all is well."""

from __future__ import annotations

import shutil
from typing import Any

import pytest
from argon2 import PasswordHasher, extract_parameters
from argon2.profiles import RFC_9106_LOW_MEMORY
from psycopg.errors import DiskFull
from sqlalchemy.exc import OperationalError

from orthotorq.core.thresholds import FAILED_ADDRESS
from tests.api.conftest import Client

LONG = "five grey herons on a dyke"


def errors_of(answer: Any) -> dict[str, str]:
    assert answer.status_code in (400, 422), answer.text
    return {one["path"]: one["text"] for one in answer.json["errors"]}


def invited(client: Any, login: str, roles: list[str]) -> str:
    made = client("jory").post(
        "/api/v1/people", {"login": login, "name": f"{login.title()} Example", "roles": roles}
    )
    assert made.status_code == 201, made.text
    return str(made.json["link"]).rsplit("/", 1)[1]


def person_of(client: Any, login: str) -> dict[str, Any]:
    return next(
        one for one in client("jory").get("/api/v1/people").json["items"] if one["login"] == login
    )


def signs_in(client: Any, login: str, password: str) -> Any:
    return client().post("/api/v1/session", {"login": login, "password": password})


def test_somebody_is_invited_sets_a_password_once_and_works(client: Any) -> None:
    token, nobody = invited(client, "wim", ["fitter", "planner"]), client()
    assert person_of(client, "wim")["invited"] is not None
    assert nobody.get(f"/api/v1/invitations/{token}").json == {
        "login": "wim",
        "name": "Wim Example",
    }
    assert signs_in(client, "wim", "-").status_code == 401
    assert nobody.post(f"/api/v1/invitations/{token}", {"password": LONG}).status_code == 200
    assert nobody.post(f"/api/v1/invitations/{token}", {"password": LONG}).status_code == 409
    assert nobody.get(f"/api/v1/invitations/{token}").status_code == 409
    entered = signs_in(client, "wim", LONG)
    assert entered.json["person"]["roles"] == ["fitter", "planner"]
    found = person_of(client, "wim")
    assert (found["invited"], found["sessions"]) == (None, 1)


@pytest.mark.parametrize(
    ("password", "words"),
    [
        ("short", "12 to 128"),
        ("x" * 129, "12 to 128"),
        ("aaaaaaaaaaaaaa", "tried first"),
        ("password1234", "tried first"),
        ("wanda example", "more than your name"),
    ],
)
def test_a_password_that_is_none_is_said_and_the_link_still_works(
    client: Any, password: str, words: str
) -> None:
    token = invited(client, f"wanda{len(password)}{password[0]}", ["fitter"])
    if password.startswith("wanda"):
        password = f"wanda{len(password)}{password[0]}12345"
    assert (
        words
        in errors_of(client().post(f"/api/v1/invitations/{token}", {"password": password}))[
            "password"
        ]
    )
    assert client().post(f"/api/v1/invitations/{token}", {"password": LONG}).status_code == 200


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({"login": "Has Blank", "name": "N", "roles": ["fitter"]}, "login"),
        ({"login": "tam", "name": "N", "roles": ["fitter"]}, "login"),
        ({"login": "ok1", "name": " ", "roles": ["fitter"]}, "name"),
        ({"login": "ok2", "name": "N", "roles": []}, "roles"),
        ({"login": "ok3", "name": "N", "roles": ["king"]}, "roles"),
        ({"login": "ok4", "name": "a\nb", "roles": ["fitter"]}, "name"),
    ],
)
def test_who_cannot_be_invited_is_said_at_the_field(
    client: Any, body: dict[str, Any], field: str
) -> None:
    assert field in errors_of(client("jory").post("/api/v1/people", body))


def test_who_is_put_out_of_action_is_signed_out_at_once_and_the_last_administrator_stays(
    client: Any,
) -> None:
    token = invited(client, "olga", ["fitter"])
    client().post(f"/api/v1/invitations/{token}", {"password": LONG})
    olga = client()
    olga.csrf = olga.post("/api/v1/session", {"login": "olga", "password": LONG}).json["csrf"]
    assert olga.get("/api/v1/equipment").status_code == 200
    found, chief = person_of(client, "olga"), client("jory")
    out = {"name": "Olga Example", "roles": ["fitter"], "active": False}
    assert chief.put(f"/api/v1/people/{found['id']}", out).status_code == 204
    assert olga.get("/api/v1/equipment").status_code == 401
    assert signs_in(client, "olga", LONG).status_code == 401
    # back in action, the old session stays ended
    assert chief.put(f"/api/v1/people/{found['id']}", {**out, "active": True}).status_code == 204
    assert olga.get("/api/v1/equipment").status_code == 401
    me = person_of(client, "jory")
    for change in (
        {"roles": ["fitter"], "active": True},
        {"roles": ["administrator"], "active": False},
    ):
        refused = chief.put(f"/api/v1/people/{me['id']}", {"name": me["name"], **change})
        assert (
            refused.status_code == 409
            and "No administrator would be left" in refused.json["detail"]
        )
    assert chief.get("/api/v1/equipment").status_code == 200


def test_a_new_link_ends_the_old_password_and_the_links_before_it(client: Any) -> None:
    first = invited(client, "piet", ["fitter"])
    found = person_of(client, "piet")
    second = (
        client("jory").post(f"/api/v1/people/{found['id']}/link").json["link"].rsplit("/", 1)[1]
    )
    assert client().post(f"/api/v1/invitations/{first}", {"password": LONG}).status_code == 409
    assert client().post(f"/api/v1/invitations/{second}", {"password": LONG}).status_code == 200
    client("jory").post(f"/api/v1/people/{found['id']}/link")
    assert signs_in(client, "piet", LONG).status_code == 401


def test_ones_own_password_and_sessions(client: Any, app: Any) -> None:
    token = invited(client, "quinn", ["planner"])
    client().post(f"/api/v1/invitations/{token}", {"password": LONG})

    def entered() -> Client:
        made = client()
        made.csrf = made.post("/api/v1/session", {"login": "quinn", "password": LONG}).json["csrf"]
        return made

    here, there, third = entered(), entered(), entered()
    sessions = here.get("/api/v1/sessions").json["items"]
    assert len(sessions) == 3 and sum(one["this"] for one in sessions) == 1
    other = there.get("/api/v1/sessions").json["items"]
    of_there = next(one["id"] for one in other if one["this"])
    assert (
        here.flask.delete(
            f"/api/v1/sessions/{of_there}", headers={"X-CSRFToken": here.csrf}
        ).status_code
        == 204
    )
    assert there.get("/api/v1/equipment").status_code == 401
    foreign = client("tam")
    assert (
        foreign.flask.delete(
            f"/api/v1/sessions/{sessions[0]['id']}", headers={"X-CSRFToken": foreign.csrf}
        ).status_code
        == 404
    )
    assert "old" in errors_of(
        here.put("/api/v1/password", {"old": "not this one", "new": "other herons in the grey"})
    )
    assert "new" in errors_of(here.put("/api/v1/password", {"old": LONG, "new": "short"}))
    assert (
        here.put("/api/v1/password", {"old": LONG, "new": "other herons in the grey"}).status_code
        == 204
    )
    assert here.get("/api/v1/equipment").status_code == 200
    assert third.get("/api/v1/equipment").status_code == 401
    assert signs_in(client, "quinn", LONG).status_code == 401


def test_what_is_watched_is_kept_and_shown_to_administrators_alone(client: Any) -> None:
    signs_in(client, "nobody.here", "something")
    tam = client("tam")
    assert tam.get("/api/v1/security-events").status_code == 403
    assert tam.get("/api/v1/people").status_code == 403
    found = client("jory").get("/api/v1/security-events?limit=50").json["items"]
    said = [(one["who"], one["kind"], one["words"]) for one in found]
    assert ("nobody.here", "gave a wrong password", "") in said
    assert ("Tam Hollis", "was refused", "GET /api/v1/security-events") in said
    page = client("jory").get("/api/v1/security-events?limit=1").json
    before = client("jory").get(
        f"/api/v1/security-events?limit=1&before={page['next'].replace('+', '%2B')}"
    )
    assert before.json["items"][0]["at"] < page["items"][0]["at"]


def test_whether_all_is_well_is_said_in_parts(client: Any) -> None:
    nobody = client()
    assert nobody.get("/health").json == {"status": "ok"}
    ready = nobody.get("/ready")
    assert ready.status_code == 200 and ready.json["status"] == "ready"
    assert (ready.json["database"], ready.json["schema"]) == ("ok", "ok")
    assert "no sign of life" in ready.json["worker"]


@pytest.mark.parametrize(
    ("name", "value", "part", "words"),
    [
        ("ORTHOTORQ_FRONTEND", "nowhere", "front_end", "is missing"),
        ("ORTHOTORQ_DISKS", ".:/nowhere/at/all", "disk", "/nowhere/at/all"),
    ],
)
def test_it_is_not_ready_where_something_is_missing(
    client: Any, monkeypatch: pytest.MonkeyPatch, name: str, value: str, part: str, words: str
) -> None:
    monkeypatch.setenv(name, value)
    found = client().get("/ready")
    assert (
        found.status_code == 503
        and found.json["status"] == "not ready"
        and words in found.json[part]
    )


def test_it_is_not_ready_where_the_disk_of_the_database_is_full(
    client: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    real = shutil.disk_usage
    monkeypatch.setenv("ORTHOTORQ_DISKS", ".:/var")
    monkeypatch.setattr(
        "shutil.disk_usage",
        lambda folder: real(".")._replace(free=0) if folder == "/var" else real("."),
    )
    assert "/var" in client().get("/ready").json["disk"]


def test_it_is_not_ready_where_nothing_can_be_written(
    client: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    def full(self: Any, *args: Any, **kwargs: Any) -> Any:
        raise OperationalError("", {}, DiskFull("could not write: No space left on device"))

    with monkeypatch.context() as patch:
        patch.setattr("sqlalchemy.orm.Session.commit", full)
        found = client().get("/ready")
    assert found.status_code == 503 and "cannot write" in found.json["database"]
    assert client().get("/ready").status_code == 200


def test_figures_are_for_this_machine_or_who_has_the_token(
    client: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    nobody = client()
    nobody.get("/api/v1/session")
    found = nobody.get("/metrics")
    counted = 'orthotorq_requests_total{method="GET",route="/api/v1/session",status="200"}'
    assert found.status_code == 200 and counted in found.text
    assert nobody.flask.get("/metrics", headers={"X-Forwarded-For": "10.0.0.9"}).status_code == 404
    monkeypatch.setenv("ORTHOTORQ_METRICS_TOKEN", "a token of the monitor")
    assert nobody.get("/metrics").status_code == 404
    assert (
        nobody.flask.get(
            "/metrics", headers={"Authorization": "Bearer a token of the monitor"}
        ).status_code
        == 200
    )


def test_many_wrong_passwords_from_one_address_are_stopped_whoever_they_are_for(
    client: Any,
) -> None:
    nobody = client()

    def tries(login: str, address: str) -> int:
        return int(
            nobody.flask.post(
                "/api/v1/session",
                json={"login": login, "password": "wrong"},
                headers={"X-CSRFToken": nobody.csrf},
                environ_overrides={"REMOTE_ADDR": address},
            ).status_code
        )

    for number in range(int(FAILED_ADDRESS.value)):
        assert tries(f"somebody{number}", "10.0.0.7") == 401
    assert tries("another", "10.0.0.7") == 429
    assert tries("another", "10.0.0.8") == 401


def test_a_password_is_hashed_at_the_cost_that_is_recommended(real_hasher: PasswordHasher) -> None:
    assert extract_parameters(real_hasher.hash("a pump that hums by night")) == RFC_9106_LOW_MEMORY
