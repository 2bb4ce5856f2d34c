"""The record as an open file: what was done, and every event of the chain, so that anybody can
prove it."""

from __future__ import annotations

from typing import Any, Literal

from .base import Out
from .group import GroupOut
from .record import Record
from .result import PositionOut


class FileEvent(Out):
    """One event: as the run took it, and `text`, the canonical text of it that is hashed after the
    hash before."""

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
    #: of the server that kept it: provable by who has its key
    code: str = ""


class FileRevision(Out):
    """The revision that led the run, as it was released: `document` and `result` are the texts
    that its code stands for."""

    id: str
    plan: str
    number: int
    released_by: str
    released_at: str
    document: str
    result: str
    reason: str
    taken_on: str
    code: str


class FileProof(Out):
    """What the codes of a record stand for: the run's row beside its chain, and its revision."""

    run: str
    status: str
    started_by: str
    started_at: str
    occasion: str
    provisional: bool
    code: str
    revision: FileRevision


class RecordFile(Out):
    """A record with where it belongs, the groups and positions that it speaks of, its chain, and
    what proves it.

    Files of version 2 had no proof. Everything but the chain and the proof is derived from them.
    """

    format: Literal["orthotorq.record"] = "orthotorq.record"
    version: Literal[2, 3] = 3
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
    proof: FileProof | None = None
