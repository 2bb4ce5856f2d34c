"""How often one may ask, and how much of what costs seconds one person has in hand at once.

Calls a minute are counted by Flask-Limiter, work in hand by this module, both in each worker
process by itself, which costs nothing: with two of them somebody may ask twice as often. It is
against a program that has gone wrong and against one person who holds up the others; wrong
passwords are counted in the database, and floods from outside are the proxy's (docs/operations.md).
"""

from __future__ import annotations

import threading
from collections import Counter
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import wraps
from typing import Any

from flask import Flask, Response, request, session
from flask_limiter import Limiter
from flask_limiter.errors import RateLimitExceeded

from .. import settings
from ..core.messages import Refusal
from ..services.errors import Busy, InHand
from .errors import problem

#: what costs seconds, for one person in a minute, in each worker process
COSTLY = 30
COSTLY_ONES = (
    "plans.get_sheet",
    "plans.get_template",
    "records.get_record_pdf",
    "records.get_record_book",
    "records.get_joint_archive",
    "registers.get_labels",
    "registers.get_register",
    "registers.post_register",
    "coming.get_day_sheet",
    "conditions.get_tag",
    "exchange.post_import",
    "exchange.get_all_plans",
    "records.post_look",
    "records.post_readings",
    "records.post_record",
    "tables.post_lessons",
)
#: what is worked at one after the other for each person; photos come many at a time, and are not
#: counted by the minute
IN_TURN = (*COSTLY_ONES, "runs.post_photo")
#: of these one person has so many in hand in each worker process, one at work and the others
#: waiting, and all people together so many: fewer than there are threads, so that there is always
#: one for who asks for something quick
MOST_OF_ONE, MOST_OF_ALL = 4, 12
#: how long one waits for one's own earlier work
TURN_S = 45.0


class Turns:
    """Costly work in hand in this process, by person."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._in_hand: Counter[str] = Counter()
        self._turns: dict[str, threading.Lock] = {}

    @contextmanager
    def of(self, person: str) -> Iterator[None]:
        """The turn of one person. Raises InHand where that person has too much in hand, Busy
        where all have, or it takes too long."""
        with self._lock:
            if (count := self._in_hand[person]) >= MOST_OF_ONE:
                raise InHand(Refusal.IN_HAND, count=count)
            if self._in_hand.total() >= MOST_OF_ALL:
                raise Busy(Refusal.ALL_BUSY)
            self._in_hand[person] += 1
            turn = self._turns.setdefault(person, threading.Lock())
        try:
            if not turn.acquire(timeout=TURN_S):
                raise Busy(Refusal.ALL_BUSY)
            try:
                yield
            finally:
                turn.release()
        finally:
            with self._lock:
                self._in_hand[person] -= 1
                if not self._in_hand[person]:
                    del self._in_hand[person], self._turns[person]


def _in_turn(turns: Turns, view: Callable[..., Any]) -> Callable[..., Any]:
    @wraps(view)
    def waiting(*args: Any, **kwargs: Any) -> Any:
        with turns.of(_person()):
            return view(*args, **kwargs)

    return waiting


def _device() -> str:
    """The session that asks, or the address of who has none."""
    return str(session.get("sign_in") or request.remote_addr)


def _person() -> str:
    return str(session.get("person") or request.remote_addr)


def _too_often(error: RateLimitExceeded) -> Response:
    response = problem(
        429,
        "too_many",
        "That was asked too often in a minute. Nothing was changed; wait a little and try again.",
    )
    response.headers["Retry-After"] = "20"
    return response


def register_limits(app: Flask) -> None:
    """Limits for every address of the API; pages and files do not reach this."""
    turns = Turns()
    for name in IN_TURN:
        app.view_functions[name] = _in_turn(turns, app.view_functions[name])
    rate = int(settings.read("ORTHOTORQ_RATE"))
    if not rate:
        return
    limiter = Limiter(
        _device,
        app=app,
        application_limits=[f"{rate} per minute"],
        storage_uri="memory://",
        application_limits_exempt_when=lambda: not request.path.startswith("/api/"),
    )
    costly = limiter.shared_limit(f"{COSTLY} per minute", scope="costly", key_func=_person)
    for name in COSTLY_ONES:
        app.view_functions[name] = costly(app.view_functions[name])  # type: ignore[assignment]
    app.register_error_handler(RateLimitExceeded, _too_often)
