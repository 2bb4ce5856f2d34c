"""Equipment and joints."""

from __future__ import annotations

import uuid
from typing import Annotated

from flask import Response
from pydantic import BaseModel, Field, RootModel

from ...services.registers.commands import (
    change_equipment,
    change_joint,
    register_equipment,
    register_joint,
    rename_site,
)
from ...services.registers.queries import (
    EquipmentView,
    JointView,
    SiteView,
    joint_detail,
    list_equipment,
    list_sites,
)
from ..errors import Problem
from ..operation import operation
from .helpers import IdPath, answer, blueprint
from .plans import Created

api = blueprint("equipment", "Machines and their joints")

Line = Annotated[str, Field(max_length=200)]


class EquipmentQuery(BaseModel):
    """A page of machines by tag; `find` looks in tags, names and areas."""

    find: Line = ""
    site: uuid.UUID | None = None
    after: Line = ""
    limit: Annotated[int, Field(ge=1, le=100)] = 50


class EquipmentList(BaseModel):
    """Machines, and the tag to ask for the next page with."""

    items: list[EquipmentView]
    next: str | None


class EquipmentIn(BaseModel):
    """A machine as typed."""

    tag: Line
    name: Line
    area: Line
    #: the only one there is where it is empty; a new name is a new site
    site: Line = ""


class JointIn(BaseModel):
    """A joint as typed; `kind` is a plan's `joint_kind`."""

    tag: Line
    name: Line
    kind: Line


class NewJoint(JointIn):
    """A joint of a machine."""

    equipment: uuid.UUID


class JointOut(RootModel[JointView]):
    """One joint."""


@api.get("/equipment", responses={"200": EquipmentList})
def read_equipment(query: EquipmentQuery) -> Response:
    """Machines with their joints."""
    with operation() as ctx:
        items = list_equipment(ctx, query.find, query.after, query.limit, query.site)
    return answer(
        EquipmentList(items=items, next=items[-1].tag if len(items) == query.limit else None)
    )


@api.post("/equipment", responses={"201": Created})
def post_equipment(body: EquipmentIn) -> Response:
    """Register a machine."""
    with operation() as ctx:
        made = register_equipment(ctx, body.tag, body.name, body.area, body.site)
    return answer(Created(id=made), 201)


@api.put("/equipment/<uuid:id>", responses={"204": None, "409": Problem})
def put_equipment(path: IdPath, body: EquipmentIn) -> tuple[str, int]:
    """Put a machine right."""
    with operation() as ctx:
        change_equipment(ctx, path.id, body.tag, body.name, body.area, body.site)
    return "", 204


class SiteList(BaseModel):
    """Every site by name."""

    items: list[SiteView]


class SiteIn(BaseModel):
    """What a site is called."""

    site: Line


@api.get("/sites", responses={"200": SiteList})
def read_sites() -> Response:
    """Every site, with how many machines stand there."""
    with operation() as ctx:
        return answer(SiteList(items=list_sites(ctx)))


@api.put("/sites/<uuid:id>", responses={"204": None})
def put_site(path: IdPath, body: SiteIn) -> tuple[str, int]:
    """Call a site otherwise."""
    with operation() as ctx:
        rename_site(ctx, path.id, body.site)
    return "", 204


@api.post("/joints", responses={"201": Created})
def post_joint(body: NewJoint) -> Response:
    """Register a joint of a machine."""
    with operation() as ctx:
        made = register_joint(ctx, body.equipment, body.tag, body.name, body.kind)
    return answer(Created(id=made), 201)


@api.get("/joints/<uuid:id>", responses={"200": JointOut})
def read_joint(path: IdPath) -> Response:
    """One joint with its plans and latest runs."""
    with operation() as ctx:
        return answer(JointOut(joint_detail(ctx, path.id)))


@api.put("/joints/<uuid:id>", responses={"204": None, "409": Problem})
def put_joint(path: IdPath, body: JointIn) -> tuple[str, int]:
    """Put a joint right."""
    with operation() as ctx:
        change_joint(ctx, path.id, body.tag, body.name, body.kind)
    return "", 204
