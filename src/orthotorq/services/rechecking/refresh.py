"""Writing anew what lists only read: the condition of joints, and when each is looked at next."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from sqlalchemy import delete, select, text
from sqlalchemy.orm import Session, sessionmaker

from ...core.joint_condition import CONDITIONS, PartCondition, condition_of, condition_says
from ...core.rechecking import Checked, Mark, Next, Rate, Rule, Stands, movement_of, next_of
from ...core.rechecking.schedule import UNITS
from ...local_time import day_text, local_day
from ...store.models import DueDate, Joint, Meter
from ..context import Ctx
from .condition import refresh_condition
from .joint_facts import JointFacts, read_facts

#: readings on both sides of a time
_AROUND = text("""
SELECT b.at, b.total, a.at, a.total
FROM (SELECT 1) one
LEFT JOIN LATERAL (
  SELECT at, total FROM meter_reading
  WHERE meter_id = :meter AND struck_by IS NULL AND at <= :at ORDER BY at DESC LIMIT 1) b ON true
LEFT JOIN LATERAL (
  SELECT at, total FROM meter_reading
  WHERE meter_id = :meter AND struck_by IS NULL AND at > :at ORDER BY at LIMIT 1) a ON true
""")


def _total_at(ctx: Ctx, meter: Meter, at: datetime) -> float | None:
    """What a meter had run by a time: on the line between the readings around it."""
    found = ctx.session.execute(_AROUND, {"meter": meter.id, "at": at}).one()
    before_at, before, after_at, after = found
    if before is None or after is None:
        known: float | None = before if after is None else after
        return known
    share = (at - before_at) / (after_at - before_at)
    return float(before + share * (after - before))


def _mark(ctx: Ctx, meter: Meter | None, at: datetime) -> Mark:
    return Mark(local_day(at), _total_at(ctx, meter, at) if meter is not None else None)


def _meter_for(meters: list[Meter], unit: str) -> Meter | None:
    return next((m for m in meters if UNITS[m.unit][0] == UNITS[unit][0]), None)


def _stands(meter: Meter | None) -> Stands | None:
    if meter is None or meter.total is None or meter.at is None:
        return None
    band = (meter.rate_low, meter.rate, meter.rate_high)
    known: Any = None if None in band else band
    return Stands(meter.unit, meter.total, local_day(meter.at), Rate(known, meter.rate_words))


def _rule(raw: dict[str, Any]) -> Rule:
    """A recheck of a stored result."""
    season = raw.get("season") or ""
    day = (int(season[:2]), int(season[3:])) if season else None
    return Rule(raw["meter"], tuple(raw["at"]), raw["every"], day, raw.get("after") or "")


def _new(
    joint: Joint,
    rule: str,
    occasion: str,
    revision: uuid.UUID | None,
    due: Next,
    where: str = "",
    at_once: bool = False,
) -> DueDate:
    return DueDate(
        joint_id=joint.id,
        rule=f"{rule}@{where}"[:80] if where else rule,
        position=where,
        revision_id=revision,
        occasion=occasion,
        reading=due.at,
        unit=due.unit,
        day=due.day,
        low=due.low,
        high=due.high,
        grace=due.grace,
        at_once=at_once,
        why=due.why[:500],
    )


@dataclass(frozen=True, slots=True)
class _Place:
    """The groups of a joint at one position, or all of them where nothing tells its positions
    apart; `name` is empty then."""

    name: str
    parts: list[PartCondition]

    def speaks(self, today: str) -> PartCondition:
        """The worst of its groups."""
        worst = condition_of(self.parts, today)
        assert worst is not None
        return worst

    @property
    def tightened(self) -> datetime | None:
        """When the first of its groups was tightened that is tight now."""
        times = (datetime.fromisoformat(p.tightened_at) for p in self.parts if p.tightened_at)
        return min(times, default=None)

    @property
    def rechecks(self) -> list[tuple[str, bool, int]]:
        """Rechecks of it since then, in order."""
        found: dict[tuple[str, int], bool] = {}
        for part in self.parts:
            for at, moved, run in part.rechecks:
                found[at, run] = found.get((at, run), False) or moved
        return [(at, moved, run) for (at, run), moved in sorted(found.items())]

    def same(self, other: _Place, today: str) -> bool:
        """Whether another position is in the same condition, tightened and rechecked in the same
        runs."""
        return (self.tightened, self.rechecks, self.speaks(today).word(today)) == (
            other.tightened,
            other.rechecks,
            other.speaks(today).word(today),
        )


def _places(parts: list[PartCondition], today: str) -> list[_Place]:
    by: dict[str, list[PartCondition]] = {}
    for part in parts:
        by.setdefault(part.position_name, []).append(part)
    places = [_Place(name, found) for name, found in by.items()]
    if places and all(place.same(places[0], today) for place in places[1:]):
        return [_Place("", parts)]
    return places


def _at_once(
    ctx: Ctx, joint: Joint, revision: uuid.UUID, place: _Place, since: date
) -> DueDate | None:
    """The entry of a position that somebody has to go to at once."""
    today = ctx.today.isoformat()
    worst = place.speaks(today)
    word = worst.word(today)
    occasion, why = worst.due(today), condition_says(word, worst.why(today))
    if word == "limited":
        end = date.fromisoformat(worst.until(today))
        due = Next(None, "d", end, end, end, 0, why)
        return _new(joint, "limited", "install", revision, due, place.name)
    if not occasion:
        return None
    day = local_day(datetime.fromisoformat(worst.since)) if worst.since else since
    due = Next(None, "d", day, day, day, 0, why)
    return _new(joint, "state", occasion, revision, due, place.name, at_once=True)


def _one_rule(
    ctx: Ctx, facts: JointFacts, revision_id: uuid.UUID, raw: dict[str, Any], place: _Place
) -> None:
    rule, first = _rule(raw), place.tightened
    meter = _meter_for(facts.meters, rule.unit)
    assert first is not None
    before = datetime.fromisoformat(place.rechecks[-1][0]) if place.rechecks else None
    moved = bool(place.rechecks) and place.rechecks[-1][1]
    done = _mark(ctx, meter, before) if before is not None else None
    due = next_of(rule, _mark(ctx, meter, first), done, _stands(meter), moved)
    if due is None:
        return
    entry = _new(facts.joint, f"{raw['id']}", raw["occasion"], revision_id, due, place.name)
    said = next(
        (at for words, at in facts.happened if words == rule.after and at > (before or first)), None
    )
    if rule.after and said is not None:
        entry.day = entry.low = entry.high = local_day(said)
        entry.at_once, entry.why = True, f"after {rule.after}, on {day_text(said)}"
    ctx.session.add(entry)


def _refresh(ctx: Ctx, facts: JointFacts) -> None:
    """What follows from the facts of one joint."""
    joint, today = facts.joint, ctx.today.isoformat()
    parts = refresh_condition(ctx, facts)
    if not facts.released:
        joint.movement = ""
        return
    last = next((run for run in reversed(facts.ended) if run.occasion == "install"), None)
    rechecks = [
        run
        for run in facts.ended
        if run.occasion == "recheck" and last is not None and run.ended_at > last.ended_at
    ]
    moved = movement_of([Checked(run.number, run.checked, run.moved) for run in rechecks])
    joint.movement = moved.words[:400] if moved.finding else ""
    # another way to tighten it: the rechecks of the one that was used count
    plans = [
        one
        for one in facts.released
        if len(facts.released) == 1 or (last is not None and one.plan_id == last.plan_id)
    ]
    first = facts.released[0]
    since = facts.waiting_since or local_day(first.released_at)
    for place in _places(parts, today):
        now = _at_once(ctx, joint, first.revision_id, place, since)
        if now is not None:
            ctx.session.add(now)
        known = CONDITIONS[place.speaks(today).word(today)].known
        if place.tightened is None or not known:
            continue
        for plan in plans:
            for raw in plan.rules:
                _one_rule(ctx, facts, plan.revision_id, raw, place)


def refresh_joints(ctx: Ctx, joint_ids: Sequence[uuid.UUID]) -> None:
    """Write anew the condition of joints, when each is looked at next, and what its rechecks say
    together."""
    ctx.session.flush()
    facts = read_facts(ctx, joint_ids)
    ctx.session.execute(
        delete(DueDate).where(DueDate.joint_id.in_(joint_ids), DueDate.rule.not_like("tool:%"))
    )
    with ctx.session.no_autoflush:
        for one in facts:
            _refresh(ctx, one)
    ctx.session.flush()


def refresh_joint(ctx: Ctx, joint_id: uuid.UUID) -> None:
    """Write one joint anew."""
    refresh_joints(ctx, [joint_id])


def refresh_machine(ctx: Ctx, equipment_id: uuid.UUID) -> None:
    """Forecast anew what hangs on the meters of a machine."""
    wanted = select(Joint.id).where(Joint.equipment_id == equipment_id)
    refresh_joints(ctx, list(ctx.session.scalars(wanted)))


def refresh_all(
    sessions: sessionmaker[Session], make: Callable[[Session], Ctx], step: int = 200
) -> int:
    """Forecast every joint anew, so many in a transaction, in the order of their ids; returns how
    many."""
    count, after = 0, uuid.UUID(int=0)
    while True:
        with sessions.begin() as session:
            wanted = select(Joint.id).where(Joint.id > after).order_by(Joint.id).limit(step)
            ids = list(session.scalars(wanted))
            if ids:
                refresh_joints(make(session), ids)
        if not ids:
            return count
        count, after = count + len(ids), ids[-1]
