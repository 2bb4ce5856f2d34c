"""The first screen of a shift: what is due, half done, waiting, to settle, blocked, and left by
others, by role."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from functools import partial
from typing import Any

from sqlalchemy import ColumnElement, Select, and_, func, or_, select, text

from ...core.running.walk.actions import STATUS
from ...exchange.day_sheet import render_day_sheet
from ...local_time import day_text
from ...store.models import (
    DueDate,
    Equipment,
    Joint,
    JointPart,
    Person,
    Plan,
    Revision,
    Run,
    SideDraft,
    Task,
)
from ..context import Ctx
from ..helper_task import HelperTask, named_file
from ..permissions import use_case
from ..registers.summaries import kept_glyph
from ..running.seal import last_seal
from ..toolroom.tools import list_tools
from .due_dates import SOON, DueView, due_view, dues_wanted
from .tasks import open_tasks

#: lines of each list
SHOWN = 30
#: a tool is named so many days before it is due
TOOL_SOON = 30


@dataclass(frozen=True, slots=True)
class ShiftLine:
    """One line: what it is, where, since when, and the address that is one step away."""

    title: str
    words: str
    where: str
    at: datetime | None
    href: str
    marked: bool = False


@dataclass(frozen=True, slots=True)
class ShiftList:
    """One list of the shift; `count` may be more than is shown."""

    id: str
    title: str
    count: int
    lines: list[ShiftLine]
    empty: str


@dataclass(frozen=True, slots=True)
class ShiftView:
    """What a person finds at the beginning of a shift: joints to look at, then lists by what their
    role does first."""

    today: date
    person: str
    dues: list[DueView]
    due_count: int
    overdue_count: int
    soon: list[DueView]
    lists: list[ShiftList]


#: which lists a role sees, in their order
ORDER: dict[str, tuple[str, ...]] = {
    "planner": (
        "unfit",
        "tasks",
        "release",
        "moving",
        "suggested",
        "aside",
        "in_progress",
        "tools",
    ),
    "fitter": ("unfit", "tasks", "in_progress", "sign", "tools", "moving"),
    "supervisor": (
        "unfit",
        "tasks",
        "sign",
        "conflicts",
        "in_progress",
        "tools",
        "moving",
        "release",
    ),
    "administrator": ("unfit", "tasks", "in_progress", "sign", "conflicts", "tools", "release"),
}


#: what must not be used stands in a list of its own
_ELSEWHERE = ~and_(
    DueDate.rule.like("state%"),
    select(JointPart.joint_id)
    .where(
        JointPart.joint_id == DueDate.joint_id,
        JointPart.word == "do_not_use",
        or_(DueDate.position == "", JointPart.position_name == DueDate.position),
    )
    .exists(),
)


def _dues(ctx: Ctx, begin: date | None, end: date) -> list[DueView]:
    wanted = (
        dues_wanted()
        .add_columns(Joint)
        .where(DueDate.day <= end, _ELSEWHERE)
        .order_by(DueDate.day, DueDate.joint_id)
        .limit(SHOWN)
    )
    if begin is not None:
        wanted = wanted.where(DueDate.day > begin)
    return [
        replace(due_view(row, ctx.today), glyph=kept_glyph(row.Joint))
        for row in ctx.session.execute(wanted)
    ]


def _runs(ctx: Ctx, where: ColumnElement[bool], title: str, name: str, empty: str) -> ShiftList:
    """Runs of some state, newest first."""
    wanted = (
        select(
            Run,
            Plan.title,
            Joint.name.label("joint"),
            Equipment.name.label("machine"),
            Person.name.label("person"),
        )
        .join(Revision, Run.revision_id == Revision.id)
        .join(Plan, Revision.plan_id == Plan.id)
        .join(Joint, Plan.joint_id == Joint.id)
        .join(Equipment, Joint.equipment_id == Equipment.id)
        .join(Person, Run.started_by == Person.id)
        .where(where)
        .order_by(Run.started_at.desc())
        .limit(SHOWN)
    )
    lines = [
        ShiftLine(
            f"Run {row.Run.number}: {row.title}",
            f"{STATUS[row.Run.status]}, started by {row.person}"
            + (f", {row.Run.conflicts} to settle" if row.Run.conflicts else ""),
            f"{row.machine} › {row.joint}",
            row.Run.started_at,
            f"/runs/{row.Run.id}" if row.Run.status == "running" else f"/runs/{row.Run.id}/record",
            row.Run.conflicts > 0,
        )
        for row in ctx.session.execute(wanted)
    ]
    count = ctx.session.scalar(select(func.count()).select_from(Run).where(where)) or 0
    return ShiftList(name, title, count, lines, empty)


def _running(ctx: Ctx) -> ShiftList:
    return _runs(ctx, Run.status == "running", "In progress", "in_progress", "No run is under way.")


def _sign(ctx: Ctx) -> ShiftList:
    return _runs(
        ctx, Run.status.in_(("finished", "signed")), "To be signed", "sign", "Every run is signed."
    )


def _conflicts(ctx: Ctx) -> ShiftList:
    return _runs(ctx, Run.conflicts > 0, "Conflicts to settle", "conflicts", "No conflicts.")


def _of_plans(
    ctx: Ctx, wanted: Select[Any], count: int, title: str, name: str, empty: str
) -> ShiftList:
    lines = [
        ShiftLine(row.title, row.words, f"{row.machine} › {row.joint}", row.at, f"/plans/{row.id}")
        for row in ctx.session.execute(wanted.limit(SHOWN))
    ]
    return ShiftList(name, title, count, lines, empty)


def _with_joint(*columns: Any) -> Select[Any]:
    return (
        select(
            Plan.id,
            Plan.title,
            Joint.name.label("joint"),
            Equipment.name.label("machine"),
            *columns,
        )
        .join(Joint, Plan.joint_id == Joint.id)
        .join(Equipment, Joint.equipment_id == Equipment.id)
    )


def _release(ctx: Ctx) -> ShiftList:
    where = and_(Plan.unreleased, Plan.put_away.is_(False))
    wanted = (
        _with_joint(
            func.concat("changed by ", Person.name).label("words"), Plan.draft_at.label("at")
        )
        .join(Person, Plan.draft_by == Person.id)
        .where(where)
        .order_by(Plan.draft_at.desc())
    )
    count = ctx.session.scalar(select(func.count()).select_from(Plan).where(where)) or 0
    return _of_plans(
        ctx,
        wanted,
        count,
        "Drafts that wait for their release",
        "release",
        "Every draft is released.",
    )


def _aside(ctx: Ctx) -> ShiftList:
    where = SideDraft.at > ctx.now - timedelta(days=90)
    wanted = (
        _with_joint(
            func.concat("not saved to the plan, by ", Person.name).label("words"),
            SideDraft.at.label("at"),
        )
        .join(SideDraft, SideDraft.plan_id == Plan.id)
        .join(Person, SideDraft.person_id == Person.id)
        .where(where)
        .order_by(SideDraft.at.desc())
    )
    count = ctx.session.scalar(select(func.count()).select_from(SideDraft).where(where)) or 0
    return _of_plans(
        ctx, wanted, count, "Other drafts", "aside", "No other draft in the last 90 days."
    )


#: what fitters suggested in runs of the last days: an event of its own kind
_SUGGESTED = """
SELECT p.id, p.title, j.name AS joint, m.name AS machine,
  e.canonical::jsonb #>> '{client,payload,text}' AS words,
       e.received_at AS at, n.name AS person
FROM event e JOIN run r ON r.id = e.run_id JOIN revision v ON v.id = r.revision_id JOIN plan p
  ON p.id = v.plan_id
JOIN joint j ON j.id = p.joint_id JOIN equipment m ON m.id = j.equipment_id JOIN person n
  ON n.id = e.person_id
WHERE e.kind = 'suggest' AND e.verdict = 'accepted' AND e.received_at > :since AND v.released_at =
      (SELECT max(w.released_at) FROM revision w WHERE w.plan_id = p.id)
ORDER BY e.received_at DESC LIMIT :most
"""


def _suggested(ctx: Ctx) -> ShiftList:
    rows = ctx.session.execute(
        text(_SUGGESTED), {"since": ctx.now - timedelta(days=90), "most": SHOWN}
    ).all()
    lines = [
        ShiftLine(
            row.words or "",
            f"suggested by {row.person} for {row.title}",
            f"{row.machine} › {row.joint}",
            row.at,
            f"/plans/{row.id}",
        )
        for row in rows
    ]
    return ShiftList("suggested", "Suggestions from runs", len(lines), lines, "No suggestions.")


def _tools(ctx: Ctx) -> ShiftList:
    soon = ctx.now + timedelta(days=TOOL_SOON)
    lines = []
    for tool in list_tools(ctx):
        near = tool.good and tool.calibrated_until is not None and tool.calibrated_until < soon
        if not tool.good or near or tool.allowed:
            words = (
                f"{tool.state}; {tool.allowed_text}"
                if tool.allowed and not tool.good
                else tool.state
            )
            lines.append(
                ShiftLine(
                    f"{tool.serial}, {tool.name}",
                    words,
                    tool.place,
                    tool.calibrated_until,
                    f"/tools/{tool.id}",
                    not tool.good,
                )
            )
    lines.sort(key=lambda line: (not line.marked, line.title))
    return ShiftList(
        "tools",
        "Tools blocked, or due for a check",
        len(lines),
        lines[:SHOWN],
        "Every tool is good for a month.",
    )


def _moving(ctx: Ctx) -> ShiftList:
    where = Joint.movement != ""
    rows = ctx.session.execute(
        select(
            Joint.id,
            Joint.name,
            Joint.movement,
            Equipment.name.label("machine"),
            Joint.condition_at,
        )
        .join(Equipment, Joint.equipment_id == Equipment.id)
        .where(where)
        .order_by(Joint.tag)
        .limit(SHOWN)
    )
    lines = [
        ShiftLine(row.name, row.movement, row.machine, row.condition_at, f"/joints/{row.id}", True)
        for row in rows
    ]
    count = ctx.session.scalar(select(func.count()).select_from(Joint).where(where)) or 0
    return ShiftList("moving", "Joints that keep moving", count, lines, "No joint keeps moving.")


def _unfit(ctx: Ctx) -> ShiftList:
    """Joints that must not be used, position by position: first on every shift."""
    where = JointPart.word == "do_not_use"
    rows = ctx.session.execute(
        select(
            JointPart.joint_id,
            JointPart.position_name,
            JointPart.why,
            func.min(JointPart.since).label("since"),
            Joint.name,
            Equipment.name.label("machine"),
        )
        .join(Joint, JointPart.joint_id == Joint.id)
        .join(Equipment, Joint.equipment_id == Equipment.id)
        .where(where)
        .group_by(
            JointPart.joint_id, JointPart.position_name, JointPart.why, Joint.name, Equipment.name
        )
        .order_by(func.min(JointPart.since))
        .limit(SHOWN)
    ).all()
    lines = [
        ShiftLine(
            ", ".join(x for x in (row.name, row.position_name) if x),
            row.why,
            row.machine,
            row.since,
            f"/joints/{row.joint_id}",
            True,
        )
        for row in rows
    ]
    count = (
        ctx.session.scalar(select(func.count(func.distinct(JointPart.joint_id))).where(where)) or 0
    )
    return ShiftList("unfit", "Do not use", count, lines, "None.")


def _tasks(ctx: Ctx) -> ShiftList:
    tasks = open_tasks(ctx, SHOWN)
    lines = [
        ShiftLine(
            task.words,
            f"{task.owner}, by {day_text(task.day)}",
            f"{task.equipment_name} › {task.joint_name}",
            None,
            f"/joints/{task.joint_id}",
            task.late,
        )
        for task in tasks
    ]
    count = (
        ctx.session.scalar(select(func.count()).select_from(Task).where(Task.done_at.is_(None)))
        or 0
    )
    return ShiftList("tasks", "Tasks", count, lines, "No task is open.")


_LISTS = {
    "unfit": _unfit,
    "tasks": _tasks,
    "in_progress": _running,
    "sign": _sign,
    "conflicts": _conflicts,
    "release": _release,
    "aside": _aside,
    "suggested": _suggested,
    "tools": _tools,
    "moving": _moving,
}


@use_case
def shift(ctx: Ctx) -> ShiftView:
    """What a person finds at the beginning of a shift; who has several roles sees the lists of all
    of them."""
    today = ctx.today
    names = list(
        dict.fromkeys(name for role in ORDER if role in ctx.person.roles for name in ORDER[role])
    )
    due = and_(DueDate.day <= today, _ELSEWHERE)
    counts = ctx.session.execute(
        select(
            func.count(),
            func.count().filter(
                and_(DueDate.day + DueDate.grace < today, DueDate.at_once.is_(False))
            ),
        )
        .select_from(DueDate)
        .where(due)
    ).one()
    return ShiftView(
        today,
        ctx.person.name,
        _dues(ctx, None, today),
        counts[0],
        counts[1],
        _dues(ctx, today, today + timedelta(days=SOON)),
        [_LISTS[name](ctx) for name in names],
    )


@use_case
def day_sheet(ctx: Ctx, paper: str = "A4") -> HelperTask[bytes, tuple[str, bytes]]:
    """The shift as a PDF to carry: (file name, data)."""
    view = shift(ctx)
    seal = last_seal(ctx.session)
    words = f"Seal of {day_text(seal.day)}: {seal.digest}" if seal else ""
    return named_file(
        "shift.pdf",
        partial(
            render_day_sheet,
            view.person,
            f"{view.today:%d %B %Y}",
            [*view.dues, *view.soon],
            view.lists,
            paper=paper,
            printed_at=ctx.now,
            seal=words,
        ),
    )
