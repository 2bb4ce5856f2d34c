"""A tool that is used with its known error, and what the connected tester reads."""

from __future__ import annotations

import json
import uuid
from datetime import timedelta

from ...core.errors import OrthotorqError
from ...core.forms.errors import DocumentErrors
from ...core.messages import Refusal
from ...core.units import parse
from ...devices.protocol import Asked
from ...devices.simulated import DEVICES
from ...store.models import Calibration, Tool
from ..context import Ctx
from ..errors import BadField
from ..permissions import use_case
from .checks import _field
from .tools import correction_words, tool_of

TESTER = "simulated-tester"


@use_case
def read_tester(ctx: Ctx, tool_id: uuid.UUID, setting: str) -> str:
    """What the (simulated) tester shows of a wrench at a setting, as one would type it. Raises
    NotFound, DocumentErrors."""
    tool_of(ctx, tool_id)
    try:
        figure = parse(setting, "torque").base / 1e3
    except OrthotorqError as error:
        raise DocumentErrors([_field(error, "setting")]) from None
    return "; ".join(
        DEVICES[TESTER].outcome(Asked(figure=figure, seed=ctx.new_id().int & 0x7FFFFFFF)).readings
    )


@use_case
def use_with_error(ctx: Ctx, tool_id: uuid.UUID, reason: str) -> None:
    """Use a wrench that failed with the error that was found: settings are corrected by it (a
    preset one widens the band), and what scatters around it is its accuracy. Raises NotFound,
    Refused."""
    tool = tool_of(ctx, tool_id)
    last = tool.calibrations[-1] if tool.calibrations else None
    if last is None or last.error is None or last.verdict != "fail":
        raise BadField(Refusal.NO_ERROR_FOUND, "reason")
    if not 3 <= len(reason.strip()) <= 200:
        raise BadField(Refusal.REASON_WANTED, "reason")
    errors = [e for p in json.loads(last.points) for e in p["errors"]]
    raw = json.loads(tool.spec)
    around = max(abs(e - last.error) for e in errors) + last.uncertainty
    raw["accuracy"] = (
        round(around + (abs(last.error) if raw["kind"] == "preset driver" else 0.0), 4) or 0.001
    )
    tool.spec, tool.corrected, tool.blocked = json.dumps(raw, ensure_ascii=False), last.error, False
    tool.note = f"{correction_words(tool)} ({ctx.person.name}, {reason.strip()})"[:300]
    tool.calibrations.append(_corrected_check(ctx, tool, last))
    ctx.session.flush()


def _corrected_check(ctx: Ctx, tool: Tool, last: Calibration) -> Calibration:
    """The entry that lets a wrench be used with its error, for half its interval: the old one is
    never edited."""
    return Calibration(
        id=ctx.new_id(),
        tool_id=tool.id,
        at=ctx.now,
        until=ctx.now + timedelta(days=30 * max(1, (tool.interval_months or 12) // 2)),
        certificate="",
        passed=False,
        person_id=ctx.person.id,
        verdict="fail",
        reference=last.reference,
        uncertainty=last.uncertainty,
        limit=last.limit,
        error=last.error,
        worst=last.worst,
        note=tool.note,
        points=last.points,
    )
