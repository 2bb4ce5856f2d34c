"""Plans, drafts, revisions."""
from __future__ import annotations

import uuid
from typing import Annotated

from flask import Response, request
from pydantic import BaseModel, Field, RootModel

from ...core.documents.typed import PlanAsTyped
from ...core.messages import Refusal, render
from ...services.errors import BadField
from ...services.planning.commands import SavedAside, create_plan, release, save_draft
from ...services.planning.queries import (
    DraftView,
    RevisionView,
    SideDraftView,
    list_side_drafts,
    read_draft,
    read_revision,
    sheet_pdf,
)
from ..errors import Problem, problem
from ..operation import operation
from .bricks import IdPath, answer, attachment, blueprint

api = blueprint("plans", "Drafts and released revisions")


class NewPlan(BaseModel):
    """A plan to be begun."""

    joint: uuid.UUID
    title: Annotated[str, Field(min_length=1, max_length=120)]


class Created(BaseModel):
    """The id of what was made."""

    id: uuid.UUID


class DraftIn(BaseModel):
    """A draft as typed, valid or not."""

    document: PlanAsTyped


class DraftSaved(BaseModel):
    """The new version of the draft."""

    version: int


class ReleaseOut(BaseModel):
    """The revision made."""

    id: uuid.UUID
    number: int


class DraftOut(RootModel[DraftView]):
    """A draft."""


class RevisionOut(RootModel[RevisionView]):
    """A revision."""


class SideDraftList(BaseModel):
    """Losing versions, newest first."""

    items: list[SideDraftView]


def _base_version() -> int:
    """The draft version in If-Match. Raises BadField without it."""
    tag = request.headers.get("If-Match", "").strip().strip('"')
    if not tag.isdigit() or len(tag) > 9:
        raise BadField(Refusal.IF_MATCH, "If-Match")
    return int(tag)


@api.post("/plans", responses={"201": Created})
def new_plan(body: NewPlan) -> Response:
    """Begin a plan for a joint."""
    with operation() as ctx:
        made = create_plan(ctx, body.joint, body.title)
    return answer(Created(id=made), 201)


@api.get("/plans/<uuid:id>/draft", responses={"200": DraftOut})
def get_draft(path: IdPath) -> Response:
    """The draft with its version as ETag."""
    with operation() as ctx:
        view = read_draft(ctx, path.id)
    return answer(DraftOut(view), ETag=f'"{view.version}"')


@api.put("/plans/<uuid:id>/draft", responses={"200": DraftSaved, "412": Problem})
def put_draft(path: IdPath, body: DraftIn) -> Response:
    """Save a draft; 412 when somebody saved first, and this version is kept aside."""
    with operation() as ctx:
        outcome = save_draft(ctx, path.id, _base_version(), body.document)
    if isinstance(outcome, SavedAside):
        detail = render(Refusal.SAVED_ASIDE, person=outcome.by, version=outcome.current_version)
        return problem(412, "changed_meanwhile", detail)
    return answer(DraftSaved(version=outcome.version), ETag=f'"{outcome.version}"')


@api.get("/plans/<uuid:id>/side-drafts", responses={"200": SideDraftList})
def get_side_drafts(path: IdPath) -> Response:
    """Losing versions of a plan."""
    with operation() as ctx:
        return answer(SideDraftList(items=list_side_drafts(ctx, path.id)))


@api.post("/plans/<uuid:id>/release", responses={"201": ReleaseOut, "409": Problem})
def release_plan(path: IdPath) -> Response:
    """Freeze the draft named in If-Match as the next revision."""
    with operation() as ctx:
        revision = release(ctx, path.id, _base_version())
        out = ReleaseOut(id=revision.id, number=revision.number)
    return answer(out, 201)


@api.get("/revisions/<uuid:id>", responses={"200": RevisionOut})
def get_revision(path: IdPath) -> Response:
    """A revision with its result."""
    with operation() as ctx:
        return answer(RevisionOut(read_revision(ctx, path.id)))


@api.get("/revisions/<uuid:id>/sheet.pdf")
def get_sheet(path: IdPath) -> Response:
    """The sheet to carry before, as PDF."""
    with operation() as ctx:
        name, data = sheet_pdf(ctx, path.id)
    return attachment(name, data, "application/pdf")
