"""Settings: what to put on the wrench for a torque at the bolt, and what the scale, the hand and
the reaction say."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache

from ....documents.plan import Plan
from ....documents.tooling import Adapter, Multiplier, Tool
from ....errors import Impossible
from ....forms.setting import LinkOut, ScaleOut, SettingOut
from ....mechanics import tools as mech
from ....tables.materials import drives
from ....units import convert, show
from .sources import second_unit

#: kinds whose class is 6 % whatever their range (ISO 6789)
_SIX_PERCENT = ("beam wrench", "preset driver")


def accuracy_of(tool: Tool) -> float:
    """Accuracy of a wrench as a share: its own, else that of its class."""
    return tool.accuracy or mech.default_accuracy(tool.range[1].base, tool.kind in _SIX_PERCENT)


@dataclass(frozen=True, slots=True)
class Chain:
    """A wrench with what stands between it and the bolt; accuracies are shares."""

    id: str
    tool_id: str
    tool: Tool
    adapter: Adapter | None
    multipliers: tuple[Multiplier, ...]
    #: the error of the wrench that was found by a check, (set - reference) / reference, and is made
    #: good by setting it otherwise
    corrected: float = 0.0

    @property
    def accuracies(self) -> tuple[float, ...]:
        """Wrench, then half the efficiency band of each multiplier: separate contributions."""
        bands = [(m.band[2] - m.band[0]) / (2 * m.band[1]) for m in self.multipliers]
        return (accuracy_of(self.tool), *[b for b in bands if b > 0])

    def input_of(self, torque: float) -> tuple[float, float]:
        """(wrench setting, torque into the first multiplier or the bolt), N·mm, for a torque at the
        bolt."""
        drive = torque
        for m in self.multipliers:
            drive = mech.multiplier_setting(drive, m.multiplier, m.band[1])
        setting = drive
        if self.adapter is not None:
            length = self.tool.length.base if self.tool.length else 0.0
            setting = mech.adapter_setting(
                drive, length, self.adapter.adapter.base, self.adapter.angle.base
            )
        return setting * (1 + self.corrected), drive

    def most(self) -> dict[str, float]:
        """Torques [N·mm] at the bolt that wrench and drive can give."""
        setting, _ = self.input_of(1e6)
        out = {"wrench": self.tool.range[1].base * 1e6 / setting}
        if self.tool.drive:
            out["drive"] = drives()[self.tool.drive] * 1e6 / setting
        return out


def chain_of(plan: Plan, name: str) -> Chain:
    """The chain of an id of a checked plan."""
    first, *rest = plan.chains[name]
    assert isinstance(first, str)
    adapters = [x for x in rest if isinstance(x, Adapter)]
    multipliers = tuple(x for x in rest if isinstance(x, Multiplier))
    return Chain(name, first, plan.tools[first], adapters[0] if adapters else None, multipliers)


def wrench_unit(tool: Tool) -> str:
    """The unit the wrench is graduated in: the unit its range was typed in."""
    unit: str = tool.range[1].quantity.unit
    return unit


def figure(value: float, unit: str, increment: float | None) -> str:
    """A setting in the wrench's unit with as many digits as its increment has."""
    shown = convert(value, "torque", unit)
    return show(shown, 4) if increment is None else f"{shown:.{_decimals(increment, unit)}f}"


@lru_cache(maxsize=256)
def _decimals(increment: float, unit: str) -> int:
    step = convert(increment, "torque", unit)
    return next((d for d in range(4) if abs(round(step, d) - step) < 1e-6), 3)


def scale_out(value: float, unit: str, mark: float, increment: float) -> ScaleOut:
    """How a setting [N·mm] reads on a scale with main marks and collar lines so far apart [N·mm],
    in a unit."""
    below, over = mech.scale_reading(value, mark)
    around = (2, 1, 0, -1, -2)
    return ScaleOut(
        main=figure(below, unit, mark),
        collar=figure(over, unit, increment),
        mark=figure(mark, unit, mark),
        mains=[figure(below + n * mark, unit, mark) for n in around],
        # the collar goes round: behind its last line stands its first
        collars=[figure((over + n * increment) % mark, unit, increment) for n in around],
    )


def scale_of(value: float, tool: Tool) -> ScaleOut | None:
    """Main mark passed and collar figure of a two-part scale, in the wrench's unit."""
    if tool.mark is None or tool.increment is None:
        return None
    return scale_out(value, wrench_unit(tool), tool.mark.base, tool.increment.base)


def links_of(chain: Chain) -> list[LinkOut]:
    """The chain from hand to bolt."""
    length = chain.tool.length
    out = [
        LinkOut(
            kind="wrench",
            text=chain.tool.name or chain.tool.kind,
            length_mm=length.base if length else None,
        )
    ]
    if chain.adapter is not None:
        out.append(
            LinkOut(
                kind="adapter",
                text=str(chain.adapter.adapter),
                length_mm=chain.adapter.adapter.base,
                angle_deg=round(math.degrees(chain.adapter.angle.base), 3),
            )
        )
    out += [
        LinkOut(
            kind="multiplier",
            text=f"{m.multiplier:g}:1",
            ratio=m.multiplier,
            arm_mm=m.arm.base if m.arm else None,
            rests_on=m.rests_on,
        )
        for m in chain.multipliers
    ]
    return out


def _settable(
    chain: Chain, torque: float, ceiling: float | None
) -> tuple[float, float, mech.Settable]:
    """(exact setting, torque behind the adapter, what the scale gives), N·mm; a pass that goes
    beyond the ceiling on purpose has none. Raises Impossible when the scale cannot give it."""
    exact, drive = chain.input_of(torque)
    top = None if ceiling is None or ceiling < torque * (1 - 1e-9) else exact * ceiling / torque
    return (
        exact,
        drive,
        mech.settable(exact, chain.tool.increment.base if chain.tool.increment else None, top),
    )


def set_at_bolt(chain: Chain, torque: float, ceiling: float | None) -> float:
    """The torque at the bolt [N·mm] that the scale gives for a wanted one. Raises Impossible when
    it cannot give it."""
    exact, _, found = _settable(chain, torque, ceiling)
    return torque * found.value / exact


def setting_of(chain: Chain, torque_Nm: float, ceiling_Nm: float | None) -> SettingOut:
    """What to set on a chain for a torque at the bolt [N·m]: the one writer, for the plan and for
    tools bound to a run.

    The ceiling [N·m] is the torque that rounding to a scale may not pass. Raises Impossible when
    the scale cannot give it.
    """
    torque = torque_Nm * 1e3
    exact, drive, found = _settable(chain, torque, None if ceiling_Nm is None else ceiling_Nm * 1e3)
    increment, unit = (
        chain.tool.increment.base if chain.tool.increment else None,
        wrench_unit(chain.tool),
    )
    at_bolt = torque * found.value / exact
    reaction = (
        mech.reaction_torque(at_bolt, drive * found.value / exact) if chain.multipliers else None
    )
    arm = chain.multipliers[-1].arm if chain.multipliers else None
    shown = figure(found.value, unit, increment)
    return SettingOut(
        chain=chain.id,
        tool=chain.tool.name or chain.tool.kind,
        exact_Nm=exact / 1e3,
        settable_Nm=found.value / 1e3,
        error=found.error,
        text=f"{shown} {unit}",
        unit=unit,
        figure=shown,
        second=second_unit(found.value, unit),
        bolt_torque_Nm=at_bolt / 1e3,
        hand_force_N=mech.hand_force(found.value, chain.tool.length.base)
        if chain.tool.length
        else None,
        reaction_Nm=reaction / 1e3 if reaction is not None else None,
        reaction_N=reaction / arm.base if reaction is not None and arm is not None else None,
        scale=scale_of(found.value, chain.tool),
        links=links_of(chain),
        preset=chain.tool.kind == "preset driver",
        corrected=_corrected(chain, found.value),
    )


def _corrected(chain: Chain, exact: float) -> str:
    """What is said of a wrench that is set otherwise than it should read."""
    if not chain.corrected:
        return ""
    high = "high" if chain.corrected > 0 else "low"
    meant = figure(exact / (1 + chain.corrected), wrench_unit(chain.tool), None)
    return (
        f"{chain.tool.name or chain.tool.kind} reads {abs(chain.corrected) * 100:.1f} % "
        f"{high}: this gives {meant} "
        f"{wrench_unit(chain.tool)}"
    )


def settings_of(
    chains: Iterable[Chain], torque_Nm: float, ceiling_Nm: float | None
) -> list[SettingOut]:
    """What to set on every chain; a chain whose scale cannot give it is left out."""
    out = []
    for chain in chains:
        try:
            out.append(setting_of(chain, torque_Nm, ceiling_Nm))
        except Impossible:
            continue
    return out
