"""Every address of the url map against the permission table: each calls a use case, and the table
says who may."""

from __future__ import annotations

import dis
import inspect
import re
import uuid
from collections.abc import Callable, Iterator
from types import CodeType
from typing import Any

import pytest
from flask import Flask
from pydantic import BaseModel
from werkzeug.routing import Rule

from orthotorq.services.permissions import ANYONE, REGISTRY, ROLES, TABLE
from tests.api.test_roles import PEOPLE

NOBODY = uuid.UUID(int=0)
#: what the document says in words alone
_QUESTIONS = {"how": '{"columns": {"torque": 3}}'}


def names_in(code: CodeType) -> set[str]:
    """Names that a function loads, with those of the functions inside it."""
    found = {
        str(step.argval)
        for step in dis.get_instructions(code)
        if step.opname.startswith("LOAD_GLOBAL")
    }
    for inner in code.co_consts:
        if isinstance(inner, CodeType):
            found |= names_in(inner)
    return found


def use_cases_of(view: Callable[..., Any]) -> list[str]:
    """Use cases that a view calls, by name."""
    function: Any = inspect.unwrap(view)
    while getattr(function, "__closure__", None) and "operation" not in function.__globals__:
        function = next(
            c.cell_contents for c in function.__closure__ if inspect.isfunction(c.cell_contents)
        )
    loaded = {id(function.__globals__.get(name)) for name in names_in(function.__code__)}
    return sorted(name for name, one in REGISTRY.items() if id(one) in loaded)


def routes(app: Flask) -> Iterator[tuple[str, str, Rule]]:
    """(method, address, rule) of the API."""
    for rule in app.url_map.iter_rules():
        if rule.rule.startswith("/api/v1/"):
            for method in sorted((rule.methods or set()) - {"HEAD", "OPTIONS"}):
                yield (
                    method,
                    re.sub(r"<uuid:\w+>", str(NOBODY), re.sub(r"<string:\w+>", "units", rule.rule)),
                    rule,
                )


def call(client: Any, method: str, address: str) -> Any:
    """A call with nothing in it."""
    headers = {"X-CSRFToken": client.csrf, "If-Match": '"1"'}
    return client.flask.open(
        address, method=method, json=None if method == "GET" else {}, headers=headers
    )


def test_every_route_calls_a_use_case(app: Flask) -> None:
    seen = set()
    for method, address, rule in routes(app):
        found = use_cases_of(app.view_functions[rule.endpoint])
        assert found, f"{method} {address} calls no use case"
        seen |= set(found)
    # the command line alone calls what is left
    # the plant's own sign-on is an option (test_factors.py);
    # a calendar is asked for outside of the API, by programs without a session (test_coming.py)
    left = set(TABLE) - seen
    assert left <= {
        "planning.compute_plan",
        "rechecking.calendar_feed",
        "accounts.sign_in_elsewhere",
        "accounts.note_fresh_sign_on",
    }, left


def test_nobody_comes_past_the_session(app: Flask, client: Any) -> None:
    for method, address, rule in routes(app):
        if any(TABLE[name] is ANYONE for name in use_cases_of(app.view_functions[rule.endpoint])):
            continue
        answer = call(client(), method, address)
        # a body that does not fit is named before anybody is asked who they are; nothing is done
        # with it
        assert answer.status_code in (401, 422), (method, address, answer.status_code)
        if method == "GET":
            assert answer.status_code == 401, address


def example(schema: dict[str, Any], document: dict[str, Any]) -> Any:
    """The least value that fits a schema of the document."""
    if "$ref" in schema:
        return example(
            document["components"]["schemas"][schema["$ref"].rsplit("/", 1)[1]], document
        )
    for several in ("anyOf", "oneOf"):
        if several in schema:
            return example(schema[several][0], document)
    if "allOf" in schema:
        return {k: v for part in schema["allOf"] for k, v in example(part, document).items()}
    if "const" in schema or "enum" in schema:
        return schema.get("const", schema.get("enum", [None])[0])
    if schema.get("type") == "object":
        return {
            name: example(schema["properties"][name], document)
            for name in schema.get("required", ())
        }
    if schema.get("type") == "array":
        return [example(schema["items"], document)] * schema.get("minItems", 0)
    if schema.get("type") == "string":
        formats = {"uuid": str(NOBODY), "date": "2026-11-02", "date-time": "2026-11-02T08:00:00Z"}
        return formats.get(schema.get("format", ""), "x" * max(1, schema.get("minLength", 1)))
    least = schema.get("minimum", 1)
    return {"integer": least, "number": least, "boolean": True}.get(schema.get("type", ""))


def fitting(app: Flask, someone: Any, method: str, address: str, rule: Rule) -> Any:
    """A call whose address, question and body fit the document: only permission can be missing."""
    document = app.api_doc  # type: ignore[attr-defined]
    said = document["paths"][re.sub(r"<(?:\w+:)?(\w+)>", r"{\1}", rule.rule)][method.lower()]
    query = {
        one["name"]: _QUESTIONS.get(one["name"]) or example(one["schema"], document)
        for one in said.get("parameters", ())
        if one["in"] == "query" and one.get("required")
    }
    content = said.get("requestBody", {}).get("content", {})
    body = (
        example(content["application/json"]["schema"], document)
        if "application/json" in content
        else None
    )
    # what takes a file takes nothing else
    sent = (
        {"content_type": "application/zip"}
        if address.endswith("/imports")
        else {"json": body or {}}
    )
    headers = {"X-CSRFToken": someone.csrf, "If-Match": '"1"'}
    return someone.flask.open(
        address,
        method=method,
        query_string=query,
        headers=headers,
        **sent if method != "GET" else {},
    )


@pytest.mark.parametrize("role", ROLES)
def test_each_role_is_refused_where_the_table_does_not_name_it_and_nowhere_else(
    app: Flask, client: Any, role: str
) -> None:
    someone = client(PEOPLE[role])
    refused = 0
    for method, address, rule in routes(app):
        names = use_cases_of(app.view_functions[rule.endpoint])
        if any(TABLE[name] is ANYONE for name in names):
            continue
        status = call(someone, method, address).status_code
        assert status < 500, (method, address)
        if all(role in (TABLE[name] or ()) for name in names):
            assert status != 403, (method, address, role)
        else:
            refused += 1
            # a body that does not fit is named before the role: with one that fits there is no
            # other answer
            status = fitting(app, someone, method, address, rule).status_code
            assert status == 403, (method, address, role, status)
    assert refused > 10


def test_the_session_says_what_each_role_may(client: Any) -> None:
    for role, login in PEOPLE.items():
        may = set(client(login).get("/api/v1/session").json["person"]["may"])
        assert may == {name for name, roles in TABLE.items() if roles is ANYONE or role in roles}


@pytest.mark.parametrize("address", ["/tables", "/table-sheets", "/sums", "/plan-schema"])
def test_tables_sums_and_the_schema_need_a_session(client: Any, address: str) -> None:
    assert client().get(f"/api/v1{address}").status_code == 401
    assert client("tam").get(f"/api/v1{address}").status_code == 200


def test_no_two_shapes_of_the_api_have_one_name(app: Flask) -> None:
    def below(kind: type[BaseModel]) -> Iterator[type[BaseModel]]:
        for one in kind.__subclasses__():
            yield one
            yield from below(one)

    # of two with one name, only one would be described
    named: dict[str, set[str]] = {}
    for kind in below(BaseModel):
        if kind.__module__.startswith(("orthotorq.core.forms", "orthotorq.web")):
            named.setdefault(kind.__name__, set()).add(kind.__module__)
    assert {name: sorted(places) for name, places in named.items() if len(places) > 1} == {}
