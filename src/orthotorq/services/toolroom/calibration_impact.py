"""What a wrench has touched since its last good check, and what its error did to the clamp load
there."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import cast, func, select
from sqlalchemy.dialects.postgresql import JSONB

from ...core.mechanics.wrench_history import Effect, effect_of
from ...core.messages import Refusal
from ...store.models import (
    Calibration,
    DueDate,
    Equipment,
    Joint,
    Plan,
    Revision,
    RevisionLoad,
    ToolPull,
)
from ..context import Ctx
from ..errors import BadField
from ..permissions import use_case
from .tools import EVER, tool_of

#: lines shown at once
SHOWN = 200


@dataclass(frozen=True, slots=True)
class TouchedLine:
    """Bolts of one group in one run: the clamp band as planned, what the error makes of it, and
    where that lies; N.

    `verdict` is inside, edge (an end of the band lies outside), outside (its middle does), unknown
    (no window or no error known), and `since` says that the joint was tightened again with
    something else.
    """

    run_id: uuid.UUID
    run: int
    at: datetime
    joint_id: uuid.UUID
    joint_name: str
    equipment_name: str
    group: str
    #: as the plan calls it
    group_name: str
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
    """What a tool has touched: since when, pulls and joints in all, the error that is counted with,
    the lines, worst first."""

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
    return ctx.session.scalar(
        select(func.max(Calibration.at)).where(Calibration.tool_id == tool_id, Calibration.passed)
    )


def _rows(ctx: Ctx, tool_id: uuid.UUID, since: datetime | None) -> list[Any]:
    """Runs and groups that a tool has pulled, with the highest share that it gave: one question, by
    index."""
    alike = (
        ToolPull.run_id,
        ToolPull.group,
        ToolPull.run_number,
        ToolPull.revision_id,
        ToolPull.joint_id,
    )
    lines = (
        select(
            *alike,
            func.max(ToolPull.percent).label("percent"),
            func.max(ToolPull.torque_Nm).label("torque"),
            func.max(ToolPull.at).label("at"),
            func.count().label("pulls"),
        )
        .where(ToolPull.tool_id == tool_id, ToolPull.at > (since or EVER))
        .group_by(*alike)
        .subquery()
    )
    return list(
        ctx.session.execute(
            select(lines, lines.c.run_number.label("number"), Joint.condition_run).join(
                Joint, Joint.id == lines.c.joint_id
            )
        )
    )


def _names(ctx: Ctx, joints: set[uuid.UUID]) -> dict[uuid.UUID, tuple[str, str]]:
    """Names of joints and their machines."""
    rows = ctx.session.execute(
        select(Joint.id, Joint.name, Equipment.name)
        .join(Equipment, Equipment.id == Joint.equipment_id)
        .where(Joint.id.in_(joints))
    )
    return {key: (joint, machine) for key, joint, machine in rows}


def _bolts(
    ctx: Ctx, tool_id: uuid.UUID, runs: set[uuid.UUID]
) -> dict[tuple[uuid.UUID, str], list[str]]:
    """The bolts of some runs by run and group."""
    wanted = (
        select(ToolPull.run_id, ToolPull.group, ToolPull.position, ToolPull.place)
        .distinct()
        .where(ToolPull.run_id.in_(runs), ToolPull.tool_id == tool_id)
    )
    out: dict[tuple[uuid.UUID, str], list[str]] = {}
    for run_id, group, position, place in ctx.session.execute(wanted):
        out.setdefault((run_id, group), []).append(f"{position} {place}" if position else place)
    return {key: sorted(bolts, key=_bolt) for key, bolts in out.items()}


_ORDER = {"outside": 0, "edge": 1, "unknown": 2, "inside": 3}
_WORSE = ("outside", "edge")


@use_case
def touched(ctx: Ctx, tool_id: uuid.UUID) -> TouchedView:
    """Every bolt that a tool has pulled since its last good check, and what its error did there.
    Raises NotFound."""
    tool = tool_of(ctx, tool_id)
    last = tool.calibrations[-1] if tool.calibrations else None
    error = last.error if last is not None and not last.passed else None
    since = _since(ctx, tool.id)
    rows = _rows(ctx, tool.id, since)
    loads = _loads(ctx, tool.id, since)
    asked = set(
        ctx.session.scalars(select(DueDate.joint_id).where(DueDate.rule == f"tool:{tool.serial}"))
    )
    judged = sorted(
        ((row, _effect(row, loads, error)) for row in rows),
        key=lambda one: (_again(one[0]), _ORDER[one[1].lies], -one[0].number),
    )
    needed = [
        row
        for row, found in judged
        if found.lies in _WORSE and not _again(row) and row.joint_id not in asked
    ]
    bolts = _bolts(ctx, tool.id, {row.run_id for row, _ in judged[:SHOWN]})
    names = _names(ctx, {row.joint_id for row, _ in judged[:SHOWN]})
    called = _group_names(ctx, {row.revision_id for row, _ in judged[:SHOWN]})
    lines = [
        _line(
            row,
            called,
            names[row.joint_id],
            found,
            loads.get((row.revision_id, row.group)),
            bolts.get((row.run_id, row.group), []),
            row.joint_id in asked,
        )
        for row, found in judged[:SHOWN]
    ]
    return TouchedView(
        since,
        sum(row.pulls for row in rows),
        len({row.joint_id for row in rows}),
        error,
        _error_words(error),
        lines,
        max(0, len(rows) - SHOWN),
        len({row.joint_id for row in needed}),
    )


def _again(row: Any) -> bool:
    """Whether the joint was tightened again since."""
    return row.condition_run is not None and row.condition_run > row.number


def _planned(load: RevisionLoad | None) -> tuple[float, float, float] | None:
    if load is None or load.low_N is None or load.typical_N is None or load.high_N is None:
        return None
    return load.low_N, load.typical_N, load.high_N


def _effect(
    row: Any, loads: Mapping[tuple[uuid.UUID, str], RevisionLoad], error: float | None
) -> Effect:
    load = loads.get((row.revision_id, row.group))
    window = (None, None) if load is None else (load.lower_N, load.upper_N)
    return effect_of(error, row.percent, _planned(load), window)


def _group_names(ctx: Ctx, revisions: set[uuid.UUID]) -> dict[tuple[uuid.UUID, str], str]:
    """Names of groups by revision and id."""
    groups = cast(Revision.document, JSONB)["groups"]
    wanted = select(Revision.id, groups).where(Revision.id.in_(revisions))
    return {
        (revision, one["id"]): str(one.get("name") or one["id"])
        for revision, found in ctx.session.execute(wanted)
        for one in found or []
    }


def _line(
    row: Any,
    called: Mapping[tuple[uuid.UUID, str], str],
    names: tuple[str, str],
    found: Effect,
    load: RevisionLoad | None,
    bolts: list[str],
    asked: bool,
) -> TouchedLine:
    planned = _planned(load)
    return TouchedLine(
        row.run_id,
        row.number,
        row.at,
        row.joint_id,
        *names,
        row.group,
        called.get((row.revision_id, row.group), row.group),
        bolts,
        row.percent,
        row.torque,
        list(planned) if planned else None,
        list(found.was) if found.was else None,
        [None, None] if load is None else [load.lower_N, load.upper_N],
        found.lies,
        found.words,
        f"run {row.condition_run} since" if _again(row) else "",
        asked,
    )


def _needs(line: TouchedLine) -> bool:
    """Whether bolts need a recheck that is not asked for already; what was tightened again since
    does not."""
    return line.verdict in _WORSE and not line.since and not line.asked


def _bolt(name: str) -> tuple[str, int]:
    head, _, number = name.rpartition(".")
    return head, int(number) if number.isdecimal() else 0


def _error_words(error: float | None) -> str:
    if error is None:
        return "No error of it is known since then."
    more = "less" if error > 0 else "more"
    reads = "high" if error > 0 else "low"
    got = abs(1 - 1 / (1 + error)) * 100
    return f"It read {abs(error) * 100:.1f} % {reads}: every bolt got {got:.1f} % {more} than set."


def _loads(
    ctx: Ctx, tool_id: uuid.UUID, since: datetime | None
) -> dict[tuple[uuid.UUID, str], RevisionLoad]:
    """Loads and windows of what a tool has pulled since, by revision and group."""
    revisions = (
        select(ToolPull.revision_id)
        .where(ToolPull.tool_id == tool_id, ToolPull.at > (since or EVER))
        .distinct()
    )
    return {
        (one.revision_id, one.group): one
        for one in ctx.session.scalars(
            select(RevisionLoad).where(RevisionLoad.revision_id.in_(revisions))
        )
    }


@use_case
def recheck_touched(ctx: Ctx, tool_id: uuid.UUID) -> int:
    """Make a recheck due at once for every joint whose bolts the error took out of their window, or
    may have; returns how many.

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
        revision = ctx.session.scalar(
            select(Revision.id)
            .join(Plan, Plan.id == Revision.plan_id)
            .where(
                Plan.joint_id == joint_id, Plan.put_away.is_(False), Revision.status == "released"
            )
            .limit(1)
        )
        bolts = sum(len(one.bolts) for one in own)
        ctx.session.merge(
            DueDate(
                joint_id=joint_id,
                rule=f"tool:{tool.serial}"[:80],
                revision_id=revision,
                occasion="recheck",
                reading=None,
                unit="d",
                day=ctx.today,
                low=ctx.today,
                high=ctx.today,
                grace=0,
                at_once=True,
                why=(
                    f"{tool.serial}, found wrong, tightened {bolts} bolts here in run "
                    f"{own[0].run}: {own[0].words}"
                )[:500],
            )
        )
    ctx.session.flush()
    return len(joints)
