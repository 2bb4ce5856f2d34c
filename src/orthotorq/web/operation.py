"""One request, one operation: session, actor, time, one commit. Everything below is free of
Flask."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from typing import TypeVar

from flask import current_app, request, session

from ..core.messages import Refusal
from ..local_time import use_locale
from ..services.accounts.queries import find_actor
from ..services.context import Actor, Ctx
from ..services.errors import NotSignedIn
from ..services.helper_task import HelperTask
from ..services.jobs import defer
from .database import sessions

#: header of a request that is sent again after a 409 with the code `confirm`
CONFIRMED = "X-Confirmed"
#: header of what a screen asks by itself, while nobody may be there
BACKGROUND = "X-Background"
T = TypeVar("T")
R = TypeVar("R")


def signed_in() -> uuid.UUID | None:
    """What the cookie names: a session, which may be ended by now."""
    try:
        return uuid.UUID(str(session.get("sign_in")))
    except ValueError:
        return None


def with_helper(begin: Callable[[Ctx], HelperTask[T, R]]) -> R:
    """What a use case asks of the helper, done while no database connection waits for it.

    Raises what the work refuses, and NotSignedIn where the session ended meanwhile.
    """
    with operation() as ctx:
        task, actor = begin(ctx), ctx.actor
    made = task.work()
    with operation() as ctx:
        if ctx.actor != actor:
            raise NotSignedIn(Refusal.NOT_SIGNED_IN)
        return task.then(ctx, made)


def queued(kind: str, begin: Callable[[Ctx], HelperTask[T, uuid.UUID]]) -> uuid.UUID:
    """The id of a job that a use case begins after the helper has looked at its file: its row and
    its place in the queue are kept together."""

    def begin_job(ctx: Ctx) -> HelperTask[T, uuid.UUID]:
        task = begin(ctx)

        def keep(ctx: Ctx, made: T) -> uuid.UUID:
            job = task.then(ctx, made)
            defer(ctx.session, kind, job)
            return job

        return HelperTask(task.work, keep)

    return with_helper(begin_job)


@contextmanager
def operation() -> Iterator[Ctx]:
    """The context of a use case; commits once when it ends well, rolls back on any exception."""
    use_locale(list(request.accept_languages.values()))
    with sessions(current_app)() as database, database.begin():
        sign_in, now = signed_in(), datetime.now(UTC)
        background = request.headers.get(BACKGROUND) == "1"
        actor: Actor | None = (
            find_actor(database, sign_in, now, background) if sign_in is not None else None
        )
        yield Ctx(
            database,
            now,
            actor,
            address=request.remote_addr or "",
            sign_in=sign_in,
            confirmed=request.headers.get(CONFIRMED) == "yes",
        )
