"""Registers filled from the command line and by the demo; no screen calls these yet."""
from __future__ import annotations

import uuid

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from ...store.models import Equipment, Joint, Person
from ..accounts.commands import actor_of
from ..context import Actor, Ctx


def people_exist(session: Session) -> bool:
    """Whether anybody is registered."""
    return bool(session.scalar(select(func.count()).select_from(Person)))


def add_person(ctx: Ctx, login: str, name: str, password_hash: str, roles: list[str]) -> Actor:
    """Register a person."""
    person = Person(id=ctx.new_id(), login=login, name=name, password_hash=password_hash, roles=roles, active=True)
    ctx.session.add(person)
    ctx.session.flush()
    return actor_of(person)


def add_equipment(ctx: Ctx, tag: str, name: str, area: str) -> uuid.UUID:
    """Register a machine."""
    machine = Equipment(id=ctx.new_id(), tag=tag, name=name, area=area)
    ctx.session.add(machine)
    ctx.session.flush()
    return machine.id


def add_joint(ctx: Ctx, equipment: uuid.UUID, tag: str, name: str, kind: str) -> uuid.UUID:
    """Register a joint of a machine."""
    joint = Joint(id=ctx.new_id(), equipment_id=equipment, tag=tag, name=name, kind=kind)
    ctx.session.add(joint)
    ctx.session.flush()
    return joint.id
