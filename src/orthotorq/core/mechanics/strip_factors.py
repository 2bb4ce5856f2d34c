"""Stripping with strength ratio and nut dilation (Alexander; VDI 2230-1), beside the plain form of
engagement.py."""

from __future__ import annotations

from dataclasses import dataclass

from .formula import Step, explain, formula

_SOURCE = "Alexander; VDI 2230-1, strength ratio and dilation"
_RS = ("R_s", "-", "strength ratio")
_C1 = ("C_1", "-", "dilation factor")
_TAU_B = (r"\tau_b", "stress", "shear strength of the external thread")
_TAU_N = (r"\tau_n", "stress", "shear strength of the internal thread")
_A_B, _A_N = (
    ("A_b", "area", "shear area of the external thread"),
    ("A_n", "area", "shear area of the internal thread"),
)


@formula(
    r"R_s = \frac{\tau_n A_n}{\tau_b A_b}",
    _RS,
    _SOURCE,
    internal_shear=_TAU_N,
    internal_area=_A_N,
    external_shear=_TAU_B,
    external_area=_A_B,
)
def strength_ratio(
    internal_shear: float, internal_area: float, external_shear: float, external_area: float
) -> float:
    """Strength of the internal over that of the external thread [-]; [MPa], [mm²].

    >>> strength_ratio(300.0, 700.0, 480.0, 520.0) < 1
    True
    """
    return internal_shear * internal_area / (external_shear * external_area)


@formula(
    r"C_1 = 3.8\,\frac{s}{d} - \left(\frac{s}{d}\right)^2 - 2.61",
    _C1,
    _SOURCE,
    approximation="1 outside 1.4 to 1.9 of s/d, and for a tapped part",
    across_flats=("s", "length", "width across flats"),
    diameter=("d", "length", "nominal diameter"),
)
def dilation_factor(across_flats: float, diameter: float) -> float:
    """What the widening of a nut takes: factor of both threads; sizes [mm].

    >>> round(dilation_factor(24.0, 16.0), 3), dilation_factor(32.0, 16.0)
    (0.84, 1.0)
    """
    ratio = across_flats / diameter
    return 3.8 * ratio - ratio**2 - 2.61 if 1.4 <= ratio < 1.9 else 1.0


@formula(
    r"C_2 = 5.594 - 13.682 R_s + 14.107 R_s^2 - 6.057 R_s^3 + 0.9353 R_s^4",
    ("C_2", "-", "factor of the external thread"),
    _SOURCE,
    approximation="0.897 up to a ratio of 1; as at 2.2 above",
    ratio=_RS,
)
def external_factor(ratio: float) -> float:
    """What bending of the teeth takes from the external thread [-], by the strength ratio [-].

    >>> external_factor(0.8), round(external_factor(1.2), 3)
    (0.897, 0.963)
    """
    if ratio <= 1:
        return 0.897
    r = min(ratio, 2.2)
    return 5.594 - 13.682 * r + 14.107 * r**2 - 6.057 * r**3 + 0.9353 * r**4


@formula(
    r"C_3 = 0.728 + 1.769 R_s - 2.896 R_s^2 + 1.296 R_s^3",
    ("C_3", "-", "factor of the internal thread"),
    _SOURCE,
    approximation="0.897 from a ratio of 1; as at 0.4 below",
    ratio=_RS,
)
def internal_factor(ratio: float) -> float:
    """What bending of the teeth takes from the internal thread [-], by the strength ratio [-].

    >>> internal_factor(1.3), round(internal_factor(0.6), 3)
    (0.897, 1.027)
    """
    if ratio >= 1:
        return 0.897
    r = max(ratio, 0.4)
    return 0.728 + 1.769 * r - 2.896 * r**2 + 1.296 * r**3


@formula(
    r"F = \tau\,A\,C_1 C",
    ("F", "force", "load at which the thread strips"),
    _SOURCE,
    shear=(r"\tau", "stress", "shear strength"),
    area=("A", "area", "shear area"),
    dilation=_C1,
    factor=("C", "-", "factor of the thread"),
)
def stripping_with_dilation(shear: float, area: float, dilation: float, factor: float) -> float:
    """Load [N] at which a thread strips; [MPa], [mm²].

    >>> round(stripping_with_dilation(300.0, 700.0, 0.84, 0.897))
    158231
    """
    return shear * area * dilation * factor


@dataclass(frozen=True, slots=True)
class Dilation:
    """Stripping with strength ratio and dilation, each with its working; without `widens` the part
    does not widen. Factors and loads are of the bolt's thread, then of the nut's."""

    ratio: Step
    widens: Step | None
    factors: tuple[Step, Step]
    loads: tuple[Step, Step]


def with_dilation(
    shears: tuple[float, float],
    areas: tuple[Step, Step],
    across_flats: float | None,
    diameter: float,
) -> Dilation:
    """Loads [N] at which the bolt's and the nut's thread strip. Shear strengths [MPa] and areas of
    the bolt's thread, then of the nut's; width across flats of the nut [mm], None for a part that
    does not widen; diameter [mm]."""
    ratio = explain(
        strength_ratio,
        internal_shear=shears[1],
        internal_area=areas[1].value,
        external_shear=shears[0],
        external_area=areas[0].value,
    )
    widens = (
        explain(dilation_factor, across_flats=across_flats, diameter=diameter)
        if across_flats is not None
        else None
    )
    factors = (
        explain(external_factor, ratio=ratio.value),
        explain(internal_factor, ratio=ratio.value),
    )
    external, internal = (
        explain(
            stripping_with_dilation,
            shear=shear,
            area=area.value,
            dilation=widens.value if widens else 1.0,
            factor=factor.value,
        )
        for shear, area, factor in zip(shears, areas, factors, strict=True)
    )
    return Dilation(ratio, widens, factors, (external, internal))
