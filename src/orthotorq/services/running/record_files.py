"""The record of a run as files: PDF, table, and all records as a book."""

from __future__ import annotations

import uuid

from ...exchange.record_csv import record_csv
from ...exchange.record_sheet import RecordHead, render_record
from ...exchange.record_xlsx import record_xlsx
from ...exchange.sandboxed_worker import apart
from ..context import Ctx
from ..helper_task import HelperTask, named_file
from ..permissions import use_case
from .photos import for_paper
from .queries import open_record


@use_case
def record_pdf(ctx: Ctx, run_id: uuid.UUID) -> HelperTask[bytes, tuple[str, bytes]]:
    """A record as PDF: (file name, data)."""
    view, result, _ = open_record(ctx, run_id)
    head = RecordHead(
        view.head.number,
        view.head.title,
        view.head.equipment_name,
        view.head.joint_name,
        view.head.revision,
        view.plan_hash,
        view.head_hash,
        view.events,
        view.not_proven,
    )
    photos = for_paper(ctx.session, (x.photo for x in view.record.story if x.photo))
    return named_file(
        f"run-{view.head.number}.pdf",
        lambda: render_record(
            head,
            view.record,
            result,
            view.compared,
            summary=view.summary,
            printed_at=ctx.now,
            photos=photos,
        ),
    )


@use_case
def record_table(ctx: Ctx, run_id: uuid.UUID) -> tuple[str, str]:
    """(file name, CSV) of a record."""
    view, _, _ = open_record(ctx, run_id)
    return f"run-{view.head.number}.csv", record_csv(
        view.record, {p.id: p.name for p in view.positions}
    )


@use_case
def record_book(ctx: Ctx, run_id: uuid.UUID) -> HelperTask[bytes, tuple[str, bytes]]:
    """A record as XLSX: (file name, data)."""
    view, _, _ = open_record(ctx, run_id)
    head = view.head
    return named_file(
        f"run-{head.number}.xlsx",
        lambda: apart(
            record_xlsx,
            {
                "run": str(head.number),
                "plan": head.title,
                "revision": str(head.revision),
                "machine": head.equipment_name,
                "joint": head.joint_name,
                "work": view.occasion_text,
                "status": head.status_text,
                "provisional": "; ".join(view.record.provisional_why),
                "plan hash": view.plan_hash,
                "head hash": view.head_hash,
                "events": str(view.events),
                "chain": f"DOES NOT HOLD: {view.not_proven}" if view.not_proven else "holds",
            },
            view.record,
            {p.id: p.name for p in view.positions},
        ),
    )
