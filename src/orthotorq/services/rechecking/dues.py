"""Due dates: written when a run is signed, a meter read, a plan released or something said of a joint; lists only read them."""
from __future__ import annotations

import json
import uuid
from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any

from sqlalchemy import Select, cast, delete, select
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session, sessionmaker

from ...core.kinds.stage_kind import OCCASIONS
from ...core.messages import Refusal
from ...core.rechecking import Checked, Mark, Next, Rate, Rule, Stands, movement_of, next_of
from ...core.rechecking.schedule import UNITS
from ...core.running.standing import STANDING
from ...store.models import DueDate, Equipment, Joint, JointEntry, Meter, MeterReading, Plan, Revision, Run
from ..context import Ctx
from ..errors import BadField, NotFound
from ..permissions import use_case

#: days ahead that count as soon
SOON = 14
#: standings after which somebody goes there at once, and what is done then
_AT_ONCE = {"provisional": "recheck", "opened": "recheck", "unknown": "install", "apart": "install"}
_ENDED = ("finished", "signed", "closed")


@dataclass(frozen=True, slots=True)
class DueView:
    """One joint to look at: when, how sure that is, and why; `state` is overdue, due, soon, later or open (no day known)."""

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


def _total_at(ctx: Ctx, meter: Meter, at: datetime) -> float | None:
    """What a meter had run by a time: on the line between the readings around it."""
    wanted = (select(MeterReading.at, MeterReading.total)
              .where(MeterReading.meter_id == meter.id, MeterReading.struck_by.is_(None)))
    before = ctx.session.execute(wanted.where(MeterReading.at <= at).order_by(MeterReading.at.desc()).limit(1)).first()
    after = ctx.session.execute(wanted.where(MeterReading.at > at).order_by(MeterReading.at).limit(1)).first()
    if before is None or after is None:
        found = before or after
        return float(found.total) if found is not None else None
    share = (at - before.at) / (after.at - before.at)
    return float(before.total + share * (after.total - before.total))


def _mark(ctx: Ctx, meter: Meter | None, at: datetime) -> Mark:
    return Mark(at.date(), _total_at(ctx, meter, at) if meter is not None else None)


def _meter_for(meters: list[Meter], unit: str) -> Meter | None:
    return next((m for m in meters if UNITS[m.unit][0] == UNITS[unit][0]), None)


def _stands(meter: Meter | None) -> Stands | None:
    if meter is None or meter.total is None or meter.at is None:
        return None
    band = (meter.rate_low, meter.rate, meter.rate_high)
    known = None if None in band else band
    return Stands(meter.unit, meter.total, meter.at.date(), Rate(known, meter.rate_words))  # type: ignore[arg-type]


def _rule(raw: dict[str, Any]) -> Rule:
    """A recheck of a stored result."""
    season = raw.get("season") or ""
    return Rule(raw["meter"], tuple(raw["at"]), raw["every"], (int(season[:2]), int(season[3:])) if season else None,
                raw.get("after") or "")


def runs_of(joint_id: uuid.UUID) -> Select[Run]:
    """Runs of a joint."""
    return select(Run).join(Revision, Run.revision_id == Revision.id).join(Plan, Revision.plan_id == Plan.id).where(
        Plan.joint_id == joint_id)


def _ended(ctx: Ctx, joint_id: uuid.UUID) -> tuple[Run | None, list[Run]]:
    """(the last run that put the joint together, rechecks since then), as far as they have ended."""
    runs = ctx.session.scalars(runs_of(joint_id).where(Run.status.in_(_ENDED), Run.ended_at.is_not(None))
                               .order_by(Run.ended_at)).all()
    last = next((run for run in reversed(runs) if run.occasion == "install"), None)
    since = [run for run in runs if run.occasion == "recheck" and last is not None and run.ended_at and last.ended_at
             and run.ended_at > last.ended_at]
    return last, since


def _new(joint: Joint, rule: str, occasion: str, revision: uuid.UUID | None, due: Next, at_once: bool = False) -> DueDate:
    return DueDate(joint_id=joint.id, rule=rule, revision_id=revision, occasion=occasion, reading=due.at, unit=due.unit,
                   day=due.day, low=due.low, high=due.high, grace=due.grace, at_once=at_once, why=due.why[:500])


def _at_once(ctx: Ctx, joint: Joint, revision: uuid.UUID) -> DueDate | None:
    """The entry of a joint that somebody has to go to at once."""
    occasion = _AT_ONCE.get(joint.standing)
    if occasion is None:
        return None
    why = STANDING[joint.standing].words + (f" ({joint.standing_why})" if joint.standing_why else "")
    day = (joint.standing_at or ctx.now).date()
    return _new(joint, "state", occasion, revision, Next(None, "d", day, day, day, 0, why), at_once=True)


def refresh_joint(ctx: Ctx, joint_id: uuid.UUID) -> None:
    """Write anew when a joint is looked at next, and what its rechecks say together."""
    joint = ctx.session.get_one(Joint, joint_id)
    ctx.session.flush()
    since = ctx.session.scalar(select(DueDate.day).where(DueDate.joint_id == joint_id, DueDate.rule == "state"))
    ctx.session.execute(delete(DueDate).where(DueDate.joint_id == joint_id, DueDate.rule.not_like("tool:%")))
    found = ctx.session.execute(
        select(Revision.id, Plan.id, cast(Revision.result, JSONB)["rechecks"].astext, Revision.released_at)
        .join(Plan, Revision.plan_id == Plan.id).where(Plan.joint_id == joint_id, Revision.status == "released",
                                                       Plan.put_away.is_(False)).order_by(Revision.released_at)).all()
    if not found:
        joint.movement = ""
        return
    last, rechecks = _ended(ctx, joint_id)
    moved = movement_of([Checked(run.number, run.checked, run.moved) for run in rechecks])
    joint.movement = moved.words[:400] if moved.finding else ""
    now = _at_once(ctx, joint, found[0].id)
    if now is not None or last is None or last.ended_at is None:
        if now is not None:
            if joint.standing == "unknown":
                now.day = now.low = now.high = since or found[0].released_at.date()
            ctx.session.add(now)
        ctx.session.flush()
        return
    meters = list(ctx.session.scalars(select(Meter).where(Meter.equipment_id == joint.equipment_id)))
    own = ctx.session.get_one(Revision, last.revision_id).plan_id
    for revision_id, plan_id, raw, _ in found:
        if plan_id != own and len(found) > 1:
            continue  # another way to tighten it: the rechecks of the one that was used count
        for one in json.loads(raw or "[]"):
            _one_rule(ctx, joint, revision_id, one, last, rechecks, meters)
    ctx.session.flush()


def _one_rule(ctx: Ctx, joint: Joint, revision_id: uuid.UUID, raw: dict[str, Any], last: Run, rechecks: list[Run],
              meters: list[Meter]) -> None:
    rule = _rule(raw)
    meter = _meter_for(meters, rule.unit)
    assert last.ended_at is not None
    before = rechecks[-1] if rechecks else None
    done = _mark(ctx, meter, before.ended_at) if before is not None and before.ended_at else None
    due = next_of(rule, _mark(ctx, meter, last.ended_at), done, _stands(meter), joint.standing == "moved")
    if due is None:
        return
    entry = _new(joint, f"{raw['id']}", raw["occasion"], revision_id, due)
    if rule.after:
        said = ctx.session.scalar(select(JointEntry).where(
            JointEntry.joint_id == joint.id, JointEntry.kind == "happened", JointEntry.words == rule.after,
            JointEntry.at > (before or last).ended_at).order_by(JointEntry.at).limit(1))
        if said is not None:
            entry.day = entry.low = entry.high = said.at.date()
            entry.at_once, entry.why = True, f"after {rule.after}, on {said.at:%d %b %Y}"
    ctx.session.add(entry)


def refresh_machine(ctx: Ctx, equipment_id: uuid.UUID) -> None:
    """Forecast anew what hangs on the meters of a machine."""
    for joint_id in ctx.session.scalars(select(Joint.id).where(Joint.equipment_id == equipment_id)).all():
        refresh_joint(ctx, joint_id)


def state_of(day: date | None, grace: int, at_once: bool, today: date) -> str:
    """What a due date is today.

    >>> state_of(date(2028, 2, 20), 5, False, date(2028, 2, 26)), state_of(date(2028, 2, 20), 5, False, date(2028, 2, 25))
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
    return DueView(due.joint_id, row.joint_name, row.equipment_name, row.equipment_tag, due.rule, due.occasion,
                   OCCASIONS.get(due.occasion, due.occasion), due.revision_id, due.day, due.low, due.high, due.grace,
                   state_of(due.day, due.grace, due.at_once, today), due.why,
                   due.day is None and due.why.startswith("after "))


def dues_wanted() -> Select[DueDate, str, str, str]:
    """Due dates with where they are."""
    return (select(DueDate, Joint.name.label("joint_name"), Equipment.name.label("equipment_name"),
                   Equipment.tag.label("equipment_tag"))
            .join(Joint, DueDate.joint_id == Joint.id).join(Equipment, Joint.equipment_id == Equipment.id))


@use_case
def list_dues(ctx: Ctx, begin: date | None = None, end: date | None = None, limit: int = 200) -> list[DueView]:
    """Due dates by day, those from `begin` to `end` where given; those without a day stand last."""
    wanted = dues_wanted().order_by(DueDate.day.asc().nulls_last(), DueDate.joint_id).limit(limit)
    if begin is not None:
        wanted = wanted.where(DueDate.day >= begin)
    if end is not None:
        wanted = wanted.where(DueDate.day <= end)
    return [due_view(row, ctx.now.date()) for row in ctx.session.execute(wanted)]


@use_case
def say_happened(ctx: Ctx, joint_id: uuid.UUID, rule: str) -> None:
    """Say that what a rule waits for has happened: its recheck is due at once. Raises NotFound, BadField."""
    due = ctx.session.get(DueDate, (joint_id, rule))
    if due is None or due.day is not None:
        raise NotFound("rule that waits for something")
    rules = json.loads(ctx.session.scalar(select(cast(Revision.result, JSONB)["rechecks"].astext).where(
        Revision.id == due.revision_id)) or "[]")
    after = next((one.get("after") for one in rules if one["id"] == rule), "")
    if not after:
        raise BadField(Refusal.SAY_WHAT, "rule")
    ctx.session.add(JointEntry(id=ctx.new_id(), joint_id=joint_id, at=ctx.now, kind="happened", words=after,
                               person_id=ctx.person.id))
    refresh_joint(ctx, joint_id)


def refresh_all(sessions: sessionmaker[Session], make: Callable[[Session], Ctx], step: int = 200) -> int:
    """Forecast every joint anew, so many in a transaction, in the order of their ids; returns how many."""
    count, after = 0, uuid.UUID(int=0)
    while True:
        with sessions.begin() as session:
            ids = session.scalars(select(Joint.id).where(Joint.id > after).order_by(Joint.id).limit(step)).all()
            for joint_id in ids:
                refresh_joint(make(session), joint_id)
        if not ids:
            return count
        count, after = count + len(ids), ids[-1]
