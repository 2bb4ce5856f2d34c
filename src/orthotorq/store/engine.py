"""Engines and sessions."""
from __future__ import annotations

from sqlalchemy import Engine, create_engine
from sqlalchemy.orm import Session, sessionmaker


def make_engine(url: str, statement_timeout_ms: int = 10_000, pool_size: int = 5) -> Engine:
    """An engine whose statements end after the time-out and whose sessions speak UTC.

    No question of ours is so long that compiling it first pays: that costs a fifth of a second where the planner thinks so.
    """
    options = f"-c jit=off -c statement_timeout={statement_timeout_ms} -c timezone=UTC -c lock_timeout={statement_timeout_ms}"
    return create_engine(url, pool_size=pool_size, max_overflow=5, pool_pre_ping=True,
                         connect_args={"options": options, "connect_timeout": 5})


def make_sessions(engine: Engine) -> sessionmaker[Session]:
    """A factory of sessions; nothing is committed but by who opened the session."""
    return sessionmaker(engine, expire_on_commit=False)
