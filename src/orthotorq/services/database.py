"""Session factories for those above the services, so that they need not know the store."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy import text
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session, sessionmaker

from ..store.engine import make_engine, make_sessions
from ..store.migrate import newest


def open_sessions(url: str, statement_timeout_ms: int = 10_000) -> sessionmaker[Session]:
    """A session factory for a database URL."""
    return make_sessions(make_engine(url, statement_timeout_ms))


@dataclass(frozen=True, slots=True)
class Wellbeing:
    """Whether the database answers and writes, its schema is that of this program, and the
    worker of long jobs gives a sign of life."""

    database: bool = False
    writes: bool = False
    schema: bool = False
    worker: bool = False


def wellbeing(session: Session) -> Wellbeing:
    """How the database is, as the application sees it."""
    schema = session.scalar(text("SELECT version_num FROM alembic_version")) == newest()
    worker = session.scalar(
        text("SELECT max(last_heartbeat) > now() - interval '1 minute' FROM procrastinate_workers")
    )
    return Wellbeing(alive(session), _writes(session), schema, bool(worker))


def _writes(session: Session) -> bool:
    """Whether what is written reaches the disk: an empty message into the write-ahead log, kept
    nowhere else."""
    try:
        session.execute(text("SELECT pg_logical_emit_message(true, 'orthotorq', '')"))
        session.commit()
    except OperationalError:
        session.rollback()
        return False
    return True


def alive(session: Session) -> bool:
    """Whether the database answers."""
    return bool(session.scalar(text("SELECT 1")) == 1)
