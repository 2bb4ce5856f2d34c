"""The record of a run on paper."""
from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from ..core.documents.result import Result
from ..core.documents.run import Record
from ..core.planning.cautions import ALWAYS, CALCULATED
from .pdf import render_html, to_pdf, when
from .sheet import face_of


@dataclass(frozen=True, slots=True)
class RecordHead:
    """Where a record belongs and what binds it."""

    number: int
    title: str
    equipment: str
    joint: str
    revision: int
    plan_hash: str
    head_hash: str
    events: int
    chain_holds: bool


def render_record(head: RecordHead, record: Record, result: Result, *, printed_at: datetime) -> bytes:
    """PDF of a record: bolt by pass, items, notes, deviations, signatures and the head hash."""
    states = {d.step.split("/")[4]: "deviating" for d in record.deviations if d.step.count("/") >= 4}
    html = render_html(
        "record.html", title=f"Run {head.number}", head=head, record=record, result=result, face=face_of(result, states, 46),
        positions={p.id: p.name for p in result.positions}, always=ALWAYS, calculated=result.calculated,
        calculated_text=CALCULATED,
        foot=f"Orthotorq · run {head.number} · {head.head_hash[:16]} · printed {when(printed_at)}")
    return to_pdf(html)
