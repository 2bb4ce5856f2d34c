"""What people say of a joint beside its runs: opened by others, not safe, used as it is."""

from __future__ import annotations

import uuid
from datetime import date, timedelta

from sqlalchemy import select

from ...core.joint_condition import parts_of
from ...core.messages import Refusal
from ...store.models import Event, Joint, JointEntry, JointPart, Run
from ..context import Ctx
from ..errors import BadField, NotFound, Refused
from ..permissions import use_case
from .condition import read_past
from .due_dates import runs_of
from .refresh import refresh_joint

MOST_WORDS = 400
#: an acceptance ends within so many days: what is left longer is repaired
MOST_DAYS = 366
#: runs in which an answer may still be corrected
UNCLOSED = ("running", "finished", "signed")


def _joint(ctx: Ctx, joint_id: uuid.UUID, position: str) -> Joint:
    """The joint, locked, with a position of it where one is named. Raises NotFound, BadField."""
    joint = ctx.session.scalar(select(Joint).where(Joint.id == joint_id).with_for_update())
    if joint is None:
        raise NotFound("joint")
    known = ctx.session.scalars(
        select(JointPart.position).where(JointPart.joint_id == joint_id)
    ).all()
    if position and position not in known:
        raise BadField(Refusal.NO_SUCH_POSITION, "position", position=position)
    return joint


def _words(words: str, field: str, wanted: bool = True) -> str:
    if len(words) > MOST_WORDS:
        raise BadField(Refusal.WORDS_TOO_LONG, field, most=MOST_WORDS)
    if wanted and not words.strip():
        raise BadField(Refusal.SAY_WHAT, field)
    return words.strip()


def _keep(
    ctx: Ctx,
    joint: Joint,
    kind: str,
    words: str,
    position: str = "",
    conditions: str = "",
    until: date | None = None,
    run: Run | None = None,
) -> None:
    ctx.session.add(
        JointEntry(
            id=ctx.new_id(),
            joint_id=joint.id,
            at=run.started_at if run else ctx.now,
            kind=kind,
            words=words,
            person_id=ctx.person.id,
            conditions=conditions,
            position=position,
            until=until,
            run=run.number if run else None,
        )
    )
    refresh_joint(ctx, joint.id)


@use_case
def note_opened(ctx: Ctx, joint_id: uuid.UUID, words: str, position: str = "") -> None:
    """Somebody had the joint open, and no record says what was done: its bolts count as unknown.

    Raises NotFound, BadField.
    """
    joint = _joint(ctx, joint_id, position)
    _keep(ctx, joint, "opened", _words(words, "words", wanted=False), position)


def last_fitting(ctx: Ctx, joint_id: uuid.UUID) -> Run | None:
    """The last run that put the joint together, as far as it was not ended early."""
    wanted = runs_of(joint_id).where(Run.occasion == "install", Run.status != "abandoned")
    return ctx.session.scalar(wanted.order_by(Run.number.desc()).limit(1))


@use_case
def note_replaced(
    ctx: Ctx, joint_id: uuid.UUID, words: str, position: str = "", in_last_run: bool = False
) -> None:
    """Parts were replaced: in the last run, whose record says what its bolts were brought to; or
    outside a run, after which nobody knows it.

    Raises NotFound, BadField.
    """
    joint = _joint(ctx, joint_id, position)
    said = _words(words, "words")
    last = last_fitting(ctx, joint_id) if in_last_run else None
    if in_last_run and last is None:
        raise BadField(Refusal.NO_RUN_FITTED, "in_last_run")
    _keep(ctx, joint, "replaced", said, position, run=last)


@use_case
def note_not_safe(ctx: Ctx, joint_id: uuid.UUID, words: str, position: str = "") -> None:
    """Somebody says that a joint must not be used, and why. Raises NotFound, BadField."""
    joint = _joint(ctx, joint_id, position)
    _keep(ctx, joint, "not_safe", _words(words, "words"), position)


@use_case
def use_as_is(
    ctx: Ctx, joint_id: uuid.UUID, words: str, conditions: str, until: date, position: str = ""
) -> None:
    """Accept what failed at a joint as it is, with a reason, conditions and an end.

    Raises NotFound, BadField; Refused where nothing failed, a run is not closed, or by who
    tightened it.
    """
    joint = _joint(ctx, joint_id, position)
    said, limits = _words(words, "words"), _words(conditions, "conditions")
    today = ctx.today
    if not today < until <= today + timedelta(days=MOST_DAYS):
        raise BadField(Refusal.ACCEPTANCE_END, "until", most=MOST_DAYS)
    failed = {
        one.run
        for part in parts_of(*read_past(ctx, joint_id))
        for one in part.open
        if not position or part.key[0] == position
    }
    if not failed:
        raise Refused(Refusal.NOTHING_TO_ACCEPT)
    # what can still be corrected could fail otherwise after it was accepted
    if (
        going := ctx.session.scalar(runs_of(joint_id).where(Run.status.in_(UNCLOSED)).limit(1))
    ) is not None:
        raise Refused(Refusal.RUN_NOT_CLOSED, run=going.number)
    if _tightened(ctx, joint_id, failed):
        raise Refused(Refusal.TIGHTENED_ACCEPTS, person=ctx.person.name)
    _keep(ctx, joint, "use_as_is", said, position, limits, until)


def _tightened(ctx: Ctx, joint_id: uuid.UUID, numbers: set[int]) -> bool:
    """Whether who asks has answered a step of the runs in which it failed."""
    runs = [run.id for run in ctx.session.scalars(runs_of(joint_id).where(Run.number.in_(numbers)))]
    return (
        ctx.session.scalar(
            select(Event.sequence)
            .where(
                Event.run_id.in_(runs),
                Event.kind == "answer",
                Event.verdict == "accepted",
                Event.person_id == ctx.person.id,
            )
            .limit(1)
        )
        is not None
    )
