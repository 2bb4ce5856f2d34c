"""PINs on shared tablets, one-time codes, and the plant's own sign-on."""

from __future__ import annotations

import time
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import pyotp
import pytest
from argon2.exceptions import VerificationError
from flask import Flask
from sqlalchemy import text

from orthotorq.core.thresholds import FAILED_TRIES
from orthotorq.services.accounts import commands
from orthotorq.services.accounts.commands import DEMO_PIN
from orthotorq.services.accounts.passwords import checked_hash
from orthotorq.services.errors import BadField
from orthotorq.web.database import sessions
from tests.api.conftest import Client
from tests.api.test_people import LONG, errors_of, invited


def somebody(client: Any, login: str, roles: list[str]) -> Client:
    """Somebody new, signed in with LONG."""
    token = invited(client, login, roles)
    assert client().post(f"/api/v1/invitations/{token}", {"password": LONG}).status_code == 200
    fresh: Client = client()
    answer = fresh.post("/api/v1/session", {"login": login, "password": LONG})
    fresh.csrf = answer.json["csrf"]
    return fresh


@pytest.mark.parametrize(
    ("pin", "says"),
    [
        ("12345", "6 to 8 digits"),
        ("123456789", "6 to 8 digits"),
        ("12a456", "6 to 8 digits"),
        ("٣٤٧١٩٠", "6 to 8 digits"),
        ("123456", "tried first"),
        ("765432", "tried first"),
        ("777777", "tried first"),
        ("678901", "tried first"),
        ("210987", "tried first"),
        ("121212", "tried first"),
        (DEMO_PIN, "tried first"),
    ],
)
def test_a_pin_is_digits_in_no_order(client: Any, pin: str, says: str) -> None:
    assert (
        says
        in errors_of(client("tam").put("/api/v1/pin", {"password": "saltworks", "pin": pin}))["pin"]
    )


def test_a_pin_is_set_with_the_password_alone_and_taken_away(client: Any) -> None:
    ida = somebody(client, "ida", ["fitter"])
    assert ida.get("/api/v1/factors").json == {"pin": False, "codes": False}
    assert "password" in errors_of(
        ida.put("/api/v1/pin", {"password": "not mine at all", "pin": "480915"})
    )
    # a PIN is no password
    assert ida.put("/api/v1/pin", {"password": LONG, "pin": "480915"}).json["pin"] is True
    assert "password" in errors_of(ida.put("/api/v1/pin", {"password": "480915", "pin": "915480"}))
    assert (
        client().post("/api/v1/session", {"login": "ida", "password": "480915"}).status_code == 401
    )
    assert ida.put("/api/v1/pin", {"password": LONG, "pin": ""}).json["pin"] is False


def test_a_tablet_is_handed_over_and_who_comes_by_pin_does_no_more_than_work_at_joints(
    client: Any,
) -> None:
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
    assert "pin" in errors_of(
        tablet.post("/api/v1/session/hand-over", {"login": "mira", "pin": DEMO_PIN})
    )
    assert (
        client().post("/api/v1/session/hand-over", {"login": "tam", "pin": DEMO_PIN}).status_code
        == 401
    )


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
        assert (
            tablet.post("/api/v1/session/hand-over", {"login": "ide", "pin": "480916"}).status_code
            == 422
        )
    assert (
        tablet.post("/api/v1/session/hand-over", {"login": "ide", "pin": "480915"}).status_code
        == 429
    )


def test_the_pin_of_the_demo_opens_nothing_where_there_is_none(
    client: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    tablet = somebody(client, "una", ["fitter"])
    monkeypatch.setenv("ORTHOTORQ_DEMO", "0")
    assert (
        tablet.post("/api/v1/session/hand-over", {"login": "runa", "pin": DEMO_PIN}).status_code
        == 422
    )


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
    assert (
        nils.post("/api/v1/codes", {"act": "confirm", "code": f"{first[:3]} {first[3:]}"}).json[
            "codes"
        ]
        is True
    )
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
    wrong = (
        client()
        .post("/api/v1/session", {"login": "nils", "password": "x", "code": ""})
        .json["errors"]
    )
    assert [one["path"] for one in wrong] == ["password"]
    assert nils.post("/api/v1/codes", {"act": "end", "password": LONG}).json["codes"] is False
    assert enter("").status_code == 200


def test_a_new_link_also_ends_pin_and_codes(client: Any, app: Flask) -> None:
    bo = somebody(client, "bo", ["fitter"])
    bo.put("/api/v1/pin", {"password": LONG, "pin": "480915"})
    secret = bo.post("/api/v1/codes", {"act": "begin", "password": LONG}).json["secret"]
    bo.post("/api/v1/codes", {"act": "confirm", "code": pyotp.TOTP(secret).now()})
    found = next(
        one for one in client("jory").get("/api/v1/people").json["items"] if one["login"] == "bo"
    )
    token = client("jory").post(f"/api/v1/people/{found['id']}/link").json["link"].rsplit("/", 1)[1]
    assert (
        client("tam")
        .post("/api/v1/session/hand-over", {"login": "bo", "pin": "480915"})
        .status_code
        == 422
    )
    client().post(f"/api/v1/invitations/{token}", {"password": LONG})
    assert client().post("/api/v1/session", {"login": "bo", "password": LONG}).status_code == 200


def aged(app: Flask, minutes: int) -> None:
    """Let so many minutes go by for every session."""
    with sessions(app).begin() as session:
        session.execute(
            text(f"UPDATE sign_in SET seen_at = seen_at - interval '{minutes} minutes'")
        )


def test_a_pin_is_asked_for_again_after_idleness_and_nothing_else_is_lost(
    app: Flask, client: Any
) -> None:
    tablet = client("tam")
    answer = tablet.post("/api/v1/session/hand-over", {"login": "runa", "pin": DEMO_PIN})
    tablet.csrf = answer.json["csrf"]
    aged(app, 10)
    # what a screen asks by itself keeps nothing awake
    assert tablet.flask.get("/api/v1/runs", headers={"X-Background": "1"}).status_code == 200
    aged(app, 6)
    assert tablet.get("/api/v1/runs").status_code == 401
    found = tablet.get("/api/v1/session").json
    assert found["person"] is None and found["locked"] == {"login": "runa", "name": "Runa Tesk"}
    here = [one["login"] for one in tablet.get("/api/v1/session/here").json["items"]]
    assert here[0] == "runa" and "tam" in here
    wrong = tablet.post("/api/v1/session/hand-over", {"login": "runa", "pin": "480916"})
    assert "do not go together" in errors_of(wrong)["pin"]
    back = tablet.post("/api/v1/session/hand-over", {"login": "runa", "pin": DEMO_PIN})
    assert back.json["person"]["login"] == "runa" and back.json["locked"] is None
    tablet.csrf = back.json["csrf"]
    aged(app, 10)
    assert tablet.get("/api/v1/runs").status_code == 200
    # being used is no idleness
    aged(app, 10)
    assert tablet.get("/api/v1/runs").status_code == 200
    # and who signed in with a password is not asked
    desk = client("mira")
    aged(app, 60)
    assert desk.get("/api/v1/runs").status_code == 200


def test_a_locked_tablet_that_was_signed_out_is_nobodys(app: Flask, client: Any) -> None:
    tablet = client("tam")
    tablet.csrf = tablet.post("/api/v1/session/hand-over", {"login": "runa", "pin": DEMO_PIN}).json[
        "csrf"
    ]
    aged(app, 20)
    assert (
        tablet.flask.delete("/api/v1/session", headers={"X-CSRFToken": tablet.csrf}).status_code
        == 200
    )
    assert tablet.get("/api/v1/session").json["locked"] is None
    assert client().get("/api/v1/session/here").status_code == 401


def test_many_tries_at_once_are_no_more_tries(app: Flask, client: Any) -> None:
    somebody(client, "ulf", ["fitter"])
    with ThreadPoolExecutor(12) as pool:

        def tries(_: int) -> int:
            return int(
                client()
                .post("/api/v1/session", {"login": "ulf", "password": "a wrong one indeed"})
                .status_code
            )

        found = list(pool.map(tries, range(40)))
    with sessions(app)() as session:
        kept = session.execute(
            text("SELECT count(*) FROM sign_in_attempt WHERE login = 'ulf'")
        ).scalar_one()
    assert kept <= FAILED_TRIES.value and found.count(401) == kept and set(found) <= {401, 429}


def test_wrong_tries_of_a_stranger_block_nobody_who_is_signed_in(client: Any) -> None:
    ane = somebody(client, "ane", ["fitter"])
    ane.put("/api/v1/pin", {"password": LONG, "pin": "480915"})
    for _ in range(int(FAILED_TRIES.value) + 2):
        client().post("/api/v1/session", {"login": "ane", "password": "a wrong one indeed"})
    assert client().post("/api/v1/session", {"login": "ane", "password": LONG}).status_code == 429
    assert ane.put("/api/v1/pin", {"password": LONG, "pin": "915480"}).status_code == 200
    # in the session itself tries are counted, too
    for _ in range(int(FAILED_TRIES.value)):
        assert (
            ane.put("/api/v1/pin", {"password": "a wrong one indeed", "pin": "480915"}).status_code
            == 422
        )
    assert ane.put("/api/v1/pin", {"password": LONG, "pin": "480915"}).status_code == 429


def test_who_has_no_password_yet_takes_as_long_as_who_has(
    client: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    invited(client, "ingo", ["fitter"])
    somebody(client, "inga", ["fitter"])
    looked: list[str] = []

    class Counting:
        def verify(self, kept: str, secret: str) -> bool:
            looked.append(kept)
            raise VerificationError("no")

    monkeypatch.setattr(commands, "HASHER", Counting())
    for login in ("ingo", "inga", "nobody.at.all", "jory"):
        client_of = client()
        assert (
            client_of.post(
                "/api/v1/session", {"login": login, "password": "a wrong one indeed"}
            ).status_code
            == 401
        )
    assert len(looked) == 4 and all(kept.startswith("$argon2") for kept in looked)


@pytest.mark.parametrize(
    "password",
    ["tam hollis tam hollis", "HollisHollisHollis", "tam.hollis.2026", "tam_tam_tam_tam_1"],
)
def test_a_password_that_is_ones_name_over_and_over_is_refused(password: str) -> None:
    with pytest.raises(BadField, match="little more than your name"):
        checked_hash(password, "tam", "Tam Hollis")


def test_a_password_beside_ones_name_is_taken() -> None:
    assert checked_hash("tamed grey herons on a dyke", "tam", "Tam Hollis")


def test_a_calendar_ends_with_a_reset_and_with_its_person(client: Any) -> None:
    for number, act in enumerate(
        (
            lambda one: client("jory").post(f"/api/v1/people/{one['id']}/link"),
            lambda one: client("jory").put(
                f"/api/v1/people/{one['id']}",
                {"name": one["name"], "roles": one["roles"], "active": False},
            ),
        )
    ):
        person = somebody(client, f"cal{number}", ["fitter"])
        address = person.post("/api/v1/calendar", {"act": "make"}).json["address"]
        path = "/calendar/" + address.rpartition("/")[2]
        assert client().get(path).status_code == 200
        one = next(
            p
            for p in client("jory").get("/api/v1/people").json["items"]
            if p["login"] == f"cal{number}"
        )
        assert act(one).status_code in (200, 201, 204)
        assert client().get(path).status_code == 404


def test_without_one_there_is_no_address(app: Flask, client: Any) -> None:
    assert client().get("/api/v1/session/sign-on").status_code == 404
    assert client().get("/api/v1/session").json["sign_on"] is None
