"""The door of planning: a plan document in, a result out.

`compute` validates, makes the context once, asks each question of it, and returns a Result; a plan
that cannot be computed raises DocumentErrors with the path of every field that is wrong. Steps are
not enumerated here (see core/running).
"""

from __future__ import annotations

from itertools import chain
from typing import Any

from ... import CORE_VERSION
from ...documents.joint import Group
from ...documents.plan import Plan
from ...documents.read import document_hash, read_plan
from ...errors import OrthotorqError
from ...forms.errors import FieldErrors
from ...forms.result import PositionOut, Result, VariantOut
from ...tables import EDITION
from .findings.example_findings import example_findings
from .findings.load_findings import compare_sizes
from .findings.reading_findings import reading_findings
from .findings.stage_findings import (
    bolt_findings,
    compound_findings,
    far_side_findings,
    order_findings,
    recheck_findings,
)
from .findings.state_findings import part_findings, state_findings
from .findings.tool_findings import tool_findings
from .inputs.finding_builder import Found, findings_out
from .inputs.friction_test import tested
from .inputs.target import choice_findings
from .load.context import Context, context_of
from .output.group_result import Loaded, group_out, loaded
from .output.kit import kit_of
from .output.sequence import sequence_findings
from .output.stages import Work, kind_findings, stages_of
from .output.summary import minutes, rechecks_of, tools_of


def compute(document: Any) -> Result:
    """The result of a plan document given as JSON values. Raises DocumentErrors when it is
    refused."""
    plan = read_plan(document)
    return compute_plan(plan, document_hash(document))


def compute_plan(plan: Plan, plan_hash: str) -> Result:
    """The result of a checked plan. Raises DocumentErrors when fields do not fit each other."""
    errors = FieldErrors()
    context = context_of(plan, errors)
    work = Work(context, errors)
    # orders are looked at whatever else is wrong, so that every wrong field is named at once
    stages = stages_of(work)
    errors.raise_found()
    loads = loads_of(context, stages, errors)
    return Result(
        plan_hash=plan_hash,
        tables=EDITION,
        core=CORE_VERSION,
        title=plan.title,
        joint_kind=plan.joint_kind,
        note=plan.note,
        longest_break_s=plan.longest_break.base if plan.longest_break else None,
        links_before=plan.links.before,
        links_after=plan.links.after,
        variants=[VariantOut(id=v.id, name=v.name, choice=v.choice) for v in plan.variants],
        positions=[PositionOut(id=p.id, name=p.name) for p in plan.positions],
        groups=[group_out(plan, fact, loads.get(name)) for name, fact in context.facts.items()],
        tools=tools_of(context),
        stages=stages,
        kit=kit_of(work, stages),
        rechecks=rechecks_of(plan),
        minutes=minutes(plan, stages),
        findings=findings_out(_findings(work, stages, loads), plan.waivers),
        calculated=any(c.calculated for c in context.chosen.values()),
        own_tests={
            name: tested(own) for name, own in plan.definitions.lubricants.items() if own.tests
        },
    )


def loads_of(context: Context, stages: list[Any], errors: FieldErrors) -> dict[str, Loaded]:
    """Every group that has a figure, under it. Raises DocumentErrors where a torque gives nothing
    at its low end."""
    out, number = {}, {group.id: i for i, group in enumerate(context.plan.groups)}
    for name, chosen in context.chosen.items():
        try:
            out[name] = loaded(context, chosen, stages)
        except OrthotorqError as error:
            # what is about a field of the group is said there, all else at its target
            of_group = bool(error.path) and error.path[0] in Group.model_fields
            with errors.at(*(("groups", number[name]) if of_group else ("targets", name))):
                raise
    errors.raise_found()
    return out


def _findings(work: Work, stages: list[Any], loads: dict[str, Loaded]) -> chain[Found]:
    """Every question, in the order in which a planner would ask it."""
    context = work.context
    return chain(
        *(s.found for s in context.sources.values()),
        *(choice_findings(c) for c in context.chosen.values()),
        example_findings(context.plan),
        tool_findings(context, stages),
        *(load.findings(context.plan) for load in loads.values()),
        compare_sizes(context, {name: load.seen.band for name, load in loads.items()}),
        sequence_findings(context),
        order_findings(context),
        bolt_findings(context, stages),
        reading_findings(context),
        far_side_findings(context),
        kind_findings(work),
        state_findings(context, stages),
        part_findings(context, stages),
        compound_findings(context),
        recheck_findings(context),
    )
