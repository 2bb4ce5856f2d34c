"""One request, one operation: session, actor, time, one commit. Everything below is free of Flask."""
from __future__ import annotations

import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime

from flask import current_app, session

from ..services.accounts.queries import find_actor
from ..services.context import Actor, Ctx
from .database import sessions


def _actor_id() -> uuid.UUID | None:
    try:
        return uuid.UUID(str(session.get("person")))
    except ValueError:
        return None


@contextmanager
def operation() -> Iterator[Ctx]:
    """The context of a use case; commits once when it ends well, rolls back on any exception."""
    with sessions(current_app)() as database, database.begin():
        person = _actor_id()
        actor: Actor | None = find_actor(database, person) if person is not None else None
        yield Ctx(database, datetime.now(UTC), actor)
