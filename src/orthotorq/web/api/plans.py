"""Plans, drafts, revisions."""

from __future__ import annotations

import uuid
from typing import Annotated, Literal

from flask import Response, request
from pydantic import BaseModel, Field, RootModel

from ...core.documents.typed import PlanAsTyped
from ...core.messages import Refusal
from ...core.planning.differences import Difference
from ...services.errors import BadField
from ...services.planning.commands import (
    SavedAside,
    copy_plan,
    create_plan,
    put_away,
    release,
    save_draft,
)
from ...services.planning.queries import (
    CopyView,
    DraftView,
    RevisionView,
    SideDraftView,
    list_side_drafts,
    plans_to_copy,
    read_draft,
    read_revision,
)
from ...services.planning.sheets import sheet_pdf, template_pdf
from ...services.planning.versions import (
    RevisionLine,
    compare_versions,
    list_revisions,
    take_over_part,
)
from ..errors import Problem
from ..operation import operation, with_helper
from .bench import EditOut, saved_aside
from .helpers import IdPath, answer, attachment, blueprint

api = blueprint("plans", "Drafts and released revisions")


class NewPlan(BaseModel):
    """A plan to be begun."""

    joint: uuid.UUID
    title: Annotated[str, Field(min_length=1, max_length=120)]
    empty: bool = False


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


class ReleaseIn(BaseModel):
    """Why there is a new revision, and the cautions waived, by `code@where`."""

    reason: Annotated[str, Field(max_length=1000)] = ""
    taken_on: Annotated[list[Annotated[str, Field(max_length=200)]], Field(max_length=500)] = []


class RevisionList(BaseModel):
    """Revisions of a plan, newest first."""

    items: list[RevisionLine]


class TwoVersions(BaseModel):
    """Which version is held against which: `draft`, a revision's id, or that of a draft kept
    aside."""

    before: Annotated[str, Field(max_length=40)] = "draft"
    after: Annotated[str, Field(max_length=40)] = "draft"


class DifferenceList(BaseModel):
    """What differs, field by field, in words."""

    items: list[Difference]


class TakeOverIn(BaseModel):
    """A document, the version a part of it is taken from, and the place of the part."""

    document: PlanAsTyped
    version: Annotated[str, Field(max_length=40)]
    path: Annotated[str, Field(max_length=300)]


class CopyIn(BaseModel):
    """The joint a plan is copied to."""

    joint: uuid.UUID


class CopyQuery(BaseModel):
    """Words to find a plan by."""

    find: Annotated[str, Field(max_length=200)] = ""


class CopyList(BaseModel):
    """Plans that may be copied to a joint."""

    items: list[CopyView]


class PutAwayIn(BaseModel):
    """Whether a plan is put away."""

    away: bool


class SideDraftList(BaseModel):
    """Losing versions, newest first."""

    items: list[SideDraftView]


def _base_version() -> int:
    """The draft version in If-Match. Raises BadField without it."""
    tag = request.headers.get("If-Match", "").strip().strip('"')
    if not tag.isdecimal() or len(tag) > 9:
        raise BadField(Refusal.IF_MATCH, "If-Match")
    return int(tag)


@api.post("/plans", responses={"201": Created})
def new_plan(body: NewPlan) -> Response:
    """Begin a plan for a joint."""
    with operation() as ctx:
        made = create_plan(ctx, body.joint, body.title, body.empty)
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
        return saved_aside(outcome)
    return answer(DraftSaved(version=outcome.version), ETag=f'"{outcome.version}"')


@api.get("/plans/<uuid:id>/side-drafts", responses={"200": SideDraftList})
def get_side_drafts(path: IdPath) -> Response:
    """Losing versions of a plan."""
    with operation() as ctx:
        return answer(SideDraftList(items=list_side_drafts(ctx, path.id)))


@api.post("/plans/<uuid:id>/release", responses={"201": ReleaseOut, "409": Problem})
def release_plan(path: IdPath, body: ReleaseIn) -> Response:
    """Freeze the draft named in If-Match as the next revision, with its reason and waived
    cautions."""
    with operation() as ctx:
        revision = release(ctx, path.id, _base_version(), body.reason, body.taken_on)
        out = ReleaseOut(id=revision.id, number=revision.number)
    return answer(out, 201)


@api.get("/plans/<uuid:id>/revisions", responses={"200": RevisionList})
def get_revisions(path: IdPath) -> Response:
    """Revisions of a plan, with why and by whom."""
    with operation() as ctx:
        return answer(RevisionList(items=list_revisions(ctx, path.id)))


@api.get("/plans/<uuid:id>/differences", responses={"200": DifferenceList})
def get_differences(path: IdPath, query: TwoVersions) -> Response:
    """What differs between two versions of a plan."""
    with operation() as ctx:
        return answer(
            DifferenceList(items=compare_versions(ctx, path.id, query.before, query.after))
        )


@api.post("/plans/<uuid:id>/take-over", responses={"200": EditOut})
def post_take_over(path: IdPath, body: TakeOverIn) -> Response:
    """A document with one part as another version of the plan has it."""
    with operation() as ctx:
        done = take_over_part(ctx, path.id, body.version, body.document, body.path)
    return answer(EditOut(document=done.document, opens=done.opens))


@api.get("/joints/<uuid:id>/plans-to-copy", responses={"200": CopyList})
def read_copies(path: IdPath, query: CopyQuery) -> Response:
    """Plans for joints of the same kind."""
    with operation() as ctx:
        return answer(CopyList(items=plans_to_copy(ctx, path.id, query.find)))


@api.post("/plans/<uuid:id>/copies", responses={"201": Created})
def post_copy(path: IdPath, body: CopyIn) -> Response:
    """A draft like this one for another joint of the same kind."""
    with operation() as ctx:
        made = copy_plan(ctx, path.id, body.joint)
    return answer(Created(id=made), 201)


@api.put("/plans/<uuid:id>/put-away", responses={"204": None})
def put_put_away(path: IdPath, body: PutAwayIn) -> Response:
    """A plan out of the lists, or back among them."""
    with operation() as ctx:
        put_away(ctx, path.id, body.away)
    return Response(status=204)


@api.get("/revisions/<uuid:id>", responses={"200": RevisionOut})
def get_revision(path: IdPath) -> Response:
    """A revision with its result."""
    with operation() as ctx:
        return answer(RevisionOut(read_revision(ctx, path.id)))


class PaperIn(BaseModel):
    """The paper a sheet is printed on."""

    paper: Literal["A4", "Letter"] = "A4"


@api.get("/revisions/<uuid:id>/sheet.pdf")
def get_sheet(path: IdPath, query: PaperIn) -> Response:
    """The sheet to carry before, as PDF."""
    name, data = with_helper(lambda ctx: sheet_pdf(ctx, path.id, query.paper))
    return attachment(name, data, "application/pdf")


@api.get("/revisions/<uuid:id>/template.pdf")
def get_template(path: IdPath, query: PaperIn) -> Response:
    """A template of the bolts to lay on the joint, 1:1, as PDF."""
    name, data = with_helper(lambda ctx: template_pdf(ctx, path.id, query.paper))
    return attachment(name, data, "application/pdf")
