"""The record as an open file: what was done, and every event of the chain, so that anybody can prove it."""
from __future__ import annotations

from typing import Any, Literal

from .base import Out
from .group import GroupOut
from .record import Record
from .result import PositionOut


class FileEvent(Out):
    """One event: as the run took it, and `text`, the canonical text of it that is hashed after the hash before."""

    sequence: int
    id: str
    step: str
    kind: str
    payload: dict[str, Any]
    person: str
    at: str
    hash: str
    accepted: bool
    text: str


class RecordFile(Out):
    """A record with where it belongs, the groups and positions that it speaks of, and its chain."""

    format: Literal["orthotorq.record"] = "orthotorq.record"
    version: Literal[2] = 2
    run: int
    title: str
    equipment: str
    equipment_tag: str
    joint: str
    joint_kind: str
    revision: int
    occasion: str
    calculated: bool
    plan_hash: str
    head_hash: str
    positions: list[PositionOut]
    groups: list[GroupOut]
    record: Record
    events: list[FileEvent]
