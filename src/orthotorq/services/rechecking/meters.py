"""Meters of machines and their readings: typed, sent, or read from a file; totals and rates are
written at each reading."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy import select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import aliased

from ...core.errors import Impossible, OrthotorqError
from ...core.forms.errors import DocumentErrors, FieldError
from ...core.messages import Message, Refusal, render
from ...core.rechecking import HOWS, METERS, Rate, Shown, rate_of, totals
from ...core.rechecking.schedule import amount
from ...core.thresholds import METER_ODD
from ...core.units import read_number
from ...local_time import day_text, moment_text, read_time
from ...store.models import Equipment, Meter, MeterReading, Person
from ..context import Ctx
from ..errors import BadField, NeedsConfirmation, NotFound, Refused
from ..permissions import use_case
from .refresh import refresh_machine

SHOWN = 40
#: a clock that is a little ahead is no lie
AHEAD = timedelta(minutes=5)


@dataclass(frozen=True, slots=True)
class ReadingView:
    """One reading; `gained` is what had run since the one before."""

    id: uuid.UUID
    at: datetime
    shown: str
    how: str
    gained: str
    person: str
    source: str
    struck: bool
    #: who struck it out; empty where it counts
    struck_by: str
    #: what had run in all since the first reading; None for one that was struck out
    total: float | None


@dataclass(frozen=True, slots=True)
class MeterView:
    """A meter with where it stands and how fast it runs, in words, and its last readings, newest
    first."""

    id: uuid.UUID
    unit: str
    name: str
    stands: str
    rate: str
    readings: list[ReadingView]


@dataclass(frozen=True, slots=True)
class HowChoice:
    """Something to choose, in words."""

    value: str
    words: str


@dataclass(frozen=True, slots=True)
class MachineView:
    """A machine with its meters."""

    id: uuid.UUID
    tag: str
    name: str
    area: str
    site: str
    meters: list[MeterView]
    units: list[str]
    hows: list[HowChoice]


@dataclass(frozen=True, slots=True)
class ReadingAsTyped:
    """A reading of a meter: the figure, how it goes on from the one before, the old counter's end
    or the turning point, when. Figures may be texts, as typed."""

    value: float | str
    how: str = "reading"
    before: float | str | None = None
    at: str = ""


def _figure(value: float | str, unit: str, field: str) -> float:
    """A figure of a meter as typed, with its unit or without. Raises DocumentErrors, also for what
    can be read in two ways."""
    if not isinstance(value, str):
        return value
    try:
        figure, _, rest = read_number(value)
        if rest.strip() not in ("", unit):
            raise Impossible(Message.BAD_VALUE, (field,), reason=f"This meter counts in {unit}")
    except OrthotorqError as error:
        raise DocumentErrors([FieldError((field,), error.code.value, str(error))]) from None
    return figure


def rate_words(meter: Meter) -> str:
    """How fast a meter runs, in words."""
    if meter.rate is None:
        return meter.rate_words
    return (
        f"{meter.rate:.3g} {meter.unit} a day, {meter.rate_low:.3g} to {meter.rate_high:.3g}; "
        f"{meter.rate_words}"
    )


def _readings(ctx: Ctx, meter: Meter) -> list[MeterReading]:
    """Readings that count, in the order of time."""
    return list(
        ctx.session.scalars(
            select(MeterReading)
            .where(MeterReading.meter_id == meter.id, MeterReading.struck_by.is_(None))
            .order_by(MeterReading.at)
        )
    )


def _shown(row: MeterReading) -> Shown:
    return Shown(row.at, row.value, row.how, row.before)


def _view(ctx: Ctx, meter: Meter) -> MeterView:
    striker = aliased(Person)
    rows = ctx.session.execute(
        select(MeterReading, Person.name, striker.name)
        .join(Person, MeterReading.person_id == Person.id)
        .outerjoin(striker, MeterReading.struck_by == striker.id)
        .where(MeterReading.meter_id == meter.id)
        .order_by(MeterReading.at.desc(), MeterReading.struck_by.is_not(None))
        .limit(SHOWN + 1)
    ).all()
    out = []
    for number, (row, person, struck_by) in enumerate(rows[:SHOWN]):
        older = next((r for r, *_ in rows[number + 1 :] if r.struck_by is None), None)
        gained = (
            ""
            if older is None or row.struck_by is not None
            else f"+{amount(round(row.total - older.total, 2), meter.unit)}"
        )
        how = HOWS[row.how] if row.how != "reading" else ""
        out.append(
            ReadingView(
                row.id,
                row.at,
                amount(row.value, meter.unit),
                how,
                gained,
                person,
                row.source,
                row.struck_by is not None,
                struck_by or "",
                row.total if row.struck_by is None else None,
            )
        )
    stands = (
        "no reading yet"
        if meter.shown is None or meter.at is None
        else f"{amount(meter.shown, meter.unit)} on {day_text(meter.at)}"
    )
    return MeterView(meter.id, meter.unit, meter.name, stands, rate_words(meter), out)


@use_case
def machine(ctx: Ctx, equipment_id: uuid.UUID) -> MachineView:
    """A machine with its meters and their last readings. Raises NotFound."""
    found = ctx.session.get(Equipment, equipment_id)
    if found is None:
        raise NotFound("machine")
    meters = ctx.session.scalars(
        select(Meter).where(Meter.equipment_id == found.id).order_by(Meter.unit)
    ).all()
    taken = {meter.unit for meter in meters}
    return MachineView(
        found.id,
        found.tag,
        found.name,
        found.area,
        found.site.name,
        [_view(ctx, meter) for meter in meters],
        [unit for unit in METERS if unit not in taken],
        [HowChoice(k, v) for k, v in HOWS.items()],
    )


@use_case
def add_meter(ctx: Ctx, equipment_id: uuid.UUID, unit: str, name: str = "") -> uuid.UUID:
    """Give a machine a meter. Raises NotFound, BadField, DocumentErrors."""
    if ctx.session.get(Equipment, equipment_id) is None:
        raise NotFound("machine")
    if unit not in METERS:
        raise BadField(Refusal.METER_UNIT, "unit", units=", ".join(METERS))
    if len(name.strip()) > 60:
        raise BadField(Refusal.WORDS_TOO_LONG, "name", most=60)
    meter = Meter(
        id=ctx.new_id(),
        equipment_id=equipment_id,
        unit=unit,
        name=name.strip() or f"{unit} meter",
        rate_words="",
    )
    ctx.session.add(meter)
    try:
        ctx.session.flush()
    except IntegrityError:
        raise BadField(Refusal.METER_TAKEN, "unit", unit=unit) from None
    return meter.id


def when_of(ctx: Ctx, text: str) -> datetime:
    """A time as typed, now where none is. Raises BadField."""
    if not text.strip():
        return ctx.now.replace(microsecond=0)
    try:
        at = read_time(text.strip())
    except ValueError:
        raise BadField(Refusal.TIME_FORM, "at") from None
    if at > ctx.now + AHEAD:
        raise BadField(Refusal.METER_FUTURE, "at")
    return at


def locked_meter(ctx: Ctx, meter_id: uuid.UUID) -> Meter:
    """A meter under a row lock: its readings are counted one after the other. Raises NotFound."""
    meter = ctx.session.scalar(select(Meter).where(Meter.id == meter_id).with_for_update())
    if meter is None:
        raise NotFound("meter")
    return meter


def _count(ctx: Ctx, meter: Meter, rows: Sequence[MeterReading]) -> None:
    """Write totals, where the meter stands, and its rate."""
    counted = totals([_shown(row) for row in rows], meter.unit)
    for row, total in zip(rows, counted, strict=True):
        if row.total != total:
            row.total = total
    rate: Rate = rate_of((row.at, total) for row, total in zip(rows, counted, strict=True))
    last = rows[-1] if rows else None
    meter.shown, meter.at = (last.value, last.at) if last else (None, None)
    meter.total = counted[-1] if counted else None
    meter.rate_low, meter.rate, meter.rate_high = rate.band or (None, None, None)
    meter.rate_words = rate.words
    ctx.session.flush()


def keep_reading(
    ctx: Ctx, meter: Meter, typed: ReadingAsTyped, at: datetime, source: str
) -> MeterReading:
    """Keep a reading of a locked meter, wherever in time it lies. Raises DocumentErrors: nothing is
    kept then."""
    if typed.how not in HOWS:
        raise BadField(Refusal.ONE_OF, "how", choices=", ".join(HOWS))
    value = _figure(typed.value, meter.unit, "value")
    before = (
        None if typed.before in (None, "") else _figure(typed.before or "", meter.unit, "before")
    )
    rows = _readings(ctx, meter)
    new = MeterReading(
        id=ctx.new_id(),
        meter_id=meter.id,
        at=at,
        value=value,
        how=typed.how,
        before=before,
        total=0.0,
        source=source,
        person_id=ctx.person.id,
    )
    place = next((i for i, row in enumerate(rows) if row.at >= at), len(rows))
    line = [*rows[:place], new, *rows[place:]]
    try:
        totals([_shown(row) for row in line[: place + 1]], meter.unit)
    except OrthotorqError as error:
        raise DocumentErrors([FieldError(error.path, error.code.value, str(error))]) from None
    try:
        totals([_shown(row) for row in line], meter.unit)
    except OrthotorqError as error:
        text = render(Refusal.METER_LATER, at=moment_text(rows[place].at), text=error)
        raise DocumentErrors([FieldError(error.path, Refusal.METER_LATER.value, text)]) from None
    ctx.session.add(new)
    _count(ctx, meter, line)
    return new


def _ask_back(ctx: Ctx, meter: Meter, typed: ReadingAsTyped, at: datetime) -> None:
    """A reading that has run far faster than usual is asked back once. Raises NeedsConfirmation,
    DocumentErrors."""
    if (
        ctx.confirmed
        or typed.how != "reading"
        or meter.rate_high is None
        or meter.at is None
        or meter.shown is None
    ):
        return
    value = _figure(typed.value, meter.unit, "value")
    days = (at - meter.at).total_seconds() / 86400
    gained = value - meter.shown
    most = METER_ODD.value * meter.rate_high * max(days, 1.0)
    if days < 0 or gained <= most:
        return
    usual = f"{meter.rate_low:.3g} to {meter.rate_high:.3g} {meter.unit} a day"
    raise NeedsConfirmation(
        Refusal.METER_UNLIKELY,
        "value",
        gained=amount(round(gained, 1), meter.unit),
        days=f"{days:.0f}" if days >= 1 else "less than 1",
        usual=usual,
    )


@use_case
def add_reading(
    ctx: Ctx, meter_id: uuid.UUID, typed: ReadingAsTyped, source: str = "typed"
) -> uuid.UUID:
    """Keep a reading and forecast anew what hangs on it.

    Raises NotFound, BadField, DocumentErrors, and NeedsConfirmation for one that is unlikely.
    """
    meter = locked_meter(ctx, meter_id)
    at = when_of(ctx, typed.at)
    _ask_back(ctx, meter, typed, at)
    row = keep_reading(ctx, meter, typed, at, source)
    refresh_machine(ctx, meter.equipment_id)
    return row.id


def _withdraw(ctx: Ctx, reading_id: uuid.UUID) -> tuple[MeterReading, Meter]:
    """(a reading, struck out; its meter, locked). Raises NotFound, Refused."""
    row = ctx.session.get(MeterReading, reading_id)
    if row is None:
        raise NotFound("reading")
    meter = locked_meter(ctx, row.meter_id)
    if row.person_id != ctx.person.id and not ctx.person.roles & {"planner", "supervisor"}:
        raise Refused(Refusal.READING_NOT_YOURS)
    if row.struck_by is not None:
        raise Refused(Refusal.READING_STRUCK)
    row.struck_by = ctx.person.id
    ctx.session.flush()
    return row, meter


@use_case
def strike_reading(ctx: Ctx, reading_id: uuid.UUID) -> None:
    """Strike out a reading that was wrong, by who entered it or by who looks after meters; it
    stays, with who struck it out.

    Raises NotFound, Refused, DocumentErrors where the others do not follow each other without it.
    """
    _, meter = _withdraw(ctx, reading_id)
    try:
        _count(ctx, meter, _readings(ctx, meter))
    except OrthotorqError as error:
        raise DocumentErrors([FieldError(error.path, error.code.value, str(error))]) from None
    refresh_machine(ctx, meter.equipment_id)


@use_case
def correct_reading(ctx: Ctx, reading_id: uuid.UUID, value: float | str) -> uuid.UUID:
    """Put the right figure in the place of a wrong one: same time, same kind; the wrong one stays,
    struck out, with who did it.

    Raises NotFound, Refused, DocumentErrors: nothing is changed then.
    """
    with ctx.session.begin_nested():
        wrong, meter = _withdraw(ctx, reading_id)
        typed = ReadingAsTyped(value, wrong.how, wrong.before)
        right = keep_reading(ctx, meter, typed, wrong.at, wrong.source)
    refresh_machine(ctx, meter.equipment_id)
    return right.id


@dataclass(frozen=True, slots=True)
class SentReading:
    """A reading as another system sends it: machine by tag, unit, figure, when."""

    machine: str
    unit: str
    value: float
    at: str
    how: str = "reading"
    before: float | None = None


@dataclass(frozen=True, slots=True)
class SentAnswer:
    """What became of one sent reading; the row counts from 1."""

    row: int
    kept: bool
    text: str


@use_case
def send_readings(
    ctx: Ctx, rows: Sequence[SentReading], source: str = "sent", keep: bool = True
) -> list[SentAnswer]:
    """Readings of many machines at once: all of them are kept, or none, with what is wrong by
    row."""
    answers, touched, save = list[SentAnswer](), set[uuid.UUID](), ctx.session.begin_nested()
    tags = {row.machine.strip() for row in rows}
    known = {
        (tag, unit): meter_id
        for meter_id, unit, tag in ctx.session.execute(
            select(Meter.id, Meter.unit, Equipment.tag)
            .join(Equipment, Meter.equipment_id == Equipment.id)
            .where(Equipment.tag.in_(tags))
        )
    }
    for number, row in enumerate(rows, 1):
        meter_id = known.get((row.machine.strip(), row.unit.strip()))
        try:
            if meter_id is None:
                raise BadField(
                    Refusal.METER_READING,
                    "machine",
                    text=f"{row.machine} has no meter in {row.unit}",
                )
            meter = locked_meter(ctx, meter_id)
            keep_reading(
                ctx,
                meter,
                ReadingAsTyped(row.value, row.how, row.before),
                when_of(ctx, row.at),
                source,
            )
            touched.add(meter.equipment_id)
            answers.append(SentAnswer(number, True, ""))
        except (BadField, DocumentErrors) as error:
            text = (
                error.text
                if isinstance(error, BadField)
                else "; ".join(e.text for e in error.errors)
            )
            answers.append(SentAnswer(number, False, text))
    if keep and all(one.kept for one in answers):
        save.commit()
        for equipment_id in touched:
            refresh_machine(ctx, equipment_id)
    else:
        save.rollback()
        answers = [SentAnswer(one.row, False, one.text) for one in answers]
    return answers
