"""Coming back: the shift, due dates, meters, the line of a joint, calendars."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from flask import Blueprint, Response, make_response
from pydantic import BaseModel, Field, RootModel

from ...services.rechecking.due_dates import DueView, list_dues, say_happened
from ...services.rechecking.feeds import LinkView, calendar_feed, calendar_link
from ...services.rechecking.history import HistoryView, add_note, joint_history
from ...services.rechecking.meters import (
    MachineView,
    ReadingAsTyped,
    SentAnswer,
    SentReading,
    add_meter,
    add_reading,
    correct_reading,
    machine,
    send_readings,
    strike_reading,
)
from ...services.rechecking.shift import ShiftView, day_sheet, shift
from ..operation import operation, with_helper
from .helpers import IdPath, answer, attachment, blueprint
from .plans import Created

api = blueprint("coming", "Shift, due dates, meters, history, calendars")
#: a calendar program has no session: the secret in the address is all that it shows
feed = Blueprint("feed", __name__)

Line = Annotated[str, Field(max_length=400)]


class ShiftOut(RootModel[ShiftView]):
    """A shift."""


class MachineOut(RootModel[MachineView]):
    """A machine with its meters."""


class HistoryOut(RootModel[HistoryView]):
    """The line of a joint."""


class CalendarOut(RootModel[LinkView]):
    """A calendar's address."""


class DueList(BaseModel):
    """Due dates."""

    items: list[DueView]


class DueQuery(BaseModel):
    """Days from and to, where only some are wanted."""

    begin: date | None = None
    end: date | None = None
    limit: Annotated[int, Field(ge=1, le=1000)] = 200


class PaperQuery(BaseModel):
    """The paper."""

    paper: Literal["A4", "Letter"] = "A4"


class MeterIn(BaseModel):
    """A meter to be given to a machine."""

    unit: Annotated[str, Field(max_length=20)]
    name: Line = ""


class ReadingIn(BaseModel):
    """A reading as typed."""

    value: Annotated[str, Field(max_length=40)]
    how: Annotated[str, Field(max_length=20)] = "reading"
    before: Annotated[str, Field(max_length=40)] = ""
    at: Annotated[str, Field(max_length=40)] = ""


class FigureIn(BaseModel):
    """The right figure of a reading, as typed."""

    value: Annotated[str, Field(max_length=40)]


class SentIn(BaseModel):
    """A reading as another system sends it."""

    value: Annotated[float, Field(ge=-1e12, le=1e12, allow_inf_nan=False)]
    how: Annotated[str, Field(max_length=20)] = "reading"
    before: Annotated[float, Field(ge=-1e12, le=1e12, allow_inf_nan=False)] | None = None
    at: Annotated[str, Field(max_length=40)] = ""
    machine: Annotated[str, Field(max_length=60)]
    unit: Annotated[str, Field(max_length=20)]


class SentBatch(BaseModel):
    """Readings of many machines."""

    readings: Annotated[list[SentIn], Field(min_length=1, max_length=1000)]


class SentOut(BaseModel):
    """What became of each."""

    kept: bool
    answers: list[SentAnswer]


class NoteIn(BaseModel):
    """A note for the history of a joint."""

    words: Line


class RuleIn(BaseModel):
    """A rule that waits for something."""

    rule: Annotated[str, Field(max_length=80)]


class LinkAct(BaseModel):
    """What is to be done with the calendar."""

    act: Literal["make", "end"]


@api.get("/shift", responses={"200": ShiftOut})
def get_shift() -> Response:
    """What is to be done now."""
    with operation() as ctx:
        return answer(ShiftOut(shift(ctx)))


@api.get("/shift.pdf")
def get_day_sheet(query: PaperQuery) -> Response:
    """The shift on paper."""
    name, data = with_helper(lambda ctx: day_sheet(ctx, query.paper))
    return attachment(name, data, "application/pdf")


@api.get("/due-dates", responses={"200": DueList})
def get_dues(query: DueQuery) -> Response:
    """Due dates by day."""
    with operation() as ctx:
        return answer(DueList(items=list_dues(ctx, query.begin, query.end, query.limit)))


@api.post("/joints/<uuid:id>/happened", responses={"204": None})
def post_happened(path: IdPath, body: RuleIn) -> tuple[str, int]:
    """Say that what a rule waits for has happened."""
    with operation() as ctx:
        say_happened(ctx, path.id, body.rule)
    return "", 204


@api.get("/joints/<uuid:id>/history", responses={"200": HistoryOut})
def get_history(path: IdPath) -> Response:
    """Everything on record of a joint."""
    with operation() as ctx:
        return answer(HistoryOut(joint_history(ctx, path.id)))


@api.post("/joints/<uuid:id>/notes", responses={"204": None})
def post_note(path: IdPath, body: NoteIn) -> tuple[str, int]:
    """Add a note to the history of a joint."""
    with operation() as ctx:
        add_note(ctx, path.id, body.words)
    return "", 204


@api.get("/equipment/<uuid:id>/meters", responses={"200": MachineOut})
def get_machine(path: IdPath) -> Response:
    """A machine with its meters."""
    with operation() as ctx:
        return answer(MachineOut(machine(ctx, path.id)))


@api.post("/equipment/<uuid:id>/meters", responses={"201": Created})
def post_meter(path: IdPath, body: MeterIn) -> Response:
    """Give a machine a meter."""
    with operation() as ctx:
        made = add_meter(ctx, path.id, body.unit, body.name)
    return answer(Created(id=made), 201)


@api.post("/meters/<uuid:id>/readings", responses={"201": Created})
def post_reading(path: IdPath, body: ReadingIn) -> Response:
    """Keep a reading of a meter."""
    with operation() as ctx:
        made = add_reading(ctx, path.id, ReadingAsTyped(**body.model_dump()))
    return answer(Created(id=made), 201)


@api.post("/meter-readings", responses={"200": SentOut})
def post_readings_sent(body: SentBatch) -> Response:
    """Readings of many machines, as another system sends them: all of them are kept, or none."""
    with operation() as ctx:
        answers = send_readings(
            ctx,
            [SentReading(r.machine, r.unit, r.value, r.at, r.how, r.before) for r in body.readings],
        )
    return answer(SentOut(kept=all(one.kept for one in answers), answers=answers))


@api.delete("/meter-readings/<uuid:id>", responses={"204": None})
def delete_reading(path: IdPath) -> tuple[str, int]:
    """Strike out a reading that was wrong."""
    with operation() as ctx:
        strike_reading(ctx, path.id)
    return "", 204


@api.post("/meter-readings/<uuid:id>/correction", responses={"201": Created})
def post_correction(path: IdPath, body: FigureIn) -> Response:
    """Put the right figure in the place of a wrong one."""
    with operation() as ctx:
        made = correct_reading(ctx, path.id, body.value)
    return answer(Created(id=made), 201)


@api.get("/calendar", responses={"200": CalendarOut})
def get_calendar() -> Response:
    """Whether there is a calendar."""
    with operation() as ctx:
        return answer(CalendarOut(calendar_link(ctx)))


@api.post("/calendar", responses={"200": CalendarOut})
def post_calendar(body: LinkAct) -> Response:
    """Make a calendar's address anew, or end it."""
    with operation() as ctx:
        return answer(CalendarOut(calendar_link(ctx, body.act)))


@feed.get("/calendar/<string:secret>.ics")
def get_feed(secret: str) -> Response:
    """The due dates, for a calendar program."""
    with operation() as ctx:
        data = calendar_feed(ctx, secret)
    response = make_response(data)
    response.content_type = "text/calendar; charset=utf-8"
    response.headers["Cache-Control"] = "private, max-age=900"
    return response
