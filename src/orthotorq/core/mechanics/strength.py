"""Limits of the bolt and of the faces (VDI 2230-1; ISO 898-1)."""

from __future__ import annotations

import math

from ..errors import Impossible
from ..messages import Message
from .formula import formula

_YIELD = ("R_e", "stress", "yield strength")
_AREA = ("A_s", "area", "tensile stress area")


@formula(
    r"F = \nu\,R_e\,A",
    ("F", "force", "preload"),
    "definition, on the stated area",
    fraction=(r"\nu", "-", "share of yield"),
    yield_strength=_YIELD,
    area=("A", "area", "stress area"),
)
def preload_at_fraction(fraction: float, yield_strength: float, area: float) -> float:
    """Preload [N] at a share of yield [-], yield [MPa], area [mm²], tension only.

    >>> round(preload_at_fraction(0.55, 660.0, 352.504) / 1e3, 2)
    127.96
    """
    return fraction * yield_strength * area


@formula(
    (
        r"F_{max} = \frac{\nu\,R_e\,A_s}{\sqrt{1 + "
        r"3\left[\frac{3}{2}\,\frac{d_2}{d_0}\,\tan(\varphi + \rho')\right]^2}}"
    ),
    (r"F_{max}", "force", "preload at the combined limit"),
    "VDI 2230-1: von Mises, plastic torsion section, tan φ = P/(π d2), tan ρ′ = μt/cos 30°",
    fraction=(r"\nu", "-", "share of yield used at assembly"),
    yield_strength=_YIELD,
    stress_area=_AREA,
    pitch=("P", "length", "pitch"),
    pitch_diameter=("d_2", "length", "pitch diameter"),
    stress_diameter=("d_0", "length", "stress diameter"),
    mu_thread=(r"\mu_t", "-", "thread friction"),
)
def combined_preload(
    fraction: float,
    yield_strength: float,
    stress_area: float,
    pitch: float,
    pitch_diameter: float,
    stress_diameter: float,
    mu_thread: float,
) -> float:
    """Greatest assembly preload [N] under tension with torsion; [MPa], [mm²], [mm], friction [-].

    Check it at the low end of the friction band: low friction gives the high preload. Source: VDI
    2230-1.

    >>> round(combined_preload(0.9, 640.0, 36.609, 1.25, 7.188, 6.827, 0.12) / 1e3, 2)
    18.6
    """
    lead = math.atan(pitch / (math.pi * pitch_diameter))
    flank = math.atan(mu_thread / math.cos(math.radians(30)))
    torsion = 1.5 * pitch_diameter / stress_diameter * math.tan(lead + flank)
    return fraction * yield_strength * stress_area / math.sqrt(1 + 3 * torsion**2)


@formula(
    r"F = p\,\frac{\pi}{4}\left(d_w^2 - d_h^2\right)",
    ("F", "force", "clamp at the pressure limit"),
    "VDI 2230-1: pressure under the head",
    pressure=("p", "stress", "limit of the part"),
    face_diameter=("d_w", "length", "outer diameter of the bearing face"),
    hole=("d_h", "length", "hole diameter"),
)
def clamp_at_bearing_pressure(pressure: float, face_diameter: float, hole: float) -> float:
    """Clamp load [N] at which the pressure under a flat face reaches a limit [MPa]; diameters [mm].

    >>> round(clamp_at_bearing_pressure(710.0, 33.61, 26.0) / 1e3, 1)
    253.0
    """
    if not 0 < hole < face_diameter:
        raise Impossible(Message.FACE_IMPOSSIBLE, hole=f"{hole:g}", face=f"{face_diameter:g}")
    return pressure * math.pi / 4 * (face_diameter**2 - hole**2)


@formula(
    r"F = \frac{\sigma\,A_g}{n}",
    ("F", "force", "clamp load of one bolt"),
    "mean stress on the contact area",
    stress=(r"\sigma", "stress", "gasket stress"),
    contact_area=("A_g", "area", "gasket contact area"),
    bolts=("n", "-", "number of bolts"),
)
def clamp_at_gasket_stress(stress: float, contact_area: float, bolts: float) -> float:
    """Clamp load of one of n bolts [N] at a mean gasket stress [MPa] on a contact area [mm²],
    without end force.

    >>> round(clamp_at_gasket_stress(60.0, 20000.0, 16))
    75000
    """
    return stress * contact_area / bolts


@formula(
    r"A_g = \frac{\pi}{4}\left(D^2 - d^2\right)",
    ("A_g", "area", "gasket contact area"),
    "geometry of a ring",
    outside=("D", "length", "outside diameter"),
    inside=("d", "length", "inside diameter"),
)
def ring_area(outside: float, inside: float) -> float:
    """Area [mm²] of a ring of outside and inside diameter [mm].

    >>> round(ring_area(120.0, 100.0), 1)
    3455.8
    """
    if not 0 <= inside < outside:
        raise Impossible(
            Message.RANGE_REVERSED, low=f"inside {inside:g}", high=f"outside {outside:g} mm"
        )
    return math.pi / 4 * (outside**2 - inside**2)
