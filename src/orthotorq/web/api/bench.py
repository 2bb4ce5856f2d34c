"""Computing without storing: results, workings, and what the Bench asks of a document as typed."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from flask import Response
from pydantic import BaseModel, Field, RootModel

from ...core.documents.typed import PlanAsTyped
from ...core.forms.result import Result
from ...core.messages import Refusal, render
from ...core.planning.compute.output.alternatives import AlternativeOut
from ...core.planning.compute.output.custom_sequence import SequenceOut
from ...core.planning.compute.output.order_choice import OrderChoice
from ...core.planning.compute.output.working import WorkingOut
from ...core.planning.from_manual import Proposed
from ...core.planning.outline import Mended, Section
from ...services.planning.bench import (
    BenchView,
    TakeOn,
    compare_orders,
    compute_plan,
    edit_draft,
    explain_figure,
    look_at_plan,
    other_lubricants,
    read_custom_sequence,
    read_manual,
    read_plan_file,
)
from ...services.planning.commands import SavedAside
from ...services.reference.sums import plan_schema
from ..errors import FieldProblem, Problem, problem
from ..operation import operation
from .helpers import IdPath, answer, blueprint

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


class SequenceIn(BaseModel):
    """A plan document, the group, and a sequence of its bolts as typed."""

    document: PlanAsTyped
    group: Annotated[str, Field(min_length=1, max_length=40)]
    text: Annotated[str, Field(max_length=8000)]
    #: bolts that come more than once do so on purpose
    repeats: bool = False


class BenchOut(BaseModel):
    """A document as the Bench shows it: its result where it can be computed, else what is wrong;
    sections, stops, cautions."""

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
    #: by `group/limit`, the field that sets it
    limit_fields: dict[str, Mended]


class ActIn(BaseModel):
    """An act of the planner by its name, and what it is about."""

    act: Annotated[str, Field(min_length=1, max_length=40)]
    params: dict[str, Annotated[str, Field(max_length=8000)]] = {}


class EditsIn(BaseModel):
    """What became of a draft: the version it was made on, the document as typed where it changed,
    acts to be done on it."""

    version: Annotated[int, Field(ge=0)]
    document: PlanAsTyped | None = None
    acts: Annotated[list[ActIn], Field(max_length=20)] = []


class EditedOut(BaseModel):
    """A draft after an edit: saved under `version`, with what it comes to; the document where acts
    changed it."""

    version: int
    saved_at: datetime
    document: PlanAsTyped | None
    opens: str
    view: BenchOut


class EditOut(BaseModel):
    """A document that takes the draft's place, and the section that should be open."""

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
    return answer(bench_out(view))


def saved_aside(outcome: SavedAside) -> Response:
    """The answer where somebody saved first."""
    detail = render(Refusal.SAVED_ASIDE, person=outcome.by, version=outcome.current_version)
    return problem(412, "changed_meanwhile", detail)


def bench_out(view: BenchView) -> BenchOut:
    """What a document comes to, as it is sent."""
    errors = [FieldProblem(path=e.pointer(), code=e.code, text=e.text) for e in view.errors]
    return BenchOut(
        result=view.result,
        errors=errors,
        sections=view.sections,
        stops=view.stops,
        cautions=view.cautions,
        opens=view.opens,
        wrong=view.wrong,
        examples=view.examples,
        to_take_on=view.to_take_on,
        limit_fields=view.limit_fields,
    )


@api.post("/plans/<uuid:id>/edits", responses={"200": EditedOut, "412": Problem})
def post_edits(path: IdPath, body: EditsIn) -> Response:
    """A draft edited, saved and computed in one go; 412 when somebody saved first, and this
    version is kept aside."""
    acts = [(one.act, dict(one.params)) for one in body.acts]
    with operation() as ctx:
        done = edit_draft(ctx, path.id, body.version, body.document, acts)
    if isinstance(done, SavedAside):
        return saved_aside(done)
    view = bench_out(done.view)
    return answer(
        EditedOut(
            version=done.version,
            saved_at=done.at,
            document=done.document,
            opens=done.opens,
            view=view,
        ),
        ETag=f'"{done.version}"',
    )


@api.post("/plan-file", responses={"200": EditOut})
def post_file(body: FileIn) -> Response:
    """The plan document of a file."""
    with operation() as ctx:
        done = read_plan_file(ctx, body.text, body.joint)
    return answer(EditOut(document=done.document, opens=done.opens))


@api.post("/manual-lines", responses={"200": ProposedOut})
def post_manual_line(body: ManualIn) -> Response:
    """A line from a manual to a group of bolts: proposals beside its words."""
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
    """What each lubricant in store would do in one group: at the same torque, and for the same
    clamp."""
    with operation() as ctx:
        return answer(OthersOut(items=other_lubricants(ctx, body.document, body.group)))


@api.post("/orders", responses={"200": OrdersOut})
def read_orders(body: OthersIn) -> Response:
    """The orders in which the bolts of a group may be gone over, with the measures by which they
    are compared."""
    with operation() as ctx:
        return answer(OrdersOut(items=compare_orders(ctx, body.document, body.group)))


@api.get("/plan-schema")
def read_schema() -> dict[str, Any]:
    """JSON Schema of the plan document."""
    with operation() as ctx:
        return plan_schema(ctx)


@api.post("/sequences", responses={"200": SequenceOut})
def post_sequence(body: SequenceIn) -> Response:
    """A custom sequence as far as it is entered: what is missing, twice or not understood."""
    with operation() as ctx:
        found = read_custom_sequence(ctx, body.document, body.group, body.text, body.repeats)
    return answer(found)
