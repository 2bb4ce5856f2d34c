"""The quick sums as questions, and the schema of the plan document."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel

from ...core.documents.plan import Plan
from ...core.forms.record_file import RecordFile
from ...core.sums import SUMS
from ...core.sums.screen import ASKED
from ..context import Ctx
from ..permissions import use_case


class SumField(BaseModel):
    """One field of a sum; `shown` unless it stands behind “more”."""

    name: str
    kind: str
    words: str
    required: bool
    repeat: bool
    choices: list[str]
    shown: bool


class SumOut(BaseModel):
    """One question: title, what it answers, its fields (those shown first), and an example to begin
    with."""

    name: str
    title: str
    words: str
    fields: list[SumField]
    begins: dict[str, str]


@use_case
def list_sums(ctx: Ctx) -> list[SumOut]:
    """Every quick sum as it is asked on the screen, in its order."""
    out = []
    for name, asked in ASKED.items():
        fields = {
            f.name: f for f in SUMS[name].fields if f.kind != "flag" or f.name in asked.fields
        }
        order = [*asked.fields, *(f for f in fields if f not in asked.fields)]
        out.append(
            SumOut(
                name=name,
                title=asked.title,
                words=SUMS[name].words,
                begins=dict(asked.begins),
                fields=[
                    SumField(
                        name=f.name,
                        kind=f.kind,
                        words=f.words,
                        required=f.required,
                        repeat=f.repeat,
                        choices=list(f.choices),
                        shown=f.name in asked.fields,
                    )
                    for f in (fields[n] for n in order)
                ],
            )
        )
    return out


@use_case
def plan_schema(ctx: Ctx) -> dict[str, Any]:
    """JSON Schema of the plan document."""
    return Plan.model_json_schema()


@use_case
def record_schema(ctx: Ctx) -> dict[str, Any]:
    """JSON Schema of the record as a file."""
    return RecordFile.model_json_schema()
