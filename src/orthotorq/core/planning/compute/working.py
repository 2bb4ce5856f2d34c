"""Working: the derivation of any figure of a result, made when it is opened and never stored.

Figures are named `GROUP/torque`, `GROUP/preload`, `GROUP/stiffness`, `GROUP/losses`, `GROUP/teeth`, `GROUP/split`,
`GROUP/limit/CODE` and `STAGE/PASS/GROUP/setting/CHAIN`.
"""
from __future__ import annotations

from typing import Any

from pydantic import BaseModel

from ...documents.base import DocumentErrors
from ...documents.passes import GapPass, TorquePass
from ...documents.plan import Plan
from ...documents.read import read_plan
from ...documents.stages import TightenStage
from ...errors import UnknownName
from ...mechanics.formula import Step
from ...messages import Message
from ...working_text import shown_value
from . import compute_plan, derive, most_torque, stage_passes
from .chosen import Chosen, choose
from .collect import Collector
from .facts import gather
from .passes import chains_for
from .settings import chain_of


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
    return StepOut(name=form.name.replace("_", " "), tex=form.tex,
                   inputs=[InputOut(tex=s.tex, words=s.words, value=shown_value(s, v)) for s, v in step.inputs],
                   result_tex=form.result.tex, result_words=form.result.words, result=shown_value(form.result, step.value),
                   source=form.source, approximation=form.approximation)


def _preload(plan: Plan, chosen: Chosen) -> derive.Derived:
    result = compute_plan(plan, "")
    group = next(g for g in result.groups if g.id == chosen.facts.group.id)
    chain = _full_chain(plan, chosen)
    assert group.target is not None
    return derive.preload(chosen, group.target.set_torque_Nm * 1e3, sum(chain_of(plan, chain).accuracies) if chain else 0.0)


def _full_chain(plan: Plan, chosen: Chosen) -> str | None:
    """The chain of the last full pass, whose accuracy the band carries."""
    for stage in reversed(plan.stages):
        if not isinstance(stage, TightenStage) or chosen.facts.group.id not in stage.groups or "install" not in stage.in_:
            continue
        chains = chains_for(stage, chosen.facts.group.id)
        if chains and any(isinstance(p, TorquePass) and p.percent == 100 for p in stage_passes(plan, stage)):
            return chains[0]
    return None


def _of_group(plan: Plan, chosen: Chosen, parts: list[str]) -> derive.Derived | None:
    if parts == ["torque"]:
        return derive.torque(plan, chosen)
    if parts == ["preload"]:
        return _preload(plan, chosen)
    if parts == ["stiffness"]:
        return derive.stiffness(chosen.facts)
    if parts == ["losses"]:
        return derive.losses(chosen.facts)
    if parts == ["teeth"]:
        return derive.limit(plan, chosen, "stripping", {})
    if parts == ["split"]:
        return derive.bracket(chosen.facts, "typical"), [
            "The three terms are what stretches the bolt, what rubs in the thread, what rubs under the head."]
    if len(parts) == 2 and parts[0] == "limit":
        chain = _full_chain(plan, chosen)
        return derive.limit(plan, chosen, parts[1], most_torque(chain_of(plan, chain)) if chain else {})
    return None


def _find(plan: Plan, figure: str, by_group: dict[str, Chosen]) -> derive.Derived | None:
    parts = figure.split("/")
    if parts[0] in by_group and (found := _of_group(plan, by_group[parts[0]], parts[1:])) is not None:
        return found
    if len(parts) == 5 and parts[3] == "setting" and parts[2] in by_group and parts[4] in plan.chains:
        for stage in plan.stages:
            if isinstance(stage, TightenStage) and stage.id == parts[0]:
                for one in stage_passes(plan, stage):
                    if isinstance(one, TorquePass | GapPass) and one.id == parts[1]:
                        return derive.setting(plan, one, by_group[parts[2]], parts[4])
    return None


def working(document: Any, figure: str) -> WorkingOut:
    """The derivation of one figure of a plan. Raises DocumentErrors for a bad plan, UnknownName for no such figure."""
    plan = read_plan(document)
    collector = Collector()
    facts = [f for i in range(len(plan.groups)) if (f := gather(plan, i, collector)) is not None]
    by_group = {f.group.id: c for f in facts if (c := choose(plan, f, collector)) is not None}
    if collector.errors:
        raise DocumentErrors(collector.errors)
    found = _find(plan, figure, by_group)
    if found is None:
        raise UnknownName(Message.UNKNOWN_REFERENCE, ("figure",), id=figure[:80], kind="figure", known="see the result")
    steps, notes = found
    return WorkingOut(figure=figure, title=figure.replace("/", " · "), steps=[step_out(s) for s in steps], notes=notes)
