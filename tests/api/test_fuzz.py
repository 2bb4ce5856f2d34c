"""Everything that the document of the API allows, and a good deal that it does not, gets an answer
and never a 500."""

from __future__ import annotations

from typing import Any

import pytest
import schemathesis
from flask import Flask
from hypothesis import HealthCheck, Phase, given, seed, settings
from schemathesis import GenerationMode
from sqlalchemy import select, update

from orthotorq.services.permissions import ROLES
from orthotorq.store.models import (
    Equipment,
    ForeignRecord,
    Joint,
    Meter,
    OwnEntry,
    Person,
    Photo,
    Plan,
    Revision,
    Run,
    Tool,
)
from orthotorq.web.database import sessions
from tests.api.conftest import Client

#: after these nobody is signed in any more, or nobody can sign in: each has tests of its own
_ENDS = {
    ("DELETE", "/api/v1/session"),
    ("DELETE", "/api/v1/sessions/{id}"),
    ("PUT", "/api/v1/password"),
    ("POST", "/api/v1/session/hand-over"),
}
EXAMPLES = 5
#: where each answer is drawn on paper, which takes as long as a hundred others
ON_PAPER = 1


#: first part of an address -> of what it names one
_OF = {
    "runs": Run,
    "plans": Plan,
    "revisions": Revision,
    "joints": Joint,
    "tools": Tool,
    "machines": Equipment,
    "equipment": Equipment,
    "meters": Meter,
    "people": Person,
    "photos": Photo,
    "records": ForeignRecord,
    "own-entries": OwnEntry,
}


@pytest.fixture(scope="module")
def known(app: Flask) -> dict[str, str]:
    """First part of an address -> an id that is there."""
    with sessions(app)() as session:
        found = {name: session.scalar(select(model.id).limit(1)) for name, model in _OF.items()}
    return {name: str(one) for name, one in found.items() if one is not None}


@pytest.fixture(scope="module")
def somebody(app: Flask) -> Client:
    """Somebody with every role: no fuzz ends at a refusal."""
    with sessions(app).begin() as session:
        session.execute(update(Person).where(Person.login == "runa").values(roles=list(ROLES)))
    return Client(app.test_client(), "runa")


def ask(somebody: Client, case: Any, known: dict[str, str]) -> Any:
    """The answer to a case; what it asks about is there, where the address has room for it."""
    first = case.path.removeprefix("/api/v1/").partition("/")[0]
    address = case.path.replace("{id}", known[first]) if first in known else case.formatted_path
    address = address if "{" not in address else case.formatted_path
    body = None if isinstance(case.body, schemathesis.core.NotSet) else case.body
    headers = {
        str(k): str(v)
        for k, v in (case.headers or {}).items()
        if str(v).isascii() and str(v).isprintable()
    }
    sent: dict[str, Any] = (
        {"json": body} if case.media_type in (None, "application/json") else {"data": b"x"}
    )
    if isinstance(body, bytes):
        sent = {"data": body, "content_type": "application/json"}
    if case.method == "GET":
        sent = {}
    return somebody.flask.open(
        address,
        method=case.method,
        query_string=case.query or None,
        headers={**headers, "X-CSRFToken": somebody.csrf, "If-Match": '"1"'},
        **sent,
    )


def operations(app: Flask) -> list[Any]:
    """Every operation of the document."""
    schema = schemathesis.openapi.from_dict(app.api_doc)  # type: ignore[attr-defined]
    found = [one.ok() for one in schema.get_all_operations()]
    return [one for one in found if (one.method.upper(), one.path) not in _ENDS]


@pytest.mark.parametrize("mode", [GenerationMode.POSITIVE, GenerationMode.NEGATIVE])
def test_nothing_that_is_sent_is_answered_by_a_500(
    app: Flask, somebody: Client, known: dict[str, str], mode: Any
) -> None:
    asked, well, broken = 0, 0, {}
    for operation in operations(app):
        many = ON_PAPER if operation.path.endswith(".pdf") else EXAMPLES

        @seed(20_261_126)
        @settings(
            max_examples=many,
            deadline=None,
            database=None,
            phases=[Phase.explicit, Phase.generate],
            suppress_health_check=list(HealthCheck),
        )
        @given(case=operation.as_strategy(generation_mode=mode))
        def each(case: Any) -> None:
            nonlocal asked, well
            asked += 1
            answer = ask(somebody, case, known)
            well += answer.status_code < 400
            if answer.status_code >= 500:
                broken[case.method, case.path, answer.status_code] = (
                    case.query,
                    case.body,
                    answer.text[:300],
                )

        try:
            each()
        except Exception as error:
            broken[operation.method, operation.path, type(error).__name__] = (str(error)[:300],)
    assert broken == {}
    assert asked > 400 and well > (asked / 5 if mode == GenerationMode.POSITIVE else 0), (
        asked,
        well,
    )
    # the fuzz did not sign itself out on its way
    assert somebody.get("/api/v1/session").json["person"]["login"] == "runa"
