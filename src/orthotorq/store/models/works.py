"""Machines, plans, runs, tools and files."""
from __future__ import annotations

import uuid
from datetime import datetime

from sqlalchemy import CheckConstraint, ForeignKey, Index, LargeBinary, String, Text, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column, relationship

from .base import UTC, Base


class Site(Base):
    """A place with machines of its own: a works, a quay, a pumping station."""

    __tablename__ = "site"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(120), unique=True)


class Equipment(Base):
    """A machine of a site."""

    __tablename__ = "equipment"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    site_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("site.id"), index=True)
    tag: Mapped[str] = mapped_column(String(40), unique=True)
    name: Mapped[str] = mapped_column(String(120))
    area: Mapped[str] = mapped_column(String(120))
    site: Mapped[Site] = relationship()
    joints: Mapped[list[Joint]] = relationship(back_populates="equipment", order_by="Joint.tag")


class Joint(Base):
    """A bolted joint of a machine."""

    __tablename__ = "joint"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    equipment_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("equipment.id"), index=True)
    tag: Mapped[str] = mapped_column(String(60))
    name: Mapped[str] = mapped_column(String(120))
    kind: Mapped[str] = mapped_column(String(30))
    #: sizes and torques of what was released last, to be found by
    summary: Mapped[str] = mapped_column(Text, default="")
    #: how it stands by its record (core/running/standing.py), why, by which run, since when
    standing: Mapped[str] = mapped_column(String(12), default="unknown")
    standing_why: Mapped[str] = mapped_column(String(400), default="")
    standing_run: Mapped[int | None]
    standing_at: Mapped[datetime | None] = mapped_column(UTC)
    #: every word that it is found by, in small letters: of its machine, its own, of its kind and plans
    found: Mapped[str] = mapped_column(Text, default="")
    #: the joint face in small, of what was released last, as JSON
    glyph: Mapped[str] = mapped_column(Text, default="")
    #: what its rechecks say where it keeps moving (core/rechecking/movement.py)
    movement: Mapped[str] = mapped_column(String(400), default="")
    equipment: Mapped[Equipment] = relationship(back_populates="joints")
    plans: Mapped[list[Plan]] = relationship(back_populates="joint", order_by="Plan.created_at")
    __table_args__ = (UniqueConstraint("equipment_id", "tag"),)


class Plan(Base):
    """A plan with its draft; `version` is the draft's ETag."""

    __tablename__ = "plan"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    joint_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("joint.id"), index=True)
    title: Mapped[str] = mapped_column(String(120))
    created_at: Mapped[datetime] = mapped_column(UTC)
    version: Mapped[int]
    draft: Mapped[str] = mapped_column(Text)
    draft_by: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    draft_at: Mapped[datetime] = mapped_column(UTC)
    put_away: Mapped[bool] = mapped_column(default=False)
    #: whether the draft says something that no revision says
    unreleased: Mapped[bool] = mapped_column(default=True)
    joint: Mapped[Joint] = relationship(back_populates="plans")
    revisions: Mapped[list[Revision]] = relationship(back_populates="plan", order_by="Revision.number")


class SideDraft(Base):
    """The losing version of a draft saved by two people: kept, never overwritten."""

    __tablename__ = "side_draft"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    plan_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("plan.id"), index=True)
    base_version: Mapped[int]
    document: Mapped[str] = mapped_column(Text)
    person_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    at: Mapped[datetime] = mapped_column(UTC)


class Revision(Base):
    """A released plan, frozen as text with its result; why it was released, and the cautions taken on by name, as JSON."""

    __tablename__ = "revision"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    plan_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("plan.id"))
    number: Mapped[int]
    status: Mapped[str] = mapped_column(String(12))
    document: Mapped[str] = mapped_column(Text)
    result: Mapped[str] = mapped_column(Text)
    plan_hash: Mapped[str] = mapped_column(String(64))
    released_by: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    released_at: Mapped[datetime] = mapped_column(UTC)
    reason: Mapped[str] = mapped_column(Text, default="")
    taken_on: Mapped[str] = mapped_column(Text, default="[]")
    #: the server's code over all that is frozen (services/chain)
    code: Mapped[str] = mapped_column(String(100), default="")
    plan: Mapped[Plan] = relationship(back_populates="revisions")
    __table_args__ = (UniqueConstraint("plan_id", "number"),
                      CheckConstraint("status in ('released', 'superseded')", name="status"))


class Run(Base):
    """A run of a revision; the lease says which device may move it, the head is the end of its chain."""

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
    #: conflicts that nobody has settled yet; bolts that a recheck looked at, and those that had moved
    conflicts: Mapped[int] = mapped_column(default=0)
    checked: Mapped[int] = mapped_column(default=0)
    moved: Mapped[int] = mapped_column(default=0)
    ended_at: Mapped[datetime | None] = mapped_column(UTC)
    #: the server's code over what stands here and the end of the chain
    code: Mapped[str] = mapped_column(String(100), default="")
    revision: Mapped[Revision] = relationship()


class Event(Base):
    """One entry of a run's chain: the envelope in columns for search, and the canonical text that is hashed."""

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
    __table_args__ = (UniqueConstraint("run_id", "device", "device_sequence"),
                      CheckConstraint("verdict in ('accepted', 'conflict')", name="verdict"))


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


class Tool(Base):
    """A registered tool by serial; `spec` has the form of its sort (core/documents/toolroom.py), of a wrench that of a plan's."""

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
    calibrations: Mapped[list[Calibration]] = relationship(back_populates="tool", order_by="Calibration.at")


class Calibration(Base):
    """A calibration or comparison of a tool; never edited. `points` are settings with their readings, as JSON."""

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
    #: limit, mean error and the error farthest from zero, as shares; None of a certificate without figures
    limit: Mapped[float | None]
    error: Mapped[float | None]
    worst: Mapped[float | None]
    note: Mapped[str] = mapped_column(String(300), default="")
    tool: Mapped[Tool] = relationship(back_populates="calibrations")
    __table_args__ = (CheckConstraint("verdict in ('', 'pass', 'fail', 'undecided')", name="verdict"),)


class ToolPull(Base):
    """What a registered wrench did to a bolt: one answer of a run, so that a bad wrench can be followed."""

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


class RevisionLoad(Base):
    """Clamp load and its window of one group of a revision [N], kept at its release so that many are read at once."""

    __tablename__ = "revision_load"
    revision_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("revision.id"), primary_key=True)
    group: Mapped[str] = mapped_column(String(60), primary_key=True)
    name: Mapped[str] = mapped_column(String(120))
    low_N: Mapped[float | None]
    typical_N: Mapped[float | None]
    high_N: Mapped[float | None]
    lower_N: Mapped[float | None]
    upper_N: Mapped[float | None]


class OwnEntry(Base):
    """An entry of the users' own tables, kept apart from the shipped ones; `body` has the form of a plan's definition."""

    __tablename__ = "own_entry"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    kind: Mapped[str] = mapped_column(String(20))
    key: Mapped[str] = mapped_column(String(120))
    body: Mapped[str] = mapped_column(Text)
    active: Mapped[bool] = mapped_column(default=True)
    person_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    at: Mapped[datetime] = mapped_column(UTC)
    __table_args__ = (UniqueConstraint("kind", "key"),
                      CheckConstraint("kind in ('lubricant', 'grade', 'material', 'method')", name="kind"))


class Stock(Base):
    """A lubricant that is in store."""

    __tablename__ = "stock"
    lubricant: Mapped[str] = mapped_column(String(40), primary_key=True)
    person_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    at: Mapped[datetime] = mapped_column(UTC)


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
    """A measurement at a step: what a simulated device needs to give the same samples again, or the file of a real one.

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


class ToolReading(Base):
    """A reading from the memory of a tool, by the row of its file, with the cells as they stood there; never changed."""

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


class ForeignRecord(Base):
    """A record that was read from a file: kept as it stood there, beside the own runs and never among them."""

    __tablename__ = "foreign_record"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    head_hash: Mapped[str] = mapped_column(String(64), unique=True)
    title: Mapped[str] = mapped_column(String(120))
    run: Mapped[int]
    document: Mapped[str] = mapped_column(Text)
    person_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"))
    at: Mapped[datetime] = mapped_column(UTC)


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
    __table_args__ = (CheckConstraint("status in ('waiting', 'working', 'done', 'failed', 'cancelled')", name="status"),)
