"""How far the parts give way at one bolt when another is pulled: a beam on an elastic bed
(mechanics.md 12).

The beam is an approximation: it knows no tilting of the flange and no gap between the faces.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ...errors import Impossible
from ...messages import Message
from ...planning.orders import MAX_BOLTS

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Joint:
    """Bolts on parts that give way.

    `compliance` (n, n) mm/N: approach of the parts at bolt i by a load on bolt j; `bolt_stiffness`
    (n,) N/mm; `arms` (n, 2) mm: where each bolt is, from the centre.
    """

    compliance: Array
    bolt_stiffness: Array
    arms: Array

    @property
    def count(self) -> int:
        """Number of bolts."""
        return len(self.bolt_stiffness)

    @property
    def flexibility(self) -> Array:
        """(n, n) mm/N: take-up of nut i for a load on bolt j, `I/k_b + C`."""
        return self.compliance + np.diag(1 / self.bolt_stiffness)


def _positive(**values: float) -> None:
    """Raise Impossible unless every value is a finite number above zero."""
    for name, value in values.items():
        if not (math.isfinite(value) and value > 0):
            raise Impossible(
                Message.OUT_OF_RANGE, (name,), value=f"{value:g}", range="a number above 0"
            )


#: a joint whose softest and stiffest way of giving differ by more is not computed: its digits are
#: used up
_MOST_APART = 1e9


def _computable(joint: Joint) -> Joint:
    """The joint, or Impossible where its stiffnesses are too far apart for figures."""
    ways = (
        np.linalg.eigvalsh(joint.flexibility)
        if np.isfinite(joint.flexibility).all()
        else np.zeros(1)
    )
    if not 0 < ways[-1] <= _MOST_APART * ways[0]:
        raise Impossible(
            Message.BAD_VALUE,
            ("kb",),
            reason="The stiffnesses of bolts, gasket and flange are too far apart to be computed",
        )
    return joint


def _decay(length: Array, rate: float) -> NDArray[np.complex128]:
    """`e^(-λ(1-i)x)`: a bend that dies away along a beam on its bed."""
    return np.asarray(np.exp(-rate * (1 - 1j) * length))


def _beam(distance: Array, rate: float, kg: float) -> Array:
    """Approach of a long beam (mm/N) at a distance from its load: `λ/(2 k_g) e^(-λx)(cos λx + sin
    λx)`."""
    return np.asarray(rate / (2 * kg) * ((1 - 1j) * _decay(distance, rate)).real)


def _rate(ei: float, kg: float) -> float:
    """`λ = (k_g/4EI)^(1/4)`, 1/mm."""
    return float((kg / (4 * ei)) ** 0.25)


def ring(count: int, radius: float, ei: float, kg: float, kb: float) -> Joint:
    """A bolt circle: radius mm, `ei` N·mm² of the flange, `kg` N/mm² of the gasket, `kb` N/mm of a
    bolt.

    The closed beam is a long one on which every load comes again after each time round; the sum
    of all of them is exact, and equals the Fourier series of mechanics.md 12. Raises Impossible.

    >>> (ring(8, 150, 1.89e10, 800, 4e5).compliance[0, :5] * 1e6).round(2).tolist()
    [6.34, 2.49, -0.02, -0.22, -0.1]
    """
    if not 2 <= count <= MAX_BOLTS:
        raise Impossible(
            Message.OUT_OF_RANGE, ("count",), value=str(count), range=f"2 to {MAX_BOLTS} bolts"
        )
    _positive(radius=radius, ei=ei, kg=kg, kb=kb)
    angles = 2 * np.pi * np.arange(count) / count
    length, rate = 2 * np.pi * radius, _rate(ei, kg)
    along = radius * angles
    with np.errstate(all="ignore"):  # what is no figure is refused below
        whole = _decay(np.array(length), rate)
        there = (_decay(along, rate) + _decay(length - along, rate)) / (1 - whole)
        first = rate / (2 * kg) * ((1 - 1j) * there).real
    places = np.arange(count)
    arms = radius * np.column_stack([np.sin(angles), np.cos(angles)])
    return _computable(Joint(first[(places[:, None] - places) % count], np.full(count, kb), arms))


def row(places: Array, ei: float, kg: float, kb: float) -> Joint:
    """Bolts in a row at `places` (n,) mm along a long beam on its bed. Raises Impossible."""
    _positive(ei=ei, kg=kg, kb=kb)
    along = np.asarray(places, dtype=float)
    if not 2 <= len(along) <= MAX_BOLTS or len(set(along.tolist())) < len(along):
        raise Impossible(
            Message.OUT_OF_RANGE,
            ("places",),
            value=str(len(along)),
            range=f"2 to {MAX_BOLTS} bolts, each at a place of its own",
        )
    compliance = _beam(np.abs(along[:, None] - along), _rate(ei, kg), kg)
    arms = np.column_stack([along - along.mean(), np.zeros(len(along))])
    return _computable(Joint(compliance, np.full(len(along), kb), arms))


def coefficients(joint: Joint) -> Array:
    """(n,) What the other bolts get of the load that bolt 1 gains, as shares: `M_j0/M_00`.

    >>> coefficients(ring(8, 150, 1.89e10, 800, 4e5)).round(3).tolist()
    [1.0, -0.303, 0.08, 0.002, -0.005, 0.002, 0.08, -0.303]
    """
    inverse = np.linalg.inv(joint.flexibility)
    return np.asarray(inverse[0] / inverse[0, 0])
