"""Session factories for those above the services, so that they need not know the store."""
from __future__ import annotations

from sqlalchemy import text
from sqlalchemy.orm import Session, sessionmaker

from ..store.engine import make_engine, make_sessions


def open_sessions(url: str, statement_timeout_ms: int = 10_000) -> sessionmaker[Session]:
    """A session factory for a database URL."""
    return make_sessions(make_engine(url, statement_timeout_ms))


def alive(session: Session) -> bool:
    """Whether the database answers."""
    return bool(session.scalar(text("SELECT 1")) == 1)
