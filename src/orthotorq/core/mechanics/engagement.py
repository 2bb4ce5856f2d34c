"""Stripping of engaged threads on basic sizes (VDI 2230-1; shear areas of ISO metric and unified
threads)."""

from __future__ import annotations

import math

from ..tables.threads import Thread
from .formula import Step, explain, formula

_M = ("m", "length", "engaged length")
_P = ("P", "length", "pitch")
_D2 = ("d_2", "length", "pitch diameter")


@formula(
    r"A = \pi d\,\frac{m}{P}\left[\frac{P}{2} + \frac{d - D_2}{\sqrt{3}}\right]",
    ("A_i", "area", "shear area of the internal thread"),
    "basic sizes of ISO 68-1 / ASME B1.1",
    diameter=("d", "length", "nominal diameter"),
    engaged=_M,
    pitch=_P,
    pitch_diameter=_D2,
)
def internal_shear_area(
    diameter: float, engaged: float, pitch: float, pitch_diameter: float
) -> float:
    """Shear area [mm²] of the internal thread over an engaged length [mm]; sizes [mm].

    >>> round(internal_shear_area(16.0, 16.0, 2.0, 14.701), 1)
    703.7
    """
    return (
        math.pi
        * diameter
        * engaged
        / pitch
        * (pitch / 2 + (diameter - pitch_diameter) / math.sqrt(3))
    )


@formula(
    r"A = \pi D_1\,\frac{m}{P}\left[\frac{P}{2} + \frac{d_2 - D_1}{\sqrt{3}}\right]",
    ("A_e", "area", "shear area of the external thread"),
    "basic sizes of ISO 68-1 / ASME B1.1",
    internal_minor=("D_1", "length", "minor diameter of the internal thread"),
    engaged=_M,
    pitch=_P,
    pitch_diameter=_D2,
)
def external_shear_area(
    internal_minor: float, engaged: float, pitch: float, pitch_diameter: float
) -> float:
    """Shear area [mm²] of the external thread over an engaged length [mm]; sizes [mm].

    >>> round(external_shear_area(13.835, 16.0, 2.0, 14.701), 1)
    521.6
    """
    return (
        math.pi
        * internal_minor
        * engaged
        / pitch
        * (pitch / 2 + (pitch_diameter - internal_minor) / math.sqrt(3))
    )


@formula(
    r"m = \frac{F}{\tau\,A'}",
    ("m", "length", "length that carries the load"),
    "shear over the engaged length",
    load=("F", "force", "load to be transmitted"),
    shear=(r"\tau", "stress", "shear strength"),
    area_per_length=("A'", "length", "shear area per length"),
)
def required_engagement(load: float, shear: float, area_per_length: float) -> float:
    """Engaged length [mm] that carries a load [N] at a shear strength [MPa]; area per length [mm].

    Incomplete threads at the ends are not in it: add one pitch, shown apart.

    >>> round(required_engagement(100e3, 290.0, 43.98), 2)
    7.84
    """
    return load / (shear * area_per_length)


@formula(
    r"F = \tau\,A",
    ("F", "force", "load the thread carries"),
    "shear over the engaged length",
    shear=(r"\tau", "stress", "shear strength"),
    area=("A", "area", "shear area"),
)
def stripping_load(shear: float, area: float) -> float:
    """Load [N] at which a thread of a shear area [mm²] strips at a shear strength [MPa].

    >>> round(stripping_load(150.0, 703.7))
    105555
    """
    return shear * area


def shear_areas(thread: Thread, engaged: float) -> tuple[Step, Step]:
    """Shear areas [mm²] of the nut's and of the bolt's thread over an engaged length [mm], each
    with its working."""
    inside = explain(
        internal_shear_area,
        diameter=thread.diameter,
        engaged=engaged,
        pitch=thread.pitch,
        pitch_diameter=thread.pitch_diameter,
    )
    outside = explain(
        external_shear_area,
        internal_minor=thread.internal_minor_diameter,
        engaged=engaged,
        pitch=thread.pitch,
        pitch_diameter=thread.pitch_diameter,
    )
    return inside, outside
