"""Plans in and out as files, and the jobs that do it."""

from __future__ import annotations

from flask import Response, request
from pydantic import RootModel

from ...core.messages import Refusal
from ...services.errors import BadField
from ...services.planning.exchange import JobView, cancel_job, export_plans, read_job, start_import
from ..operation import operation, queued
from .helpers import IdPath, answer, attachment, blueprint
from .plans import Created

api = blueprint("exchange", "Plans in and out")


class JobOut(RootModel[JobView]):
    """A job."""


@api.get("/plans/<uuid:id>/file")
def get_plan_file(path: IdPath) -> Response:
    """One plan's draft as a file."""
    with operation() as ctx:
        name, data = export_plans(ctx, path.id)
    return attachment(name, data, "application/json")


@api.get("/plans.zip")
def get_all_plans() -> Response:
    """Every plan's draft in a zip."""
    with operation() as ctx:
        name, data = export_plans(ctx)
    return attachment(name, data, "application/zip")


@api.post("/imports", responses={"202": Created})
def post_import() -> Response:
    """Begin importing a zip of plan files, sent as application/zip; its progress is read from the
    job."""
    if request.mimetype != "application/zip":
        raise BadField(Refusal.SEND_ZIP, "file")
    data = request.get_data()
    return answer(Created(id=queued("import", lambda ctx: start_import(ctx, data))), 202)


@api.get("/jobs/<uuid:id>", responses={"200": JobOut})
def get_job(path: IdPath) -> Response:
    """How far a job is."""
    with operation() as ctx:
        return answer(JobOut(read_job(ctx, path.id)))


@api.post("/jobs/<uuid:id>/cancel", responses={"200": JobOut})
def post_cancel(path: IdPath) -> Response:
    """Stop a job."""
    with operation() as ctx:
        cancel_job(ctx, path.id)
        return answer(JobOut(read_job(ctx, path.id)))
