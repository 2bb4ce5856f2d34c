"""Tools by serial."""
from __future__ import annotations

from flask import Response
from pydantic import BaseModel

from ...services.registers.tools import ToolView, list_tools
from ..operation import operation
from .bricks import answer, blueprint

api = blueprint("tools", "Tools and their calibration")


class ToolList(BaseModel):
    """Every registered tool."""

    items: list[ToolView]


@api.get("/tools", responses={"200": ToolList})
def get_tools() -> Response:
    """Tools with their calibration."""
    with operation() as ctx:
        return answer(ToolList(items=list_tools(ctx)))
