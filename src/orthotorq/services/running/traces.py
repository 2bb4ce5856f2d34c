"""The curves of a run's pulls, as its record lays them over one another, and those of the last run
of the same joint."""

from __future__ import annotations

import uuid
from dataclasses import dataclass

import numpy as np
from sqlalchemy import select
from sqlalchemy.orm import Session

from ...core.forms.result import Result
from ...core.kinds.pulls import SAYS
from ...core.running import fold
from ...core.running.log.step_id import base_of
from ...core.running.log.step_id import parse as parse_step
from ...store.models import Plan, Pull, Revision, Run
from ..context import Ctx
from ..errors import NotFound
from ..permissions import use_case
from .chain import facts_of
from .pulls import Curve, pass_of, trace_of_row
from .start import result_of

#: a curve in a record is drawn through so many points
POINTS = 120


@dataclass(frozen=True, slots=True)
class TraceView:
    """One pull: bolt, pass and position; the curve; the verdict with what the curve shows it by;
    what it was to reach [N·m]."""

    event: str
    column: str
    title: str
    position: str | None
    place: str
    label: str
    good: bool
    says: str
    seen: str
    wanted_Nm: float | None
    curve: Curve


@dataclass(frozen=True, slots=True)
class TracesView:
    """The curves of a run, and of the last one of its joint that has some."""

    traces: list[TraceView]
    before_run: int | None
    before: list[TraceView]


@use_case
def read_traces(ctx: Ctx, run_id: uuid.UUID) -> TracesView:
    """The curves of a run. Raises NotFound."""
    run = ctx.session.get(Run, run_id)
    if run is None:
        raise NotFound("run")
    last = _run_before(ctx.session, run)
    return TracesView(
        _traces(ctx.session, run),
        last.number if last else None,
        _traces(ctx.session, last) if last else [],
    )


def _run_before(session: Session, run: Run) -> Run | None:
    """The last earlier run of the same joint that has curves."""
    joint = (
        select(Plan.joint_id)
        .join(Revision, Revision.plan_id == Plan.id)
        .where(Revision.id == run.revision_id)
    )
    return session.scalars(
        select(Run)
        .join(Revision, Run.revision_id == Revision.id)
        .join(Plan, Revision.plan_id == Plan.id)
        .where(
            Plan.joint_id == joint.scalar_subquery(),
            Run.number < run.number,
            Run.id.in_(select(Pull.run_id)),
        )
        .order_by(Run.number.desc())
        .limit(1)
    ).first()


def _traces(session: Session, run: Run) -> list[TraceView]:
    result, rows = (
        result_of(session, run),
        {str(p.id): p for p in session.scalars(select(Pull).where(Pull.run_id == run.id))},
    )
    labels = {p.id: p.label for g in result.groups for p in g.places}
    out = []
    for given in fold(facts_of(session, run)).order:
        row, step = rows.get(str(given.fact.payload.get("pull"))), parse_step(given.fact.step)
        trace = trace_of_row(row) if row is not None else None
        if row is None or trace is None or step is None or step.place is None:
            continue
        judged = given.fact.payload.get("judged") or {}
        code = str(judged.get("code", "good"))
        picked = np.unique(np.linspace(0, trace.seconds.size - 1, POINTS).astype(int))
        curve = Curve(
            *(
                [round(float(v), 2) for v in line[picked]]
                for line in (trace.seconds, trace.torque, trace.angle)
            )
        )
        out.append(
            TraceView(
                given.fact.id,
                f"{base_of(step.position, step.stage, step.part)}/r{step.round}",
                _title(result, row.step, step.round),
                step.position,
                step.place,
                labels.get(step.place, step.place),
                code == "good",
                SAYS[code][0],
                str(judged.get("seen", "")),
                _wanted(result, row.step),
                curve,
            )
        )
    return out


def _title(result: Result, step: str, round_: int | None) -> str:
    one = pass_of(result, step)
    name = one.name if one is not None else ""
    return name if (round_ or 1) == 1 else f"{name}, round {round_}"


def _wanted(result: Result, step: str) -> float | None:
    one = pass_of(result, step)
    return one.torque_Nm if one is not None else None
