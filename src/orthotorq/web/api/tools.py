"""Tools by serial, their checks, and what each has touched."""

from __future__ import annotations

from typing import Annotated, Any

from flask import Response
from pydantic import BaseModel, Field, RootModel

from ...services.toolroom.calibration_impact import TouchedView, recheck_touched, touched
from ...services.toolroom.checks import (
    CheckAsTyped,
    CheckView,
    PointAsTyped,
    ToolDetail,
    check_tool,
    tool_detail,
)
from ...services.toolroom.corrected import read_tester, use_with_error
from ...services.toolroom.tools import (
    SortView,
    ToolAsTyped,
    ToolView,
    allow_tool,
    block_tool,
    change_tool,
    list_tools,
    register_tool,
    tool_sorts,
)
from ..errors import Problem
from ..operation import operation
from .helpers import IdPath, answer, blueprint
from .plans import Created

api = blueprint("tools", "Tools and their calibration")

Line = Annotated[str, Field(max_length=300)]
Whole = Annotated[int, Field(ge=0, le=1_000_000)]


class ToolList(BaseModel):
    """Every registered tool, the sorts that there are, and what each kind of wrench is usually held
    to."""

    items: list[ToolView]
    sorts: list[SortView]
    usual_classes: dict[str, str]
    drives: list[str]


class ToolIn(BaseModel):
    """A tool as typed; `spec` is its sheet by its sort."""

    serial: Line
    sort: Line = "wrench"
    spec: dict[str, Any]
    place: Line = ""
    owner: Line = ""
    borrowed: bool = False
    held_to: Annotated[str, Field(max_length=30)] = ""
    interval_months: Whole = 12
    interval_pulls: Whole = 5000
    note: Line = ""

    def typed(self) -> ToolAsTyped:
        """The tool for the use case."""
        return ToolAsTyped(**self.model_dump())


class PointIn(BaseModel):
    """A setting and what the reference showed there."""

    setting: Line
    readings: Annotated[str, Field(max_length=1000)]


class CheckIn(BaseModel):
    """A check as typed."""

    points: Annotated[list[PointIn], Field(max_length=12)]
    reference: Line = ""
    uncertainty: Line = ""
    certificate: Annotated[str, Field(max_length=80)] = ""
    note: Line = ""


class Blocking(BaseModel):
    """Whether a tool is blocked, and why."""

    blocked: bool
    reason: Line = ""


class Allowing(BaseModel):
    """For how many hours a tool may be used that is not good, and why."""

    hours: Annotated[int, Field(ge=-1000, le=1000)]
    reason: Line = ""


class Reason(BaseModel):
    """Why."""

    reason: Line = ""


class Count(BaseModel):
    """How many."""

    count: int


class ToolDetailOut(RootModel[ToolDetail]):
    """A tool with its checks."""


class CheckOut(RootModel[CheckView]):
    """A check."""


class TouchedOut(RootModel[TouchedView]):
    """What a tool has touched."""


@api.get("/tools", responses={"200": ToolList})
def get_tools() -> Response:
    """Tools with their calibration."""
    with operation() as ctx:
        sorts, usual, drives = tool_sorts(ctx)
        return answer(
            ToolList(items=list_tools(ctx), sorts=sorts, usual_classes=usual, drives=drives)
        )


@api.post("/tools", responses={"201": Created})
def post_tool(body: ToolIn) -> Response:
    """Register a tool."""
    with operation() as ctx:
        made = register_tool(ctx, body.typed())
    return answer(Created(id=made), 201)


@api.get("/tools/<uuid:id>", responses={"200": ToolDetailOut})
def get_tool(path: IdPath) -> Response:
    """A tool with its checks."""
    with operation() as ctx:
        return answer(ToolDetailOut(tool_detail(ctx, path.id)))


@api.put("/tools/<uuid:id>", responses={"204": None})
def put_tool(path: IdPath, body: ToolIn) -> tuple[str, int]:
    """Put a tool right."""
    with operation() as ctx:
        change_tool(ctx, path.id, body.typed())
    return "", 204


@api.put("/tools/<uuid:id>/blocked", responses={"204": None})
def put_blocked(path: IdPath, body: Blocking) -> tuple[str, int]:
    """Block a tool, or let it go again."""
    with operation() as ctx:
        block_tool(ctx, path.id, body.blocked, body.reason)
    return "", 204


@api.put("/tools/<uuid:id>/allowed", responses={"204": None})
def put_allowed(path: IdPath, body: Allowing) -> tuple[str, int]:
    """Let a tool be used for some hours although it is not good."""
    with operation() as ctx:
        allow_tool(ctx, path.id, body.hours, body.reason)
    return "", 204


@api.post("/tools/<uuid:id>/checks", responses={"201": CheckOut})
def post_check(path: IdPath, body: CheckIn) -> Response:
    """Keep a check of a wrench."""
    with operation() as ctx:
        made = check_tool(
            ctx,
            path.id,
            CheckAsTyped(
                [PointAsTyped(p.setting, p.readings) for p in body.points],
                body.reference,
                body.uncertainty,
                body.certificate,
                body.note,
            ),
        )
        return answer(CheckOut(made), 201)


class Setting(BaseModel):
    """What a wrench is set to."""

    setting: Line


class Shown(BaseModel):
    """What a tester shows."""

    readings: str


@api.post("/tools/<uuid:id>/tester-readings", responses={"200": Shown})
def post_tester(path: IdPath, body: Setting) -> Response:
    """Read the (simulated) tester with a wrench on it."""
    with operation() as ctx:
        return answer(Shown(readings=read_tester(ctx, path.id, body.setting)))


@api.post("/tools/<uuid:id>/used-with-error", responses={"204": None})
def post_used_with_error(path: IdPath, body: Reason) -> tuple[str, int]:
    """Use a wrench that failed with the error that was found."""
    with operation() as ctx:
        use_with_error(ctx, path.id, body.reason)
    return "", 204


@api.get("/tools/<uuid:id>/touched", responses={"200": TouchedOut})
def get_touched(path: IdPath) -> Response:
    """What a tool has touched since its last good check."""
    with operation() as ctx:
        return answer(TouchedOut(touched(ctx, path.id)))


@api.post("/tools/<uuid:id>/touched/recheck", responses={"200": Count, "409": Problem})
def post_recheck(path: IdPath) -> Response:
    """Make a recheck due for every joint that a tool has left outside its window."""
    with operation() as ctx:
        return answer(Count(count=recheck_touched(ctx, path.id)))
