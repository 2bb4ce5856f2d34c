"""Coming back: meters, due dates, what happened to joints, lessons, calendars."""

from __future__ import annotations

import uuid
from datetime import date, datetime

from sqlalchemy import CheckConstraint, ForeignKey, Index, String, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column

from .base import UTC, Base


class Meter(Base):
    """A meter of a machine, with where it stands and how fast it runs: written at each reading,
    never computed for a list."""

    __tablename__ = "meter"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    equipment_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("equipment.id"))
    unit: Mapped[str] = mapped_column(String(12))
    name: Mapped[str] = mapped_column(String(60))
    shown: Mapped[float | None]
    total: Mapped[float | None]
    at: Mapped[datetime | None] = mapped_column(UTC)
    rate_low: Mapped[float | None]
    rate: Mapped[float | None]
    rate_high: Mapped[float | None]
    rate_words: Mapped[str] = mapped_column(String(200), default="")
    __table_args__ = (UniqueConstraint("equipment_id", "unit"),)


class MeterReading(Base):
    """What a meter showed; a wrong one is struck out, with who did it, and stays."""

    __tablename__ = "meter_reading"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    meter_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("meter.id"))
    at: Mapped[datetime] = mapped_column(UTC)
    value: Mapped[float]
    how: Mapped[str] = mapped_column(String(12))
    before: Mapped[float | None]
    total: Mapped[float]
    source: Mapped[str] = mapped_column(String(20))
    person_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    struck_by: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("person.id"))
    __table_args__ = (
        Index("ix_meter_reading_meter_id_at", "meter_id", "at"),
        CheckConstraint("how in ('reading', 'reset', 'replaced', 'rolled_over')", name="how"),
    )


class DueDate(Base):
    """When a joint is looked at next, and why: by a rule of its plan, or by how it stands. Stored,
    not computed for a list."""

    __tablename__ = "due_date"
    joint_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("joint.id"), primary_key=True)
    rule: Mapped[str] = mapped_column(String(80), primary_key=True)
    #: the position that it is about, by name; empty for the whole joint
    position: Mapped[str] = mapped_column(String(120), default="")
    revision_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("revision.id"))
    occasion: Mapped[str] = mapped_column(String(20))
    reading: Mapped[float | None]
    unit: Mapped[str] = mapped_column(String(12))
    day: Mapped[date | None] = mapped_column(index=True)
    low: Mapped[date | None]
    high: Mapped[date | None]
    grace: Mapped[int]
    at_once: Mapped[bool] = mapped_column(default=False)
    why: Mapped[str] = mapped_column(String(500))


class JointEntry(Base):
    """Something that happened to a joint beside its runs; never changed."""

    __tablename__ = "joint_entry"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    joint_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("joint.id"))
    at: Mapped[datetime] = mapped_column(UTC)
    kind: Mapped[str] = mapped_column(String(12))
    words: Mapped[str] = mapped_column(String(400))
    person_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    #: of an acceptance: its conditions and the day it ends; where an act is about one position, its
    #: id
    conditions: Mapped[str] = mapped_column(String(400), default="")
    position: Mapped[str] = mapped_column(String(60), default="")
    until: Mapped[date | None]
    #: of replaced parts: the number of the run they are of, none outside a run; 0 where nobody was
    #: asked
    run: Mapped[int | None]
    __table_args__ = (
        Index("ix_joint_entry_joint_id_at", "joint_id", "at"),
        CheckConstraint(
            "kind in ('opened', 'replaced', 'happened', 'note', 'tool', 'not_safe', 'use_as_is')",
            name="kind",
        ),
    )


class Lesson(Base):
    """What own records say of friction, scatter or time: gathered anew now and then, taken by
    nobody but a planner."""

    __tablename__ = "lesson"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    kind: Mapped[str] = mapped_column(String(12))
    key: Mapped[str] = mapped_column(String(200))
    title: Mapped[str] = mapped_column(String(200))
    low: Mapped[float]
    typical: Mapped[float]
    high: Mapped[float]
    unit: Mapped[str] = mapped_column(String(20))
    count: Mapped[int]
    since: Mapped[datetime] = mapped_column(UTC)
    until: Mapped[datetime] = mapped_column(UTC)
    words: Mapped[str] = mapped_column(String(300))
    lubricant: Mapped[str] = mapped_column(String(40))


class CalendarLink(Base):
    """The secret address of a person's calendar; only its hash is kept."""

    __tablename__ = "calendar_link"
    person_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"), primary_key=True)
    secret_hash: Mapped[str] = mapped_column(String(64), unique=True)
    at: Mapped[datetime] = mapped_column(UTC)
