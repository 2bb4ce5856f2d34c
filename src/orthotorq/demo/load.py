"""Loads the demo once, through the same use cases that the web calls."""
from __future__ import annotations

import json
from datetime import UTC, datetime, timedelta
from importlib.resources import files
from typing import Any

from sqlalchemy.orm import Session

from ..services.accounts.commands import HASHER
from ..services.accounts.queries import DEMO_PASSWORD
from ..services.context import Actor, Ctx
from ..services.planning.commands import create_plan, release, save_draft
from ..services.registers.commands import add_equipment, add_joint, add_person, people_exist
from .runs import finish_run

PEOPLE = (("mira", "Mira Oslund", ["planner"]), ("tam", "Tam Hollis", ["fitter"]),
          ("runa", "Runa Keel", ["supervisor"]), ("jory", "Jory Vane", ["administrator"]))
EQUIPMENT = (("EV-2", "Evaporator 2", "Boiling house", (("channel-cover", "Channel cover", "gasketed_cover",
                                                         "evaporator-cover"),)),
             ("TR-3", "Salt trolley 3", "Pans and railway", (("wheel", "Trolley wheel", "wheel", "trolley-wheel"),)),
             ("BE-1", "Bucket elevator 1", "Store", (("gearbox-foot", "Gearbox foot", "machine_mount", None),)))
BEGIN = datetime(2026, 11, 2, 7, 30, tzinfo=UTC)


def plan_document(name: str) -> Any:
    """A demo plan as JSON values."""
    return json.loads((files(__package__) / "plans" / f"{name}.json").read_text(encoding="utf-8"))


def load(session: Session) -> bool:
    """Load everything into an empty database; False when there already are people."""
    if people_exist(session):
        return False
    start = Ctx(session, BEGIN)
    password = HASHER.hash(DEMO_PASSWORD)
    actors: dict[str, Actor] = {login: add_person(start, login, name, password, roles) for login, name, roles in PEOPLE}
    planner = Ctx(session, BEGIN, actors["mira"])
    later = BEGIN + timedelta(days=3)
    for tag, name, area, joints in EQUIPMENT:
        machine = add_equipment(start, tag, name, area)
        for joint_tag, joint_name, kind, plan in joints:
            joint = add_joint(start, machine, joint_tag, joint_name, kind)
            if plan is None:
                continue
            document = plan_document(plan)
            made = create_plan(planner, joint, document["title"])
            save_draft(planner, made, 1, document)
            revision = release(planner, made, 2)
            finish_run(session, revision.id, actors["tam"], actors["runa"], later)
            later += timedelta(days=1)
    return True
