"""What a use case is given: who acts, the session, the time, new ids."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import date, datetime

from sqlalchemy.orm import Session
from uuid6 import uuid7

from ..local_time import local_day


@dataclass(frozen=True, slots=True)
class Actor:
    """The person acting, or nobody yet."""

    id: uuid.UUID
    name: str
    login: str
    roles: frozenset[str]


def _new_id() -> uuid.UUID:
    return uuid.UUID(str(uuid7()))


@dataclass(frozen=True, slots=True)
class Ctx:
    """Passed to every use case; `now` is aware and in UTC."""

    session: Session
    now: datetime
    actor: Actor | None = None
    #: from where it is asked, for what is watched
    address: str = ""
    #: the session of the actor, for what is proven in it
    sign_in: uuid.UUID | None = None
    #: whether the person has said that what looks unlikely is meant
    confirmed: bool = False
    new_id: Callable[[], uuid.UUID] = field(default=_new_id)

    @property
    def today(self) -> date:
        """The day at the place."""
        return local_day(self.now)

    @property
    def person(self) -> Actor:
        """The actor where there must be one (the permission table has seen to it)."""
        assert self.actor is not None
        return self.actor
