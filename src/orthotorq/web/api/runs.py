"""Runs, their events, their records."""

from __future__ import annotations

import uuid
from typing import Annotated, Any, Literal

from flask import Response, request
from pydantic import BaseModel, Field, RootModel

from ...core.forms.run import RunState
from ...services.errors import BadField
from ...services.running.commands import EventAnswer, append_events, take_lease
from ...services.running.photos import keep_photo, read_photo
from ...services.running.prepare import StartView, prepare_run
from ...services.running.queries import (
    RunHead,
    RunView,
    Suggestion,
    list_runs,
    list_suggestions,
    read_run,
)
from ...services.running.sign import sign_run
from ...services.running.start import Choices, start_run
from ..operation import operation, with_helper
from .helpers import IdPath, answer, attachment, blueprint
from .plans import Created

api = blueprint("runs", "Leading the fitter and keeping the record")


class StartRun(BaseModel):
    """A run to be started on a device: occasion, variants, history, tools by id of the plan's tool
    -> serial."""

    revision: uuid.UUID
    device: Annotated[str, Field(min_length=1, max_length=80)]
    #: the run's id as the device has made it: sent again, the start gives the same run
    run: uuid.UUID | None = None
    occasion: Annotated[str, Field(max_length=20)] = "install"
    variants: Annotated[list[Annotated[str, Field(max_length=40)]], Field(max_length=20)] = []
    history: Annotated[str, Field(max_length=10)] = "known"
    tools: dict[str, Annotated[str, Field(max_length=60)]] = {}
    makeshift: Annotated[str, Field(max_length=200)] = ""
    #: ids of positions, where it is not at all of them
    positions: Annotated[list[Annotated[str, Field(max_length=60)]], Field(max_length=60)] = []


class Device(BaseModel):
    """The device that takes a run over."""

    device: Annotated[str, Field(min_length=1, max_length=80)]


class Lease(BaseModel):
    """The epoch of the lease."""

    epoch: int


class Batch(BaseModel):
    """Up to 100 events, each answered on its own; `sent_at` is the device's clock when sending."""

    sent_at: Annotated[str, Field(max_length=40)]
    events: Annotated[list[Any], Field(min_length=1, max_length=100)]


class BatchOut(BaseModel):
    """What became of each event, and the run after them."""

    answers: list[EventAnswer]
    state: RunState


class RunOut(RootModel[RunView]):
    """A run."""


class RunQuery(BaseModel):
    """A page of runs, newest first."""

    before: int | None = None
    limit: Annotated[int, Field(ge=1, le=100)] = 30


class RunList(BaseModel):
    """Runs and the number to ask for the next page with."""

    items: list[RunHead]
    next: int | None


@api.get("/runs", responses={"200": RunList})
def get_runs(query: RunQuery) -> Response:
    """Runs, newest first."""
    with operation() as ctx:
        items = list_runs(ctx, query.before, query.limit)
    return answer(
        RunList(items=items, next=items[-1].number if len(items) == query.limit else None)
    )


@api.post("/runs", responses={"201": Created})
def post_run(body: StartRun) -> Response:
    """Start a run of a released revision."""
    with operation() as ctx:
        made = start_run(
            ctx,
            body.revision,
            Choices(
                body.device,
                body.occasion,
                tuple(body.variants),
                body.history,
                tuple(body.tools.items()),
                body.makeshift,
                tuple(body.positions),
                body.run,
            ),
        )
    return answer(Created(id=made), 201)


class StartQuery(BaseModel):
    """What is chosen so far: the occasion, and variants separated by commas; or the run for
    which another wrench is taken."""

    occasion: Annotated[str, Field(max_length=20)] = ""
    variants: Annotated[str, Field(max_length=400)] = ""
    #: a run under way, of which only what is still to do counts
    run: uuid.UUID | None = None


class StartOut(RootModel[StartView]):
    """What has to be chosen before a run."""


@api.get("/revisions/<uuid:id>/start", responses={"200": StartOut})
def get_start(path: IdPath, query: StartQuery) -> Response:
    """What has to be chosen before a run of a revision."""
    with operation() as ctx:
        return answer(
            StartOut(
                prepare_run(
                    ctx, path.id, query.occasion, tuple(query.variants.split(",")), query.run
                )
            )
        )


@api.get("/runs/<uuid:id>", responses={"200": RunOut})
def get_run(path: IdPath) -> Response:
    """A run with its state."""
    with operation() as ctx:
        return answer(RunOut(read_run(ctx, path.id)))


@api.post("/runs/<uuid:id>/lease", responses={"200": Lease})
def post_lease(path: IdPath, body: Device) -> Response:
    """Take a run over on a device."""
    with operation() as ctx:
        epoch = take_lease(ctx, path.id, body.device)
    return answer(Lease(epoch=epoch))


class Signing(BaseModel):
    """A signature: in which role, with the password or the PIN again; neither after a fresh
    answer of the plant's sign-on."""

    role: Literal["fitter", "supervisor"]
    password: Annotated[str, Field(max_length=200)] = ""


class StateOut(RootModel[RunState]):
    """A run as it stands."""


@api.post("/runs/<uuid:id>/signature", responses={"200": StateOut})
def post_signature(path: IdPath, body: Signing) -> Response:
    """Sign a run."""
    with operation() as ctx:
        found = sign_run(ctx, path.id, body.role, body.password)
    if isinstance(found, BadField):
        raise found
    return answer(StateOut(found))


@api.post("/runs/<uuid:id>/events", responses={"200": BatchOut})
def post_events(path: IdPath, body: Batch) -> Response:
    """Append events; sending the same again is harmless."""
    with operation() as ctx:
        answers, state = append_events(ctx, path.id, body.events, body.sent_at)
    return answer(BatchOut(answers=answers, state=state))


class SuggestionList(BaseModel):
    """What fitters wish to be changed in a plan."""

    items: list[Suggestion]


@api.get("/plans/<uuid:id>/suggestions", responses={"200": SuggestionList})
def get_suggestions(path: IdPath) -> Response:
    """Wishes of fitters to the planner, from the runs of a plan."""
    with operation() as ctx:
        return answer(SuggestionList(items=list_suggestions(ctx, path.id)))


@api.post("/runs/<uuid:id>/photos", responses={"201": Created})
def post_photo(path: IdPath) -> Response:
    """Keep a photo, sent as image/jpeg, image/png or image/webp; an event names it afterwards."""
    data = request.get_data()
    made = with_helper(lambda ctx: keep_photo(ctx, path.id, data))
    return answer(Created(id=made), 201)


@api.get("/photos/<uuid:id>")
def get_photo(path: IdPath) -> Response:
    """A photo as JPEG."""
    with operation() as ctx:
        data = read_photo(ctx, path.id)
    return attachment("photo.jpg", data, "image/jpeg")
