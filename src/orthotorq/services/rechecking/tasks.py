"""What remains to do at a joint: a line, who does it, and until when."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any

from sqlalchemy import Select, select
from sqlalchemy.orm import aliased

from ...core.messages import Refusal
from ...store.models import Equipment, Joint, Person, Plan, Revision, Run, Task
from ..context import Ctx
from ..errors import BadField, NotFound, Refused
from ..permissions import use_case

MOST_WORDS = 200
#: tasks lie at most so many days ahead
MOST_DAYS = 3660
SHOWN = 100


@dataclass(frozen=True, slots=True)
class TaskView:
    """One task with where it is; `late` when its day has passed."""

    id: uuid.UUID
    words: str
    owner: str
    day: date
    late: bool
    joint_id: uuid.UUID
    joint_name: str
    equipment_name: str
    run_number: int | None
    run_id: uuid.UUID | None
    made_by: str
    done_by: str | None
    done_at: datetime | None


@dataclass(frozen=True, slots=True)
class Owner:
    """Somebody who can be asked to do a task."""

    id: uuid.UUID
    name: str


@dataclass(frozen=True, slots=True)
class TaskList:
    """Open tasks, the earliest first, then those done lately; and who can be asked."""

    items: list[TaskView]
    people: list[Owner]


def _wanted() -> Select[Task, str, str, str, str, str | None, int | None]:
    owner, maker, doer = aliased(Person), aliased(Person), aliased(Person)
    return (
        select(Task, owner.name, Joint.name, Equipment.name, maker.name, doer.name, Run.number)
        .join(owner, Task.owner_id == owner.id)
        .join(maker, Task.made_by == maker.id)
        .join(Joint, Task.joint_id == Joint.id)
        .join(Equipment, Joint.equipment_id == Equipment.id)
        .outerjoin(doer, Task.done_by == doer.id)
        .outerjoin(Run, Task.run_id == Run.id)
    )


def open_tasks(ctx: Ctx, limit: int = SHOWN) -> list[TaskView]:
    """Open tasks of every joint, the earliest first."""
    wanted = _wanted().where(Task.done_at.is_(None)).order_by(Task.day, Task.made_at).limit(limit)
    return [_view(row, ctx.today) for row in ctx.session.execute(wanted)]


def _view(row: Any, today: date) -> TaskView:
    task, owner, joint, machine, maker, doer, number = row
    return TaskView(
        task.id,
        task.words,
        owner,
        task.day,
        task.done_at is None and task.day < today,
        task.joint_id,
        joint,
        machine,
        number,
        task.run_id,
        maker,
        doer,
        task.done_at,
    )


@use_case
def list_tasks(ctx: Ctx, joint_id: uuid.UUID) -> TaskList:
    """Tasks of a joint. Raises NotFound."""
    if ctx.session.get(Joint, joint_id) is None:
        raise NotFound("joint")
    wanted = (
        _wanted()
        .where(Task.joint_id == joint_id)
        .order_by(Task.done_at.desc().nulls_first(), Task.day)
        .limit(SHOWN)
    )
    people = ctx.session.execute(
        select(Person.id, Person.name).where(Person.active).order_by(Person.name)
    )
    return TaskList(
        [_view(row, ctx.today) for row in ctx.session.execute(wanted)],
        [Owner(one, name) for one, name in people],
    )


@use_case
def add_task(
    ctx: Ctx,
    joint_id: uuid.UUID,
    words: str,
    owner: uuid.UUID,
    day: date,
    run_id: uuid.UUID | None = None,
) -> uuid.UUID:
    """Ask somebody to do something at a joint until a day. Raises NotFound, BadField."""
    if ctx.session.get(Joint, joint_id) is None:
        raise NotFound("joint")
    if not 1 <= len(words.strip()) <= MOST_WORDS:
        raise BadField(Refusal.SAY_WHAT, "words")
    person = ctx.session.get(Person, owner)
    if person is None or not person.active:
        raise BadField(Refusal.NO_SUCH_OWNER, "owner")
    today = ctx.today
    if not today <= day <= today + timedelta(days=MOST_DAYS):
        raise BadField(Refusal.TASK_DAY, "day")
    if (
        run_id is not None
        and ctx.session.scalar(
            select(Run.id)
            .join(Revision, Run.revision_id == Revision.id)
            .join(Plan, Revision.plan_id == Plan.id)
            .where(Run.id == run_id, Plan.joint_id == joint_id)
        )
        is None
    ):
        raise NotFound("run")
    task = Task(
        id=ctx.new_id(),
        joint_id=joint_id,
        run_id=run_id,
        words=words.strip(),
        owner_id=owner,
        day=day,
        made_by=ctx.person.id,
        made_at=ctx.now,
    )
    ctx.session.add(task)
    ctx.session.flush()
    return task.id


@use_case
def finish_task(ctx: Ctx, task_id: uuid.UUID) -> None:
    """A task is done, by who says so. Raises NotFound, Refused where it was done before."""
    task = ctx.session.scalar(select(Task).where(Task.id == task_id).with_for_update())
    if task is None:
        raise NotFound("task")
    if task.done_at is not None:
        raise Refused(Refusal.TASK_DONE)
    task.done_by, task.done_at = ctx.person.id, ctx.now
