"""Friction from own tests (ISO 16047): what torque and clamp load measured together say, and the
band of several tests."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from functools import lru_cache
from statistics import NormalDist, mean, stdev

from .formula import formula

_T, _F = ("T", "torque", "torque"), ("F", "force", "preload")
_P, _D2 = ("P", "length", "pitch"), ("d_2", "length", "pitch diameter")
_DB = ("D_b", "length", "effective bearing diameter")
#: fewer tests give no band: the typical one stays
LEAST_TESTS = 5


@formula(
    r"K = \frac{T}{F\,d}",
    ("K", "-", "nut factor"),
    "ISO 16047",
    torque=_T,
    preload=_F,
    diameter=("d", "length", "nominal diameter"),
)
def measured_nut_factor(torque: float, preload: float, diameter: float) -> float:
    """Nut factor of one test: torque [N·mm], preload [N], diameter [mm].

    >>> round(measured_nut_factor(317670.0, 100e3, 20.0), 5)
    0.15884
    """
    return torque / (preload * diameter)


@formula(
    r"\mu_{tot} = \frac{T/F - P/2\pi}{0.577\,d_2 + 0.5\,D_b}",
    (r"\mu_{tot}", "-", "total friction"),
    "ISO 16047",
    torque=_T,
    preload=_F,
    pitch=_P,
    pitch_diameter=_D2,
    bearing_diameter=_DB,
)
def total_friction(
    torque: float, preload: float, pitch: float, pitch_diameter: float, bearing_diameter: float
) -> float:
    """Friction of thread and face together from one test; [N·mm], [N], [mm].

    >>> round(total_friction(317670.0, 100e3, 2.5, 18.376, 25.095), 4)
    0.12
    """
    return (torque / preload - pitch / (2 * math.pi)) / (
        0.577 * pitch_diameter + 0.5 * bearing_diameter
    )


@formula(
    r"\mu_t = \frac{T_t/F - P/2\pi}{0.577\,d_2}",
    (r"\mu_t", "-", "thread friction"),
    "ISO 16047",
    thread_torque=("T_t", "torque", "torque in the thread"),
    preload=_F,
    pitch=_P,
    pitch_diameter=_D2,
)
def thread_friction(
    thread_torque: float, preload: float, pitch: float, pitch_diameter: float
) -> float:
    """Thread friction from one test in which the thread's torque was measured apart; [N·mm], [N],
    [mm].

    >>> round(thread_friction(167_000.0, 100e3, 2.5, 18.376), 3)
    0.12
    """
    return (thread_torque / preload - pitch / (2 * math.pi)) / (0.577 * pitch_diameter)


@formula(
    r"\mu_b = \frac{T - T_t}{0.5\,D_b\,F}",
    (r"\mu_b", "-", "bearing friction"),
    "ISO 16047",
    torque=_T,
    thread_torque=("T_t", "torque", "torque in the thread"),
    preload=_F,
    bearing_diameter=_DB,
)
def bearing_friction(
    torque: float, thread_torque: float, preload: float, bearing_diameter: float
) -> float:
    """Bearing friction from one test in which the thread's torque was measured apart; [N·mm], [N],
    [mm].

    >>> round(bearing_friction(317_670.0, 167_000.0, 100e3, 25.095), 3)
    0.12
    """
    return (torque - thread_torque) / (0.5 * bearing_diameter * preload)


def _lower_gamma_share(a: float, x: float) -> float:
    """Regularised lower incomplete gamma function by its series; far above its middle it is one."""
    if x > a + 40 * math.sqrt(a) + 100:
        return 1.0
    term = total = 1 / a
    n = 0
    while term > total * 1e-15:
        n += 1
        term *= x / (a + n)
        total += term
    return total * math.exp(-x + a * math.log(x) - math.lgamma(a))


#: intervals of Simpson's rule over the mean of the sample
_INTERVALS = 64


def _halved(below: Callable[[float], bool], low: float, high: float) -> float:
    """Where a rising condition ends, by halving."""
    for _ in range(80):
        middle = (low + high) / 2
        low, high = (middle, high) if below(middle) else (low, middle)
    return (low + high) / 2


def _reach(mean_off: float, population: float) -> float:
    """Half width that holds a share of a standard normal population about a mean that is off by so
    much."""
    normal = NormalDist()
    return _halved(
        lambda r: normal.cdf(mean_off + r) - normal.cdf(mean_off - r) < population,
        0.0,
        mean_off + 10,
    )


@lru_cache(maxsize=256)
def tolerance_factor(count: int, population: float = 0.90, confidence: float = 0.95) -> float:
    """Standard deviations on both sides of the mean that hold a share of a normal population with a
    confidence.

    Exact, by its integral over the mean of the sample (ISO 16269-6): for each mean the half width
    that holds the population is needed, and the chance that the sample's deviation is large enough
    for it.

    >>> [round(tolerance_factor(n), 3) for n in (5, 6, 10, 20, 50)]
    [4.291, 3.733, 2.856, 2.319, 1.999]
    >>> tolerance_factor(2000) > tolerance_factor(20_000) > 1.645
    True
    """
    spread, freedom = 1 / math.sqrt(count), count - 1
    step = 6 * spread / _INTERVALS
    weights = [1.0, *(4.0 if i % 2 else 2.0 for i in range(1, _INTERVALS)), 1.0]
    means = [i * step for i in range(_INTERVALS + 1)]
    parts = [
        (w * step / 3 * 2 * NormalDist(0, spread).pdf(m), _reach(m, population) ** 2)
        for w, m in zip(weights, means, strict=True)
    ]

    def held(factor: float) -> float:
        return sum(
            part * (1 - _lower_gamma_share(freedom / 2, freedom * square / (2 * factor * factor)))
            for part, square in parts
        )

    return _halved(lambda k: held(k) < confidence, 0.5, 200.0)


def tested_band(values: Sequence[float]) -> tuple[float, float, float] | None:
    """(low, typical, high) of measured friction: mean and two-sided tolerance interval; None under
    five tests.

    >>> tested_band([0.12, 0.12, 0.12]), tested_band([0.11, 0.12, 0.13, 0.12, 0.12])[1]
    (None, 0.12)
    """
    if len(values) < LEAST_TESTS:
        return None
    middle, reach = mean(values), tolerance_factor(len(values)) * stdev(values)
    return max(0.0, middle - reach), middle, middle + reach
