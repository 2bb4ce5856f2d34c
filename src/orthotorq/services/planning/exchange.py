"""Plans in and out as files: one, or a folder of them as a zip; importing many is a job with
progress."""

from __future__ import annotations

import io
import json
import uuid
import zipfile
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from functools import partial
from typing import Any, TypeVar

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload, sessionmaker

from ...core.documents.read import parse_json
from ...core.errors import OrthotorqError
from ...core.forms.errors import DocumentErrors
from ...core.messages import Refusal, render
from ...core.planning.compute import compute
from ...exchange.plan_files import MOST_FILES, Unfit, count_plans, plan_files
from ...store.models import Equipment, Job, Joint, Person, Plan
from ..accounts.watch import note_event
from ..context import Ctx
from ..errors import BadField, Forbidden, NotFound, Refused
from ..helper_task import HelperTask
from ..permissions import use_case

STEP = 25
T = TypeVar("T")


@dataclass(frozen=True, slots=True)
class FileError:
    """What is wrong in one file of an import."""

    file: str
    path: str
    text: str


@dataclass(frozen=True, slots=True)
class JobView:
    """How far a job is, and what came of it."""

    id: uuid.UUID
    kind: str
    status: str
    done: int
    total: int
    at: datetime
    imported: int
    errors: list[FileError]


def _safe(name: str) -> str:
    return "".join(c if c.isalnum() or c in "-_." else "-" for c in name)


@use_case
def export_plans(ctx: Ctx, plan_id: uuid.UUID | None = None) -> tuple[str, bytes]:
    """(file name, bytes): one plan's draft as JSON, or every plan as a zip of files. Raises
    NotFound."""
    if plan_id is not None:
        plan = ctx.session.get(Plan, plan_id)
        if plan is None:
            raise NotFound("plan")
        text = json.dumps(json.loads(plan.draft), ensure_ascii=False, indent=1)
        return f"{_safe(plan.title)}.json", text.encode()
    note_event(ctx, "export", "every plan")
    out = io.BytesIO()
    load = selectinload(Plan.joint).selectinload(Joint.equipment)
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for plan in ctx.session.scalars(select(Plan).options(load).order_by(Plan.created_at)):
            of = plan.joint
            name = f"{_safe(of.equipment.tag)}-{_safe(of.tag)}-{plan.id.hex[-10:]}.json"
            archive.writestr(name, json.dumps(json.loads(plan.draft), ensure_ascii=False, indent=1))
    return "plans.zip", out.getvalue()


_UNFIT = {"empty": Refusal.ZIP_EMPTY, "too much": Refusal.ZIP_TOO_MUCH, "no zip": Refusal.NO_ZIP}


def _fit(found: Unfit | T) -> T:
    """What was found in a zip. Raises BadField for what is no zip or too much."""
    if isinstance(found, str):
        raise BadField(_UNFIT[found], "file", most=MOST_FILES)
    return found


@use_case
def start_import(ctx: Ctx, data: bytes) -> HelperTask[int, uuid.UUID]:
    """Begin importing a zip of plans; what follows gives the job's id. Its work raises BadField
    for a bad zip."""
    return HelperTask(lambda: _fit(count_plans(data)), partial(_start, data))


def _start(data: bytes, ctx: Ctx, count: int) -> uuid.UUID:
    job = Job(
        id=ctx.new_id(),
        kind="import",
        status="waiting",
        done=0,
        total=count,
        answer="{}",
        payload=data,
        person_id=ctx.person.id,
        at=ctx.now,
    )
    ctx.session.add(job)
    ctx.session.flush()
    return job.id


@use_case
def read_job(ctx: Ctx, job_id: uuid.UUID) -> JobView:
    """How far a job is. Raises NotFound."""
    job = ctx.session.get(Job, job_id)
    if job is None:
        raise NotFound("job")
    answer = json.loads(job.answer)
    return JobView(
        job.id,
        job.kind,
        job.status,
        job.done,
        job.total,
        job.at,
        answer.get("imported", 0),
        [FileError(**e) for e in answer.get("errors", [])],
    )


@use_case
def cancel_job(ctx: Ctx, job_id: uuid.UUID) -> None:
    """Stop a job; what it has not finished is not done at all. Raises NotFound, Refused,
    Forbidden where it is another's."""
    job = ctx.session.scalar(select(Job).where(Job.id == job_id).with_for_update())
    if job is None:
        raise NotFound("job")
    if job.person_id != ctx.person.id and "administrator" not in ctx.person.roles:
        raise Forbidden(Refusal.NOT_YOUR_JOB, name=ctx.session.get_one(Person, job.person_id).name)
    if job.status not in ("waiting", "working"):
        raise Refused(Refusal.JOB_OVER, status=job.status)
    job.status = "cancelled"
    ctx.session.flush()


def read_file(name: str, text: bytes, joints: dict[str, uuid.UUID]) -> tuple[Any, list[FileError]]:
    """(document, errors) of one file: JSON, plan, computable, and for a joint that exists."""
    try:
        document = parse_json(text)
        compute(document)
    except DocumentErrors as error:
        return None, [FileError(name, e.pointer(), e.text) for e in error.errors[:20]]
    except OrthotorqError as error:
        return None, [FileError(name, "", str(error))]
    if document.get("joint") not in joints:
        return None, [
            FileError(name, "joint", render(Refusal.NO_SUCH_JOINT, joint=document.get("joint")))
        ]
    return document, []


def run_import(
    sessions: sessionmaker[Session], job_id: uuid.UUID, make: Callable[[Session], Ctx]
) -> None:
    """The work of an import: every file is read first; plans are written only when none has an
    error.

    Raises LookupError for no such job: it is queued in the transaction that keeps it.
    """
    with sessions.begin() as session:
        job = session.get(Job, job_id)
        if job is None:
            raise LookupError("there is no such job")
        if job.status != "waiting" or job.payload is None:
            return
        job.status, files, person = "working", _fit(plan_files(job.payload)), job.person_id
        rows = session.execute(
            select(Joint.id, Joint.tag, Equipment.tag).join(
                Equipment, Joint.equipment_id == Equipment.id
            )
        )
        joints = {f"{machine}/{tag}": joint for joint, tag, machine in rows}
    documents, errors = [], list[FileError]()
    for number, (name, data) in enumerate(files, 1):
        document, wrong = read_file(name, data, joints)
        errors += wrong
        documents.append(document)
        if (number % STEP == 0 or number == len(files)) and not progress(sessions, job_id, number):
            return
    with sessions.begin() as session:
        job = session.scalar(select(Job).where(Job.id == job_id).with_for_update())
        if job is None or job.status != "working":
            return
        if not errors:
            ctx = make(session)
            for document in documents:
                text = json.dumps(document, ensure_ascii=False)
                session.add(
                    Plan(
                        id=ctx.new_id(),
                        joint_id=joints[document["joint"]],
                        title=document["title"],
                        version=1,
                        created_at=ctx.now,
                        draft=text,
                        draft_by=person,
                        draft_at=ctx.now,
                    )
                )
        job.status, job.payload = ("failed" if errors else "done"), None
        job.answer = json.dumps(
            {
                "imported": 0 if errors else len(documents),
                "errors": [{"file": e.file, "path": e.path, "text": e.text} for e in errors[:500]],
            }
        )


def progress(sessions: sessionmaker[Session], job_id: uuid.UUID, done: int) -> bool:
    """Write how far the job is; False when somebody has stopped it."""
    with sessions.begin() as session:
        job = session.scalar(select(Job).where(Job.id == job_id).with_for_update())
        if job is None or job.status != "working":
            return False
        job.done = done
    return True
