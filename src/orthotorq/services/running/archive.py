"""All that is kept about one joint, as one file: for who asks for it, and for the day on which a
machine is sold."""

from __future__ import annotations

import io
import json
import uuid
import zipfile
from typing import IO

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from ...core.messages import Refusal
from ...exchange.record_csv import record_csv
from ...store.models import DueDate, Joint, JointEntry, Person, Photo, Plan, Revision, Run
from ..accounts.watch import note_event
from ..context import Ctx
from ..errors import NotFound, Refused
from ..permissions import use_case
from .imported_records import written_record

#: runs, and bytes of photos, that are packed while somebody waits; more are packed by the command
#: line
MOST_RUNS, MOST_PHOTOS = 300, 200_000_000


def _runs(session: Session, joint_id: uuid.UUID) -> list[tuple[uuid.UUID, int]]:
    rows = session.execute(
        select(Run.id, Run.number)
        .join(Revision, Revision.id == Run.revision_id)
        .join(Plan, Plan.id == Revision.plan_id)
        .where(Plan.joint_id == joint_id)
        .order_by(Run.number)
    )
    return [(run, number) for run, number in rows]


def _line(session: Session, joint: Joint) -> dict[str, object]:
    """What stands of the joint itself: where it is, what happened to it, what is due."""
    entries = session.execute(
        select(JointEntry, Person.name)
        .join(Person, Person.id == JointEntry.person_id)
        .where(JointEntry.joint_id == joint.id)
        .order_by(JointEntry.at)
    )
    machine = joint.equipment
    dues = session.scalars(select(DueDate).where(DueDate.joint_id == joint.id))
    return {
        "format": "orthotorq.joint",
        "version": 1,
        "site": machine.site.name,
        "machine": machine.name,
        "machine_tag": machine.tag,
        "area": machine.area,
        "joint": joint.name,
        "joint_tag": joint.tag,
        "kind": joint.kind,
        "entries": [
            {"at": one.at.isoformat(), "kind": one.kind, "words": one.words, "by": name}
            for one, name in entries
        ],
        "due": [
            {"occasion": one.occasion, "day": one.day.isoformat() if one.day else None}
            for one in dues
        ],
    }


def pack_joint(ctx: Ctx, joint_id: uuid.UUID, out: IO[bytes]) -> str:
    """Write a zip: the joint's line, each plan's draft and revisions, each run's record with its
    whole chain, and photos.

    Returns its name. Raises NotFound.
    """
    joint = ctx.session.get(Joint, joint_id)
    if joint is None:
        raise NotFound("joint")
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(
            "joint.json", json.dumps(_line(ctx.session, joint), ensure_ascii=False, indent=1)
        )
        plans = ctx.session.scalars(
            select(Plan).where(Plan.joint_id == joint_id).order_by(Plan.created_at)
        )
        for number, plan in enumerate(plans, 1):
            archive.writestr(f"plans/{number}/draft.json", plan.draft)
            for one in plan.revisions:
                archive.writestr(f"plans/{number}/revision-{one.number}.json", one.document)
                archive.writestr(f"plans/{number}/revision-{one.number}-figures.json", one.result)
        for run, run_number in _runs(ctx.session, joint_id):
            record = written_record(ctx, run)
            archive.writestr(f"runs/{run_number}/record.json", record.model_dump_json(indent=1))
            archive.writestr(
                f"runs/{run_number}/record.csv",
                record_csv(record.record, {p.id: p.name for p in record.positions}),
            )
            for photo in ctx.session.scalars(select(Photo).where(Photo.run_id == run)):
                archive.writestr(f"runs/{run_number}/{photo.id}.jpg", photo.data)
                ctx.session.expunge(photo)
    note_event(ctx, "export", f"all of {joint.equipment.tag}/{joint.tag}")
    return f"{joint.equipment.tag}-{joint.tag}.zip"


@use_case
def joint_archive(ctx: Ctx, joint_id: uuid.UUID) -> tuple[str, bytes]:
    """All about a joint as a zip. Raises NotFound, Refused where it is too much to wait for."""
    runs = [run for run, _ in _runs(ctx.session, joint_id)]
    photos = (
        ctx.session.scalar(select(func.sum(func.length(Photo.data))).where(Photo.run_id.in_(runs)))
        or 0
    )
    if len(runs) > MOST_RUNS or photos > MOST_PHOTOS:
        raise Refused(Refusal.ARCHIVE_TOO_MUCH, most=MOST_RUNS, photos=MOST_PHOTOS // 1_000_000)
    out = io.BytesIO()
    return pack_joint(ctx, joint_id, out), out.getvalue()
