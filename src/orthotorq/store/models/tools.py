"""Tools: checks, what they pulled, readings of their own memory."""

from __future__ import annotations

import uuid
from datetime import datetime

from sqlalchemy import CheckConstraint, ForeignKey, Index, String, Text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from .base import UTC, Base


class Tool(Base):
    """A registered tool by serial; `spec` has the form of its sort (core/documents/toolroom.py), of
    a wrench that of a plan's."""

    __tablename__ = "tool"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    serial: Mapped[str] = mapped_column(String(60), unique=True)
    spec: Mapped[str] = mapped_column(Text)
    blocked: Mapped[bool] = mapped_column(default=False)
    note: Mapped[str] = mapped_column(String(300), default="")
    sort: Mapped[str] = mapped_column(String(20), default="wrench")
    place: Mapped[str] = mapped_column(String(120), default="")
    owner: Mapped[str] = mapped_column(String(120), default="")
    borrowed: Mapped[bool] = mapped_column(default=False)
    #: what it is held to: a class of ISO 6789-1, or an own limit, as typed
    held_to: Mapped[str] = mapped_column(String(30), default="")
    interval_months: Mapped[int] = mapped_column(default=12)
    interval_pulls: Mapped[int] = mapped_column(default=5000)
    #: pulls of runs since the last good check, written when a run ends
    pulls: Mapped[int] = mapped_column(default=0)
    #: the mean error found at the last check, where it is used with that error
    corrected: Mapped[float | None]
    #: until when a supervisor lets it be used although it is blocked, and why
    allowed_until: Mapped[datetime | None] = mapped_column(UTC)
    allowed_why: Mapped[str] = mapped_column(String(300), default="")
    calibrations: Mapped[list[Calibration]] = relationship(
        back_populates="tool", order_by="Calibration.at"
    )


class Calibration(Base):
    """A calibration or comparison of a tool; never edited. `points` are settings with their
    readings, as JSON."""

    __tablename__ = "calibration"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    tool_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("tool.id"), index=True)
    at: Mapped[datetime] = mapped_column(UTC)
    until: Mapped[datetime] = mapped_column(UTC)
    certificate: Mapped[str] = mapped_column(String(80))
    passed: Mapped[bool]
    person_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    verdict: Mapped[str] = mapped_column(String(10), default="")
    points: Mapped[str] = mapped_column(Text, default="[]")
    #: what it was held against, with the uncertainty of that as a share
    reference: Mapped[str] = mapped_column(String(120), default="")
    uncertainty: Mapped[float] = mapped_column(default=0.0)
    #: limit, mean error and the error farthest from zero, as shares; None of a certificate without
    #: figures
    limit: Mapped[float | None]
    error: Mapped[float | None]
    worst: Mapped[float | None]
    note: Mapped[str] = mapped_column(String(300), default="")
    tool: Mapped[Tool] = relationship(back_populates="calibrations")
    __table_args__ = (
        CheckConstraint("verdict in ('', 'pass', 'fail', 'undecided')", name="verdict"),
    )


class ToolPull(Base):
    """What a registered wrench did to a bolt: one answer of a run, so that a bad wrench can be
    followed."""

    __tablename__ = "tool_pull"
    run_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("run.id"), primary_key=True)
    sequence: Mapped[int] = mapped_column(primary_key=True)
    tool_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("tool.id"))
    at: Mapped[datetime] = mapped_column(UTC)
    #: of its run, which never change: many pulls are read without looking them up
    run_number: Mapped[int]
    revision_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("revision.id"))
    joint_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("joint.id"))
    group: Mapped[str] = mapped_column(String(60))
    place: Mapped[str] = mapped_column(String(60))
    position: Mapped[str] = mapped_column(String(60))
    torque_Nm: Mapped[float]
    percent: Mapped[float]
    __table_args__ = (Index("ix_tool_pull_tool_id_at", "tool_id", "at"),)


class ToolReading(Base):
    """A reading from the memory of a tool, by the row of its file, with the cells as they stood
    there; never changed."""

    __tablename__ = "tool_reading"
    job_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("job.id"), primary_key=True)
    row: Mapped[int] = mapped_column(primary_key=True)
    run_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("run.id"), index=True)
    position: Mapped[str | None] = mapped_column(String(60))
    place: Mapped[str] = mapped_column(String(60))
    torque_Nm: Mapped[float | None]
    angle_deg: Mapped[float | None]
    typed: Mapped[str] = mapped_column(String(200))
    happened_at: Mapped[datetime | None] = mapped_column(UTC)
    serial: Mapped[str] = mapped_column(String(60))
