"""Places: sites, machines, joints."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import TYPE_CHECKING

from sqlalchemy import ForeignKey, String, Text, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column, relationship

from .base import UTC, Base

if TYPE_CHECKING:
    from .plans import Plan


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
    #: its condition (core/joint_condition): of its worst position, with why, by which run, since
    #: when
    condition: Mapped[str] = mapped_column(String(12), default="unknown")
    condition_why: Mapped[str] = mapped_column(Text, default="")
    condition_run: Mapped[int | None]
    condition_at: Mapped[datetime | None] = mapped_column(UTC)
    #: every word that it is found by, in small letters: of its machine, its own, of its kind and
    #: plans
    found: Mapped[str] = mapped_column(Text, default="")
    #: the joint face in small, of what was released last, as JSON
    glyph: Mapped[str] = mapped_column(Text, default="")
    #: what its rechecks say where it keeps moving (core/rechecking/movement.py)
    movement: Mapped[str] = mapped_column(String(400), default="")
    equipment: Mapped[Equipment] = relationship(back_populates="joints")
    plans: Mapped[list[Plan]] = relationship(back_populates="joint", order_by="Plan.created_at")
    __table_args__ = (UniqueConstraint("equipment_id", "tag"),)
