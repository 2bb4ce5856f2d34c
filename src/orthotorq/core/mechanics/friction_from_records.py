"""What own records teach: friction from the slope of measured pulls, scatter of wrenches as read,
time per bolt as found."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from statistics import mean, quantiles, stdev

from ..thresholds import LESSON_LEAST
from .friction_tests import tested_band


@dataclass(frozen=True, slots=True)
class Found:
    """What so many values say together: low, typical, high."""

    count: int
    low: float
    typical: float
    high: float


def factor_of_slope(torque_per_deg: float, load_per_deg: float, diameter: float) -> float:
    """Nut factor from how steeply a pull rises [N·mm/deg] where the load rises so much [N/deg] at a
    diameter [mm]: K = dT / (d dF).

    >>> round(factor_of_slope(3600.0, 1000.0, 24.0), 3)
    0.15
    """
    return torque_per_deg / (load_per_deg * diameter)


def friction_found(factors: Sequence[float]) -> Found | None:
    """The band of measured nut factors (tolerance interval as of ISO 16047 tests); None where there
    are too few."""
    if len(factors) < LESSON_LEAST.value:
        return None
    band = tested_band(factors)
    assert band is not None
    return Found(len(factors), *band)


def scatter_found(ratios: Sequence[float]) -> Found | None:
    """How readings lie around what was set: the mean of reading over setting, and twice their
    standard deviation around it."""
    if len(ratios) < LESSON_LEAST.value:
        return None
    middle, reach = mean(ratios), 2 * stdev(ratios)
    return Found(len(ratios), middle - reach, middle, middle + reach)


def time_found(seconds: Sequence[float]) -> Found | None:
    """Seconds from bolt to bolt: the quartiles, since a pause is no time for a bolt."""
    known = [one for one in seconds if math.isfinite(one) and one > 0]
    if len(known) < LESSON_LEAST.value:
        return None
    low, middle, high = quantiles(known, n=4)
    return Found(len(known), low, middle, high)
