"""Due dates: written when a run is signed, a meter read, a plan released or something said of a
joint; lists only read them."""

from __future__ import annotations

import json
import uuid
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from sqlalchemy import Select, cast, select
from sqlalchemy.dialects.postgresql import JSONB

from ...core.kinds.stage_kind import OCCASIONS
from ...core.messages import Refusal
from ...store.models import DueDate, Equipment, Joint, JointEntry, Plan, Revision, Run
from ..context import Ctx
from ..errors import BadField, NotFound
from ..permissions import use_case
from ..registers.summaries import Glyph
from .refresh import refresh_joint

#: rules that are the condition's own
BY_CONDITION = ("state", "limited")
#: days ahead that count as soon
SOON = 14
_ENDED = ("finished", "signed", "closed")


@dataclass(frozen=True, slots=True)
class DueView:
    """One joint to look at: when, how sure that is, and why; `state` is overdue, due, soon, later
    or open (no day known)."""

    joint_id: uuid.UUID
    joint_name: str
    equipment_name: str
    equipment_tag: str
    rule: str
    occasion: str
    occasion_text: str
    revision_id: uuid.UUID | None
    day: date | None
    low: date | None
    high: date | None
    grace: int
    state: str
    why: str
    #: it waits for something that somebody has to say
    waits: bool
    #: the position it is about; empty for the whole joint
    position: str = ""
    #: it is due for the condition of the joint, and not by a rule of its plan
    by_condition: bool = False
    #: the joint face in small, where it is drawn
    glyph: Glyph | None = None


def runs_of(joint_id: uuid.UUID) -> Select[Run]:
    """Runs of a joint."""
    return (
        select(Run)
        .join(Revision, Run.revision_id == Revision.id)
        .join(Plan, Revision.plan_id == Plan.id)
        .where(Plan.joint_id == joint_id)
    )


def state_of(day: date | None, grace: int, at_once: bool, today: date) -> str:
    """What a due date is today.

    >>> (state_of(date(2028, 2, 20), 5, False, date(2028, 2, 26)), state_of(date(2028, 2, 20), 5,
    ...  False, date(2028, 2, 25)))
    ('overdue', 'due')
    """
    if day is None:
        return "open"
    if day + timedelta(days=grace) < today and not at_once:
        return "overdue"
    return "due" if day <= today else "soon" if day <= today + timedelta(days=SOON) else "later"


def due_view(row: Any, today: date) -> DueView:
    """A due date with where it is."""
    due: DueDate = row.DueDate
    return DueView(
        due.joint_id,
        row.joint_name,
        row.equipment_name,
        row.equipment_tag,
        due.rule,
        due.occasion,
        OCCASIONS.get(due.occasion, due.occasion),
        due.revision_id,
        due.day,
        due.low,
        due.high,
        due.grace,
        state_of(due.day, due.grace, due.at_once, today),
        due.why,
        due.day is None and due.why.startswith("after "),
        due.position,
        due.rule.partition("@")[0] in BY_CONDITION,
    )


def dues_wanted() -> Select[DueDate, str, str, str]:
    """Due dates with where they are."""
    return (
        select(
            DueDate,
            Joint.name.label("joint_name"),
            Equipment.name.label("equipment_name"),
            Equipment.tag.label("equipment_tag"),
        )
        .join(Joint, DueDate.joint_id == Joint.id)
        .join(Equipment, Joint.equipment_id == Equipment.id)
    )


@use_case
def list_dues(
    ctx: Ctx, begin: date | None = None, end: date | None = None, limit: int = 200
) -> list[DueView]:
    """Due dates by day, those from `begin` to `end` where given; those without a day stand last."""
    wanted = dues_wanted().order_by(DueDate.day.asc().nulls_last(), DueDate.joint_id).limit(limit)
    if begin is not None:
        wanted = wanted.where(DueDate.day >= begin)
    if end is not None:
        wanted = wanted.where(DueDate.day <= end)
    return [due_view(row, ctx.today) for row in ctx.session.execute(wanted)]


@use_case
def say_happened(ctx: Ctx, joint_id: uuid.UUID, rule: str) -> None:
    """Say that what a rule waits for has happened: its recheck is due at once. Raises NotFound,
    BadField."""
    due = ctx.session.get(DueDate, (joint_id, rule))
    if due is None or due.day is not None:
        raise NotFound("rule that waits for something")
    rules = json.loads(
        ctx.session.scalar(
            select(cast(Revision.result, JSONB)["rechecks"].astext).where(
                Revision.id == due.revision_id
            )
        )
        or "[]"
    )
    # the same event is that of every position
    named = rule.partition("@")[0]
    after = next((one.get("after") for one in rules if one["id"] == named), "")
    if not after:
        raise BadField(Refusal.SAY_WHAT, "rule")
    ctx.session.add(
        JointEntry(
            id=ctx.new_id(),
            joint_id=joint_id,
            at=ctx.now,
            kind="happened",
            words=after,
            person_id=ctx.person.id,
        )
    )
    refresh_joint(ctx, joint_id)
