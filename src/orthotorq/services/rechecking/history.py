"""A joint's life on one line of time: plans, runs, rechecks, what happened beside them; how often
its fasteners were used."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select, text

from ...core.joint_condition import ENTRY_TITLES
from ...core.kinds.stage_kind import OCCASIONS
from ...core.messages import Refusal
from ...core.rechecking import Checked, Movement, movement_of
from ...core.running.walk.actions import STATUS
from ...local_time import day_text
from ...store.models import Joint, JointEntry, Person, Plan, Revision, Run
from ..context import Ctx
from ..errors import BadField, NotFound
from ..permissions import use_case
from .due_dates import runs_of

SHOWN = 200
#: entries that say something against the joint
_MARKED = ("opened", "not_safe")


@dataclass(frozen=True, slots=True)
class HistoryLine:
    """One thing on the line of time."""

    at: datetime
    kind: str
    title: str
    words: str
    person: str
    run_id: uuid.UUID | None = None
    revision_id: uuid.UUID | None = None
    marked: bool = False


@dataclass(frozen=True, slots=True)
class HistoryView:
    """The line of time, newest first; what the rechecks say together; how often the fasteners were
    tightened."""

    lines: list[HistoryLine]
    movement: Movement
    uses: int
    uses_words: str


def _run_line(run: Run, person: str) -> HistoryLine:
    found = (
        f": {run.moved} of {run.checked} bolts moved"
        if run.checked and run.occasion == "recheck"
        else ""
    )
    provisional = ", provisional" if run.provisional else ""
    return HistoryLine(
        run.started_at,
        "run",
        f"{OCCASIONS.get(run.occasion, run.occasion)}, run {run.number}",
        f"{STATUS[run.status]}{provisional}{found}",
        person,
        run_id=run.id,
        marked=run.provisional or bool(run.moved and run.occasion == "recheck"),
    )


#: how often the fasteners may be used, by the plan that holds: those that may be used least count
_MOST_USES = """
SELECT min(CASE WHEN (g -> 'fastener' ->> 'single_use')::boolean
  THEN 1 ELSE (g -> 'fastener' ->> 'max_uses')::int END)
FROM revision r JOIN plan p ON p.id = r.plan_id,
  jsonb_array_elements(r.document::jsonb -> 'groups') g
WHERE p.joint_id = :joint AND r.status = 'released' AND NOT p.put_away
"""


def _uses(runs: Sequence[Run], entries: Sequence[JointEntry], most: int | None) -> tuple[int, str]:
    """How often the fasteners were tightened since they were replaced, against what the plan says
    of their maker's limit."""
    new = max((one.at for one in entries if one.kind == "replaced"), default=None)
    uses = sum(
        1
        for run in runs
        if run.occasion == "install"
        and run.status in ("finished", "signed", "closed")
        and (new is None or run.started_at >= new)
    )
    since = f"since they were replaced on {day_text(new)}" if new else "as far as the record goes"
    limit = (
        ""
        if most is None
        else f"; they may be used {'once' if most == 1 else f'{most} times'}"
        + (": new ones at the next opening" if uses >= most else "")
    )
    return uses, f"tightened {uses} {'time' if uses == 1 else 'times'} {since}{limit}"


def _entry_line(one: JointEntry, person: str) -> HistoryLine:
    until = f"until {day_text(one.until)}" if one.until else ""
    of = f"in run {one.run}" if one.run else ""
    words = "; ".join(part for part in (one.words, one.conditions, until, of) if part)
    return HistoryLine(
        one.at, one.kind, ENTRY_TITLES[one.kind], words, person, marked=one.kind in _MARKED
    )


@use_case
def joint_history(ctx: Ctx, joint_id: uuid.UUID) -> HistoryView:
    """Everything that is on record of a joint, newest first. Raises NotFound."""
    if ctx.session.get(Joint, joint_id) is None:
        raise NotFound("joint")
    rows = ctx.session.execute(
        runs_of(joint_id)
        .join(Person, Run.started_by == Person.id)
        .add_columns(Person.name)
        .order_by(Run.number.desc())
        .limit(SHOWN)
    ).all()
    entries = ctx.session.execute(
        select(JointEntry, Person.name)
        .join(Person, JointEntry.person_id == Person.id)
        .where(JointEntry.joint_id == joint_id)
        .order_by(JointEntry.at.desc())
        .limit(SHOWN)
    ).all()
    plans = ctx.session.execute(
        select(
            Revision.id,
            Revision.number,
            Revision.released_at,
            Revision.reason,
            Plan.title,
            Person.name,
        )
        .join(Plan, Revision.plan_id == Plan.id)
        .join(Person, Revision.released_by == Person.id)
        .where(Plan.joint_id == joint_id)
        .order_by(Revision.released_at.desc())
        .limit(SHOWN)
    ).all()
    lines = [_run_line(run, person) for run, person in rows]
    lines += [_entry_line(one, person) for one, person in entries]
    lines += [
        HistoryLine(
            at,
            "plan",
            f"{title}, revision {number} released",
            reason,
            person,
            revision_id=revision_id,
        )
        for revision_id, number, at, reason, title, person in plans
    ]
    lines.sort(key=lambda line: line.at, reverse=True)
    runs = sorted((run for run, _ in rows), key=lambda run: run.number)
    begin = max((run.number for run in runs if run.occasion == "install"), default=0)
    checks = [
        Checked(run.number, run.checked, run.moved)
        for run in runs
        if run.occasion == "recheck" and run.number > begin
    ]
    uses, words = _uses(
        runs, [one for one, _ in entries], ctx.session.scalar(text(_MOST_USES), {"joint": joint_id})
    )
    return HistoryView(lines[:SHOWN], movement_of(checks), uses, words)


@use_case
def add_note(ctx: Ctx, joint_id: uuid.UUID, words: str) -> None:
    """Add a note to the history of a joint. Raises NotFound, BadField."""
    if ctx.session.get(Joint, joint_id) is None:
        raise NotFound("joint")
    if not 1 <= len(words.strip()) <= 400:
        raise BadField(Refusal.SAY_WHAT, "words")
    ctx.session.add(
        JointEntry(
            id=ctx.new_id(),
            joint_id=joint_id,
            at=ctx.now,
            kind="note",
            words=words.strip(),
            person_id=ctx.person.id,
        )
    )
