"""Loads the demo once, through the same use cases that the web calls: the works as they are, and
where wanted a year of work."""

from __future__ import annotations

import json
import uuid
from collections.abc import Iterable
from datetime import UTC, datetime, timedelta
from importlib.resources import files
from typing import Any

from argon2 import PasswordHasher
from sqlalchemy.orm import Session

from ..core.planning.compute import compute
from ..services.accounts.queries import DEMO_PASSWORD, DEMO_PIN
from ..services.context import Actor, Ctx
from ..services.planning.commands import caution_id, create_plan, release, save_draft
from ..services.registers.commands import add_person, register_equipment, register_joint
from ..services.registers.tables import save_own_entry, set_in_store
from ..services.toolroom.checks import add_calibration
from ..services.toolroom.tools import ToolAsTyped, register_tool, tool_of
from .runs import finish_run
from .tools import OTHERS, TOOLS
from .year import CHECKS, live_a_year

PEOPLE = (
    ("mira", "Mira Oslund", ["planner"]),
    ("tam", "Tam Hollis", ["fitter"]),
    ("runa", "Runa Tesk", ["supervisor"]),
    ("jory", "Jory Vane", ["administrator"]),
)
#: areas that lie at a site of their own; the others are the works
SITES = {"Quay": "Quay", "Brine field": "Brine field"}
#: tag, name, area, joints as (tag, name, kind, plan file)
EQUIPMENT = (
    (
        "AG-2",
        "Agitator 2",
        "Boiling house",
        (("coupling", "Agitator coupling", "centre_bolt", "agitator-coupling"),),
    ),
    (
        "BC-2",
        "Belt conveyor 2",
        "Store",
        (("drum-journal", "Drum journal", "axle_nut", "drum-journal-nut"),),
    ),
    (
        "BC-4",
        "Belt conveyor 4",
        "Store",
        (("drum-hub", "Drive drum hub", "locking_hub", "drum-locking-hub"),),
    ),
    (
        "BE-1",
        "Bucket elevator 1",
        "Store",
        (
            ("gearbox-foot", "Gearbox foot", "machine_mount", "gearbox-foot"),
            ("head-bearing", "Head shaft bearing", "bearing_nut", "elevator-bearing-nut"),
        ),
    ),
    (
        "BL-7",
        "Brine line 7",
        "Brine field",
        (("bellows", "Bellows clamp", "soft_clamp", "bellows-clamp"),),
    ),
    (
        "BP-3",
        "Brine pump 3",
        "Brine field",
        (("casing", "Pump casing", "casting_studs", "pump-casing-studs"),),
    ),
    (
        "EV-2",
        "Evaporator 2",
        "Boiling house",
        (("channel-cover", "Channel cover", "gasketed_cover", "evaporator-cover"),),
    ),
    (
        "MS-1",
        "Magnetic separator 1",
        "Bagging",
        (("hanger", "Separator hanger", "hung_equipment", "magnet-hanger"),),
    ),
    (
        "QC-1",
        "Quay crane",
        "Quay",
        (("rail-stop", "Rail stop anchors", "stud_row", "rail-stop-anchors"),),
    ),
    (
        "ST-1",
        "Stacker 1",
        "Pans and railway",
        (("drive-rear", "Twin drive wheel", "twin_wheel", "twin-drive-wheel"),),
    ),
    (
        "TR-3",
        "Salt trolley 3",
        "Pans and railway",
        (("wheel", "Trolley wheel", "wheel", "trolley-wheel"),),
    ),
    (
        "WS-1",
        "Workshop",
        "Workshop",
        (
            ("valve-fixture", "Valve block fixture", "fixture", "valve-block-fixture"),
            ("press-frame", "Press frame foot", "machine_mount", None),
        ),
    ),
)
#: plans whose joint has a finished run where no year is loaded
FINISHED = ("evaporator-cover", "trolley-wheel", "bellows-clamp")
IN_STORE = ("moly-paste", "nickel-anti-seize", "light-oil", "engine-oil", "threadlocker-medium")
#: so long before the day of loading the works begin: with finished runs, with a year of work
BEFORE, YEAR = timedelta(days=24), timedelta(days=372)


def plan_names() -> list[str]:
    """Names of the demo's plan files."""
    return [plan for _, _, _, joints in EQUIPMENT for _, _, _, plan in joints if plan is not None]


def plan_document(name: str) -> Any:
    """A demo plan as JSON values."""
    return json.loads((files(__package__) / "plans" / f"{name}.json").read_text(encoding="utf-8"))


def load(session: Session, year: bool = False, today: datetime | None = None) -> None:
    """Load everything into an empty database, as of a day (now where none is named), so that
    nothing in it is too old."""
    now = (today or datetime.now(UTC)).replace(hour=7, minute=30, second=0, microsecond=0)
    begin = now - (YEAR if year else BEFORE)
    start = Ctx(session, begin)
    # everybody knows the password of the demo: nothing is gained by a hash that takes long
    quick = PasswordHasher(time_cost=1, memory_cost=1024, parallelism=1)
    password, pin = quick.hash(DEMO_PASSWORD), quick.hash(DEMO_PIN)
    actors = {
        login: add_person(start, login, name, password, roles, pin) for login, name, roles in PEOPLE
    }
    _registers(session, actors, begin, now - BEFORE)
    revisions = dict(_equipment(Ctx(session, begin, actors["mira"], confirmed=True)))
    if year:
        live_a_year(session, actors, revisions, now)
        return
    for number, name in enumerate(n for n in plan_names() if n in FINISHED):
        finish_run(
            session,
            revisions[name],
            actors["tam"],
            actors["runa"],
            begin + timedelta(days=3 + number),
        )


def _equipment(planner: Ctx) -> Iterable[tuple[str, uuid.UUID]]:
    """Machines, joints and released plans; gives the revisions by the name of their plan's file."""
    for tag, name, area, joints in EQUIPMENT:
        machine = register_equipment(planner, tag, name, area, SITES.get(area, "Saltworks"))
        for joint_tag, joint_name, kind, plan in joints:
            joint = register_joint(planner, machine, joint_tag, joint_name, kind)
            if plan is None:
                continue
            document = plan_document(plan)
            made = create_plan(planner, joint, document["title"])
            save_draft(planner, made, 1, document)
            yield (
                plan,
                release(
                    planner, made, 2, taken_on=[caution_id(f) for f in compute(document).findings]
                ).id,
            )


def _registers(
    session: Session, actors: dict[str, Actor], begin: datetime, checked: datetime
) -> None:
    """Tools with calibrations, what is in store, and own entries of the tables."""
    chief, planner = Ctx(session, begin, actors["runa"]), Ctx(session, begin, actors["mira"])
    checked_in_the_year = {serial for _, serial, _ in CHECKS} if begin < checked else set()
    for serial, spec, months, note in TOOLS:
        tool = tool_of(
            chief, register_tool(chief, ToolAsTyped(serial, "wrench", spec, "Tool room", note=note))
        )
        if begin < checked:
            first = begin - timedelta(days=5)
            add_calibration(
                chief, tool, first, first + timedelta(days=400), f"C-{serial}-{first:%y}"
            )
        if serial in checked_in_the_year:
            continue
        at = checked - timedelta(days=30 * (12 - months))
        add_calibration(chief, tool, at, at + timedelta(days=365), f"C-{serial}-{at:%y}")
    for serial, sort, spec, note in OTHERS:
        tool = tool_of(
            chief, register_tool(chief, ToolAsTyped(serial, sort, spec, "Tool room", note=note))
        )
        if sort in ("tester", "multiplier"):
            add_calibration(
                chief, tool, checked, checked + timedelta(days=365), f"C-{serial}-{checked:%y}"
            )
    for lubricant in IN_STORE:
        set_in_store(planner, lubricant, True)
    save_own_entry(
        planner,
        "lubricant",
        "vellmark-white",
        {
            "name": "White paste, measured here",
            "mu_thread": [0.1, 0.115, 0.13],
            "mu_bearing": [0.1, 0.12, 0.14],
            "source": "ten bolts on the works' own load cell",
            "tests": [
                {
                    "id": "cell",
                    "thread": "M20",
                    "date": f"{checked:%B %Y}",
                    "sheet": "V-12",
                    "readings": [
                        f"{torque} N·m, 100 kN"
                        for torque in (306, 311, 304, 318, 309, 314, 302, 312, 307, 316)
                    ],
                }
            ],
        },
    )
    set_in_store(planner, "vellmark-white", True)
