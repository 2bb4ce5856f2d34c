"""What our own records teach, gathered by the worker and on demand: a proposal with its evidence,
never taken by itself."""

from __future__ import annotations

import json
import math
from dataclasses import dataclass
from datetime import datetime
from typing import Any

import numpy as np
from sqlalchemy import delete, func, select

from ...core.documents.plan import JOINT_KINDS, OwnLubricant
from ...core.forms.group import GroupOut
from ...core.forms.result import Result
from ...core.forms.stage import PassOut
from ...core.forms.stored import stored_result
from ...core.mechanics.friction_from_records import (
    Found,
    factor_of_slope,
    friction_found,
    scatter_found,
    time_found,
)
from ...core.planning.compute.inputs.friction_test import tested
from ...core.thresholds import LESSON_PAUSE
from ...core.units import show
from ...local_time import day_text
from ...store.models import (
    Joint,
    Lesson,
    OwnEntry,
    Plan,
    Pull,
    Reading,
    Revision,
    Run,
    Tool,
    ToolPull,
)
from ..context import Ctx
from ..permissions import use_case
from ..running.pulls import pass_of, trace_of_row

#: measured pulls and readings that are looked at: the newest ones
MOST = 2000
#: the part of a pull that rises with the load: between these shares of its highest torque
_FROM, _TO = 0.55, 0.97


@dataclass(frozen=True, slots=True)
class LessonView:
    """One lesson: what it is about, its figures with their unit, how many values, from when to
    when, and in words; where it can be kept as an own compound, under which name and how."""

    kind: str
    key: str
    title: str
    low: float
    typical: float
    high: float
    unit: str
    count: int
    since: datetime
    until: datetime
    words: str
    proposal_key: str
    proposal: dict[str, Any] | None


@dataclass(slots=True)
class _Values:
    """Values that belong together, and when the first and the last of them were taken."""

    title: str
    values: list[float]
    since: datetime
    until: datetime
    more: dict[str, Any]


def _gather(
    into: dict[str, _Values], key: str, title: str, value: float, at: datetime, **more: Any
) -> None:
    one = into.setdefault(key, _Values(title, [], at, at, more))
    one.values.append(value)
    one.since, one.until = min(one.since, at), max(one.until, at)


def _factor(row: Pull, result: Result) -> tuple[str, str, float] | None:
    """(compound, its name with size and condition, nut factor) of a measured pull up to the full
    figure."""
    one, trace = pass_of(result, row.step), trace_of_row(row)
    if (
        one is None
        or trace is None
        or one.check
        or one.turn_deg is not None
        or (one.percent or 100) < 99
    ):
        return None
    group = next((g for g in result.groups if g.id == one.group), None)
    if group is None or group.stiffness is None or not group.friction.lubricant:
        return None
    top = float(trace.torque.max())
    end = int(trace.torque.argmax())
    picked = (trace.torque[: end + 1] > _FROM * top) & (trace.torque[: end + 1] < _TO * top)
    angles, torques = trace.angle[: end + 1][picked], trace.torque[: end + 1][picked]
    if angles.size < 6 or float(np.ptp(angles)) < 1.0:
        return None
    slope = float(np.polyfit(angles, torques, 1)[0]) * 1e3
    factor = factor_of_slope(slope, group.stiffness.gain_N_per_deg, group.thread.diameter_mm)
    used = "used bolts" if group.history == "unknown" else "bolts of known history"
    return (
        group.friction.lubricant,
        f"{group.friction.name}, {group.thread.designation}, {used}",
        factor,
    )


def _friction(ctx: Ctx) -> list[Lesson]:
    found: dict[str, _Values] = {}
    wanted = (
        select(Pull, Run.revision_id)
        .join(Run, Pull.run_id == Run.id)
        .order_by(Pull.at.desc())
        .limit(MOST)
    )
    rows = ctx.session.execute(wanted)
    for row, revision_id in rows:
        result = stored_result(ctx.session.get_one(Revision, revision_id).result)
        made = _factor(row, result)
        if made is not None and 0.02 < made[2] < 1.5:
            _gather(found, made[1], made[1], made[2], row.at, lubricant=made[0], device=row.device)
    out = []
    for key, one in found.items():
        band = friction_found(one.values)
        if band is not None:
            out.append(
                _lesson(
                    ctx,
                    "friction",
                    key,
                    one,
                    band,
                    "K",
                    (
                        "from the slope of measured pulls: torque per degree over load per "
                        "degree of this joint"
                    ),
                )
            )
    return out + _rigs(ctx)


def _rigs(ctx: Ctx) -> list[Lesson]:
    """Own compounds with tests on a rig: what those say."""
    out = []
    for entry in ctx.session.scalars(
        select(OwnEntry).where(OwnEntry.kind == "lubricant", OwnEntry.active)
    ):
        own = OwnLubricant.model_validate(json.loads(entry.body))
        for one in tested(own):
            if one.band is not None:
                title = f"{own.name}, {one.what.replace('_', ' ')}, {', '.join(one.threads)}"
                values = _Values(title, [], entry.at, entry.at, {})
                low, typical, high = one.band
                out.append(
                    _lesson(
                        ctx,
                        "rig",
                        f"{entry.key}/{one.what}",
                        values,
                        Found(one.count, low, typical, high),
                        "µ" if one.what.startswith("mu") else "K",
                        "from own tests of torque and clamp load (ISO 16047)",
                    )
                )
    return out


def _method(one: PassOut, group: GroupOut, quantity: str) -> tuple[str, float] | None:
    """(the method of tightening by which a pass works, what a reading of it should be: N·m or
    degrees); None where its readings say nothing of it."""
    if quantity == "angle":
        # where a check should move nothing, how far it moved is no scatter
        return (
            None
            if one.turn_deg is None or one.check
            else ("Torque and angle, the turn", math.radians(one.turn_deg))
        )
    if one.torque_Nm is None or (one.percent or 100) < 99:
        return None
    if one.check:
        return "Torque, at a check", one.torque_Nm
    turned = group.target is not None and group.target.angle_deg
    return (
        "Torque and angle, the torque before the turn" if turned else "Torque alone",
        one.torque_Nm,
    )


def _scatter(ctx: Ctx) -> list[Lesson]:
    """Readings over what was wanted, by method of tightening and kind of wrench."""
    rows = ctx.session.execute(
        select(
            Tool.spec,
            Reading.value,
            Reading.quantity,
            Reading.step,
            ToolPull.revision_id,
            ToolPull.at,
        )
        .join(
            ToolPull, (ToolPull.run_id == Reading.run_id) & (ToolPull.sequence == Reading.sequence)
        )
        .join(Tool, Tool.id == ToolPull.tool_id)
        .where(Reading.quantity.in_(("torque", "angle")))
        .order_by(ToolPull.at.desc())
        .limit(10 * MOST)
    )
    found: dict[str, _Values] = {}
    for spec, value, quantity, step, revision_id, at in rows:
        result = stored_result(ctx.session.get_one(Revision, revision_id).result)
        asked = pass_of(result, step)
        group = next((g for g in result.groups if asked is not None and g.id == asked.group), None)
        if asked is None or group is None or (wanted := _method(asked, group, quantity)) is None:
            continue
        kind = json.loads(spec)["kind"]
        read = value / 1e3 if quantity == "torque" else value
        _gather(found, f"{wanted[0]}/{kind}", f"{wanted[0]}, with a {kind}", read / wanted[1], at)
    out = []
    for key, one in found.items():
        if (band := scatter_found(one.values)) is not None:
            out.append(
                _lesson(
                    ctx,
                    "scatter",
                    key,
                    one,
                    band,
                    "of the setting",
                    (
                        "reading over what was wanted, at the full figure; the band is twice the "
                        "standard deviation"
                    ),
                )
            )
    return out


def _times(ctx: Ctx) -> list[Lesson]:
    """Seconds from bolt to bolt, by kind of joint."""
    before = func.lag(ToolPull.at).over(
        partition_by=(ToolPull.run_id, ToolPull.group), order_by=ToolPull.sequence
    )
    steps = (
        select(
            Joint.kind, ToolPull.at, func.extract("epoch", ToolPull.at - before).label("seconds")
        )
        .join(Run, Run.id == ToolPull.run_id)
        .join(Revision, Revision.id == Run.revision_id)
        .join(Plan, Plan.id == Revision.plan_id)
        .join(Joint, Joint.id == Plan.joint_id)
        .order_by(ToolPull.at.desc())
        .limit(10 * MOST)
        .subquery()
    )
    found: dict[str, _Values] = {}
    for kind, at, seconds in ctx.session.execute(
        select(steps).where(steps.c.seconds > 0, steps.c.seconds < LESSON_PAUSE.value)
    ):
        _gather(found, kind, f"Time per bolt, {JOINT_KINDS[kind]}", float(seconds), at)
    return [
        _lesson(
            ctx,
            "time",
            key,
            one,
            band,
            "s",
            "from bolt to bolt in runs; the middle half of them lies between",
        )
        for key, one in found.items()
        if (band := time_found(one.values)) is not None
    ]


def _lesson(
    ctx: Ctx, kind: str, key: str, one: _Values, found: Found, unit: str, words: str
) -> Lesson:
    return Lesson(
        id=ctx.new_id(),
        kind=kind,
        key=key[:200],
        title=one.title[:200],
        low=found.low,
        typical=found.typical,
        high=found.high,
        unit=unit,
        count=found.count,
        since=one.since,
        until=one.until,
        words=words,
        lubricant=str(one.more.get("lubricant", ""))[:40],
    )


def gather_lessons(ctx: Ctx) -> int:
    """Write anew what the records teach; returns how many lessons there are."""
    ctx.session.execute(delete(Lesson))
    made = [*_friction(ctx), *_scatter(ctx), *_times(ctx)]
    ctx.session.add_all(made)
    ctx.session.flush()
    return len(made)


@use_case
def look_anew(ctx: Ctx) -> int:
    """Look at the records anew; returns how many lessons there are."""
    return gather_lessons(ctx)


@use_case
def list_lessons(ctx: Ctx) -> list[LessonView]:
    """What the records teach, kind by kind."""
    out = []
    for one in ctx.session.scalars(select(Lesson).order_by(Lesson.kind, Lesson.title)):
        key, proposal = "", None
        if one.kind == "friction":
            key = f"own-{one.lubricant}"[:40]
            source = f"{one.count} measured pulls, {day_text(one.since)} to {day_text(one.until)}"
            proposal = {
                "name": f"{one.title.split(',')[0]}, as measured here"[:120],
                "source": source,
                "nut_factor": [float(show(v, 3)) for v in (one.low, one.typical, one.high)],
            }
        out.append(
            LessonView(
                one.kind,
                one.lubricant,
                one.title,
                one.low,
                one.typical,
                one.high,
                one.unit,
                one.count,
                one.since,
                one.until,
                one.words,
                key,
                proposal,
            )
        )
    return out
