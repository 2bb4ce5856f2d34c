"""PINs on shared tablets, one-time codes, and the plant's own sign-on."""
from __future__ import annotations

import time
from collections.abc import Iterator
from typing import Any
from urllib.parse import urlsplit

import pyotp
import pytest
import requests
from flask import Flask

from orthotorq.core.thresholds import FAILED_TRIES
from orthotorq.services.accounts.commands import DEMO_PIN
from orthotorq.web import create_app
from orthotorq.web.database import sessions
from tests.api.conftest import Client
from tests.api.provider import CLIENT, SECRET, Provider
from tests.api.test_people import LONG, errors_of, invited
from tests.conftest import Database


def somebody(client: Any, login: str, roles: list[str]) -> Client:
    """Somebody new, signed in with LONG."""
    token = invited(client, login, roles)
    assert client().post(f"/api/v1/invitations/{token}", {"password": LONG}).status_code == 200
    fresh: Client = client()
    answer = fresh.post("/api/v1/session", {"login": login, "password": LONG})
    fresh.csrf = answer.json["csrf"]
    return fresh


@pytest.mark.parametrize(("pin", "says"), [
    ("12345", "6 to 8 digits"), ("123456789", "6 to 8 digits"), ("12a456", "6 to 8 digits"), ("٣٤٧١٩٠", "6 to 8 digits"),
    ("123456", "tried first"), ("765432", "tried first"), ("777777", "tried first"), ("678901", "tried first"),
    ("210987", "tried first"), ("121212", "tried first"),
    (DEMO_PIN, "tried first")])
def test_a_pin_is_digits_in_no_order(client: Any, pin: str, says: str) -> None:
    assert says in errors_of(client("tam").put("/api/v1/pin", {"password": "saltworks", "pin": pin}))["pin"]


def test_a_pin_is_set_with_the_password_alone_and_taken_away(client: Any) -> None:
    ida = somebody(client, "ida", ["fitter"])
    assert ida.get("/api/v1/factors").json == {"pin": False, "codes": False}
    assert "password" in errors_of(ida.put("/api/v1/pin", {"password": "not mine at all", "pin": "480915"}))
    # a PIN is no password
    assert ida.put("/api/v1/pin", {"password": LONG, "pin": "480915"}).json["pin"] is True
    assert "password" in errors_of(ida.put("/api/v1/pin", {"password": "480915", "pin": "915480"}))
    assert client().post("/api/v1/session", {"login": "ida", "password": "480915"}).status_code == 401
    assert ida.put("/api/v1/pin", {"password": LONG, "pin": ""}).json["pin"] is False


def test_a_tablet_is_handed_over_and_who_comes_by_pin_does_no_more_than_work_at_joints(client: Any) -> None:
    tablet = client("tam")
    cookie = tablet.flask.get_cookie("orthotorq").value
    assert [one["login"] for one in tablet.get("/api/v1/session/here").json["items"]] == ["runa"]
    answer = tablet.post("/api/v1/session/hand-over", {"login": "runa", "pin": "111111"})
    assert "do not go together" in errors_of(answer)["pin"]
    assert tablet.get("/api/v1/session").json["person"]["login"] == "tam"
    answer = tablet.post("/api/v1/session/hand-over", {"login": "runa", "pin": DEMO_PIN})
    assert answer.json["person"]["login"] == "runa"
    # who was there before is signed out there, and a copy of the cookie is worth nothing
    before = client()
    before.flask.set_cookie("orthotorq", cookie)
    assert before.get("/api/v1/session").json["person"] is None
    # a planner has no work at joints; nobody comes in without somebody there before
    tablet.csrf = answer.json["csrf"]
    assert "pin" in errors_of(tablet.post("/api/v1/session/hand-over", {"login": "mira", "pin": DEMO_PIN}))
    assert client().post("/api/v1/session/hand-over", {"login": "tam", "pin": DEMO_PIN}).status_code == 401


def test_roles_that_a_pin_does_not_open_need_the_password(client: Any) -> None:
    both = somebody(client, "olve", ["supervisor", "administrator", "planner"])
    both.put("/api/v1/pin", {"password": LONG, "pin": "480915"})
    tablet = client("tam")
    answer = tablet.post("/api/v1/session/hand-over", {"login": "olve", "pin": "480915"})
    assert answer.json["person"]["roles"] == ["supervisor"]
    assert tablet.get("/api/v1/people").status_code == 403
    assert both.get("/api/v1/people").status_code == 200


def test_wrong_pins_are_counted_like_wrong_passwords(client: Any) -> None:
    ida = somebody(client, "ide", ["fitter"])
    ida.put("/api/v1/pin", {"password": LONG, "pin": "480915"})
    tablet = client("runa")
    for _ in range(int(FAILED_TRIES.value)):
        assert tablet.post("/api/v1/session/hand-over", {"login": "ide", "pin": "480916"}).status_code == 422
    assert tablet.post("/api/v1/session/hand-over", {"login": "ide", "pin": "480915"}).status_code == 429


def test_the_pin_of_the_demo_opens_nothing_where_there_is_none(client: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    tablet = somebody(client, "una", ["fitter"])
    monkeypatch.setenv("ORTHOTORQ_DEMO", "0")
    assert tablet.post("/api/v1/session/hand-over", {"login": "runa", "pin": DEMO_PIN}).status_code == 422


def test_one_time_codes_are_asked_for_once_they_are_on_and_each_opens_once(client: Any) -> None:
    nils = somebody(client, "nils", ["planner"])
    assert nils.post("/api/v1/codes", {"act": "begin", "password": "wrong one"}).status_code == 422
    made = nils.post("/api/v1/codes", {"act": "begin", "password": LONG}).json
    assert made["picture"].startswith("data:image/svg+xml") and made["codes"] is False
    app = pyotp.TOTP(made["secret"])

    def enter(code: str) -> Any:
        return client().post("/api/v1/session", {"login": "nils", "password": LONG, "code": code})
    # begun is not on: who loses the phone before the first code is not locked out
    assert enter("").status_code == 200
    assert "code" in errors_of(nils.post("/api/v1/codes", {"act": "confirm", "code": "000000"}))
    first = app.now()
    assert nils.post("/api/v1/codes", {"act": "confirm", "code": f"{first[:3]} {first[3:]}"}).json["codes"] is True
    asked = enter("")
    # to be asked for the code is no wrong password, and not watched as one
    newest = client("jory").get("/api/v1/security-events?limit=3").json["items"]
    assert not [one for one in newest if one["who"] == "nils" and "wrong" in one["kind"]]
    assert asked.status_code == 401 and "app shows now" in asked.json["detail"]
    # that code was used when they were turned on; the next one opens, once
    assert enter(first).status_code == 401
    following = app.at(int(time.time()) + 30)
    assert enter(following).status_code == 200
    assert enter(following).status_code == 401
    assert nils.post("/api/v1/codes", {"act": "begin", "password": LONG}).status_code == 409
    # a wrong password says nothing about codes
    wrong = client().post("/api/v1/session", {"login": "nils", "password": "x", "code": ""}).json["errors"]
    assert [one["path"] for one in wrong] == ["password"]
    assert nils.post("/api/v1/codes", {"act": "end", "password": LONG}).json["codes"] is False
    assert enter("").status_code == 200


def test_a_new_link_also_ends_pin_and_codes(client: Any, app: Flask) -> None:
    bo = somebody(client, "bo", ["fitter"])
    bo.put("/api/v1/pin", {"password": LONG, "pin": "480915"})
    secret = bo.post("/api/v1/codes", {"act": "begin", "password": LONG}).json["secret"]
    bo.post("/api/v1/codes", {"act": "confirm", "code": pyotp.TOTP(secret).now()})
    found = next(one for one in client("jory").get("/api/v1/people").json["items"] if one["login"] == "bo")
    token = client("jory").post(f"/api/v1/people/{found['id']}/link").json["link"].rsplit("/", 1)[1]
    assert client("tam").post("/api/v1/session/hand-over", {"login": "bo", "pin": "480915"}).status_code == 422
    client().post(f"/api/v1/invitations/{token}", {"password": LONG})
    assert client().post("/api/v1/session", {"login": "bo", "password": LONG}).status_code == 200


@pytest.fixture(scope="module")
def provider() -> Iterator[Provider]:
    made = Provider()
    yield made
    made.close()


@pytest.fixture(scope="module")
def signing_on(database: Database, provider: Provider) -> Iterator[Flask]:
    with pytest.MonkeyPatch.context() as patch:
        for name, value in {"DATABASE_URL": database.app_url, "SIGN_ON_ISSUER": provider.issuer, "SIGN_ON_CLIENT": CLIENT,
                            "SIGN_ON_SECRET": SECRET, "PUBLIC_URL": "http://localhost"}.items():
            patch.setenv(f"ORTHOTORQ_{name}", value)
        made = create_app()
        yield made
        sessions(made).kw["bind"].dispose()


def sign_on(app: Flask, to: str = "") -> tuple[Any, Any]:
    """The way through the browser: to the sign-on, back, and where that leads; then who is signed in."""
    browser = app.test_client()
    away = browser.get(f"/api/v1/session/sign-on?to={to}")
    assert away.status_code == 302, away.text
    back = requests.get(away.headers["Location"], allow_redirects=False, timeout=10).headers["Location"]
    parts = urlsplit(back)
    end = browser.get(f"{parts.path}?{parts.query}")
    assert end.status_code == 302
    return end.headers["Location"], browser.get("/api/v1/session").json


def test_who_the_plant_knows_comes_in_without_a_password(signing_on: Flask, provider: Provider) -> None:
    provider.subject, provider.login, provider.spoil = "7", "tam", ""
    place, found = sign_on(signing_on, "/runs")
    assert (place, found["person"]["login"], found["sign_on"]) == ("/runs", "tam", "works account")
    # from then on it is the subject that counts: a name that is given to somebody else there opens nothing here
    provider.login = "renamed"
    assert sign_on(signing_on)[1]["person"]["login"] == "tam"
    provider.subject, provider.login = "8", "tam"
    place, found = sign_on(signing_on)
    assert (place, found["person"]) == ("/sign-in", None) and "not known here" in found["said"]


@pytest.mark.parametrize("to", ["//elsewhere.example", "https://elsewhere.example", "/\\elsewhere.example", "javascript:x"])
def test_it_leads_to_no_other_place(signing_on: Flask, provider: Provider, to: str) -> None:
    provider.subject, provider.login, provider.spoil = "9", "mira", ""
    assert sign_on(signing_on, to)[0] == "/shift"


def test_who_is_not_known_here_is_not_let_in(signing_on: Flask, provider: Provider) -> None:
    provider.subject, provider.login, provider.spoil = "99", "stranger", ""
    place, found = sign_on(signing_on)
    assert (place, found["person"]) == ("/sign-in", None) and "“stranger” is not known here" in found["said"]


@pytest.mark.parametrize("spoil", ["denied", "nonce", "key"])
def test_an_answer_that_does_not_hold_opens_nothing(signing_on: Flask, provider: Provider, spoil: str) -> None:
    provider.subject, provider.login, provider.spoil = "7", "tam", spoil
    place, found = sign_on(signing_on)
    assert (place, found["person"]) == ("/sign-in", None) and "did not say who you are" in found["said"]


def test_an_answer_that_nobody_asked_for_opens_nothing(signing_on: Flask) -> None:
    browser = signing_on.test_client()
    assert browser.get("/api/v1/session/sign-on/back?code=x&state=y").headers["Location"] == "/sign-in"
    assert browser.get("/api/v1/session").json["person"] is None


def test_without_one_there_is_no_address(app: Flask, client: Any) -> None:
    assert client().get("/api/v1/session/sign-on").status_code == 404
    assert client().get("/api/v1/session").json["sign_on"] is None
