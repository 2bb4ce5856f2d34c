"""Rows of a register as a file has them: read, held against what is registered, and taken."""

from __future__ import annotations

import json
import uuid
from collections import defaultdict
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any, get_args

from sqlalchemy import select
from sqlalchemy.orm import selectinload

from ...core.documents.plan import JointKind
from ...core.errors import OrthotorqError
from ...core.forms.errors import DocumentErrors
from ...core.messages import Refusal, render
from ...exchange.tables_in import read_rows
from ...store.models import Equipment, Joint, Site, Tool
from ..context import Ctx
from ..errors import BadField, NeedsConfirmation, ServiceError
from ..rechecking.meters import SentReading, send_readings
from ..toolroom.tools import ToolAsTyped, change_tool, register_tool
from .commands import (
    change_equipment,
    change_joint,
    new_site_question,
    register_equipment,
    register_joint,
)
from .near_names import NearTags, near_key

#: rows of a register, rows told of, rows between two looks at the job
MOST_ROWS = 50_000


#: what a row does, or would do
DOES = ("new", "changed", "same", "ask", "wrong")


_COUNTED = {
    "new": ("new", "new"),
    "changed": ("changed", "changed"),
    "same": ("unchanged", "unchanged"),
    "ask": ("question", "questions"),
    "wrong": ("error", "errors"),
}


#: register -> its columns; those in the first list must be there
COLUMNS: dict[str, tuple[tuple[str, ...], tuple[str, ...]]] = {
    "machines": (("tag", "name", "area"), ("site",)),
    "joints": (("machine", "tag", "name", "kind"), ()),
    "tools": (
        ("serial", "kind", "low", "high"),
        (
            "name",
            "increment",
            "mark",
            "length",
            "drive",
            "held_to",
            "place",
            "owner",
            "borrowed",
            "interval_months",
            "interval_pulls",
            "note",
        ),
    ),
    "readings": (("machine", "unit", "value", "at"), ("how", "before")),
}


@dataclass(frozen=True, slots=True)
class RowSaid:
    """What one row of a file would do, or did: new, changed, same, `ask` with the question, or
    wrong with the reason.

    `row` is its number as a table program counts; `column` the heading of the cell that is asked
    about or wrong.
    """

    row: int
    does: str
    what: str
    words: str
    column: str = ""


class _Wrong(Exception):
    """A row that cannot be, with the heading of its cell."""

    def __init__(self, text: str, column: str = "") -> None:
        super().__init__(text)
        self.column = column


def _table(register: str, data: bytes) -> list[tuple[int, dict[str, str]]]:
    """Rows by number with their cells by heading. Raises BadField for wrong headings, no rows, too
    many rows."""
    needed, others = _columns(register)
    out: list[tuple[int, dict[str, str]]] = []
    try:
        rows = iter(read_rows(data, MOST_ROWS + 2))
        head = [cell.strip().lower().replace(" ", "_") for cell in next(rows, (1, []))[1]]
        if missing := [name for name in needed if name not in head]:
            found = ", ".join(filter(None, head)) or "none"
            raise BadField(
                Refusal.REGISTER_COLUMNS, "file", missing=", ".join(missing), found=found
            )
        for number, row in rows:
            if len(out) >= MOST_ROWS:
                raise BadField(Refusal.REGISTER_ROWS, "file", most=MOST_ROWS)
            cells = dict(zip(head, row, strict=False))
            out.append((number, {name: cells.get(name, "").strip() for name in (*needed, *others)}))
    except OrthotorqError as error:
        raise BadField(Refusal.READINGS_FILE, "file", text=error) from None
    if not out:
        raise BadField(Refusal.REGISTER_EMPTY, "file")
    return out


def _columns(register: str) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """The headings of a register. Raises BadField."""
    if register not in COLUMNS:
        raise BadField(Refusal.REGISTER_KIND, "register", kinds=", ".join(COLUMNS))
    return COLUMNS[register]


def _machines(ctx: Ctx) -> Callable[[dict[str, str]], tuple[str, str]]:
    known = {one.tag: one for one in ctx.session.scalars(select(Equipment))}
    near, sites = (
        NearTags({one.tag: one.name for one in known.values()}),
        set(ctx.session.scalars(select(Site.name))),
    )
    sure = replace(ctx, confirmed=True)

    def take(row: dict[str, str]) -> tuple[str, str]:
        old = known.get(row["tag"])
        if (
            row["site"]
            and not ctx.confirmed
            and sites
            and row["site"].casefold() not in map(str.casefold, sites)
        ):
            raise NeedsConfirmation.worded(
                Refusal.SITE_NEW, new_site_question(row["site"], sorted(sites)), "site"
            )
        if old is None:
            near.ask(ctx, row["tag"], "machine")
            made = register_equipment(sure, row["tag"], row["name"], row["area"], row["site"])
            known[row["tag"]] = ctx.session.get_one(Equipment, made)
            return "new", ""
        site = row["site"] or old.site.name
        words = _changes(
            {
                "name": (old.name, row["name"]),
                "area": (old.area, row["area"]),
                "site": (old.site.name, site),
            }
        )
        if words:
            change_equipment(sure, old.id, row["tag"], row["name"], row["area"], site)
        return ("changed" if words else "same"), words

    return take


def _joints(ctx: Ctx) -> Callable[[dict[str, str]], tuple[str, str]]:
    machines: dict[str, uuid.UUID] = {
        row.tag: row.id for row in ctx.session.execute(select(Equipment.tag, Equipment.id))
    }
    known = {(one.equipment_id, one.tag): one for one in ctx.session.scalars(select(Joint))}
    near: dict[uuid.UUID, NearTags] = defaultdict(lambda: NearTags({}))
    for (machine_id, tag), one in known.items():
        near[machine_id].add(tag, one.name)
    names, sure = NearTags(dict.fromkeys(machines, "")), replace(ctx, confirmed=True)

    def take(row: dict[str, str]) -> tuple[str, str]:
        machine = machines.get(row["machine"])
        if machine is None:
            raise _Wrong(
                (
                    "there is no machine "
                    f"{row['machine'] or 'without a tag'}{_near(row['machine'], names)}"
                ),
                "machine",
            )
        old = known.get((machine, row["tag"]))
        if old is None:
            near[machine].ask(ctx, row["tag"], "joint")
            made = register_joint(sure, machine, row["tag"], row["name"], row["kind"])
            known[machine, row["tag"]] = ctx.session.get_one(Joint, made)
            return "new", ""
        if row["kind"] not in get_args(JointKind):
            raise _Wrong(
                render(Refusal.KIND_OF_JOINT, kinds=", ".join(get_args(JointKind))), "kind"
            )
        words = _changes({"name": (old.name, row["name"]), "kind": (old.kind, row["kind"])})
        if words:
            change_joint(ctx, old.id, row["tag"], row["name"], row["kind"])
        return ("changed" if words else "same"), words

    return take


def _near(tag: str, known: NearTags) -> str:
    near = known.find(tag)
    return f"; there is {near[0]}" if near else ""


def _whole(text: str, usual: int, what: str) -> int:
    if not text:
        return usual
    if not text.isdecimal():
        raise _Wrong(f"“{text[:20]}” is no whole number", what)
    return int(text)


def _typed(row: dict[str, str], old: dict[str, Any]) -> ToolAsTyped:
    """A wrench of a row; what its sheet says beside the columns stays."""
    spec = {**old, "kind": row["kind"], "range": [row["low"], row["high"]]}
    for name in ("name", "increment", "mark", "length", "drive"):
        if row[name]:
            spec[name] = row[name]
        else:
            spec.pop(name, None)
    return ToolAsTyped(
        row["serial"],
        "wrench",
        spec,
        row["place"],
        row["owner"],
        row["borrowed"].lower() in ("yes", "1", "true"),
        row["held_to"],
        _whole(row["interval_months"], 12, "interval_months"),
        _whole(row["interval_pulls"], 5000, "interval_pulls"),
        row["note"],
    )


def _tools(ctx: Ctx) -> Callable[[dict[str, str]], tuple[str, str]]:
    found = ctx.session.scalars(
        select(Tool).where(Tool.sort == "wrench").options(selectinload(Tool.calibrations))
    )
    known = {one.serial: one for one in found}
    near, sure = (
        NearTags({serial: serial for serial in ctx.session.scalars(select(Tool.serial))}),
        replace(ctx, confirmed=True),
    )

    def take(row: dict[str, str]) -> tuple[str, str]:
        old = known.get(row["serial"])
        if old is None:
            near.ask(ctx, row["serial"], "tool")
            made = register_tool(sure, _typed(row, {}))
            known[row["serial"]] = ctx.session.get_one(Tool, made)
            return "new", ""
        words = _changes({name: (text, row[name]) for name, text in _of_tool(old).items()})
        if words:
            change_tool(ctx, old.id, _typed(row, json.loads(old.spec)))
        return ("changed" if words else "same"), words

    return take


def _readings(ctx: Ctx) -> Callable[[dict[str, str]], tuple[str, str]]:
    def take(row: dict[str, str]) -> tuple[str, str]:
        try:
            value, before = float(row["value"]), float(row["before"]) if row["before"] else None
        except ValueError:
            raise _Wrong("a reading is a plain number, such as 4120.5", "value") from None
        if not row["at"]:
            raise _Wrong("enter when it was read, such as 2028-02-29 07:30", "at")
        said = send_readings(
            ctx,
            [
                SentReading(
                    row["machine"], row["unit"], value, row["at"], row["how"] or "reading", before
                )
            ],
            "file",
        )[0]
        if not said.kept:
            raise _Wrong(said.text)
        return "new", ""

    return take


def _changes(fields: dict[str, tuple[str, str]]) -> str:
    return "; ".join(
        f"{name}: {old or 'nothing'} → {new or 'nothing'}"
        for name, (old, new) in fields.items()
        if old != new
    )


_TAKERS = {"machines": _machines, "joints": _joints, "tools": _tools, "readings": _readings}


_NAMED = {"machines": "tag", "joints": "tag", "tools": "serial", "readings": "machine"}


#: by what a row is known; readings may well come again and again
_KEYS: dict[str, tuple[str, ...]] = {
    "machines": ("tag",),
    "joints": ("machine", "tag"),
    "tools": ("serial",),
}


class _Rows:
    """The rows of a file one after the other, each in a savepoint of its own: a wrong one leaves
    nothing behind.

    `answered` are rows whose question was answered when the file was looked at.
    """

    def __init__(self, ctx: Ctx, register: str, answered: frozenset[int]) -> None:
        self.ctx, self.register, self.answered = ctx, register, answered
        self.takers = {
            sure: _TAKERS[register](replace(ctx, confirmed=sure)) for sure in (False, True)
        }
        self.rows_by_tag: dict[tuple[str, ...], int] = {}
        self.rows_by_key: dict[tuple[str, ...], int] = {}

    def take(self, number: int, row: dict[str, str]) -> RowSaid:
        """What one row does."""
        what = row[_NAMED[self.register]][:60]
        save = self.ctx.session.begin_nested()
        try:
            self._once(number, row)
            does, words = self.takers[number in self.answered](row)
            save.commit()
            return RowSaid(number, does, what, words)
        except _Wrong as error:
            said = RowSaid(number, "wrong", what, str(error)[:300], error.column)
        except DocumentErrors as error:
            text = "; ".join(e.text for e in error.errors)
            said = RowSaid(
                number,
                "wrong",
                what,
                text[:300],
                ", ".join(_heading(e.pointer()) for e in error.errors),
            )
        except NeedsConfirmation as error:
            said = RowSaid(number, "ask", what, error.text[:300], error.field or "")
        except (ServiceError, OrthotorqError) as error:
            said = RowSaid(
                number,
                "wrong",
                what,
                str(error)[:300],
                _heading(getattr(error, "field", None) or ""),
            )
        save.rollback()
        return said

    def _once(self, number: int, row: dict[str, str]) -> None:
        """Raises _Wrong where the file names the same machine, joint or tool twice; asks where
        it is written differently."""
        names = _KEYS.get(self.register)
        if names is None:
            return
        tag = tuple(row[name].casefold() for name in names)
        if (first := self.rows_by_tag.setdefault(tag, number)) != number:
            raise _Wrong(render(Refusal.TAG_REPEATED, tag=row[names[-1]], row=first), names[-1])
        near = tuple(near_key(row[name]) for name in names)
        if (
            first := self.rows_by_key.setdefault(near, number)
        ) != number and number not in self.answered:
            raise NeedsConfirmation(Refusal.TAG_NEAR_ROW, names[-1], tag=row[names[-1]], row=first)


def _heading(pointer: str) -> str:
    """The heading of the column behind a field of a form."""
    return {"spec/range/0": "low", "spec/range/1": "high", "spec/range": "low"}.get(
        pointer, pointer.removeprefix("spec/")
    )


def _of_tool(tool: Tool) -> dict[str, str]:
    """A wrench by the columns of its register."""
    raw = json.loads(tool.spec)
    return {
        "serial": tool.serial,
        "kind": raw["kind"],
        "low": raw["range"][0],
        "high": raw["range"][1],
        **{name: raw.get(name) or "" for name in ("name", "increment", "mark", "length", "drive")},
        "held_to": tool.held_to,
        "place": tool.place,
        "owner": tool.owner,
        "borrowed": "yes" if tool.borrowed else "",
        "interval_months": str(tool.interval_months),
        "interval_pulls": str(tool.interval_pulls),
        "note": tool.note,
    }
