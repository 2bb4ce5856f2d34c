"""Equipment and joints."""
from __future__ import annotations

from flask import Response
from pydantic import BaseModel, RootModel

from ...services.registers.queries import EquipmentView, JointView, joint_detail, list_equipment
from ..operation import operation
from .bricks import IdPath, answer, blueprint

api = blueprint("equipment", "Machines and their joints")


class EquipmentList(BaseModel):
    """Every machine."""

    items: list[EquipmentView]


class JointOut(RootModel[JointView]):
    """One joint."""


@api.get("/equipment", responses={"200": EquipmentList})
def read_equipment() -> Response:
    """Machines with their joints."""
    with operation() as ctx:
        return answer(EquipmentList(items=list_equipment(ctx)))


@api.get("/joints/<uuid:id>", responses={"200": JointOut})
def read_joint(path: IdPath) -> Response:
    """One joint with its plans and latest runs."""
    with operation() as ctx:
        return answer(JointOut(joint_detail(ctx, path.id)))
