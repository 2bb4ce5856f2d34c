"""A joint's life on one line of time: plans, runs, rechecks, what happened beside them; how often its fasteners were used."""
from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select, text

from ...core.kinds.stage_kind import OCCASIONS
from ...core.messages import Refusal
from ...core.rechecking import Checked, Movement, movement_of
from ...core.running.actions import STATUS
from ...store.models import Joint, JointEntry, Person, Plan, Revision, Run
from ..context import Ctx
from ..errors import BadField, NotFound
from ..permissions import use_case
from .dues import refresh_joint, runs_of

SHOWN = 200
ENTRIES = {"opened": "Opened by others", "replaced": "Parts replaced", "happened": "Happened", "note": "Note", "tool": "Wrench"}
#: what somebody may write on the line by hand
BY_HAND = ("replaced", "note")


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
    """The line of time, newest first; what the rechecks say together; how often the fasteners were tightened."""

    lines: list[HistoryLine]
    movement: Movement
    uses: int
    uses_words: str


def _run_line(run: Run, person: str) -> HistoryLine:
    found = f": {run.moved} of {run.checked} bolts moved" if run.checked and run.occasion == "recheck" else ""
    provisional = ", provisional" if run.provisional else ""
    return HistoryLine(run.started_at, "run", f"{OCCASIONS.get(run.occasion, run.occasion)}, run {run.number}",
                       f"{STATUS[run.status]}{provisional}{found}", person, run_id=run.id,
                       marked=run.provisional or bool(run.moved and run.occasion == "recheck"))


#: how often the fasteners may be used, by the plan that holds: those that may be used least count
_MOST_USES = """
SELECT min(CASE WHEN (g -> 'fastener' ->> 'single_use')::boolean THEN 1 ELSE (g -> 'fastener' ->> 'max_uses')::int END)
FROM revision r JOIN plan p ON p.id = r.plan_id, jsonb_array_elements(r.document::jsonb -> 'groups') g
WHERE p.joint_id = :joint AND r.status = 'released' AND NOT p.put_away
"""


def _uses(runs: Sequence[Run], entries: Sequence[JointEntry], most: int | None) -> tuple[int, str]:
    """How often the fasteners were tightened since they were replaced, against what the plan says of their maker's limit."""
    new = max((one.at for one in entries if one.kind == "replaced"), default=None)
    uses = sum(1 for run in runs if run.occasion == "install" and run.status in ("finished", "signed", "closed")
               and (new is None or run.started_at > new))
    since = f"since they were replaced on {new:%d %b %Y}" if new else "as far as the record goes"
    limit = "" if most is None else f"; they may be used {'once' if most == 1 else f'{most} times'}" + (
        ": new ones at the next opening" if uses >= most else "")
    return uses, f"tightened {uses} {'time' if uses == 1 else 'times'} {since}{limit}"


@use_case
def joint_history(ctx: Ctx, joint_id: uuid.UUID) -> HistoryView:
    """Everything that is on record of a joint, newest first. Raises NotFound."""
    if ctx.session.get(Joint, joint_id) is None:
        raise NotFound("joint")
    rows = ctx.session.execute(runs_of(joint_id).join(Person, Run.started_by == Person.id).add_columns(Person.name)
                               .order_by(Run.number.desc()).limit(SHOWN)).all()
    entries = ctx.session.execute(select(JointEntry, Person.name).join(Person, JointEntry.person_id == Person.id)
                                  .where(JointEntry.joint_id == joint_id).order_by(JointEntry.at.desc()).limit(SHOWN)).all()
    plans = ctx.session.execute(
        select(Revision.id, Revision.number, Revision.released_at, Revision.reason, Plan.title, Person.name)
        .join(Plan, Revision.plan_id == Plan.id).join(Person, Revision.released_by == Person.id)
        .where(Plan.joint_id == joint_id).order_by(Revision.released_at.desc()).limit(SHOWN)).all()
    lines = [_run_line(run, person) for run, person in rows]
    lines += [HistoryLine(one.at, one.kind, ENTRIES[one.kind], one.words, person, marked=one.kind == "opened")
              for one, person in entries]
    lines += [HistoryLine(at, "plan", f"{title}, revision {number} released", reason, person, revision_id=revision_id)
              for revision_id, number, at, reason, title, person in plans]
    lines.sort(key=lambda line: line.at, reverse=True)
    runs = sorted((run for run, _ in rows), key=lambda run: run.number)
    begin = max((run.number for run in runs if run.occasion == "install"), default=0)
    checks = [Checked(run.number, run.checked, run.moved) for run in runs if run.occasion == "recheck" and run.number > begin]
    uses, words = _uses(runs, [one for one, _ in entries], ctx.session.scalar(text(_MOST_USES), {"joint": joint_id}))
    return HistoryView(lines[:SHOWN], movement_of(checks), uses, words)


@use_case
def note_entry(ctx: Ctx, joint_id: uuid.UUID, kind: str, words: str) -> None:
    """Write on the line of a joint: parts that were replaced, or a note. Raises NotFound, BadField."""
    if ctx.session.get(Joint, joint_id) is None:
        raise NotFound("joint")
    if kind not in BY_HAND:
        raise BadField(Refusal.ENTRY_KIND, "kind", kinds=", ".join(BY_HAND))
    if not 1 <= len(words.strip()) <= 400:
        raise BadField(Refusal.SAY_WHAT, "words")
    ctx.session.add(JointEntry(id=ctx.new_id(), joint_id=joint_id, at=ctx.now, kind=kind, words=words.strip(),
                               person_id=ctx.person.id))
    refresh_joint(ctx, joint_id)
