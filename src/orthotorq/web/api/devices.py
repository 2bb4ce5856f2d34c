"""Measuring devices: what may be connected, measurements at the steps of a run, their samples as
they come."""

from __future__ import annotations

import json
import time
import uuid
from collections.abc import Iterator
from dataclasses import asdict
from threading import BoundedSemaphore
from typing import Annotated

from flask import Response, request
from pydantic import BaseModel, Field, RootModel

from ...core.messages import Refusal
from ...services.errors import Busy
from ...services.running.pulls import (
    Curve,
    DevicesView,
    PullResult,
    PullView,
    begin_pull,
    keep_raw_pull,
    list_devices,
    stream_pull,
)
from ...services.running.tester import Tested, test_tool
from ...services.running.traces import TracesView, read_traces
from ..operation import operation
from .helpers import IdPath, answer, blueprint

api = blueprint("devices", "Measuring devices at the steps of a run")

#: streams that one worker serves at once
STREAMS = 16
_free = BoundedSemaphore(STREAMS)


class DevicesOut(RootModel[DevicesView]):
    """Devices that may be connected."""


class PullOut(RootModel[PullView]):
    """A measurement."""


class TracesOut(RootModel[TracesView]):
    """The curves of a run."""


class Begin(BaseModel):
    """A measurement to be begun: the open step, the device, and what a simulated joint has."""

    step: Annotated[str, Field(min_length=1, max_length=200)]
    device: Annotated[str, Field(min_length=1, max_length=60)]
    joint: Annotated[str, Field(max_length=20)] = "none"


class OnTester(BaseModel):
    """A wrench by serial, and the tester."""

    serial: Annotated[str, Field(min_length=1, max_length=60)]
    device: Annotated[str, Field(min_length=1, max_length=60)]


class TestedOut(RootModel[Tested]):
    """How a wrench read on a tester."""


class StepQuery(BaseModel):
    """The step of a run."""

    step: Annotated[str, Field(min_length=1, max_length=200)]


@api.get("/devices", responses={"200": DevicesOut})
def get_devices() -> Response:
    """Devices that may be connected."""
    with operation() as ctx:
        return answer(DevicesOut(list_devices(ctx)))


@api.post("/tests-of-tools", responses={"200": TestedOut})
def post_test(body: OnTester) -> Response:
    """Try a wrench on a tester."""
    with operation() as ctx:
        return answer(TestedOut(test_tool(ctx, body.serial, body.device)))


@api.post("/runs/<uuid:id>/pulls", responses={"201": PullOut})
def post_pull(path: IdPath, body: Begin) -> Response:
    """Begin a measurement at the open step; its samples come by its stream."""
    with operation() as ctx:
        made = begin_pull(ctx, path.id, body.step, body.device, body.joint)
    return answer(PullOut(made), 201)


@api.post("/runs/<uuid:id>/pulls/raw", responses={"201": PullOut})
def post_raw_pull(path: IdPath, query: StepQuery) -> Response:
    """Keep a pull of a real wrench, sent as a file of raw readings (text/csv)."""
    with operation() as ctx:
        made = keep_raw_pull(ctx, path.id, query.step, request.get_data())
    return answer(PullOut(made), 201)


@api.get("/runs/<uuid:id>/traces", responses={"200": TracesOut})
def get_traces(path: IdPath) -> Response:
    """The curves of a run's pulls, and those of the last run of its joint."""
    with operation() as ctx:
        return answer(TracesOut(read_traces(ctx, path.id)))


@api.get("/pulls/<uuid:id>/stream")
def get_stream(path: IdPath) -> Response:
    """The samples of a measurement as server-sent events: `samples` about ten times a second, then
    `result`, then the end."""
    with operation() as ctx:
        curves, result = stream_pull(ctx, path.id)
    if not _free.acquire(blocking=False):
        raise Busy(Refusal.STREAMS_FULL)
    response = Response(_events(path.id, curves, result), mimetype="text/event-stream")
    response.headers.update({"Cache-Control": "no-store", "X-Accel-Buffering": "no"})
    # also where the other side went before the first message was asked for
    response.call_on_close(_free.release)
    return response


def _events(pull: uuid.UUID, curves: Iterator[Curve], result: PullResult) -> Iterator[str]:
    begun = time.monotonic()
    for curve in curves:
        # a sample is sent when it has been taken, not before
        time.sleep(max(0.0, begun + curve.seconds[-1] - time.monotonic()))
        yield f"event: samples\ndata: {json.dumps({**asdict(curve), 'sent': time.time()})}\n\n"
    yield (
        "event: result\ndata: "
        f"{json.dumps({'pull': str(pull), **asdict(result)}, ensure_ascii=False)}\n\n"
    )
