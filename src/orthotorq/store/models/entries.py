"""What a plant adds to the tables: entries of its own, what is in stock."""

from __future__ import annotations

import uuid
from datetime import datetime

from sqlalchemy import CheckConstraint, ForeignKey, String, Text, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column

from .base import UTC, Base


class OwnEntry(Base):
    """An entry of the users' own tables, kept apart from the shipped ones; `body` has the form of a
    plan's definition."""

    __tablename__ = "own_entry"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    kind: Mapped[str] = mapped_column(String(20))
    key: Mapped[str] = mapped_column(String(120))
    body: Mapped[str] = mapped_column(Text)
    active: Mapped[bool] = mapped_column(default=True)
    person_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    at: Mapped[datetime] = mapped_column(UTC)
    __table_args__ = (
        UniqueConstraint("kind", "key"),
        CheckConstraint("kind in ('lubricant', 'grade', 'material', 'method')", name="kind"),
    )


class Stock(Base):
    """A lubricant that is in store."""

    __tablename__ = "stock"
    lubricant: Mapped[str] = mapped_column(String(40), primary_key=True)
    person_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    at: Mapped[datetime] = mapped_column(UTC)
