"""Computing without storing: results, workings, and the tables the editor offers."""
from __future__ import annotations

from typing import Annotated, Any

from flask import Response
from pydantic import BaseModel, Field, RootModel

from ...core.documents.plan import Plan
from ...core.forms.group import LimitOut, PreloadOut
from ...core.forms.result import Result
from ...core.forms.setting import SettingOut
from ...core.planning.compute.alternatives import AlternativeOut
from ...core.planning.compute.sum_card import sum_card
from ...core.planning.compute.working import StepOut, WorkingOut, step_out
from ...core.sums import SUMS, Answer
from ...core.working_text import shown_figure
from ...services.planning.queries import answer_sum, compute_plan, explain_figure, other_lubricants
from ..operation import operation
from .bricks import answer, blueprint

api = blueprint("compute", "Results and workings of plan documents")


class DocumentIn(RootModel[dict[str, Any]]):
    """A plan document as typed; its schema is served at /api/v1/plan-schema."""


class WorkingIn(BaseModel):
    """A plan document and the figure to derive."""

    document: dict[str, Any]
    figure: Annotated[str, Field(min_length=1, max_length=200)]


class OthersIn(BaseModel):
    """A plan document and the group in question."""

    document: dict[str, Any]
    group: Annotated[str, Field(min_length=1, max_length=40)]


class OthersOut(BaseModel):
    """What the lubricants in store would do."""

    items: list[AlternativeOut]


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


@api.get("/plan-schema")
def read_schema() -> dict[str, Any]:
    """JSON Schema of the plan document."""
    return Plan.model_json_schema()


class SumField(BaseModel):
    """One field of a sum."""

    name: str
    kind: str
    words: str
    required: bool
    repeat: bool
    choices: list[str]


class SumOut(BaseModel):
    """One question with its fields."""

    name: str
    words: str
    fields: list[SumField]


class SumList(BaseModel):
    """Every quick sum."""

    items: list[SumOut]


class SumPath(BaseModel):
    """The sum asked."""

    name: Annotated[str, Field(max_length=40)]


class SumIn(BaseModel):
    """Texts by field name; repeatable fields take a list."""

    texts: dict[str, Annotated[str, Field(max_length=80)] | list[Annotated[str, Field(max_length=80)]]]


class FigureOut(BaseModel):
    """One figure for people, with its second unit where a tool may be graduated in it."""

    key: str
    name: str
    value: str
    second: str


class GaugeOut(BaseModel):
    """A clamp load with its scatter and bounds, for the window gauge."""

    preload: PreloadOut
    limits: list[LimitOut]


class SumAnswer(BaseModel):
    """Figures, notes and the working of a sum; a gauge and a wrench card where it has them."""

    figures: list[FigureOut]
    notes: list[str]
    steps: list[StepOut]
    gauge: GaugeOut | None
    card: SettingOut | None


def _gauge(found: Answer) -> GaugeOut | None:
    figures = found.figures
    if "preload_low_N" not in figures:
        return None
    typical = figures["preload_N"]
    limits = [LimitOut(code=code, name=words, side="upper", clamp_N=load, use=typical / load, input="sum/grade")
              for code, words, load in found.bounds]
    return GaugeOut(limits=limits, preload=PreloadOut(
        typical_N=typical, low_N=figures["preload_low_N"], high_N=figures["preload_high_N"],
        low_rss_N=figures["preload_low_rss_N"], high_rss_N=figures["preload_high_rss_N"]))


@api.get("/sums", responses={"200": SumList})
def read_sums() -> Response:
    """The table of quick sums."""
    items = [SumOut(name=s.name, words=s.words, fields=[
        SumField(name=f.name, kind=f.kind, words=f.words, required=f.required, repeat=f.repeat, choices=list(f.choices))
        for f in s.fields]) for s in SUMS.values()]
    return answer(SumList(items=items))


@api.post("/sums/<string:name>", responses={"200": SumAnswer})
def ask_sum(path: SumPath, body: SumIn) -> Response:
    """Answer a quick sum, or 422 with the field that is wrong."""
    with operation() as ctx:
        found = answer_sum(ctx, path.name, body.texts)
    figures = []
    for key, value in found.figures.items():
        name, shown, second = shown_figure(key, value)
        figures.append(FigureOut(key=key, name=name, value=shown, second=second))
    return answer(SumAnswer(figures=figures, notes=list(found.notes), steps=[step_out(s) for s in found.steps],
                            gauge=_gauge(found), card=sum_card(found)))
