"""Tools by serial with their calibrations: what a run can be bound to."""
from __future__ import annotations

import json
import uuid
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from pydantic import ValidationError
from sqlalchemy import select
from sqlalchemy.orm import selectinload

from ...core.documents.tooling import Tool as ToolSpec
from ...core.forms.errors import DocumentErrors, field_errors
from ...store.models import Calibration, Tool
from ..context import Ctx
from ..permissions import use_case


@dataclass(frozen=True, slots=True)
class ToolView:
    """One registered tool; `good` is whether it may be used now."""

    id: uuid.UUID
    serial: str
    kind: str
    name: str
    low_Nm: float
    high_Nm: float
    unit: str
    blocked: bool
    calibrated_until: datetime | None
    good: bool
    note: str


def spec_of(tool: Tool) -> ToolSpec:
    """The registered tool in the form of a plan's tool, under its serial."""
    return ToolSpec.model_validate({**json.loads(tool.spec), "name": tool.serial})


def until_of(tool: Tool) -> datetime | None:
    """Until when its last passed calibration holds; None when the last one failed or there is none."""
    last = tool.calibrations[-1] if tool.calibrations else None
    return last.until if last is not None and last.passed else None


def add_tool(ctx: Ctx, serial: str, spec: dict[str, Any], note: str = "") -> Tool:
    """Register a tool. Raises DocumentErrors for a spec that is none."""
    try:
        ToolSpec.model_validate(spec)
    except ValidationError as error:
        raise DocumentErrors(field_errors(error)) from None
    tool = Tool(id=ctx.new_id(), serial=serial, spec=json.dumps(spec, ensure_ascii=False), blocked=False, note=note)
    ctx.session.add(tool)
    ctx.session.flush()
    return tool


def add_calibration(ctx: Ctx, tool: Tool, at: datetime, until: datetime, certificate: str, passed: bool = True) -> None:
    """Keep a calibration of a tool."""
    ctx.session.add(Calibration(id=ctx.new_id(), tool_id=tool.id, at=at, until=until, certificate=certificate, passed=passed,
                                person_id=ctx.person.id))
    ctx.session.flush()


@use_case
def list_tools(ctx: Ctx) -> list[ToolView]:
    """Every registered tool, by serial."""
    out = []
    for tool in ctx.session.scalars(select(Tool).options(selectinload(Tool.calibrations)).order_by(Tool.serial)):
        spec, until = spec_of(tool), until_of(tool)
        name = json.loads(tool.spec).get("name") or spec.kind
        out.append(ToolView(tool.id, tool.serial, spec.kind, name, spec.range[0].base / 1e3, spec.range[1].base / 1e3,
                            spec.range[1].quantity.unit, tool.blocked, until,
                            not tool.blocked and until is not None and until > ctx.now, tool.note))
    return out
