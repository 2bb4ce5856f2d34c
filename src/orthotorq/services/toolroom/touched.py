"""What a wrench has touched since its last good check, and what its error did to the clamp load there."""
from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import func, select

from ...core.mechanics.wrench_history import effect_of
from ...core.messages import Refusal
from ...store.models import Calibration, DueDate, Equipment, Joint, Plan, Revision, RevisionLoad, Run, ToolPull
from ..context import Ctx
from ..errors import BadField
from ..permissions import use_case
from .tools import EVER, tool_of

#: lines shown at once
SHOWN = 200


@dataclass(frozen=True, slots=True)
class TouchedLine:
    """Bolts of one group in one run: the clamp band as planned, what the error makes of it, and where that lies; N.

    `verdict` is inside, edge (an end of the band lies outside), outside (its middle does), unknown (no window or no error known),
    and `since` says that the joint was tightened again with something else.
    """

    run_id: uuid.UUID
    run: int
    at: datetime
    joint_id: uuid.UUID
    joint_name: str
    equipment_name: str
    group: str
    bolts: list[str]
    percent: float
    torque_Nm: float
    planned_N: list[float] | None
    was_N: list[float] | None
    window_N: list[float | None]
    verdict: str
    words: str
    since: str
    asked: bool


@dataclass(frozen=True, slots=True)
class TouchedView:
    """What a tool has touched: since when, pulls and joints in all, the error that is counted with, the lines, worst first."""

    since: datetime | None
    pulls: int
    joints: int
    error: float | None
    error_words: str
    lines: list[TouchedLine]
    left_out: int
    #: joints that need a recheck which nobody has asked for yet
    needed: int


def _since(ctx: Ctx, tool_id: uuid.UUID) -> datetime | None:
    """When its last good check was, before the one that failed."""
    return ctx.session.scalar(select(func.max(Calibration.at)).where(Calibration.tool_id == tool_id, Calibration.passed))


def _rows(ctx: Ctx, tool_id: uuid.UUID, since: datetime | None) -> list[Any]:
    """Bolts by run and group, with the highest share that the tool gave them; one question, by the index of tool and time."""
    per_bolt = (select(ToolPull.run_id, ToolPull.group, ToolPull.position, ToolPull.place,
                       func.max(ToolPull.percent).label("percent"), func.max(ToolPull.torque_Nm).label("torque"),
                       func.max(ToolPull.at).label("at"), func.count().label("pulls"))
                .where(ToolPull.tool_id == tool_id, ToolPull.at > (since or EVER))
                .group_by(ToolPull.run_id, ToolPull.group, ToolPull.position, ToolPull.place).subquery())
    bolt = func.concat_ws(" ", func.nullif(per_bolt.c.position, ""), per_bolt.c.place)
    lines = (select(per_bolt.c.run_id, per_bolt.c.group, func.max(per_bolt.c.percent).label("percent"),
                    func.max(per_bolt.c.torque).label("torque"), func.max(per_bolt.c.at).label("at"),
                    func.sum(per_bolt.c.pulls).label("pulls"), func.array_agg(bolt).label("bolts"))
             .group_by(per_bolt.c.run_id, per_bolt.c.group).subquery())
    return list(ctx.session.execute(
        select(lines, Run.number, Run.revision_id, Plan.joint_id, Joint.name.label("joint_name"), Joint.standing_run,
               Equipment.name.label("equipment_name"))
        .join(Run, Run.id == lines.c.run_id).join(Revision, Revision.id == Run.revision_id)
        .join(Plan, Plan.id == Revision.plan_id).join(Joint, Joint.id == Plan.joint_id)
        .join(Equipment, Equipment.id == Joint.equipment_id).order_by(lines.c.at.desc())))


_ORDER = {"outside": 0, "edge": 1, "unknown": 2, "inside": 3}


@use_case
def touched(ctx: Ctx, tool_id: uuid.UUID) -> TouchedView:
    """Every bolt that a tool has pulled since its last good check, and what its error did there. Raises NotFound."""
    tool = tool_of(ctx, tool_id)
    last = tool.calibrations[-1] if tool.calibrations else None
    error = last.error if last is not None and not last.passed else None
    since = _since(ctx, tool.id)
    rows = _rows(ctx, tool.id, since)
    loads = _loads(ctx, {row.revision_id for row in rows})
    asked = set(ctx.session.scalars(select(DueDate.joint_id).where(DueDate.rule == f"tool:{tool.serial}")))
    lines = []
    for row in rows:
        load = loads.get((row.revision_id, row.group))
        planned = None if load is None or load.low_N is None else (load.low_N, load.typical_N, load.high_N)
        window = (None, None) if load is None else (load.lower_N, load.upper_N)
        found = effect_of(error, row.percent, planned, window)
        newer = row.standing_run is not None and row.standing_run > row.number
        lines.append(TouchedLine(
            row.run_id, row.number, row.at, row.joint_id, row.joint_name, row.equipment_name, row.group,
            sorted(row.bolts, key=_bolt), row.percent, row.torque, list(planned) if planned else None,
            list(found.was) if found.was else None, list(window), found.lies, found.words,
            f"run {row.standing_run} since" if newer else "", row.joint_id in asked))
    lines.sort(key=lambda one: (bool(one.since), _ORDER[one.verdict]))
    return TouchedView(since, sum(row.pulls for row in rows), len({row.joint_id for row in rows}), error, _error_words(error),
                       lines[:SHOWN], max(0, len(lines) - SHOWN), len({one.joint_id for one in lines if _needs(one)}))


def _needs(line: TouchedLine) -> bool:
    """Whether bolts need a recheck that is not asked for already; what was tightened again since does not."""
    return line.verdict in ("outside", "edge") and not line.since and not line.asked


def _bolt(name: str) -> tuple[str, int]:
    head, _, number = name.rpartition(".")
    return head, int(number) if number.isdecimal() else 0


def _error_words(error: float | None) -> str:
    if error is None:
        return "No error of it is known since then."
    more = "less" if error > 0 else "more"
    reads = "high" if error > 0 else "low"
    return f"It read {abs(error):.1%} {reads}: every bolt got {abs(1 - 1 / (1 + error)):.1%} {more} than set."


def _loads(ctx: Ctx, revisions: set[uuid.UUID]) -> dict[tuple[uuid.UUID, str], Any]:
    return {(one.revision_id, one.group): one for one in ctx.session.scalars(
        select(RevisionLoad).where(RevisionLoad.revision_id.in_(revisions)))}


@use_case
def recheck_touched(ctx: Ctx, tool_id: uuid.UUID) -> int:
    """Make a recheck due at once for every joint whose bolts the error took out of their window, or may have; returns how many.

    Raises NotFound, BadField where there is none.
    """
    tool = tool_of(ctx, tool_id)
    lines = [one for one in touched(ctx, tool_id).lines if _needs(one)]
    joints: dict[uuid.UUID, list[TouchedLine]] = {}
    for one in lines:
        joints.setdefault(one.joint_id, []).append(one)
    if not joints:
        raise BadField(Refusal.NOTHING_TOUCHED, "tool")
    for joint_id, own in joints.items():
        revision = ctx.session.scalar(select(Revision.id).join(Plan, Plan.id == Revision.plan_id).where(
            Plan.joint_id == joint_id, Plan.put_away.is_(False), Revision.status == "released").limit(1))
        bolts = sum(len(one.bolts) for one in own)
        ctx.session.merge(DueDate(
            joint_id=joint_id, rule=f"tool:{tool.serial}"[:80], revision_id=revision, occasion="recheck", reading=None, unit="d",
            day=ctx.now.date(), low=ctx.now.date(), high=ctx.now.date(), grace=0, at_once=True,
            why=f"{tool.serial}, found wrong, tightened {bolts} bolts here in run {own[0].run}: {own[0].words}"[:500]))
    ctx.session.flush()
    return len(joints)
