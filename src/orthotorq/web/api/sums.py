"""Computing without storing: results, workings, and the tables the editor offers."""
from __future__ import annotations

from typing import Annotated, Any

from flask import Response
from pydantic import BaseModel, Field, RootModel

from ...core.documents.plan import Plan
from ...core.documents.result import Result
from ...core.planning.cautions import CAUTIONS
from ...core.planning.compute.working import StepOut, WorkingOut, step_out
from ...core.planning.findings import RULES, Severity
from ...core.sums import SUMS
from ...core.tables import EDITION, grades, hexagons, lubricants, threads
from ...core.working_text import shown_figure
from ...services.planning.queries import answer_sum, compute_plan, explain_figure
from ..operation import operation
from .bricks import answer, blueprint

api = blueprint("compute", "Results and workings of plan documents")


class DocumentIn(RootModel[dict[str, Any]]):
    """A plan document as typed; its schema is served at /api/v1/plan-schema."""


class WorkingIn(BaseModel):
    """A plan document and the figure to derive."""

    document: dict[str, Any]
    figure: Annotated[str, Field(min_length=1, max_length=200)]


class LubricantOut(BaseModel):
    """A friction condition with its bands."""

    id: str
    name: str
    mu_thread: list[float]
    mu_bearing: list[float]
    nut_factor: list[float]
    notes: str


class FindingRule(BaseModel):
    """One row of the table of findings."""

    code: str
    severity: Severity
    waivable: bool
    role: str | None


class TablesOut(BaseModel):
    """Names the editor offers."""

    edition: str
    threads: list[str]
    grades: list[str]
    lubricants: list[LubricantOut]
    heads: list[str]
    cautions: dict[str, str]
    findings: list[FindingRule]


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


def _thread_names() -> list[str]:
    known = threads.series()
    metric = [f"M{d:g}" for d in known.metric_coarse] + [f"M{d:g}x{p:g}" for d, p in sorted(known.metric_fine)]
    return metric + [f"{size}-{n:g} {'UN' if s == '8-UN' else s}" for (size, s), n in known.unified.items()]


@api.get("/tables", responses={"200": TablesOut})
def read_tables() -> Response:
    """Threads, grades, lubricants, cautions, findings."""
    conditions = [LubricantOut(id=x.id, name=x.name, mu_thread=list(x.mu_thread), mu_bearing=list(x.mu_bearing),
                               nut_factor=list(x.nut_factor), notes=x.notes) for x in lubricants.table().values()]
    names = list(dict.fromkeys(row.strength.name.replace(f":{row.standard.rpartition(':')[2]}", "") if ":" in row.standard
                               else row.strength.name for row in grades.table()))
    rules = [FindingRule(code=c.value, severity=r.severity, waivable=r.waivable, role=r.role) for c, r in RULES.items()]
    return answer(TablesOut(edition=EDITION, threads=_thread_names(), grades=names, lubricants=conditions,
                            heads=list(hexagons.head_kinds()), cautions=CAUTIONS, findings=rules))


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


class SumAnswer(BaseModel):
    """Figures, notes and the working of a sum."""

    figures: list[FigureOut]
    notes: list[str]
    steps: list[StepOut]


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
    return answer(SumAnswer(figures=figures, notes=list(found.notes), steps=[step_out(s) for s in found.steps]))
