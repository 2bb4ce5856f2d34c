"""Gasket loads (ASME BPVC VIII-1 Appendix 2 for m and y); the gasket maker's stress window comes
first."""

from __future__ import annotations

import math
from dataclasses import dataclass

from .formula import formula
from .strength import ring_area

#: width up to which the effective width is the basic width [mm], in the code's SI and inch editions
NARROW, NARROW_INCH = 6.0, 6.35
_B = ("b", "length", "effective width")
_G = ("G", "length", "reaction diameter")
_PRESSURE = ("p", "stress", "pressure")


@dataclass(frozen=True, slots=True)
class GasketWidths:
    """Contact width N, basic width b0, effective width b, reaction diameter G [mm], contact area
    [mm²]."""

    width: float
    basic: float
    effective: float
    reaction_diameter: float
    area: float


def gasket_widths(outside: float, inside: float, inch: bool = False) -> GasketWidths:
    """Widths of a ring gasket on flat faces from its diameters [mm]. Source: ASME VIII-1 App. 2,
    table 2-5.2.

    b = b0 up to 6 mm (1/4 in for work in inches), else 2.52 sqrt(b0) mm, that is 0.5 sqrt(b0) in; G
    is the mean diameter up to there, else OD - 2b. Raises Impossible when the inside is not smaller
    than the outside.

    >>> gasket_widths(120.0, 100.0).reaction_diameter
    110.0
    """
    area = ring_area(outside, inside)
    width = (outside - inside) / 2
    basic = width / 2
    narrow = basic <= (NARROW_INCH if inch else NARROW) * (1 + 1e-9)
    effective = basic if narrow else 2.52 * math.sqrt(basic)
    reaction = (outside + inside) / 2 if narrow else outside - 2 * effective
    return GasketWidths(width, basic, effective, reaction, area)


@formula(
    r"W_{m2} = \pi\,b\,G\,y",
    ("W_{m2}", "force", "load to seat the gasket"),
    "ASME BPVC VIII-1 App. 2",
    effective=_B,
    reaction_diameter=_G,
    seating=("y", "stress", "seating stress"),
)
def seating_load(effective: float, reaction_diameter: float, seating: float) -> float:
    """Total bolt load [N] that seats the gasket: widths [mm], y [MPa]. Source: ASME VIII-1 App. 2.

    >>> round(seating_load(5.0, 110.0, 69.0))
    119223
    """
    return math.pi * effective * reaction_diameter * seating


@formula(
    r"W_{m1} = \frac{\pi}{4}G^2 p + 2\pi\,b\,G\,m\,p",
    ("W_{m1}", "force", "load in operation"),
    "ASME BPVC VIII-1 App. 2",
    effective=_B,
    reaction_diameter=_G,
    factor=("m", "-", "gasket factor"),
    pressure=_PRESSURE,
)
def operating_load(
    effective: float, reaction_diameter: float, factor: float, pressure: float
) -> float:
    """Total bolt load [N] under pressure [MPa]; widths [mm], m [-]. Source: ASME VIII-1 App. 2.

    >>> round(operating_load(5.0, 110.0, 3.0, 1.6))
    31793
    """
    return (
        end_force(reaction_diameter, pressure)
        + 2 * math.pi * effective * reaction_diameter * factor * pressure
    )


@formula(
    r"H = \frac{\pi}{4}G^2 p",
    ("H", "force", "hydrostatic end force"),
    "ASME BPVC VIII-1 App. 2",
    reaction_diameter=_G,
    pressure=_PRESSURE,
)
def end_force(reaction_diameter: float, pressure: float) -> float:
    """Hydrostatic end force [N] of a pressure [MPa] on the reaction diameter [mm].

    >>> round(end_force(110.0, 1.6))
    15205
    """
    return math.pi / 4 * reaction_diameter**2 * pressure


@formula(
    r"\sigma = \frac{n F - H}{A_g}",
    (r"\sigma", "stress", "mean gasket stress"),
    "mean stress on the contact area",
    bolts=("n", "-", "number of bolts"),
    preload=("F", "force", "preload of one bolt"),
    end=("H", "force", "end force, zero when seating"),
    area=("A_g", "area", "contact area"),
)
def gasket_stress(bolts: float, preload: float, end: float, area: float) -> float:
    """Mean gasket stress [MPa] of n bolts at a preload [N], less an end force [N], on a contact
    area [mm²].

    >>> round(gasket_stress(16, 75e3, 0.0, 20000.0), 1)
    60.0
    """
    return (bolts * preload - end) / area


@formula(
    r"F = F_\sigma + \frac{H}{n}",
    ("F", "force", "clamp of one bolt with the end force"),
    "equilibrium of the joint",
    stress_clamp=("F_\\sigma", "force", "clamp for the gasket stress"),
    end=("H", "force", "hydrostatic end force"),
    bolts=("n", "-", "number of bolts"),
)
def clamp_with_end_force(stress_clamp: float, end: float, bolts: float) -> float:
    """Clamp load [N] of one bolt that keeps the gasket stress while the pressure pulls.

    >>> clamp_with_end_force(50_000.0, 80_000.0, 8.0)
    60000.0
    """
    return stress_clamp + end / bolts


@formula(
    r"F = \frac{W}{n}",
    ("F", "force", "clamp of one bolt"),
    "equilibrium of the joint",
    load=("W", "force", "load of all bolts"),
    bolts=("n", "-", "number of bolts"),
)
def share_of_bolt(load: float, bolts: float) -> float:
    """Clamp load [N] of one bolt from that of all.

    >>> share_of_bolt(96_000.0, 8.0)
    12000.0
    """
    return load / bolts
