"""What is on record of several joints, read in a few statements: what condition and due dates
follow from."""

from __future__ import annotations

import json
import uuid
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import UTC, date, datetime
from typing import Any

from sqlalchemy import cast, func, select
from sqlalchemy.dialects.postgresql import JSONB

from ...core.forms.outcome import RunOutcome
from ...core.joint_condition import Act, Past
from ...store.models import (
    DueDate,
    Joint,
    JointEntry,
    JointPart,
    Meter,
    Person,
    Plan,
    Revision,
    Run,
)
from ..context import Ctx

#: entries of a joint that its condition follows from
ACTS = ("opened", "replaced", "not_safe", "use_as_is")
_ENDED = ("finished", "signed", "closed")


@dataclass(frozen=True, slots=True)
class EndedRun:
    """A run that has ended, with what its bolts did."""

    number: int
    plan_id: uuid.UUID
    occasion: str
    checked: int
    moved: int
    ended_at: datetime


@dataclass(frozen=True, slots=True)
class ReleasedPlan:
    """A released revision with its recheck rules as they are kept."""

    revision_id: uuid.UUID
    plan_id: uuid.UUID
    released_at: datetime
    rules: list[dict[str, Any]]


@dataclass(slots=True)
class JointFacts:
    """What is on record of one joint."""

    joint: Joint
    past: list[Past | Act] = field(default_factory=list)
    rows: dict[tuple[str, str], JointPart] = field(default_factory=dict)
    ended: list[EndedRun] = field(default_factory=list)
    released: list[ReleasedPlan] = field(default_factory=list)
    meters: list[Meter] = field(default_factory=list)
    #: what its rules wait for and when it happened
    happened: list[tuple[str, datetime]] = field(default_factory=list)
    #: since when something is due for its condition
    waiting_since: date | None = None


def text_of(at: datetime) -> str:
    """A time as text that sorts."""
    return at.astimezone(UTC).isoformat(timespec="microseconds")


def pasts_of(ctx: Ctx, joint_ids: Sequence[uuid.UUID]) -> dict[uuid.UUID, list[Past | Act]]:
    """Runs and acts of each joint, each with the time from which it counts."""
    out: dict[uuid.UUID, list[Past | Act]] = {one: [] for one in joint_ids}
    runs = ctx.session.execute(
        select(Plan.joint_id, Run.outcome)
        .join(Revision, Revision.plan_id == Plan.id)
        .join(Run, Run.revision_id == Revision.id)
        .where(Plan.joint_id.in_(joint_ids), Run.outcome != "")
    )
    for joint_id, left in runs:
        run = RunOutcome.model_validate_json(left)
        out[joint_id].append(Past(text_of(datetime.fromtimestamp(run.last_at, UTC)), run))
    said = ctx.session.execute(
        select(JointEntry, Person.name)
        .join(Person, JointEntry.person_id == Person.id)
        .where(
            JointEntry.joint_id.in_(joint_ids),
            JointEntry.kind.in_(ACTS),
            # parts replaced in a run are part of what that run says
            (JointEntry.kind != "replaced") | JointEntry.run.is_(None),
        )
    )
    for one, name in said:
        until = one.until.isoformat() if one.until else ""
        kind: Any = one.kind
        act = Act(
            kind, text_of(one.at), name, one.words, one.conditions, until, one.position or None
        )
        out[one.joint_id].append(act)
    return out


def _ended(ctx: Ctx, joint_ids: Sequence[uuid.UUID]) -> Iterable[tuple[uuid.UUID, EndedRun]]:
    rows = ctx.session.execute(
        select(
            Plan.joint_id, Run.number, Plan.id, Run.occasion, Run.checked, Run.moved, Run.ended_at
        )
        .join(Revision, Run.revision_id == Revision.id)
        .join(Plan, Revision.plan_id == Plan.id)
        .where(Plan.joint_id.in_(joint_ids), Run.status.in_(_ENDED), Run.ended_at.is_not(None))
        .order_by(Run.ended_at)
    )
    for joint_id, number, plan, occasion, checked, moved, at in rows:
        if at is not None:
            yield joint_id, EndedRun(number, plan, occasion, checked, moved, at)


def _released(ctx: Ctx, joint_ids: Sequence[uuid.UUID]) -> Iterable[tuple[uuid.UUID, ReleasedPlan]]:
    rows = ctx.session.execute(
        select(
            Plan.joint_id,
            Revision.id,
            Plan.id,
            Revision.released_at,
            cast(Revision.result, JSONB)["rechecks"].astext,
        )
        .join(Plan, Revision.plan_id == Plan.id)
        .where(
            Plan.joint_id.in_(joint_ids),
            Revision.status == "released",
            Plan.put_away.is_(False),
        )
        .order_by(Revision.released_at)
    )
    for joint_id, revision, plan, at, rules in rows:
        yield joint_id, ReleasedPlan(revision, plan, at, json.loads(rules or "[]"))


def _meters(ctx: Ctx, machines: set[uuid.UUID]) -> dict[uuid.UUID, list[Meter]]:
    out: dict[uuid.UUID, list[Meter]] = defaultdict(list)
    for meter in ctx.session.scalars(select(Meter).where(Meter.equipment_id.in_(machines))):
        out[meter.equipment_id].append(meter)
    return out


def read_facts(ctx: Ctx, joint_ids: Sequence[uuid.UUID]) -> list[JointFacts]:
    """What is on record of each joint, in the order of their ids."""
    joints = ctx.session.scalars(select(Joint).where(Joint.id.in_(joint_ids)).order_by(Joint.id))
    facts = {joint.id: JointFacts(joint) for joint in joints}
    ids = list(facts)
    for joint_id, past in pasts_of(ctx, ids).items():
        facts[joint_id].past = past
    for row in ctx.session.scalars(select(JointPart).where(JointPart.joint_id.in_(ids))):
        facts[row.joint_id].rows[row.position, row.group] = row
    for joint_id, run in _ended(ctx, ids):
        facts[joint_id].ended.append(run)
    for joint_id, plan in _released(ctx, ids):
        facts[joint_id].released.append(plan)
    meters = _meters(ctx, {one.joint.equipment_id for one in facts.values()})
    for one in facts.values():
        one.meters = meters.get(one.joint.equipment_id, [])
    happened = select(JointEntry.joint_id, JointEntry.words, JointEntry.at).where(
        JointEntry.joint_id.in_(ids), JointEntry.kind == "happened"
    )
    for joint_id, words, at in ctx.session.execute(happened.order_by(JointEntry.at)):
        facts[joint_id].happened.append((words, at))
    waiting = (
        select(DueDate.joint_id, func.min(DueDate.day))
        .where(DueDate.joint_id.in_(ids), DueDate.rule.like("state%"))
        .group_by(DueDate.joint_id)
    )
    for joint_id, day in ctx.session.execute(waiting):
        facts[joint_id].waiting_since = day
    return list(facts.values())
