"""All that is kept about one person, for that person: where the law gives them a right to see
it."""

from __future__ import annotations

import uuid
from datetime import date, datetime
from typing import Any

from sqlalchemy import Table, select

from ...store.models import Base, Person, SignInAttempt
from ..context import Ctx
from .queries import person_by_login

#: what would open something, and what is long and about a joint and not about a person
_SECRET = frozenset(
    {
        "password_hash",
        "pin_hash",
        "totp_secret",
        "totp_step",
        "secret_hash",
        "code",
        "hash",
        "previous_hash",
    }
)
_LONG = frozenset(
    {"data", "document", "draft", "result", "canonical", "payload", "answer", "body", "taken_on"}
)


def about_person(ctx: Ctx, login: str) -> dict[str, Any] | None:
    """Everything about a person as JSON values, by table: each row of each table that names
    them, without what would open something and without what is long. None where nobody has that
    sign-in name."""
    person = person_by_login(ctx.session, login)
    if person is None:
        return None
    tables: dict[str, list[dict[str, Any]]] = {}
    for table in Base.metadata.sorted_tables:
        if rows := _rows(ctx, table, person):
            tables[table.name] = rows
    tries = select(SignInAttempt.at, SignInAttempt.address).where(
        SignInAttempt.login == person.login
    )
    return {
        "format": "orthotorq.person",
        "version": 2,
        "made": ctx.now.isoformat(),
        "person": {
            "login": person.login,
            "name": person.name,
            "roles": sorted(person.roles),
            "active": person.active,
            "password": person.password_hash.startswith("$"),
            "pin": bool(person.pin_hash),
            "one_time_codes": person.totp_on,
            "known_to_the_sign_on_as": person.subject,
        },
        "failed_sign_ins": [
            {"at": at.isoformat(), "address": address} for at, address in ctx.session.execute(tries)
        ],
        "named_in": tables,
    }


def _rows(ctx: Ctx, table: Table, person: Person) -> list[dict[str, Any]]:
    """The rows of a table in which a column names the person, and which columns do."""
    naming = [
        column
        for column in table.columns
        if any(key.column.table is Person.__table__ for key in column.foreign_keys)
    ]
    if not naming:
        return []
    shown = [column for column in table.columns if column.name not in _SECRET | _LONG]
    out = []
    for column in naming:
        for row in ctx.session.execute(
            select(*shown).where(column == person.id).order_by(*table.primary_key.columns)
        ):
            out.append(
                {"as": column.name, **{name: _value(value) for name, value in row._mapping.items()}}
            )
    return out


def _value(value: Any) -> Any:
    if isinstance(value, datetime | date):
        return value.isoformat()
    return str(value) if isinstance(value, uuid.UUID) else value
