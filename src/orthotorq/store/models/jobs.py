"""Work that takes longer than a request."""

from __future__ import annotations

import uuid
from datetime import datetime

from sqlalchemy import CheckConstraint, ForeignKey, LargeBinary, String, Text
from sqlalchemy.orm import Mapped, mapped_column

from .base import UTC, Base


class Job(Base):
    """Long work with its progress; the queue only knows its id."""

    __tablename__ = "job"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    kind: Mapped[str] = mapped_column(String(20))
    status: Mapped[str] = mapped_column(String(12))
    done: Mapped[int] = mapped_column(default=0)
    total: Mapped[int] = mapped_column(default=0)
    answer: Mapped[str] = mapped_column(Text, default="{}")
    #: fetched by who works on it alone: how far a job is, is asked many times
    payload: Mapped[bytes | None] = mapped_column(LargeBinary, deferred=True)
    person_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    at: Mapped[datetime] = mapped_column(UTC)
    __table_args__ = (
        CheckConstraint(
            "status in ('waiting', 'working', 'done', 'failed', 'cancelled')", name="status"
        ),
    )
