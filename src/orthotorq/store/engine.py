"""Engines and sessions."""

from __future__ import annotations

from sqlalchemy import Engine, create_engine
from sqlalchemy.orm import Session, sessionmaker

#: connections of a process: half as many as its threads have to be enough, since none is held while
#: something else is waited for; who finds none free within so long is told to come again
POOL, POOL_MORE, POOL_WAIT_S = 8, 8, 4.0


def make_engine(url: str, statement_timeout_ms: int = 10_000) -> Engine:
    """An engine whose statements end after the time-out and whose sessions speak UTC.

    No question of ours is so long that compiling it first pays: that costs a fifth of a second
    where the planner thinks so.
    """
    options = (
        f"-c jit=off -c statement_timeout={statement_timeout_ms} -c timezone=UTC -c "
        f"lock_timeout={statement_timeout_ms}"
    )
    return create_engine(
        url,
        pool_size=POOL,
        max_overflow=POOL_MORE,
        pool_timeout=POOL_WAIT_S,
        pool_pre_ping=True,
        connect_args={"options": options, "connect_timeout": 5},
    )


def make_sessions(engine: Engine) -> sessionmaker[Session]:
    """A factory of sessions; nothing is committed but by who opened the session."""
    return sessionmaker(engine, expire_on_commit=False)
