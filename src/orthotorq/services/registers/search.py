"""Search from anywhere: machines, joints, plans, tools, runs and tables by words in any order."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from sqlalchemy import ColumnElement, and_, or_, select
from sqlalchemy.orm import InstrumentedAttribute

from ...core.running.walk.actions import STATUS
from ...store.models import Equipment, Joint, Plan, Revision, Run, Site, Tool
from ..context import Ctx
from ..permissions import use_case
from ..reference.sheets import read_sheets

#: hits of each sort; words that are looked at, and characters of the text
SHOWN, MOST_WORDS, MOST_TEXT = 8, 8, 100


@dataclass(frozen=True, slots=True)
class Hit:
    """One thing that was found: what sort it is, its name, where it belongs, and its address."""

    sort: str
    title: str
    words: str
    href: str


def _all(words: list[str], *columns: InstrumentedAttribute[str]) -> ColumnElement[bool]:
    """Whether every word is in one of the columns."""
    return and_(
        *(or_(*(column.icontains(word, autoescape=True) for column in columns)) for word in words)
    )


def _joints(ctx: Ctx, words: list[str]) -> Iterable[Hit]:
    wanted = (
        select(Joint.id, Joint.name, Joint.summary, Equipment.name.label("machine"))
        .join(Equipment, Joint.equipment_id == Equipment.id)
        .where(*(Joint.found.contains(word.lower(), autoescape=True) for word in words))
        .order_by(Joint.found)
        .limit(SHOWN)
    )
    return [
        Hit(
            "Joint",
            row.name,
            f"{row.machine} · {row.summary}" if row.summary else row.machine,
            f"/joints/{row.id}",
        )
        for row in ctx.session.execute(wanted)
    ]


def _machines(ctx: Ctx, words: list[str]) -> Iterable[Hit]:
    wanted = (
        select(Equipment.id, Equipment.name, Equipment.tag, Equipment.area, Site.name.label("site"))
        .join(Site)
        .where(_all(words, Equipment.tag, Equipment.name, Equipment.area, Site.name))
        .order_by(Equipment.tag)
        .limit(SHOWN)
    )
    return [
        Hit("Machine", row.name, f"{row.tag} · {row.site}, {row.area}", f"/machines/{row.id}")
        for row in ctx.session.execute(wanted)
    ]


def _plans(ctx: Ctx, words: list[str]) -> Iterable[Hit]:
    wanted = (
        select(Plan.id, Plan.title, Joint.name.label("joint"), Equipment.name.label("machine"))
        .join(Joint, Plan.joint_id == Joint.id)
        .join(Equipment, Joint.equipment_id == Equipment.id)
        .where(_all(words, Plan.title), Plan.put_away.is_(False))
        .order_by(Plan.title)
        .limit(SHOWN)
    )
    return [
        Hit("Plan", row.title, f"{row.machine} · {row.joint}", f"/plans/{row.id}")
        for row in ctx.session.execute(wanted)
    ]


def _tools(ctx: Ctx, words: list[str]) -> Iterable[Hit]:
    wanted = (
        select(Tool)
        .where(_all(words, Tool.serial, Tool.note, Tool.place, Tool.spec))
        .order_by(Tool.serial)
        .limit(SHOWN)
    )
    return [
        Hit(
            "Tool",
            tool.serial,
            f"{tool.sort}{f', {tool.place}' if tool.place else ''}",
            f"/tools/{tool.id}",
        )
        for tool in ctx.session.scalars(wanted)
    ]


def _runs(ctx: Ctx, words: list[str]) -> Iterable[Hit]:
    """Runs by their number: “run 412”, “412”."""
    numbers = [int(word) for word in words if word.isdecimal() and len(word) < 9]
    if len(numbers) != 1 or any(w for w in words if not w.isdecimal() and w.lower() != "run"):
        return []
    wanted = (
        select(Run.id, Run.number, Run.status, Plan.title)
        .join(Revision, Run.revision_id == Revision.id)
        .join(Plan, Revision.plan_id == Plan.id)
        .where(Run.number == numbers[0])
    )
    return [
        Hit(
            "Run",
            f"Run {row.number}",
            f"{row.title} · {STATUS[row.status]}",
            f"/runs/{row.id}" + ("" if row.status == "running" else "/record"),
        )
        for row in ctx.session.execute(wanted)
    ]


def _tables(ctx: Ctx, words: list[str]) -> Iterable[Hit]:
    out = []
    for sheet in read_sheets(ctx).items:
        if all(word.lower() in sheet.title.lower() for word in words):
            out.append(Hit("Table", sheet.title, sheet.source, f"/tables?table={sheet.id}"))
    return out[:SHOWN]


@use_case
def search(ctx: Ctx, text: str) -> list[Hit]:
    """Everything that has all the words, sort by sort; nothing for no words."""
    words = text[:MOST_TEXT].split()[:MOST_WORDS]
    if not words:
        return []
    return [
        hit
        for find in (_runs, _joints, _machines, _plans, _tools, _tables)
        for hit in find(ctx, words)
    ]
