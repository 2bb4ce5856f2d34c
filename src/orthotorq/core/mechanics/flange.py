"""Assembly bolt stress of a flange by component (the approach of ASME PCC-1's appendix): stresses
on the bolt's root area."""

from __future__ import annotations

import math

from .formula import formula

_SOURCE = "the component approach of ASME PCC-1's appendix on assembly bolt stress"
_AG = ("A_g", "area", "gasket contact area")
_AB = ("A_b", "area", "root area of a bolt")
_N = ("n_b", "-", "number of bolts")
#: share of the assembly stress that relaxation leaves, when nothing better is known
RELAXATION = 0.7


@formula(
    r"S = S_g\,\frac{A_g}{n_b A_b}",
    ("S", "stress", "bolt stress"),
    _SOURCE,
    gasket_stress=("S_g", "stress", "gasket stress"),
    gasket_area=_AG,
    bolts=_N,
    root_area=_AB,
)
def bolt_stress_for(
    gasket_stress: float, gasket_area: float, bolts: float, root_area: float
) -> float:
    """Bolt stress [MPa] that gives a gasket stress [MPa]; areas [mm²].

    >>> round(bolt_stress_for(80.0, 20_000.0, 16.0, 324.0), 1)
    308.6
    """
    return gasket_stress * gasket_area / (bolts * root_area)


@formula(
    r"S = \frac{S_g A_g + \frac{\pi}{4} p\,G_i^2}{\varphi_g\,n_b A_b}",
    ("S", "stress", "bolt stress"),
    _SOURCE,
    gasket_stress=("S_g", "stress", "gasket stress in operation"),
    gasket_area=_AG,
    pressure=("p", "stress", "pressure"),
    inside=("G_i", "length", "inside diameter of the gasket"),
    relaxation=(r"\varphi_g", "-", "share that relaxation leaves"),
    bolts=_N,
    root_area=_AB,
)
def bolt_stress_in_operation(
    gasket_stress: float,
    gasket_area: float,
    pressure: float,
    inside: float,
    relaxation: float,
    bolts: float,
    root_area: float,
) -> float:
    """Bolt stress [MPa] that keeps a gasket stress [MPa] under pressure [MPa] after relaxation;
    sizes [mm], [mm²].

    >>> round(bolt_stress_in_operation(30.0, 20_000.0, 1.6, 400.0, 0.7, 16.0, 324.0), 1)
    220.8
    """
    return (gasket_stress * gasket_area + math.pi / 4 * pressure * inside**2) / (
        relaxation * bolts * root_area
    )


@formula(
    r"S = S_f\,\frac{\theta_g}{\theta_f}",
    ("S", "stress", "bolt stress"),
    _SOURCE,
    flange=("S_f", "stress", "allowable bolt stress of the flange"),
    gasket_rotation=(r"\theta_g", "angle", "allowable rotation of the gasket"),
    flange_rotation=(r"\theta_f", "angle", "rotation of the flange at its limit"),
)
def bolt_stress_for_rotation(
    flange: float, gasket_rotation: float, flange_rotation: float
) -> float:
    """Bolt stress [MPa] at which a flange turns as far as its gasket bears; rotations [rad].

    >>> bolt_stress_for_rotation(400.0, 0.3, 0.5)
    240.0
    """
    return flange * gasket_rotation / flange_rotation


@formula(
    r"F = S\,A_b",
    ("F", "force", "bolt load"),
    "definition",
    stress=("S", "stress", "bolt stress"),
    root_area=_AB,
)
def bolt_load(stress: float, root_area: float) -> float:
    """Load of one bolt [N] at a stress [MPa] on its root area [mm²].

    >>> bolt_load(300.0, 324.0)
    97200.0
    """
    return stress * root_area
