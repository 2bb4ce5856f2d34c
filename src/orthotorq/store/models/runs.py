"""Runs: events, readings, photos, pulls, records from elsewhere."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import TYPE_CHECKING

from sqlalchemy import (
    CheckConstraint,
    ForeignKey,
    Index,
    LargeBinary,
    String,
    Text,
    UniqueConstraint,
)
from sqlalchemy.orm import Mapped, mapped_column, relationship

from .base import UTC, Base

if TYPE_CHECKING:
    from .plans import Revision


class Run(Base):
    """A run of a revision; the lease says which device may move it, the head is the end of its
    chain."""

    __tablename__ = "run"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    number: Mapped[int] = mapped_column(unique=True)
    revision_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("revision.id"), index=True)
    status: Mapped[str] = mapped_column(String(12))
    started_by: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    started_at: Mapped[datetime] = mapped_column(UTC)
    lease_epoch: Mapped[int]
    lease_device: Mapped[str] = mapped_column(String(80))
    lease_person: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    head_sequence: Mapped[int]
    head_hash: Mapped[str] = mapped_column(String(64))
    provisional: Mapped[bool] = mapped_column(default=False)
    occasion: Mapped[str] = mapped_column(String(20), default="install")
    #: conflicts that nobody has settled yet; bolts that a recheck looked at, and those that had
    #: moved
    conflicts: Mapped[int] = mapped_column(default=0)
    checked: Mapped[int] = mapped_column(default=0)
    moved: Mapped[int] = mapped_column(default=0)
    ended_at: Mapped[datetime | None] = mapped_column(UTC)
    #: what it leaves, by position and group (core/forms/outcome.py), as JSON; empty while nothing
    #: was turned
    outcome: Mapped[str] = mapped_column(Text, default="")
    #: the server's code over what stands here and the end of the chain
    code: Mapped[str] = mapped_column(String(100), default="")
    revision: Mapped[Revision] = relationship()


class Event(Base):
    """One entry of a run's chain: the envelope in columns for search, and the canonical text that
    is hashed."""

    __tablename__ = "event"
    run_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("run.id"), primary_key=True)
    sequence: Mapped[int] = mapped_column(primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(unique=True)
    step: Mapped[str] = mapped_column(String(200))
    kind: Mapped[str] = mapped_column(String(20))
    verdict: Mapped[str] = mapped_column(String(10))
    device: Mapped[str] = mapped_column(String(80))
    device_sequence: Mapped[int]
    device_time: Mapped[str] = mapped_column(String(40))
    lease: Mapped[int]
    last_seen: Mapped[int]
    person_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    received_at: Mapped[datetime] = mapped_column(UTC)
    happened_at: Mapped[datetime | None] = mapped_column(UTC)
    canonical: Mapped[str] = mapped_column(Text)
    previous_hash: Mapped[str] = mapped_column(String(64))
    hash: Mapped[str] = mapped_column(String(64))
    #: the server's code over the hash: who has the database alone cannot make it
    code: Mapped[str] = mapped_column(String(100), default="")
    __table_args__ = (
        UniqueConstraint("run_id", "device", "device_sequence"),
        CheckConstraint("verdict in ('accepted', 'conflict')", name="verdict"),
    )


class RefusedEvent(Base):
    """What was sent and refused, as sent, with the sentence the person was shown."""

    __tablename__ = "refused_event"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    run_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("run.id"), index=True)
    event_id: Mapped[str | None] = mapped_column(String(80))
    device: Mapped[str | None] = mapped_column(String(80))
    device_sequence: Mapped[int | None]
    person_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    received_at: Mapped[datetime] = mapped_column(UTC)
    body: Mapped[str] = mapped_column(Text)
    reason: Mapped[str] = mapped_column(Text)


class Reading(Base):
    """A reading in base units for search and charts, with the text as typed."""

    __tablename__ = "reading"
    run_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    sequence: Mapped[int] = mapped_column(primary_key=True)
    quantity: Mapped[str] = mapped_column(String(20), primary_key=True)
    step: Mapped[str] = mapped_column(String(200))
    place: Mapped[str | None] = mapped_column(String(60))
    value: Mapped[float]
    typed: Mapped[str] = mapped_column(String(80))
    at: Mapped[datetime] = mapped_column(UTC)
    __table_args__ = (Index("ix_reading_quantity_at", "quantity", "at"),)


class Photo(Base):
    """A photo of a run, re-encoded; never edited."""

    __tablename__ = "photo"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    run_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("run.id"), index=True)
    data: Mapped[bytes] = mapped_column(LargeBinary)
    digest: Mapped[str] = mapped_column(String(64))
    person_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    at: Mapped[datetime] = mapped_column(UTC)


class Pull(Base):
    """A measurement at a step: what a simulated device needs to give the same samples again, or the
    file of a real one.

    `inputs` is what was asked, `expected` what the plan expected, as JSON.
    """

    __tablename__ = "pull"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    run_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("run.id"), index=True)
    step: Mapped[str] = mapped_column(String(200))
    device: Mapped[str] = mapped_column(String(60))
    inputs: Mapped[str] = mapped_column(Text)
    expected: Mapped[str] = mapped_column(Text)
    raw: Mapped[str | None] = mapped_column(Text)
    person_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    at: Mapped[datetime] = mapped_column(UTC)


class ForeignRecord(Base):
    """A record that was read from a file: kept as it stood there, beside the own runs and never
    among them."""

    __tablename__ = "foreign_record"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    head_hash: Mapped[str] = mapped_column(String(64))
    #: of the whole file: the same one read again is the one that is kept, another one with the same
    #: end is not
    digest: Mapped[str] = mapped_column(String(64), unique=True)
    #: whether it was when it was read, for lists; its page looks anew
    proved: Mapped[bool]
    title: Mapped[str] = mapped_column(String(120))
    run: Mapped[int]
    document: Mapped[str] = mapped_column(Text)
    person_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    at: Mapped[datetime] = mapped_column(UTC)
