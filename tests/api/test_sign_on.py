"""The sign-on of the plant: who comes in by it, who does not, and how one leaves."""

from __future__ import annotations

import time
from collections.abc import Iterator
from typing import Any
from urllib.parse import urlsplit

import pytest
import requests
from flask import Flask
from sqlalchemy import text

from orthotorq.web import create_app
from orthotorq.web.database import sessions
from tests.api.conftest import Client
from tests.api.provider import CLIENT, SECRET, Provider
from tests.api.test_people import invited
from tests.cli.test_commands import run
from tests.conftest import Database


@pytest.fixture(scope="module")
def provider() -> Iterator[Provider]:
    made = Provider()
    yield made
    made.close()


@pytest.fixture(scope="module")
def signing_on(database: Database, provider: Provider) -> Iterator[Flask]:
    with pytest.MonkeyPatch.context() as patch:
        for name, value in {
            "DATABASE_URL": database.app_url,
            "SIGN_ON_ISSUER": provider.issuer,
            "SIGN_ON_CLIENT": CLIENT,
            "SIGN_ON_SECRET": SECRET,
            "PUBLIC_URL": "http://localhost",
        }.items():
            patch.setenv(f"ORTHOTORQ_{name}", value)
        made = create_app()
        yield made
        sessions(made).kw["bind"].dispose()


def sign_on(app: Flask, to: str = "", browser: Any = None, fresh: bool = False) -> tuple[Any, Any]:
    """The way through the browser: to the sign-on, back, and where that leads; then who is signed
    in."""
    browser = browser or app.test_client()
    away = browser.get(f"/api/v1/session/sign-on?to={to}{'&fresh=1' if fresh else ''}")
    assert away.status_code == 302, away.text
    back = requests.get(away.headers["Location"], allow_redirects=False, timeout=10).headers[
        "Location"
    ]
    parts = urlsplit(back)
    end = browser.get(f"{parts.path}?{parts.query}")
    assert end.status_code == 302
    return end.headers["Location"], browser.get("/api/v1/session").json


def test_who_the_plant_knows_comes_in_without_a_password(
    signing_on: Flask, provider: Provider
) -> None:
    provider.subject, provider.login, provider.spoil = "7", "tam", ""
    place, found = sign_on(signing_on, "/runs")
    assert (place, found["person"]["login"], found["sign_on"]) == ("/runs", "tam", "works account")
    # from then on it is the subject that counts: a name that is given to somebody else there opens
    # nothing here
    provider.login = "renamed"
    assert sign_on(signing_on)[1]["person"]["login"] == "tam"
    provider.subject, provider.login = "8", "tam"
    place, found = sign_on(signing_on)
    assert (place, found["person"]) == ("/sign-in", None) and "Nobody is registered here" in found[
        "said"
    ]


@pytest.mark.parametrize(
    "to",
    ["//elsewhere.example", "https://elsewhere.example", "/\\elsewhere.example", "javascript:x"],
)
def test_it_leads_to_no_other_place(signing_on: Flask, provider: Provider, to: str) -> None:
    provider.subject, provider.login, provider.spoil = "9", "mira", ""
    assert sign_on(signing_on, to)[0] == "/shift"


def test_who_is_not_known_here_is_not_let_in(signing_on: Flask, provider: Provider) -> None:
    provider.subject, provider.login, provider.spoil = "99", "stranger", ""
    place, found = sign_on(signing_on)
    assert (place, found["person"]) == (
        "/sign-in",
        None,
    ) and "you are “stranger”. Nobody is registered here" in found["said"]


@pytest.mark.parametrize("spoil", ["denied", "nonce", "key"])
def test_an_answer_that_does_not_hold_opens_nothing(
    signing_on: Flask, provider: Provider, spoil: str
) -> None:
    provider.subject, provider.login, provider.spoil = "7", "tam", spoil
    place, found = sign_on(signing_on)
    assert (place, found["person"]) == ("/sign-in", None) and "did not say who you are" in found[
        "said"
    ]


def test_an_answer_that_nobody_asked_for_opens_nothing(signing_on: Flask) -> None:
    browser = signing_on.test_client()
    assert (
        browser.get("/api/v1/session/sign-on/back?code=x&state=y").headers["Location"] == "/sign-in"
    )
    assert browser.get("/api/v1/session").json["person"] is None


@pytest.fixture
def plain(provider: Provider) -> Iterator[Provider]:
    """The sign-on as it is before anything is set on it."""
    provider.subject, provider.login, provider.spoil, provider.named_in, provider.more = (
        "7",
        "tam",
        "",
        "token",
        {},
    )
    yield provider
    provider.spoil, provider.named_in, provider.more = "", "token", {}


def test_a_name_that_is_said_at_userinfo_alone_is_asked_there(
    signing_on: Flask, plain: Provider
) -> None:
    plain.named_in = "userinfo"
    plain.subject, plain.login = "21", "runa"
    assert sign_on(signing_on)[1]["person"]["login"] == "runa"
    # what userinfo says of somebody else counts for nothing
    plain.subject, plain.spoil = "22", "userinfo"
    assert "did not say who you are" in sign_on(signing_on)[1]["said"]


def test_what_the_sign_on_sent_is_said_where_the_name_is_missing(
    signing_on: Flask, plain: Provider
) -> None:
    plain.subject, plain.named_in, plain.more = "23", "nowhere", {"email": "tam@saltworks.example"}
    place, found = sign_on(signing_on)
    assert place == "/sign-in" and found["person"] is None
    for words in ("sent no “preferred_username”", "email", "ORTHOTORQ_SIGN_ON_CLAIM"):
        assert words in found["said"]


def test_what_is_asked_for_and_what_is_the_name_are_settings(
    database: Database, plain: Provider, client: Any
) -> None:
    plain.subject, plain.named_in, plain.more = "24", "nowhere", {"email": "ewa@saltworks.example"}
    invited(client, "ewa@saltworks.example", ["fitter"])
    with pytest.MonkeyPatch.context() as patch:
        for name, value in {
            "DATABASE_URL": database.app_url,
            "SIGN_ON_ISSUER": plain.issuer,
            "SIGN_ON_CLIENT": CLIENT,
            "SIGN_ON_SECRET": SECRET,
            "PUBLIC_URL": "http://localhost",
            "SIGN_ON_SCOPE": "openid email",
            "SIGN_ON_CLAIM": "email",
        }.items():
            patch.setenv(f"ORTHOTORQ_{name}", value)
        made = create_app()
        try:
            assert sign_on(made)[1]["person"]["login"] == "ewa@saltworks.example"
            assert plain.last["scope"] == "openid email"
        finally:
            sessions(made).kw["bind"].dispose()


def test_a_name_is_never_cut_to_fit_somebody_else(
    signing_on: Flask, plain: Provider, client: Any
) -> None:
    long = "a" * 60
    invited(client, long, ["fitter"])
    plain.subject, plain.login = "25", long + "b"
    assert sign_on(signing_on)[1]["person"] is None


def test_who_leaves_a_device_is_asked_for_anew_on_it(signing_on: Flask, plain: Provider) -> None:
    browser = signing_on.test_client()
    sign_on(signing_on, browser=browser)
    assert "prompt" not in plain.last
    csrf = {"X-CSRFToken": browser.get("/api/v1/session").json["csrf"]}
    left = browser.delete("/api/v1/session", headers=csrf).json["leave"]
    # the provider is left, too, and told where to come back to
    assert left.startswith(f"{plain.issuer}/leave?client_id={CLIENT}")
    assert "post_logout_redirect_uri=http%3A%2F%2Flocalhost%2Fsign-in" in left
    sign_on(signing_on, browser=browser)
    assert plain.last["prompt"] == "login"
    # another device has nothing to do with it
    sign_on(signing_on)
    assert "prompt" not in plain.last


def test_who_signed_in_by_password_leaves_here_alone(signing_on: Flask, plain: Provider) -> None:
    one = Client(signing_on.test_client(), "tam")
    assert (
        one.flask.delete("/api/v1/session", headers={"X-CSRFToken": one.csrf}).json["leave"] is None
    )


def test_who_has_the_sign_on_alone_sets_a_pin_and_signs_by_a_fresh_one(
    signing_on: Flask, plain: Provider, client: Any
) -> None:
    invited(client, "sola", ["fitter"])
    plain.subject, plain.login = "31", "sola"
    browser = signing_on.test_client()
    found = sign_on(signing_on, browser=browser)[1]
    assert (found["has_password"], found["fresh"]) == (False, False)
    csrf = {"X-CSRFToken": found["csrf"]}

    def pin() -> Any:
        return browser.put("/api/v1/pin", json={"password": "", "pin": "480915"}, headers=csrf)

    assert pin().status_code == 422
    # a provider that lets the browser through without asking proves nothing
    plain.spoil, plain.entered_at = "not asked", int(time.time()) - 3600
    place, found = sign_on(signing_on, "/account", browser, fresh=True)
    assert (
        place == "/account"
        and not found["fresh"]
        and "did not say" in found["said"]
        and pin().status_code == 422
    )
    # nor does somebody else at the same tablet
    plain.spoil, plain.subject = "", "7"
    place, found = sign_on(signing_on, "/account", browser, fresh=True)
    assert (
        not found["fresh"]
        and "another person" in found["said"]
        and found["person"]["login"] == "sola"
    )
    plain.subject = "31"
    place, found = sign_on(signing_on, "/account", browser, fresh=True)
    assert (place, found["fresh"], plain.last["prompt"], plain.last["max_age"]) == (
        "/account",
        True,
        "login",
        "0",
    )
    assert pin().json["pin"] is True
    with sessions(signing_on).begin() as session:
        session.execute(
            text(
                "UPDATE sign_in SET fresh_at = fresh_at - interval '6 minutes' WHERE "
                "fresh_at IS NOT NULL"
            )
        )
    assert pin().status_code == 422


def test_a_person_is_unlinked_from_the_sign_on_by_a_command(
    signing_on: Flask, plain: Provider, database: Database
) -> None:
    plain.subject, plain.login = "41", "jory"
    assert sign_on(signing_on)[1]["person"]["login"] == "jory"
    plain.subject = "42"
    assert sign_on(signing_on)[1]["person"] is None
    for result in (0, 2):
        done = run("admin", "unlink", "jory", ORTHOTORQ_DATABASE_URL=database.app_url)
        assert done.returncode == result, done.stderr
    assert sign_on(signing_on)[1]["person"]["login"] == "jory"
