"""A year of work at Vellmark Saltworks, so that every list has something true in it: runs, meters,
checks, and what went wrong."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta
from random import Random
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from ..core.forms.run import Instruction
from ..services.context import Actor, Ctx
from ..services.planning.commands import create_plan
from ..services.rechecking.acts import note_opened, note_replaced
from ..services.rechecking.meters import ReadingAsTyped, add_meter, keep_reading, locked_meter
from ..services.rechecking.refresh import refresh_machine
from ..services.rechecking.tasks import add_task
from ..services.reference.friction_from_records import gather_lessons
from ..services.running.start import Choices, start_run
from ..services.toolroom.checks import CheckAsTyped, PointAsTyped, check_tool
from ..services.toolroom.tools import block_tool
from ..store.models import Equipment, Joint, Revision, Tool
from .runs import DEVICE, cut_short, finish_run, sensible_answer

Answer = Callable[[Instruction, Random], dict[str, Any]]


@dataclass(frozen=True, slots=True)
class Counter:
    """A meter of a machine: its unit, what it runs in a day, what it shows at first, and after how
    many days it is replaced."""

    machine: str
    unit: str
    a_day: float
    first: float
    replaced: int = 0
    rolls_at: float = 0.0


METERS = (
    Counter("TR-3", "km", 21.0, 4120.0, replaced=200),
    Counter("ST-1", "km", 9.0, 812.0),
    Counter("BE-1", "h", 9.0, 15_210.0),
    Counter("BC-2", "h", 6.3, 9480.0),
    Counter("BC-4", "h", 9.0, 98_200.0, rolls_at=100_000.0),
    Counter("MS-1", "h", 8.0, 3310.0),
    Counter("BP-3", "h", 10.5, 22_040.0),
    Counter("EV-2", "cycles", 0.12, 210.0),
    Counter("AG-2", "starts", 1.4, 905.0),
    Counter("WS-1", "cycles", 14.0, 1800.0),
)
#: days between two readings
READ_EVERY = 14


def _moving(likely: float) -> Answer:
    """A recheck at which bolts had moved: of those in the first round such a share."""

    def answer(step: Instruction, chance: Random) -> dict[str, Any]:
        given = sensible_answer(step, chance)
        first = step.check_round and (step.round or 1) == 1 and (step.pull or 1) == 1
        if step.kind != "pull" or not first or chance.random() > likely:
            return given
        reading = {**given.get("reading", {}), "angle": f"{chance.uniform(7, 16):.0f} deg"}
        return {**given, "answer": "turned", "reading": reading}

    return answer


def _failing(part: str) -> Answer:
    """A recheck in which a look at something is not good, and is left as it is."""

    def answer(step: Instruction, chance: Random) -> dict[str, Any]:
        if step.entry == "decision" and part in step.step:
            return {"answer": "accept", "reason": "no pin of this size in the store"}
        return (
            {"answer": "not_good", "note": "one leg broken off"}
            if part in step.step
            else sensible_answer(step, chance)
        )

    return answer


#: day of the year, plan, occasion, how it is answered, whether the supervisor has signed, what else
#: is chosen
RUNS: tuple[tuple[int, str, str, Answer, bool, dict[str, Any]], ...] = (
    (5, "rail-stop-anchors", "install", sensible_answer, True, {}),
    (9, "agitator-coupling", "install", sensible_answer, True, {}),
    (12, "rail-stop-anchors", "recheck", _moving(0.9), True, {}),
    (16, "agitator-coupling", "recheck", sensible_answer, True, {}),
    (20, "pump-casing-studs", "install", sensible_answer, True, {}),
    (22, "pump-casing-studs", "recheck", sensible_answer, True, {}),
    (34, "drum-journal-nut", "install", sensible_answer, True, {}),
    (50, "drum-journal-nut", "recheck", sensible_answer, True, {}),
    (60, "bellows-clamp", "install", sensible_answer, True, {}),
    (61, "bellows-clamp", "recheck", sensible_answer, True, {}),
    (67, "bellows-clamp", "recheck", sensible_answer, True, {}),
    (96, "rail-stop-anchors", "recheck", _moving(0.9), True, {}),
    (150, "gearbox-foot", "install", sensible_answer, True, {}),
    (153, "gearbox-foot", "recheck", sensible_answer, True, {}),
    (172, "gearbox-foot", "recheck", sensible_answer, True, {}),
    (230, "trolley-wheel", "install", sensible_answer, True, {}),
    (231, "trolley-wheel", "recheck", _moving(0.35), True, {}),
    (236, "trolley-wheel", "recheck", _moving(0.4), True, {}),
    (312, "magnet-hanger", "install", sensible_answer, True, {}),
    (315, "magnet-hanger", "recheck", _moving(0.6), True, {}),
    (330, "evaporator-cover", "install", sensible_answer, True, {"measured": True}),
    (338, "magnet-hanger", "recheck", _moving(0.6), True, {}),
    (339, "evaporator-cover", "recheck", sensible_answer, True, {}),
    (340, "rail-stop-anchors", "recheck", _moving(0.9), True, {}),
    (345, "trolley-wheel", "recheck", _moving(0.45), True, {}),
    (352, "drum-locking-hub", "install", sensible_answer, True, {}),
    (368, "drum-journal-nut", "recheck", _failing("/pin2/"), True, {}),
    (369, "valve-block-fixture", "install", sensible_answer, False, {}),
)
#: day, serial, settings with what the tester showed
CHECKS: tuple[tuple[int, str, tuple[tuple[str, str], ...]], ...] = (
    (
        8,
        "TW-03",
        (
            ("84 N·m", "83.6; 83.9; 83.4"),
            ("252 N·m", "250.8; 251.6; 250.1"),
            ("420 N·m", "417.0; 418.2; 416.1"),
        ),
    ),
    (
        190,
        "TW-03",
        (
            ("84 N·m", "83.0; 83.3; 82.9"),
            ("252 N·m", "248.9; 249.6; 248.2"),
            ("420 N·m", "413.6; 415.0; 412.8"),
        ),
    ),
    (
        355,
        "TW-03",
        (
            ("84 N·m", "82.4; 82.1; 82.7"),
            ("252 N·m", "246.8; 247.3; 246.1"),
            ("420 N·m", "410.2; 411.9; 409.5"),
        ),
    ),
    (
        15,
        "TW-05",
        (
            ("40 N·m", "39.6; 39.9; 39.5"),
            ("120 N·m", "119.0; 119.6; 118.7"),
            ("200 N·m", "198.4; 199.1; 198.0"),
        ),
    ),
    (
        370,
        "TW-05",
        (
            ("40 N·m", "35.4; 35.9; 35.1"),
            ("120 N·m", "107.6; 108.3; 107.1"),
            ("200 N·m", "180.1; 181.4; 179.6"),
        ),
    ),
    (
        356,
        "TW-10",
        (
            ("200 N·m", "197.0; 198.8; 196.2"),
            ("600 N·m", "589.0; 592.0; 586.5"),
            ("1000 N·m", "966; 969; 964"),
        ),
    ),
)


class _Works:
    """The works through the year: who acts, and what day it is."""

    def __init__(self, session: Session, actors: dict[str, Actor], begin: datetime) -> None:
        self.session, self.actors, self.begin = session, actors, begin

    def at(self, day: float) -> datetime:
        """A time of the year."""
        return self.begin + timedelta(days=day)

    def ctx(self, login: str, day: float) -> Ctx:
        """Somebody on a day."""
        return Ctx(self.session, self.at(day), self.actors[login])

    def joint(self, revision: uuid.UUID) -> Joint:
        """The joint of a revision."""
        return self.session.get_one(Revision, revision).plan.joint


def _read_meters(works: _Works, days: int) -> None:
    """Meters and what was read of them; one was replaced, one has rolled over."""
    machines = {one.tag: one.id for one in works.session.scalars(select(Equipment))}
    for counter in METERS:
        chance = Random(counter.machine)
        made = locked_meter(
            works.ctx("mira", 0),
            add_meter(works.ctx("mira", 0), machines[counter.machine], counter.unit),
        )
        shown, digits = counter.first, 0 if counter.unit in ("cycles", "starts") else 1
        for number, day in enumerate(range(1, days, READ_EVERY)):
            gone = 0.0 if number == 0 else READ_EVERY * counter.a_day * chance.uniform(0.75, 1.25)
            how, before = "reading", None
            new = round(shown + gone, digits)
            if counter.rolls_at and new >= counter.rolls_at:
                new, how, before = (
                    round(new - counter.rolls_at, digits),
                    "rolled_over",
                    counter.rolls_at,
                )
            elif counter.replaced and day - READ_EVERY < counter.replaced <= day:
                new, how, before = 12.0, "replaced", new
            ctx = works.ctx("tam", day + 0.2)
            keep_reading(ctx, made, ReadingAsTyped(new, how, before), ctx.now, "typed")
            shown = new


def live_a_year(
    session: Session, actors: dict[str, Actor], revisions: dict[str, uuid.UUID], now: datetime
) -> None:
    """Everything of the year, in the order of time."""
    begin = now - timedelta(days=372)
    works = _Works(session, actors, begin)
    _read_meters(works, 371)
    early = [one for one in CHECKS if one[0] < 300]
    tools = {one.serial: one.id for one in session.scalars(select(Tool))}

    def check(day: int, serial: str, points: tuple[tuple[str, str], ...]) -> None:
        check_tool(
            works.ctx("runa", day),
            tools[serial],
            CheckAsTyped(
                [PointAsTyped(setting, readings) for setting, readings in points],
                "TT-1",
                certificate=f"K-{day:03d}",
            ),
        )

    for one in early:
        check(*one)
    for day, plan, occasion, answer, signed, choices in RUNS:
        finish_run(
            session,
            revisions[plan],
            actors["tam"],
            actors["runa"] if signed else None,
            works.at(day),
            occasion,
            answer,
            **choices,
        )
    for one in CHECKS:
        if one not in early:
            check(*one)
    _besides(works, revisions, tools)
    gather_lessons(works.ctx("mira", 371.9))
    for machine in session.scalars(select(Equipment.id)):
        refresh_machine(works.ctx("mira", 371.9), machine)


def _besides(works: _Works, revisions: dict[str, uuid.UUID], tools: dict[str, uuid.UUID]) -> None:
    """What happens beside the runs: a joint opened by others, new bolts, a dropped wrench, runs cut
    short, a draft."""
    session, actors = works.session, works.actors
    hub, cover = (
        works.joint(revisions["drum-locking-hub"]),
        works.joint(revisions["evaporator-cover"]),
    )
    note_replaced(
        works.ctx("tam", 329), cover.id, "all studs and nuts new, with the gasket", in_last_run=True
    )
    note_opened(works.ctx("tam", 368), hub.id, "belt people moved the drum")
    block_tool(works.ctx("tam", 367), tools["TW-04"], True, "fell from the platform of the stacker")
    cut_short(
        session,
        revisions["twin-drive-wheel"],
        actors["tam"],
        works.at(366),
        70,
        "the storm came, wheel seated only",
    )
    begun = works.ctx("tam", 371)
    start_run(begun, revisions["pump-casing-studs"], Choices(DEVICE, "recheck"))
    people = {login: actor.id for login, actor in actors.items()}
    today = works.at(372).date()
    add_task(
        works.ctx("tam", 368.2),
        works.joint(revisions["drum-journal-nut"]).id,
        "Order split pins 8 × 80",
        people["mira"],
        today + timedelta(days=2),
    )
    add_task(
        works.ctx("runa", 371),
        cover.id,
        "Look at the marks of the old gasket, kept on the shelf",
        people["tam"],
        today,
    )
    frame = works.session.scalars(select(Joint).where(Joint.tag == "press-frame")).one()
    create_plan(works.ctx("mira", 365), frame.id, "Bolt down the press frame")
