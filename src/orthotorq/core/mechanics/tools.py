"""Wrench, offset adapter, multiplier: what to set, what reacts (statics; ISO 6789 for accuracy)."""

from __future__ import annotations

import math
from dataclasses import dataclass
from decimal import ROUND_FLOOR, ROUND_HALF_UP, Decimal

from ..errors import Impossible
from ..messages import Message
from .formula import formula


@formula(
    r"M = T\,\frac{L}{L + E\cos a}",
    ("M", "torque", "setting"),
    "statics: hand force at the grip, square to it",
    torque=("T", "torque", "torque at the adapter"),
    length=("L", "length", "drive to grip centre"),
    adapter=("E", "length", "adapter length"),
    angle=("a", "angle", "angle off the handle's line"),
)
def adapter_setting(torque: float, length: float, adapter: float, angle: float) -> float:
    """Setting [N·mm] for a torque [N·mm] through an offset adapter at the wrench; lengths [mm],
    angle [rad].

    0 is straight out, pi/2 changes nothing, pi is folded back. Raises Impossible when the adapter
    folded back reaches the grip.

    >>> (round(adapter_setting(400e3, 900.0, 100.0, 0.0)), round(adapter_setting(400e3, 900.0,
    ...  100.0, math.pi / 2)))
    (360000, 400000)
    """
    lever = length + adapter * math.cos(angle)
    if lever <= 0.2 * length:
        raise Impossible(
            Message.CHAIN_IMPOSSIBLE,
            what=f"A {adapter:g} mm adapter folded back reaches the grip of a {length:g} mm wrench",
        )
    return torque * length / lever


@formula(
    r"M = \frac{T}{r\,e}",
    ("M", "torque", "setting"),
    "statics of a planetary multiplier",
    torque=("T", "torque", "torque at the bolt"),
    ratio=("r", "-", "ratio"),
    efficiency=("e", "-", "efficiency"),
)
def multiplier_setting(torque: float, ratio: float, efficiency: float) -> float:
    """Input [N·mm] of a multiplier for a torque [N·mm] at the bolt; ratio [-], efficiency [-].

    >>> round(multiplier_setting(1700e3, 5.0, 0.9) / 1e3, 2)
    377.78
    """
    return torque / (ratio * efficiency)


@formula(
    r"M_R = T - \frac{T}{r\,e}",
    ("M_R", "torque", "reaction torque"),
    "statics: input and output turn the same way",
    torque=("T", "torque", "torque at the bolt"),
    setting=(r"\tfrac{T}{r e}", "torque", "input torque"),
)
def reaction_torque(torque: float, setting: float) -> float:
    """Torque [N·mm] by which the housing of a multiplier reacts.

    >>> round(reaction_torque(1700e3, 377777.8) / 1e3, 1)
    1322.2
    """
    return torque - setting


@formula(
    r"H = \frac{M}{L}",
    ("H", "force", "hand force"),
    "statics",
    setting=("M", "torque", "setting"),
    length=("L", "length", "drive to grip centre"),
)
def hand_force(setting: float, length: float) -> float:
    """Hand force [N] at the grip for a setting [N·mm] on a wrench of length [mm].

    >>> hand_force(450e3, 900.0)
    500.0
    """
    return setting / length


@dataclass(frozen=True, slots=True)
class Settable:
    """What the scale allows: the figure [N·mm] and its deviation from the exact one [-]."""

    value: float
    error: float


def settable(exact: float, increment: float | None, ceiling: float | None = None) -> Settable:
    """Round a setting [N·mm] to the wrench's increment [N·mm]: nearest, half upwards, never above
    `ceiling` [N·mm].

    Raises Impossible when no mark of the scale lies above zero and below the ceiling.

    >>> settable(316.0e3, 5.0e3).value, settable(12.5e3, 5.0e3).value
    (315000.0, 15000.0)
    """
    if increment is None:
        value = exact if ceiling is None else min(exact, ceiling)
        return Settable(value, value / exact - 1)
    # decimals of the printed figure: binary halves must not decide which way 12.5 rounds
    unit, figure = Decimal(repr(round(increment, 9))), Decimal(repr(round(exact, 6)))
    marks = (figure / unit).quantize(Decimal(1), ROUND_HALF_UP)
    if ceiling is not None:
        top = (Decimal(repr(round(ceiling, 6))) / unit).quantize(Decimal(1), ROUND_FLOOR)
        marks = min(marks, top)
    if marks <= 0:
        raise Impossible(
            Message.CHAIN_IMPOSSIBLE,
            what=(
                f"The wrench's increment of {increment / 1e3:g} N·m is too coarse for "
                f"{exact / 1e3:g} N·m"
            ),
        )
    value = float(marks * unit)
    return Settable(value, value / exact - 1)


def default_accuracy(maximum: float, coarse: bool = False) -> float:
    """Accuracy [-] where a tool's own is unknown (ISO 6789): 6 % to 10 N·m, for beam types and for
    screwdrivers, else 4 %.

    >>> default_accuracy(600e3), default_accuracy(8e3)
    (0.04, 0.06)
    """
    return 0.06 if coarse or maximum <= 10e3 else 0.04


def scale_reading(setting: float, mark: float) -> tuple[float, float]:
    """(last main mark passed, collar) of a setting on a two-part scale with main marks so far
    apart; all [N·mm].

    >>> scale_reading(136e3, 10e3)
    (130000.0, 6000.0)
    """
    below = mark * math.floor(setting / mark + 1e-9)
    return below, max(0.0, setting - below)
