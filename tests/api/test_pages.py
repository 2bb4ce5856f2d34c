"""The built front end as it is served: compressed, cached, under a strict policy."""

from __future__ import annotations

import gzip
import re

import pytest

from orthotorq.web import create_app
from orthotorq.web.database import sessions
from tests.conftest import Database


@pytest.fixture
def script(client) -> str:
    """The address of one of the page's scripts."""
    with client().get("/") as page:
        return str(re.search(rb'"(/_app/immutable/[^"]+\.js)"', page.data)[1], "ascii")  # type: ignore[index]


def test_the_page_carries_a_policy_without_inline_code(client) -> None:
    with client().get("/runs/anything") as page:
        policy = re.search(r'http-equiv="content-security-policy" content="([^"]+)"', page.text)
        assert page.headers["Cache-Control"] == "no-cache"
    assert policy
    rules = dict(
        part.strip().split(" ", 1)
        for part in policy[1].replace("&#39;", "'").split(";")
        if part.strip()
    )
    assert rules["default-src"] == "'self'"
    assert rules["style-src"] == "'self'"
    assert rules["script-src"].startswith("'self' 'sha256-")
    assert "unsafe-inline" not in policy[1]
    assert "unsafe-eval" not in policy[1]


def test_scripts_come_compressed_and_are_kept_for_ever(client, script: str) -> None:
    with (
        client().flask.get(script, headers={"Accept-Encoding": "gzip"}) as packed,
        client().get(script) as plain,
    ):
        assert packed.headers["Content-Encoding"] == "gzip"
        assert packed.headers["Vary"] == "Accept-Encoding"
        assert "immutable" in packed.headers["Cache-Control"]
        assert packed.content_type.startswith("text/javascript")
        assert gzip.decompress(packed.data) == plain.data
        assert "Content-Encoding" not in plain.headers


def test_fonts_and_scripts_ship_with_the_page(client) -> None:
    with client().get("/") as page:
        addresses = re.findall(r'(?:src|href)="([^"]+)"', page.text)
    assert addresses
    assert not [a for a in addresses if a.startswith(("http:", "https:", "//"))]


@pytest.mark.parametrize("address", ["/api/v1/none", "/api/nothing"])
def test_unknown_api_addresses_are_no_pages(client, address: str) -> None:
    answer = client("mira").get(address)
    assert (answer.status_code, answer.content_type) == (404, "application/problem+json")


@pytest.mark.parametrize("address", ["/api/v1/session", "/api/v1/none", "/api/v1/equipment"])
def test_an_answer_of_the_api_runs_and_fetches_nothing(client, address: str) -> None:
    answer = client("mira").get(address)
    assert answer.headers["Content-Security-Policy"] == "default-src 'none'; frame-ancestors 'none'"
    assert answer.headers["X-Content-Type-Options"] == "nosniff"


@pytest.mark.parametrize(("secure", "name"), [("1", "__Host-orthotorq"), ("0", "orthotorq")])
def test_behind_tls_the_cookie_is_of_this_host_alone(
    database: Database, monkeypatch: pytest.MonkeyPatch, secure: str, name: str
) -> None:
    monkeypatch.setenv("ORTHOTORQ_DATABASE_URL", database.app_url)
    monkeypatch.setenv("ORTHOTORQ_COOKIE_SECURE", secure)
    app = create_app()
    given = (
        app.test_client()
        .get("/api/v1/session", base_url="https://bolts.example")
        .headers["Set-Cookie"]
    )
    sessions(app).kw["bind"].dispose()
    assert (
        given.startswith(f"{name}=")
        and "HttpOnly" in given
        and "Path=/" in given
        and "SameSite=Lax" in given
    )
    assert ("Secure" in given, "Domain" in given) == (secure == "1", False)
