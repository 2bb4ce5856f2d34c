"""The condition of a joint, folded from what its runs left and what people said: stored, so that
lists only read it."""

from __future__ import annotations

import json
import uuid
from datetime import date, datetime
from typing import Any

from sqlalchemy import select, text

from ...core.forms.outcome import PartOutcome, RunOutcome
from ...core.joint_condition import Act, PartCondition, Past, condition_of, parts_of
from ...store.models import JointPart, Plan, Revision
from ..context import Ctx
from .joint_facts import JointFacts, pasts_of

#: groups and positions of the plan that was released last, for a joint that no run was ever at
_GROUPS = """
SELECT g ->> 'id' AS id, g ->> 'name' AS name, coalesce(g -> 'variants', '[]') AS variants,
       jsonb_array_length(g -> 'places') AS bolts
FROM revision r, jsonb_array_elements(r.result::jsonb -> 'groups') g WHERE r.id = :revision
"""
_POSITIONS = """
SELECT coalesce(r.result::jsonb -> 'positions', '[]') AS positions,
       coalesce(r.result::jsonb -> 'variants', '[]') AS variants FROM revision r
         WHERE r.id = :revision
"""


def _time(at: str) -> datetime | None:
    return datetime.fromisoformat(at) if at else None


def _planned(ctx: Ctx, joint_id: uuid.UUID) -> list[PartOutcome]:
    """The groups of the plan that was released last, with the first of its variants."""
    revision = ctx.session.scalar(
        select(Revision.id)
        .join(Plan, Revision.plan_id == Plan.id)
        .where(Plan.joint_id == joint_id, Revision.status == "released", Plan.put_away.is_(False))
        .order_by(Revision.released_at.desc())
        .limit(1)
    )
    if revision is None:
        return []
    found = ctx.session.execute(text(_POSITIONS), {"revision": revision}).one()
    first: dict[str, str] = {}
    for variant in found.variants:
        first.setdefault(variant["choice"], variant["id"])
    groups = [
        g
        for g in ctx.session.execute(text(_GROUPS), {"revision": revision})
        if not g.variants or set(g.variants) & set(first.values())
    ]
    positions: list[Any] = found.positions or [{"id": None, "name": ""}]
    return [
        PartOutcome(
            position=p["id"],
            position_name=p["name"],
            group=g.id,
            group_name=g.name if len(groups) > 1 else "",
            bolts=g.bolts,
            turned=False,
            slackened=False,
            pulled=False,
            checked=0,
            moved=0,
        )
        for p in positions
        for g in groups
    ]


def read_past(ctx: Ctx, joint_id: uuid.UUID) -> tuple[list[PartOutcome], list[Past | Act]]:
    """(groups of the plan where no run was ever at the joint, its runs and acts)."""
    return _begun(ctx, joint_id, pasts_of(ctx, [joint_id])[joint_id])


def _begun(
    ctx: Ctx, joint_id: uuid.UUID, past: list[Past | Act]
) -> tuple[list[PartOutcome], list[Past | Act]]:
    told = any(isinstance(one, Past) for one in past)
    return ([] if told else _planned(ctx, joint_id)), past


def refresh_condition(ctx: Ctx, facts: JointFacts) -> list[PartCondition]:
    """Write the condition of a joint and of its positions and groups anew."""
    today = ctx.today.isoformat()
    joint, kept = facts.joint, dict(facts.rows)
    parts = parts_of(*_begun(ctx, joint.id, facts.past))
    for place, part in enumerate(parts):
        key = (part.key[0] or "", part.key[1])
        row = kept.pop(key, None)
        if row is None:
            row = JointPart(joint_id=joint.id, position=key[0], group=key[1])
            ctx.session.add(row)
        _write(row, place, part, today)
    for row in kept.values():
        ctx.session.delete(row)
    worst = condition_of(parts, today)
    if worst is None:
        joint.condition, joint.condition_why = "unknown", ""
        joint.condition_run = joint.condition_at = None
    else:
        several = len({(p.word(today), p.why(today)) for p in parts}) > 1
        named = f"{worst.name}: " if several and worst.name else ""
        joint.condition = worst.word(today)
        joint.condition_why = named + worst.why(today)
        joint.condition_run, joint.condition_at = worst.run, _time(worst.since)
    return parts


def _write(row: JointPart, place: int, part: PartCondition, today: str) -> None:
    until = part.until(today)
    row.place, row.name, row.position_name = place, part.name, part.position_name
    row.word, row.why, row.clears = part.word(today), part.why(today), part.clears(today)
    row.since, row.run = _time(part.since), part.run
    row.looked_at, row.tightened_at = _time(part.looked_at), _time(part.tightened_at)
    row.until = date.fromisoformat(until) if until else None


def outcome_text(outcome: RunOutcome) -> str:
    """An outcome as it is kept; empty where it says nothing: nothing was turned, and nothing
    failed."""
    says = outcome.ended or any(part.turned or part.failures for part in outcome.parts)
    return json.dumps(outcome.model_dump(mode="json"), ensure_ascii=False) if says else ""
