"""The condition of joints by position and group, and what remains to do after a run."""

from __future__ import annotations

import uuid
from datetime import date, datetime

from sqlalchemy import ForeignKey, Index, String, Text, text
from sqlalchemy.orm import Mapped, mapped_column

from .base import UTC, Base


class JointPart(Base):
    """The condition of one group of bolts at one position, as folded from its runs and acts.

    Empty names where a joint has no positions, or one group; `place` orders them.
    """

    __tablename__ = "joint_part"
    joint_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("joint.id"), primary_key=True)
    position: Mapped[str] = mapped_column(String(60), primary_key=True)
    group: Mapped[str] = mapped_column(String(60), primary_key=True)
    place: Mapped[int]
    name: Mapped[str] = mapped_column(String(240))
    position_name: Mapped[str] = mapped_column(String(120))
    word: Mapped[str] = mapped_column(String(12))
    why: Mapped[str] = mapped_column(Text)
    clears: Mapped[str] = mapped_column(Text)
    since: Mapped[datetime | None] = mapped_column(UTC)
    run: Mapped[int | None]
    looked_at: Mapped[datetime | None] = mapped_column(UTC)
    tightened_at: Mapped[datetime | None] = mapped_column(UTC)
    until: Mapped[date | None]


class Task(Base):
    """What remains to do at a joint, with who does it until when; never changed but by being
    done."""

    __tablename__ = "task"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    joint_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("joint.id"), index=True)
    run_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("run.id"))
    words: Mapped[str] = mapped_column(String(200))
    owner_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    day: Mapped[date]
    made_by: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    made_at: Mapped[datetime] = mapped_column(UTC)
    done_by: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("person.id"))
    done_at: Mapped[datetime | None] = mapped_column(UTC)
    __table_args__ = (Index("ix_task_open", "day", postgresql_where=text("done_at IS NULL")),)
