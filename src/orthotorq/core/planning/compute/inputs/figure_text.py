"""Figures as findings say them."""

from __future__ import annotations

from ....units import show_quantity


def kilonewton(newton: float) -> str:
    """Clamp load as read by people."""
    return show_quantity(newton, "force", "kN", 3)


def newton_metre(base: float, digits: int = 4) -> str:
    """Torque as read by people."""
    return show_quantity(base, "torque", "N·m", digits)


def percent(share: float, digits: int = 3) -> str:
    """A share in percent with so many significant digits."""
    return f"{share * 100:.{digits}g} %"
