"""What is put on a wrench, and how it reads."""

from __future__ import annotations

from typing import Literal

from .base import Out


class ScaleOut(Out):
    """How a setting reads on a two-part scale: last main mark passed and the collar's figure, in
    the wrench's unit.

    `mains` and `collars` are five neighbouring lines of each, the setting in the middle, from above
    to below.
    """

    main: str
    collar: str
    mark: str
    mains: list[str] = []
    collars: list[str] = []


class LinkOut(Out):
    """One link between hand and bolt, for drawing the chain: lengths in mm, angle in degrees off
    the handle's line."""

    kind: Literal["wrench", "adapter", "multiplier"]
    text: str
    length_mm: float | None = None
    angle_deg: float | None = None
    ratio: float | None = None
    arm_mm: float | None = None
    rests_on: str | None = None


class SettingOut(Out):
    """What to set on a wrench for one pass."""

    chain: str
    tool: str
    exact_Nm: float
    settable_Nm: float
    error: float
    text: str
    unit: str
    figure: str
    second: str
    bolt_torque_Nm: float
    hand_force_N: float | None
    reaction_Nm: float | None
    reaction_N: float | None
    scale: ScaleOut | None
    links: list[LinkOut] = []
    preset: bool = False
    #: that the wrench is set otherwise than it should read, and why; empty where it is not
    corrected: str = ""
