"""A plan document of any shape, sent to every route that takes one, gets an answer and never a
500."""

from __future__ import annotations

import copy
from collections.abc import Iterator
from typing import Any

from flask import Flask
from sqlalchemy import select

from orthotorq.core.planning.editing.base import ACTS
from orthotorq.demo.load import plan_document
from orthotorq.store.models import Plan
from orthotorq.web.database import sessions
from tests.api.conftest import Client
from tests.core.test_fuzz import put, shapes
from tests.core.test_odd_documents import ODD, without

#: one place in so many, another odd value at each
EVERY = 9
PARAMS = {"group": "studs", "stage": "close", "value": "5", "to": "5", "words": "x"}


def odd_documents() -> Iterator[Any]:
    yield from ODD
    for name in ("twin-drive-wheel", "evaporator-cover"):
        document = plan_document(name)
        for number, path in enumerate(shapes(document).values()):
            if number % EVERY == 0:
                yield put(copy.deepcopy(document), path, ODD[(number // EVERY) % len(ODD)])
            elif number % EVERY == 4:
                yield without(document, path)


def test_no_plan_document_is_answered_by_a_500(app: Flask, client: Any) -> None:
    mira: Client = client("mira")
    with sessions(app)() as session:
        plan = str(session.scalars(select(Plan.id).order_by(Plan.id)).first())
    acts = sorted(ACTS)
    tried, broken = 0, list[tuple[str, int, Any]]()
    for number, document in enumerate(odd_documents()):
        version = mira.get(f"/api/v1/plans/{plan}/draft").json["version"]
        asked: list[tuple[str, str, Any]] = [
            ("POST", "/api/v1/bench", document),
            (
                "POST",
                f"/api/v1/plans/{plan}/edits",
                {
                    "version": version,
                    "document": document,
                    "acts": [{"act": acts[number % len(acts)], "params": PARAMS}],
                },
            ),
            (
                "POST",
                "/api/v1/manual-lines",
                {"document": document, "group": "studs", "text": "M24: 450 N·m"},
            ),
            ("POST", "/api/v1/working", {"document": document, "figure": "studs/preload"}),
            ("POST", "/api/v1/other-lubricants", {"document": document, "group": "studs"}),
            ("POST", "/api/v1/orders", {"document": document, "group": "studs"}),
            ("PUT", f"/api/v1/plans/{plan}/draft", {"document": document}),
            ("GET", f"/api/v1/plans/{plan}/draft", None),
        ]
        for method, address, body in asked:
            if method == "PUT":
                version = mira.get(f"/api/v1/plans/{plan}/draft").json["version"]
            headers = {"X-CSRFToken": mira.csrf, "If-Match": f'"{version}"'}
            answer = mira.flask.open(address, method=method, json=body, headers=headers)
            tried += 1
            if answer.status_code >= 500:
                broken.append((address, answer.status_code, document))
    assert broken == []
    assert tried > 400
