"""The record of a run on paper."""

from __future__ import annotations

from base64 import b64encode
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from ..core.forms.record import Compared, Record, SummaryLine
from ..core.forms.result import Result
from ..core.kinds.stage_kind import OCCASIONS
from ..core.planning.cautions import ALWAYS, CALCULATED
from ..core.running.walk.actions import STATUS
from .pdf import render_html, to_pdf, when
from .pictures import small
from .sandboxed_worker import apart
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
    #: what of the record does not hold; empty where all does
    not_proven: str


def render_record(
    head: RecordHead,
    record: Record,
    result: Result,
    compared: Compared | None = None,
    *,
    summary: Sequence[SummaryLine] = (),
    printed_at: datetime,
    photos: Mapping[str, bytes] | None = None,
) -> bytes:
    """PDF of a record: bolt by pass, items, notes, deviations, signatures and the head hash;
    `photos` are JPEGs by id.

    Made in a process of its own; raises Impossible where that takes too long or too much memory.
    """
    return apart(
        _record, head, record, result, compared, list(summary), printed_at, dict(photos or {})
    )


def _record(
    head: RecordHead,
    record: Record,
    result: Result,
    compared: Compared | None,
    summary: Sequence[SummaryLine],
    printed_at: datetime,
    photos: Mapping[str, bytes],
) -> bytes:
    answered = {
        row.place
        for t in record.tables
        for row in t.rows
        if row.cells and row.cells[-1] is not None
    }
    deviating = {d.step.split("/")[4] for d in record.deviations if d.step.count("/") >= 4}
    states = {
        **dict.fromkeys(answered, "checked"),
        **dict.fromkeys(deviating & answered, "deviating"),
    }
    html = render_html(
        "record.html",
        title=f"Run {head.number}",
        head=head,
        record=record,
        compared=compared,
        result=result,
        summary=summary,
        face=face_of(result, states, 46),
        photos={
            key: f"data:image/jpeg;base64,{b64encode(small(data)).decode()}"
            for key, data in photos.items()
        },
        positions={p.id: p.name for p in result.positions},
        always=ALWAYS,
        calculated=result.calculated,
        calculated_text=CALCULATED,
        status_text=STATUS.get(record.status, record.status),
        occasion_text=OCCASIONS.get(record.occasion, record.occasion),
        foot=f"Orthotorq · run {head.number} · {head.head_hash[:16]} · printed {when(printed_at)}",
    )
    return to_pdf(html)
