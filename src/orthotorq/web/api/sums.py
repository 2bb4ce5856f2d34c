"""Quick sums: nothing is created."""

from __future__ import annotations

from typing import Annotated

from flask import Response
from pydantic import BaseModel, Field

from ...core.forms.group import LimitOut, PreloadOut
from ...core.forms.setting import SettingOut
from ...core.planning.compute.output.sum_card import sum_card
from ...core.planning.compute.output.working import StepOut, step_out
from ...core.sums import Answer
from ...core.sums.screen import carried
from ...core.working_text import shown_figure
from ...services.planning.bench import answer_sum
from ...services.reference.sums import SumOut, list_sums
from ..operation import operation
from .helpers import answer, blueprint

api = blueprint("sums", "Quick sums")


class SumList(BaseModel):
    """Every quick sum."""

    items: list[SumOut]


class SumPath(BaseModel):
    """The sum asked."""

    name: Annotated[str, Field(max_length=40)]


class SumIn(BaseModel):
    """Texts by field name; repeatable fields take a list."""

    texts: dict[
        str, Annotated[str, Field(max_length=2000)] | list[Annotated[str, Field(max_length=80)]]
    ]


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
    """Figures, notes and the working of a sum; a gauge and a wrench card where it has them; the
    torque to carry into a plan."""

    figures: list[FigureOut]
    notes: list[str]
    steps: list[StepOut]
    gauge: GaugeOut | None
    card: SettingOut | None
    carried: str


def _gauge(found: Answer) -> GaugeOut | None:
    figures = found.figures
    if "preload_low_N" not in figures:
        return None
    typical = figures["preload_N"]
    limits = [
        LimitOut(
            id=code,
            code=code,
            name=words,
            side="upper",
            clamp_N=load,
            use=typical / load,
            input="sum/grade",
        )
        for code, words, load in found.bounds
    ]
    return GaugeOut(
        limits=limits,
        preload=PreloadOut(
            typical_N=typical,
            low_N=figures["preload_low_N"],
            high_N=figures["preload_high_N"],
            low_rss_N=figures["preload_low_rss_N"],
            high_rss_N=figures["preload_high_rss_N"],
        ),
    )


@api.get("/sums", responses={"200": SumList})
def read_sums() -> Response:
    """The table of quick sums."""
    with operation() as ctx:
        return answer(SumList(items=list_sums(ctx)))


@api.post("/sums/<string:name>", responses={"200": SumAnswer})
def ask_sum(path: SumPath, body: SumIn) -> Response:
    """Answer a quick sum, or 422 with the field that is wrong."""
    with operation() as ctx:
        found = answer_sum(ctx, path.name, body.texts)
    figures = []
    for key, value in found.figures.items():
        name, shown, second = shown_figure(key, value)
        figures.append(FigureOut(key=key, name=name, value=shown, second=second))
    return answer(
        SumAnswer(
            figures=figures,
            notes=list(found.notes),
            steps=[step_out(s) for s in found.steps],
            gauge=_gauge(found),
            card=sum_card(found),
            carried=carried(path.name, body.texts, found.figures),
        )
    )
