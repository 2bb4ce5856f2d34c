"""Computing without storing: results, workings, and what the Bench asks of a document as typed."""
from __future__ import annotations

from typing import Annotated, Any

from flask import Response
from pydantic import BaseModel, Field, RootModel

from ...core.documents.typed import PlanAsTyped
from ...core.forms.result import Result
from ...core.planning.compute.alternatives import AlternativeOut
from ...core.planning.compute.order_choice import OrderChoice
from ...core.planning.compute.working import WorkingOut
from ...core.planning.from_manual import Proposed
from ...core.planning.outline import Mended, Section
from ...services.planning.bench import (
    TakeOn,
    compare_orders,
    compute_plan,
    edit_plan,
    explain_figure,
    look_at_plan,
    other_lubricants,
    read_manual,
    read_plan_file,
)
from ...services.reference.sums import plan_schema
from ..errors import FieldProblem
from ..operation import operation
from .bricks import answer, blueprint

api = blueprint("compute", "Results and workings of plan documents")


class DocumentIn(RootModel[PlanAsTyped]):
    """A plan document as typed."""


class WorkingIn(BaseModel):
    """A plan document and the figure to derive."""

    document: PlanAsTyped
    figure: Annotated[str, Field(min_length=1, max_length=200)]


class ManualIn(BaseModel):
    """A plan document, the group a line speaks of, and the line."""

    document: PlanAsTyped
    group: Annotated[str, Field(min_length=1, max_length=40)]
    text: Annotated[str, Field(min_length=1, max_length=4000)]


class ProposedOut(RootModel[Proposed]):
    """What a line says, and what was not understood of it."""


class OthersIn(BaseModel):
    """A plan document and the group in question."""

    document: PlanAsTyped
    group: Annotated[str, Field(min_length=1, max_length=40)]


class OthersOut(BaseModel):
    """What the lubricants in store would do."""

    items: list[AlternativeOut]


class OrdersOut(BaseModel):
    """The orders that a group offers."""

    items: list[OrderChoice]


class BenchOut(BaseModel):
    """A document as the Bench shows it: its result where it can be computed, else what is wrong; sections, stops, cautions."""

    result: Result | None
    errors: list[FieldProblem]
    sections: list[Section]
    stops: int
    cautions: int
    #: for every finding of the result, in its order, where it is mended
    opens: list[Mended]
    #: for every error, in its order, where it stands
    wrong: list[Mended]
    #: places of values that are still the example's
    examples: list[str]
    to_take_on: list[TakeOn]


class EditIn(BaseModel):
    """A plan document, the name of an act, and what it is about."""

    document: PlanAsTyped
    act: Annotated[str, Field(min_length=1, max_length=40)]
    params: dict[str, Annotated[str, Field(max_length=500)]] = {}


class EditOut(BaseModel):
    """The document after an act, and the section that should be open."""

    document: PlanAsTyped
    opens: str


class FileIn(BaseModel):
    """The text of a plan file, and the joint it is to be for."""

    text: Annotated[str, Field(max_length=2_000_000)]
    joint: Annotated[str, Field(max_length=120)] | None = None


@api.post("/bench", responses={"200": BenchOut})
def post_bench(body: DocumentIn) -> Response:
    """A plan document as the Bench shows it, whatever is wrong with it."""
    with operation() as ctx:
        view = look_at_plan(ctx, body.root)
    errors = [FieldProblem(path=e.pointer(), code=e.code, text=e.text) for e in view.errors]
    return answer(BenchOut(result=view.result, errors=errors, sections=view.sections, stops=view.stops, cautions=view.cautions,
                            opens=view.opens, wrong=view.wrong, examples=view.examples, to_take_on=view.to_take_on))


@api.post("/edits", responses={"200": EditOut})
def post_edit(body: EditIn) -> Response:
    """A plan document changed by an act of its planner."""
    with operation() as ctx:
        done = edit_plan(ctx, body.document, body.act, body.params)
    return answer(EditOut(document=done.document, opens=done.opens))


@api.post("/plan-file", responses={"200": EditOut})
def post_file(body: FileIn) -> Response:
    """The plan document of a file."""
    with operation() as ctx:
        done = read_plan_file(ctx, body.text, body.joint)
    return answer(EditOut(document=done.document, opens=done.opens))


@api.post("/manual-lines", responses={"200": ProposedOut})
def post_manual_line(body: ManualIn) -> Response:
    """What a line of a manual says to a group of bolts: proposals beside its words."""
    with operation() as ctx:
        return answer(ProposedOut(read_manual(ctx, body.document, body.group, body.text)))


@api.post("/compute", responses={"200": Result})
def compute_document(body: DocumentIn) -> Response:
    """The result of a plan document, or 422 with every field that is wrong."""
    with operation() as ctx:
        return answer(compute_plan(ctx, body.root))


@api.post("/working", responses={"200": WorkingOut})
def work_out(body: WorkingIn) -> Response:
    """The derivation of one figure."""
    with operation() as ctx:
        return answer(explain_figure(ctx, body.document, body.figure))


@api.post("/other-lubricants", responses={"200": OthersOut})
def read_others(body: OthersIn) -> Response:
    """What each lubricant in store would do in one group: at the same torque, and for the same clamp."""
    with operation() as ctx:
        return answer(OthersOut(items=other_lubricants(ctx, body.document, body.group)))


@api.post("/orders", responses={"200": OrdersOut})
def read_orders(body: OthersIn) -> Response:
    """The orders in which the bolts of a group may be gone over, with the measures by which they are compared."""
    with operation() as ctx:
        return answer(OrdersOut(items=compare_orders(ctx, body.document, body.group)))


@api.get("/plan-schema")
def read_schema() -> dict[str, Any]:
    """JSON Schema of the plan document."""
    with operation() as ctx:
        return plan_schema(ctx)
