"""One request, one operation: session, actor, time, one commit. Everything below is free of Flask."""
from __future__ import annotations

import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime

from flask import current_app, request, session

from ..services.accounts.queries import find_actor
from ..services.context import Actor, Ctx
from .database import sessions


def signed_in() -> uuid.UUID | None:
    """What the cookie names: a session, which may be ended by now."""
    try:
        return uuid.UUID(str(session.get("sign_in")))
    except ValueError:
        return None


@contextmanager
def operation() -> Iterator[Ctx]:
    """The context of a use case; commits once when it ends well, rolls back on any exception."""
    with sessions(current_app)() as database, database.begin():
        sign_in, now = signed_in(), datetime.now(UTC)
        actor: Actor | None = find_actor(database, sign_in, now) if sign_in is not None else None
        yield Ctx(database, now, actor, address=request.remote_addr or "")
