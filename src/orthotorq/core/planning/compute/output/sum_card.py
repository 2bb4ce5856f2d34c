"""The wrench card of a quick sum: the same picture as on the Bench."""

from __future__ import annotations

import math

from ....forms.setting import LinkOut, SettingOut
from ....sums import Answer
from ....units import show
from ..inputs.sources import second_unit
from ..inputs.wrench_settings import scale_out

#: lines of a collar whose division is not given
COLLAR_LINES = 10


def sum_card(found: Answer) -> SettingOut | None:
    """The card of a sum about a tool, or None for any other sum. Torques of a sum are in N·m."""
    chain, figures = found.chain, found.figures
    if chain is None:
        return None
    settable = figures["settable_Nm"]
    exact = figures.get("setting_Nm", settable)
    links = [LinkOut(kind="wrench", text="wrench", length_mm=chain.length)]
    if chain.adapter is not None:
        links.append(
            LinkOut(
                kind="adapter",
                text=f"{chain.adapter:g} mm",
                length_mm=chain.adapter,
                angle_deg=round(math.degrees(chain.angle), 3),
            )
        )
    links += [
        LinkOut(kind="multiplier", text=f"{r:g}:1", ratio=r, arm_mm=chain.arm) for r in chain.ratios
    ]
    scale = None
    if chain.mark is not None:
        scale = scale_out(
            settable * 1e3, "N·m", chain.mark, chain.increment or chain.mark / COLLAR_LINES
        )
    figure = show(settable, 4)
    return SettingOut(
        chain="sum",
        tool="wrench",
        exact_Nm=exact,
        settable_Nm=settable,
        error=figures["error_percent"] / 100,
        text=f"{figure} N·m",
        unit="N·m",
        figure=figure,
        second=second_unit(settable * 1e3, "N·m"),
        bolt_torque_Nm=settable,
        hand_force_N=figures.get("hand_force_N"),
        reaction_Nm=figures.get("reaction_torque_Nm"),
        reaction_N=figures.get("reaction_force_N"),
        scale=scale,
        links=links,
    )
