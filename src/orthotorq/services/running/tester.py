"""A wrench on a torque tester before it is used: three pulls at three fifths of its range, against
what its class allows."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy import select

from ...core.messages import Refusal
from ...core.planning.compute.inputs.wrench_settings import accuracy_of
from ...core.units import parse, show
from ...devices.protocol import Asked
from ...devices.simulated import DEVICES
from ...store.models import Tool
from ..context import Ctx
from ..errors import BadField, NotFound
from ..permissions import use_case
from ..toolroom.tools import spec_of

#: the share of its range at which a wrench is tried; the ends are for its calibration
TRIED_AT = 0.6


@dataclass(frozen=True, slots=True)
class Tested:
    """How a wrench read: whether every pull lies within its class, and that in words."""

    good: bool
    words: str


@use_case
def test_tool(ctx: Ctx, serial: str, device: str) -> Tested:
    """Three pulls of a wrench on a tester. Raises NotFound, BadField for what is no tester."""
    tool, tester = (
        ctx.session.scalar(select(Tool).where(Tool.serial == serial)),
        DEVICES.get(device),
    )
    if tool is None:
        raise NotFound("wrench")
    if tester is None or tester.answers != "check":
        raise BadField(Refusal.NO_SUCH_DEVICE, "device")
    spec = spec_of(tool)
    set_to = float(show(TRIED_AT * spec.range[1].base / 1e3, 2).replace(",", ""))
    read = tester.outcome(Asked(figure=set_to, seed=ctx.new_id().int & 0x7FFFFFFF)).readings
    off = max((parse(text, "torque").base / 1e3 / set_to - 1 for text in read), key=abs)
    allowed = accuracy_of(spec)
    good = abs(off) <= allowed
    return Tested(
        good,
        f"{tester.name}: set to {set_to:g} N·m, read {', '.join(read)}; at most "
        f"{off * 100:+.1f} % off, "
        f"{'within' if good else 'outside'} ±{allowed * 100:.0f} %",
    )
