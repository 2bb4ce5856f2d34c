"""The condition of joints, what people say of it, and tasks."""

from __future__ import annotations

import uuid
from datetime import date
from typing import Annotated

from flask import Response
from pydantic import BaseModel, Field, RootModel

from ...services.rechecking.acts import note_not_safe, note_opened, note_replaced, use_as_is
from ...services.rechecking.lanes import ConditionView, joint_condition
from ...services.rechecking.tag import condition_tag
from ...services.rechecking.tasks import TaskList, add_task, finish_task, list_tasks
from ..errors import Problem
from ..operation import operation, with_helper
from .helpers import IdPath, answer, attachment, blueprint
from .plans import Created

api = blueprint("conditions", "The condition of joints, and tasks")

Line = Annotated[str, Field(max_length=400)]
Position = Annotated[str, Field(max_length=60)]


class ConditionOut(RootModel[ConditionView]):
    """The condition of a joint by position, and its year."""


class Said(BaseModel):
    """What is said of a joint, or of one position of it; the words may be empty."""

    words: Line = ""
    position: Position = ""


class AcceptanceIn(Said):
    """Use as is: why, with which conditions, until when."""

    conditions: Line
    until: date


class ReplacedIn(BaseModel):
    """Parts that were replaced: in the last run that fitted the joint, or outside a run."""

    words: Line
    position: Position = ""
    in_last_run: bool


class TasksOut(RootModel[TaskList]):
    """Tasks of a joint, and who can be asked."""


class TaskIn(BaseModel):
    """A task: what, who, until when, and the run that it comes from."""

    words: Annotated[str, Field(max_length=200)]
    owner: uuid.UUID
    day: date
    run: uuid.UUID | None = None


@api.get("/joints/<uuid:id>/condition", responses={"200": ConditionOut})
def read_condition(path: IdPath) -> Response:
    """The condition of a joint by position, why, what clears it, what is due; and its year."""
    with operation() as ctx:
        return answer(ConditionOut(joint_condition(ctx, path.id)))


@api.post("/joints/<uuid:id>/opened", responses={"204": None})
def post_opened(path: IdPath, body: Said) -> tuple[str, int]:
    """Somebody had the joint open, and no record says what was done."""
    with operation() as ctx:
        note_opened(ctx, path.id, body.words, body.position)
    return "", 204


@api.post("/joints/<uuid:id>/replaced", responses={"204": None})
def post_replaced(path: IdPath, body: ReplacedIn) -> tuple[str, int]:
    """Record replaced parts; outside a run they leave the joint unknown."""
    with operation() as ctx:
        note_replaced(ctx, path.id, body.words, body.position, body.in_last_run)
    return "", 204


@api.post("/joints/<uuid:id>/not-safe", responses={"204": None})
def post_not_safe(path: IdPath, body: Said) -> tuple[str, int]:
    """Say that a joint must not be used, and why."""
    with operation() as ctx:
        note_not_safe(ctx, path.id, body.words, body.position)
    return "", 204


@api.post("/joints/<uuid:id>/use-as-is", responses={"204": None, "409": Problem})
def post_use_as_is(path: IdPath, body: AcceptanceIn) -> tuple[str, int]:
    """Accept what failed as it is, by a supervisor who did not work there, with conditions and an
    end."""
    with operation() as ctx:
        use_as_is(ctx, path.id, body.words, body.conditions, body.until, body.position)
    return "", 204


class TagQuery(BaseModel):
    """The paper of a tag."""

    paper: Annotated[str, Field(pattern="^(A4|Letter)$")] = "A4"


@api.get("/joints/<uuid:id>/tag.pdf")
def get_tag(path: IdPath, query: TagQuery) -> Response:
    """The tag to hang on the machine."""
    name, data = with_helper(lambda ctx: condition_tag(ctx, path.id, query.paper))
    return attachment(name, data, "application/pdf")


@api.get("/joints/<uuid:id>/tasks", responses={"200": TasksOut})
def read_tasks(path: IdPath) -> Response:
    """Tasks of a joint: open ones by day, then those done."""
    with operation() as ctx:
        return answer(TasksOut(list_tasks(ctx, path.id)))


@api.post("/joints/<uuid:id>/tasks", responses={"201": Created})
def post_task(path: IdPath, body: TaskIn) -> Response:
    """Ask somebody to do something at a joint until a day."""
    with operation() as ctx:
        made = add_task(ctx, path.id, body.words, body.owner, body.day, body.run)
    return answer(Created(id=made), 201)


@api.post("/tasks/<uuid:id>/done", responses={"204": None, "409": Problem})
def post_done(path: IdPath) -> tuple[str, int]:
    """A task is done."""
    with operation() as ctx:
        finish_task(ctx, path.id)
    return "", 204
