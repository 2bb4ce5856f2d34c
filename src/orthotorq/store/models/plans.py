"""Plans, their drafts kept beside, and what was released."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import TYPE_CHECKING

from sqlalchemy import CheckConstraint, ForeignKey, String, Text, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column, relationship

from .base import UTC, Base

if TYPE_CHECKING:
    from .places import Joint


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
    revisions: Mapped[list[Revision]] = relationship(
        back_populates="plan", order_by="Revision.number"
    )


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
    """A released plan, frozen as text with its result; why it was released, and the cautions waived
    by name, as JSON."""

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
    __table_args__ = (
        UniqueConstraint("plan_id", "number"),
        CheckConstraint("status in ('released', 'superseded')", name="status"),
    )


class RevisionLoad(Base):
    """Clamp load and its window of one group of a revision [N], kept at its release so that many
    are read at once."""

    __tablename__ = "revision_load"
    revision_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("revision.id"), primary_key=True)
    group: Mapped[str] = mapped_column(String(60), primary_key=True)
    name: Mapped[str] = mapped_column(String(120))
    low_N: Mapped[float | None]
    typical_N: Mapped[float | None]
    high_N: Mapped[float | None]
    lower_N: Mapped[float | None]
    upper_N: Mapped[float | None]
