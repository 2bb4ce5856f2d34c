"""A joint by its positions: condition, why, what clears it, what is due; and its year as a lane for
each."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from sqlalchemy import select

from ...core.joint_condition import (
    CONDITIONS,
    ENTRY_TITLES,
    RANK,
    Act,
    PartCondition,
    Past,
    condition_of,
    steps_of,
)
from ...core.kinds.stage_kind import OCCASIONS
from ...local_time import local_day
from ...store.models import DueDate, Joint, JointEntry, JointPart, Meter, MeterReading, Person, Run
from ..context import Ctx
from ..errors import NotFound
from ..permissions import use_case
from ..running.continuing import cannot_continue, last_run_of
from .acts import last_fitting
from .condition import read_past
from .due_dates import DueView, due_view, dues_wanted, runs_of

#: days that a lane shows
SPAN = 372


@dataclass(frozen=True, slots=True)
class ConditionRow:
    """One position, or one group of it where its groups differ, as it is now."""

    name: str
    position: str
    word: str
    title: str
    why: str
    clears: str
    since: datetime | None
    run_number: int | None
    looked_at: datetime | None
    until: date | None
    #: whether its bolts have the load of the record; whether a failure is there to be accepted
    known: bool
    acceptable: bool
    dues: list[DueView]


@dataclass(frozen=True, slots=True)
class Band:
    """From when to when a position was in a condition."""

    word: str
    title: str
    begin: datetime
    end: datetime


@dataclass(frozen=True, slots=True)
class LaneMark:
    """Something that happened at a position; `count` are the bolts that moved."""

    at: datetime
    kind: str
    count: int
    words: str
    run_id: uuid.UUID | None


@dataclass(frozen=True, slots=True)
class Lane:
    """One position through the year."""

    name: str
    bands: list[Band]
    marks: list[LaneMark]


@dataclass(frozen=True, slots=True)
class MeterTick:
    """What the meter showed: the first reading of a month."""

    at: datetime
    words: str


@dataclass(frozen=True, slots=True)
class Going:
    """A run that is in progress on the joint."""

    id: uuid.UUID
    number: int
    person: str
    since: datetime
    occasion: str


@dataclass(frozen=True, slots=True)
class EndedEarly:
    """The last run of a joint, where it was ended early; `cannot_continue` says why it cannot go on
    where it stood."""

    id: uuid.UUID
    number: int
    occasion: str
    at: datetime
    cannot_continue: str


@dataclass(frozen=True, slots=True)
class Named:
    """A word or an id with what it is called."""

    id: str
    name: str


@dataclass(frozen=True, slots=True)
class ConditionView:
    """The condition of a joint in full, with its year."""

    rows: list[ConditionRow]
    lanes: list[Lane]
    ticks: list[MeterTick]
    begin: datetime
    end: datetime
    legend: list[Named]
    going: Going | None
    ended_early: EndedEarly | None
    positions: list[Named]
    #: the number of the last run that put it together; replaced parts may be of that run
    fitted_in: int | None


def _worst(parts: list[PartCondition], today: str) -> str:
    worst = condition_of(parts, today)
    return worst.word(today) if worst is not None else "unknown"


def rows_of(ctx: Ctx, joint: Joint) -> list[ConditionRow]:
    """One row a position; groups of it that differ have rows of their own; the worst first."""
    parts = ctx.session.scalars(
        select(JointPart).where(JointPart.joint_id == joint.id).order_by(JointPart.place)
    ).all()
    dues = [
        due_view(row, ctx.today)
        for row in ctx.session.execute(
            dues_wanted()
            .where(DueDate.joint_id == joint.id)
            .order_by(DueDate.day.asc().nulls_last())
        )
    ]
    out, seen = list[ConditionRow](), set[tuple[str, str, str]]()
    for part in parts:
        alike = [
            p
            for p in parts
            if p.position == part.position and (p.word, p.why) == (part.word, part.why)
        ]
        if (part.position, part.word, part.why) in seen:
            continue
        seen.add((part.position, part.word, part.why))
        whole = len(alike) == sum(1 for p in parts if p.position == part.position)
        name = part.position_name if whole else ", ".join(p.name for p in alike)
        out.append(
            ConditionRow(
                name or joint.name,
                part.position,
                part.word,
                CONDITIONS[part.word].title,
                part.why,
                part.clears,
                part.since,
                part.run,
                part.looked_at,
                part.until,
                CONDITIONS[part.word].known,
                part.word in ("do_not_use", "limited"),
                [d for d in dues if d.position in ("", part.position_name)],
            )
        )
    return sorted(out, key=lambda row: RANK[row.word])


def _run_words(run: Run, names: dict[uuid.UUID, str], moved: int, checked: int) -> str:
    what = OCCASIONS.get(run.occasion, run.occasion)
    found = f": {moved} of {checked} bolts moved" if checked and run.occasion == "recheck" else ""
    how = {"abandoned": ", cut short", "running": ", in progress", "closed": ", signed"}.get(
        run.status, ", not signed"
    )
    return f"{what}, run {run.number}{found}. {names.get(run.started_by, '')}{how}."


def _kind(run: Run, moved: int) -> str:
    if run.status in ("abandoned", "running"):
        return "cut_short" if run.status == "abandoned" else "going"
    return {"install": "tightened", "dismantle": "apart"}.get(
        run.occasion, "moved" if moved else "rechecked"
    )


def _lanes(ctx: Ctx, joint: Joint, begin: datetime) -> list[Lane]:
    """Bands and marks of every position, folded again from what happened."""
    runs = {run.number: run for run in ctx.session.scalars(runs_of(joint.id))}
    names = {row.id: row.name for row in ctx.session.execute(select(Person.id, Person.name))}
    changes: dict[str, list[tuple[datetime, str]]] = {}
    marks: dict[str, list[LaneMark]] = {}
    for one, parts in steps_of(*read_past(ctx, joint.id)):
        at = datetime.fromisoformat(one.at) if one is not None else begin
        # a band tells what was known then: an acceptance ends on its own day
        today = local_day(at).isoformat()
        by: dict[str, list[PartCondition]] = {}
        for part in parts.values():
            by.setdefault(part.position_name, []).append(part)
        for name, own in by.items():
            changes.setdefault(name, [(begin, "unknown")] if at > begin else []).append(
                (at, _worst(own, today))
            )
            if (mark := _mark_of(one, at, name, runs, names)) is not None and at >= begin:
                marks.setdefault(name, []).append(mark)
    replaced = ctx.session.scalars(
        select(JointEntry).where(
            JointEntry.joint_id == joint.id,
            JointEntry.kind == "replaced",
            JointEntry.run.is_not(None),
            JointEntry.at >= begin,
        )
    )
    for entry in replaced:
        for name in changes:
            of = f" in run {entry.run}" if entry.run else ""
            words = f"{ENTRY_TITLES['replaced']}{of}: {entry.words}"
            marks.setdefault(name, []).append(LaneMark(entry.at, "replaced", 0, words, None))
    return [
        Lane(name, _bands(found, begin, ctx.now), sorted(marks.get(name, []), key=lambda m: m.at))
        for name, found in changes.items()
    ]


def _mark_of(
    one: Past | Act | None,
    at: datetime,
    name: str,
    runs: dict[int, Run],
    names: dict[uuid.UUID, str],
) -> LaneMark | None:
    if one is None:
        return None
    if isinstance(one, Act):
        return LaneMark(
            at,
            one.kind,
            0,
            f"{ENTRY_TITLES[one.kind]}{': ' if one.words else ''}{one.words}. {one.person}.",
            None,
        )
    there = [part for part in one.run.parts if part.position_name == name]
    run = runs.get(one.run.number)
    if run is None or not there:
        return None
    moved, checked = sum(part.moved for part in there), sum(part.checked for part in there)
    failed = list(dict.fromkeys(f.text for part in there for f in part.failures))
    words = " ".join([_run_words(run, names, moved, checked), *failed])
    return LaneMark(at, "failed" if failed else _kind(run, moved), moved, words, run.id)


def _bands(changes: list[tuple[datetime, str]], begin: datetime, end: datetime) -> list[Band]:
    """Changes of a position as bands from `begin` to `end`; the same word goes on."""
    out: list[Band] = []
    for number, (at, word) in enumerate(changes):
        until = changes[number + 1][0] if number + 1 < len(changes) else end
        start = max(at, begin)
        if until <= begin or start >= until:
            continue
        if out and out[-1].word == word:
            out[-1] = Band(word, out[-1].title, out[-1].begin, until)
        else:
            out.append(Band(word, CONDITIONS[word].title, start, until))
    return out


def _ticks(ctx: Ctx, joint: Joint, begin: datetime) -> list[MeterTick]:
    """The first reading of each month, of the first meter of the machine."""
    meter = ctx.session.scalar(
        select(Meter).where(Meter.equipment_id == joint.equipment_id).order_by(Meter.unit).limit(1)
    )
    if meter is None:
        return []
    rows = ctx.session.execute(
        select(MeterReading.at, MeterReading.value)
        .where(
            MeterReading.meter_id == meter.id,
            MeterReading.struck_by.is_(None),
            MeterReading.at >= begin,
        )
        .order_by(MeterReading.at)
    ).all()
    out: dict[tuple[int, int], MeterTick] = {}
    for at, value in rows:
        out.setdefault(
            (at.year, at.month),
            MeterTick(at, f"{value:,.0f}".replace(",", "\u202f") + f" {meter.unit}"),
        )
    return list(out.values())


def _ended_early(ctx: Ctx, joint_id: uuid.UUID) -> EndedEarly | None:
    run = last_run_of(ctx, joint_id)
    if run is None or run.status != "abandoned" or run.ended_at is None:
        return None
    occasion = OCCASIONS[run.occasion].lower()
    return EndedEarly(run.id, run.number, occasion, run.ended_at, cannot_continue(ctx, run))


@use_case
def joint_condition(ctx: Ctx, joint_id: uuid.UUID) -> ConditionView:
    """The condition of a joint by position, and its year. Raises NotFound."""
    joint = ctx.session.get(Joint, joint_id)
    if joint is None:
        raise NotFound("joint")
    begin = ctx.now - timedelta(days=SPAN)
    going = ctx.session.execute(
        runs_of(joint_id)
        .join(Person, Run.started_by == Person.id)
        .add_columns(Person.name)
        .where(Run.status == "running")
        .order_by(Run.number.desc())
        .limit(1)
    ).first()
    rows = rows_of(ctx, joint)
    positions = {row.position: row.name for row in rows if row.position}
    return ConditionView(
        rows,
        _lanes(ctx, joint, begin),
        _ticks(ctx, joint, begin),
        begin,
        ctx.now + timedelta(days=31),
        [Named(word, known.title) for word, known in CONDITIONS.items()],
        Going(
            going[0].id,
            going[0].number,
            going[1],
            going[0].started_at,
            OCCASIONS[going[0].occasion],
        )
        if going
        else None,
        _ended_early(ctx, joint_id),
        [Named(*one) for one in sorted(positions.items())],
        fitted.number if (fitted := last_fitting(ctx, joint_id)) is not None else None,
    )
