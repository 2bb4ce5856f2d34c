"""Working: the derivation of any figure of a result, made when it is opened and never stored.

Figures are named `GROUP/torque`, `GROUP/preload`, `GROUP/stiffness`, `GROUP/losses`, `GROUP/teeth`,
`GROUP/split`, `GROUP/hot`, `GROUP/swing`, `GROUP/limit/ID` and `STAGE/PASS/GROUP/setting/CHAIN`.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from pydantic import BaseModel

from ....documents.read import read_plan
from ....errors import UnknownName
from ....forms.errors import FieldErrors
from ....forms.stage import StageOut
from ....mechanics.formula import Step
from ....messages import Message
from ....working_text import shown_value
from .. import loads_of
from ..inputs.friction_steps import bracket
from ..load.context import Context, context_of
from . import working_steps
from .group_result import Loaded
from .stages import Work, stages_of


class InputOut(BaseModel):
    """One number put in."""

    tex: str
    words: str
    value: str


class StepOut(BaseModel):
    """One formula with numbers, result and source."""

    name: str
    tex: str
    inputs: list[InputOut]
    result_tex: str
    result_words: str
    result: str
    source: str
    approximation: str | None


class WorkingOut(BaseModel):
    """The derivation of one figure."""

    figure: str
    title: str
    steps: list[StepOut]
    notes: list[str]


def step_out(step: Step) -> StepOut:
    """A computed step in the units people read."""
    form = step.formula
    return StepOut(
        name=form.name.replace("_", " "),
        tex=form.tex,
        inputs=[
            InputOut(tex=s.tex, words=s.words, value=shown_value(s, v)) for s, v in step.inputs
        ],
        result_tex=form.result.tex,
        result_words=form.result.words,
        result=shown_value(form.result, step.value),
        source=form.source,
        approximation=form.approximation,
    )


def _of_group(load: Loaded, parts: list[str]) -> working_steps.Derived | None:
    """The steps of a figure of a group: those it was made of where it carries them, else those of
    its formula."""
    facts = load.chosen.facts
    if parts[0] == "limit" and len(parts) == 2:
        bound = next((b for b in load.bounds if b.id == parts[1]), None)
        return (list(bound.steps), list(bound.notes)) if bound is not None else None
    figures: dict[str, Callable[[], working_steps.Derived]] = {
        "torque": lambda: working_steps.torque(load.chosen),
        "preload": lambda: working_steps.preload(load.chosen, load.seen),
        "stiffness": lambda: working_steps.stiffness(facts),
        "losses": lambda: working_steps.losses(facts),
        "split": lambda: (
            bracket(facts, "typical"),
            [
                (
                    "The three terms are what stretches the bolt, what rubs in the thread, what "
                    "rubs under the head."
                )
            ],
        ),
    }
    if parts == ["hot"]:
        return working_steps.hot(load.load.world.context.hot.get(facts.group.id), load.seen)
    if parts == ["swing"]:
        return working_steps.swing(facts, load.seen)
    if parts == ["teeth"]:
        return _of_group(load, ["limit", "stripping"])
    return figures[parts[0]]() if len(parts) == 1 and parts[0] in figures else None


def _of_stretching(
    load: Loaded, stages: list[StageOut], parts: list[str]
) -> working_steps.Derived | None:
    """The steps from a pressure to the load, where no torque acts."""
    if not load.seen.stretched or parts not in (["torque"], ["preload"]):
        return None
    group = load.chosen.facts.group.id
    mine = [p for s in stages if "install" in s.occasions for p in s.passes if p.group == group]
    return working_steps.stretched(load.chosen, [p for p in mine if p.left_N][-1])


def _of_setting(
    context: Context, stages: list[StageOut], parts: list[str]
) -> working_steps.Derived | None:
    """The steps from a pass's torque at the bolt to the wrench."""
    stage_id, pass_id, group, _, chain = parts
    one = next(
        (
            p
            for s in stages
            if s.id == stage_id
            for p in s.passes
            if p.id == pass_id and p.group == group
        ),
        None,
    )
    if one is None or one.torque_Nm is None or chain not in context.chains:
        return None
    share = one.percent if one.percent is not None else 100.0
    return working_steps.chain_steps(context.chains[chain], one.torque_Nm * 1e5 / share, share)


def working(document: Any, figure: str) -> WorkingOut:
    """The derivation of one figure of a plan. Raises DocumentErrors for a bad plan, UnknownName for
    no such figure."""
    errors = FieldErrors()
    context = context_of(read_plan(document), errors)
    stages = stages_of(Work(context, errors))
    errors.raise_found()
    loads = loads_of(context, stages, errors)
    parts = figure.split("/")
    found = None
    if len(parts) > 1 and parts[0] in loads:
        found = _of_stretching(loads[parts[0]], stages, parts[1:]) or _of_group(
            loads[parts[0]], parts[1:]
        )
    if found is None and len(parts) == 5 and parts[3] == "setting":
        found = _of_setting(context, stages, parts)
    if found is None:
        raise UnknownName(
            Message.UNKNOWN_REFERENCE, id=figure[:80], kind="figure", known="see the result"
        )
    steps, notes = found
    return WorkingOut(
        figure=figure,
        title=figure.replace("/", " · "),
        steps=[step_out(s) for s in steps],
        notes=notes,
    )
