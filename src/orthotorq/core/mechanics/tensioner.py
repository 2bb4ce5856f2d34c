"""Stretching with a hydraulic tensioner: the load while it is pumped, and what is left of it."""

from __future__ import annotations

from .formula import formula

_SOURCE = "statics; the transfer factor as a common rule, in place of the tool's sheet"
#: a nut that was run down by hand never keeps more than this share's inverse
LEAST_TRANSFER = 1.05


@formula(
    r"F_h = \eta\, p\, A",
    ("F_h", "force", "load while pumped"),
    _SOURCE,
    efficiency=(r"\eta", "-", "efficiency of the tool"),
    pressure=("p", "stress", "pressure"),
    area=("A", "area", "ring area of the tool"),
)
def pumped_load(efficiency: float, pressure: float, area: float) -> float:
    """Load [N] of a bolt while the tool is pumped; pressure [MPa], ring area [mm²].

    >>> round(pumped_load(1.0, 90.0, 1530.0))
    137700
    """
    return efficiency * pressure * area


@formula(
    r"f = 1.01 + \frac{d}{l_K}",
    ("f", "-", "load transfer factor"),
    _SOURCE,
    approximation="a common rule, typical; the tool's sheet says it better",
    diameter=("d", "length", "nominal diameter"),
    grip=("l_K", "length", "clamped length"),
)
def transfer_factor(diameter: float, grip: float) -> float:
    """Load while pumped over the load that is left; diameter and grip [mm]. Never below 1.05.

    >>> round(transfer_factor(24.0, 90.0), 4), transfer_factor(10.0, 1000.0)
    (1.2767, 1.05)
    """
    return max(LEAST_TRANSFER, 1.01 + diameter / grip)


@formula(
    r"F_{left} = \frac{F_h}{f}",
    ("F_{left}", "force", "load that is left"),
    _SOURCE,
    pumped=("F_h", "force", "load while pumped"),
    transfer=("f", "-", "load transfer factor"),
)
def load_left(pumped: float, transfer: float) -> float:
    """Load [N] that is left when the pressure is let off and the bolt shortens onto its parts.

    >>> round(load_left(137_700.0, 1.27667))
    107859
    """
    return pumped / transfer
