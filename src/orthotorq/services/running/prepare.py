"""What has to be chosen before a run: occasion, one of each choice, history, tools by serial; what
is usual stands chosen."""

from __future__ import annotations

import json
import uuid
from dataclasses import dataclass

from sqlalchemy import select

from ...core.documents.plan import Plan
from ...core.documents.read import read_plan
from ...core.errors import Impossible
from ...core.forms.result import KitLine, Result, ToolOut
from ...core.joint_condition import CONDITIONS, condition_says
from ...core.kinds.stage_kind import OCCASIONS
from ...core.planning.compute.load.tool_binding import BoundTool, bound_settings
from ...core.planning.work_order import takes
from ...core.rechecking.schedule import UNITS
from ...core.running import choices_of, fold, occasions_of, tools_needed
from ...core.running.walk.remaining import done_on, still_to_do
from ...core.thresholds import TOOL_REACHES
from ...local_time import day_text, moment_text
from ...store.models import Joint, Meter, Revision, Run, Tool
from ..context import Ctx
from ..errors import NotFound
from ..permissions import use_case
from ..toolroom.tools import ToolView, correction_of, list_tools, spec_of
from .chain import facts_of
from .histories import HISTORIES
from .start import going_on, proven_result


@dataclass(frozen=True, slots=True)
class Offer:
    """A registered tool that reaches what a plan asks; `words` says what it is and whether it is in
    calibration."""

    serial: str
    words: str
    good: bool
    state: str


@dataclass(frozen=True, slots=True)
class NeededTool:
    """A tool of the plan that is needed: what it must reach, which are offered (good and near ones
    first), which is usual."""

    id: str
    words: str
    offers: list[Offer]
    usual: str
    #: tools near it that are not offered, each with why
    blocked: list[str]


@dataclass(frozen=True, slots=True)
class StartOption:
    """One thing to choose."""

    value: str
    words: str


@dataclass(frozen=True, slots=True)
class StartChoice:
    """Of these exactly one is taken; `taken` is what was asked for, or the usual one."""

    name: str
    options: list[StartOption]
    taken: str


@dataclass(frozen=True, slots=True)
class StartView:
    """What has to be chosen before a run: occasion, one of each choice, history, tools by
    serial."""

    before: list[str]
    occasions: list[StartOption]
    occasion: str
    choices: list[StartChoice]
    histories: list[StartOption]
    tools: list[NeededTool]
    #: how the joint stands by its record, and whether that asks for something now
    condition: str
    due: bool
    kit: list[KitLine]
    #: positions of the plan, where there are several
    positions: list[StartOption]
    #: the meter that its rechecks count by, with its last reading: asked at the start
    meter: StartOption | None
    #: the run in progress on this joint: continue it, in words and by its id
    going: StartOption | None


def reaches(wanted: ToolOut, tool: ToolView) -> bool:
    """Whether a registered tool reaches what a plan asks: a preset driver its one figure, any other
    most of the range."""
    if wanted.kind == "preset driver":
        return tool.high_Nm == wanted.high_Nm
    return (
        tool.sort == "wrench"
        and tool.kind != "preset driver"
        and tool.high_Nm >= wanted.high_Nm * TOOL_REACHES.value
    )


def _state(tool: ToolView) -> str:
    late = (
        "" if tool.good else f"; {tool.allowed_text}: a deviation that a supervisor has to accept"
    )
    used = f"; {tool.corrected_text}" if tool.corrected_text else ""
    return f"{tool.state}{late}{used}{f' · {tool.note}' if tool.note and not used else ''}"


def _unfit(plan: Plan, doing: Result, wanted: ToolOut, tool: Tool) -> str:
    """Why a wrench cannot be set to all that is to be done with it; empty where it can: the rule
    by which a run takes it."""
    try:
        bound_settings(
            plan, doing, {wanted.id: BoundTool(tool.serial, spec_of(tool), correction_of(tool))}
        )
    except Impossible as error:
        return str(error)
    return ""


def _needed(wanted: ToolOut, tools: list[ToolView], why_not: dict[str, str]) -> NeededTool:
    reach = [t for t in tools if reaches(wanted, t)]
    fit = sorted(
        (t for t in reach if (t.good or t.allowed) and not why_not[t.serial]),
        key=lambda t: (not t.good, abs(t.high_Nm - wanted.high_Nm)),
    )
    offers = [
        Offer(
            t.serial,
            (
                f"{t.serial} · {t.kind}, to {t.high_Nm:g} "
                f"N·m{'' if t.good else ' · out of calibration'}"
            ),
            t.good,
            _state(t),
        )
        for t in fit
    ]
    preferred = next((s for s in wanted.prefer if any(t.serial == s for t in fit)), "")
    low = "" if wanted.low_Nm == wanted.high_Nm else f"{wanted.low_Nm:g} to "
    usual = preferred or (fit[0].serial if fit else "")
    return NeededTool(
        wanted.id,
        f"{wanted.name}, {low}{wanted.high_Nm:g} N·m",
        offers,
        usual,
        [why_not[t.serial] or f"{t.serial}: {t.state}" for t in reach if t not in fit],
    )


def _left_of(ctx: Ctx, result: Result, run_id: uuid.UUID) -> Result:
    """What of a run is still to do. Raises NotFound."""
    run = ctx.session.get(Run, run_id)
    if run is None:
        raise NotFound("run")
    return still_to_do(result, fold(facts_of(ctx.session, run)), ctx.now.timestamp())


def _meter(ctx: Ctx, result: Result, joint: Joint) -> StartOption | None:
    """The meter of the machine that a recheck of the plan counts by."""
    wanted = {UNITS[rule.meter][0] for rule in result.rechecks if rule.meter in UNITS}
    for meter in ctx.session.scalars(
        select(Meter).where(Meter.equipment_id == joint.equipment_id).order_by(Meter.unit)
    ):
        if UNITS[meter.unit][0] in wanted:
            last = (
                f", last {meter.shown:g} on {day_text(meter.at)}"
                if meter.at is not None and meter.shown is not None
                else ""
            )
            return StartOption(str(meter.id), f"{meter.name}, {meter.unit}{last}")
    return None


def _going(ctx: Ctx, joint_id: uuid.UUID) -> StartOption | None:
    """The run that is in progress on a joint."""
    for run, name in going_on(ctx, joint_id):
        return StartOption(
            str(run.id),
            f"Run {run.number}, {OCCASIONS[run.occasion].lower()}, {name}, "
            f"since {moment_text(run.started_at)}",
        )
    return None


@use_case
def prepare_run(
    ctx: Ctx,
    revision_id: uuid.UUID,
    occasion: str = "",
    variants: tuple[str, ...] = (),
    run_id: uuid.UUID | None = None,
) -> StartView:
    """What has to be chosen before a run of a revision, for an occasion and variants chosen so
    far; in a run, wrenches for what of it is still to do. Raises NotFound, Refused where the
    revision is not as it was released."""
    revision = ctx.session.get(Revision, revision_id)
    if revision is None:
        raise NotFound("revision")
    result = proven_result(ctx.session, revision)
    possible = occasions_of(result)
    taken = occasion if occasion in possible else next(iter(possible), "install")
    choices = []
    for name in choices_of(result, taken):
        own = [v for v in result.variants if v.choice == name]
        first = next((v.id for v in own if v.id in variants), own[0].id)
        choices.append(
            StartChoice(name or "Variant", [StartOption(v.id, v.name) for v in own], first)
        )
    needed, tools = tools_needed(result, taken, [c.taken for c in choices]), list_tools(ctx)
    joint = revision.plan.joint
    known = CONDITIONS[joint.condition]
    # a fitter can only make it less known
    histories = {
        k: v for k, v in HISTORIES.items() if known.known or k != "known" or taken != "recheck"
    }
    chosen = [c.taken for c in choices]
    doing = done_on(result, taken, chosen) if run_id is None else _left_of(ctx, result, run_id)
    plan, rows = (
        read_plan(json.loads(revision.document)),
        {t.serial: t for t in ctx.session.scalars(select(Tool))},
    )
    wrenches = [
        (t, {x.serial: _unfit(plan, doing, t, rows[x.serial]) for x in tools if reaches(t, x)})
        for t in result.tools
        if t.id in needed
    ]
    return StartView(
        result.links_before,
        [StartOption(o, OCCASIONS[o]) for o in possible],
        taken,
        choices,
        [StartOption(k, v) for k, v in histories.items()],
        [_needed(t, tools, why_not) for t, why_not in wrenches],
        condition_says(joint.condition, joint.condition_why),
        bool(known.due),
        [k for k in result.kit if any(takes(when, taken, chosen) for when in k.when)],
        [StartOption(p.id, p.name) for p in result.positions] if len(result.positions) > 1 else [],
        _meter(ctx, result, joint),
        _going(ctx, joint.id),
    )
