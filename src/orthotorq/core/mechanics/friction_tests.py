"""Friction from own tests (ISO 16047): what torque and clamp load measured together say, and the band of several tests."""
from __future__ import annotations

import math
from collections.abc import Sequence
from statistics import NormalDist, mean, stdev

from .formula import formula

_T, _F = ("T", "torque", "torque"), ("F", "force", "preload")
_P, _D2 = ("P", "length", "pitch"), ("d_2", "length", "pitch diameter")
_DB = ("D_b", "length", "effective bearing diameter")
#: fewer tests give no band: the typical one stays
LEAST_TESTS = 5


@formula(r"K = \frac{T}{F\,d}", ("K", "-", "nut factor"), "ISO 16047", torque=_T, preload=_F,
         diameter=("d", "length", "nominal diameter"))
def measured_nut_factor(torque: float, preload: float, diameter: float) -> float:
    """Nut factor of one test: torque [N·mm], preload [N], diameter [mm].

    >>> round(measured_nut_factor(317670.0, 100e3, 20.0), 5)
    0.15884
    """
    return torque / (preload * diameter)


@formula(r"\mu_{tot} = \frac{T/F - P/2\pi}{0.577\,d_2 + 0.5\,D_b}", (r"\mu_{tot}", "-", "total friction"), "ISO 16047",
         torque=_T, preload=_F, pitch=_P, pitch_diameter=_D2, bearing_diameter=_DB)
def total_friction(torque: float, preload: float, pitch: float, pitch_diameter: float, bearing_diameter: float) -> float:
    """Friction of thread and face together from one test; [N·mm], [N], [mm].

    >>> round(total_friction(317670.0, 100e3, 2.5, 18.376, 25.095), 4)
    0.12
    """
    return (torque / preload - pitch / (2 * math.pi)) / (0.577 * pitch_diameter + 0.5 * bearing_diameter)


@formula(r"\mu_t = \frac{T_t/F - P/2\pi}{0.577\,d_2}", (r"\mu_t", "-", "thread friction"), "ISO 16047",
         thread_torque=("T_t", "torque", "torque in the thread"), preload=_F, pitch=_P, pitch_diameter=_D2)
def thread_friction(thread_torque: float, preload: float, pitch: float, pitch_diameter: float) -> float:
    """Thread friction from one test in which the thread's torque was measured apart; [N·mm], [N], [mm].

    >>> round(thread_friction(167_000.0, 100e3, 2.5, 18.376), 3)
    0.12
    """
    return (thread_torque / preload - pitch / (2 * math.pi)) / (0.577 * pitch_diameter)


@formula(r"\mu_b = \frac{T - T_t}{0.5\,D_b\,F}", (r"\mu_b", "-", "bearing friction"), "ISO 16047", torque=_T,
         thread_torque=("T_t", "torque", "torque in the thread"), preload=_F, bearing_diameter=_DB)
def bearing_friction(torque: float, thread_torque: float, preload: float, bearing_diameter: float) -> float:
    """Bearing friction from one test in which the thread's torque was measured apart; [N·mm], [N], [mm].

    >>> round(bearing_friction(317_670.0, 167_000.0, 100e3, 25.095), 3)
    0.12
    """
    return (torque - thread_torque) / (0.5 * bearing_diameter * preload)


def _lower_gamma_share(a: float, x: float) -> float:
    """Regularised lower incomplete gamma function by its series."""
    term = total = 1 / a
    n = 0
    while term > total * 1e-15:
        n += 1
        term *= x / (a + n)
        total += term
    return total * math.exp(-x + a * math.log(x) - math.lgamma(a))


def _chi_square(share: float, freedom: int) -> float:
    """Quantile of the chi-square distribution, by halving."""
    low, high = 1e-9, 10.0 * freedom + 50
    for _ in range(100):
        middle = (low + high) / 2
        low, high = (middle, high) if _lower_gamma_share(freedom / 2, middle / 2) < share else (low, middle)
    return (low + high) / 2


def tolerance_factor(count: int, population: float = 0.90, confidence: float = 0.95) -> float:
    """Standard deviations on both sides of the mean that hold a share of the population with a confidence (normal; Howe).

    >>> round(tolerance_factor(5), 2), round(tolerance_factor(30), 2)
    (4.27, 2.14)
    """
    normal = NormalDist().inv_cdf((1 + population) / 2)
    return normal * math.sqrt((count - 1) * (1 + 1 / count) / _chi_square(1 - confidence, count - 1))


def tested_band(values: Sequence[float]) -> tuple[float, float, float] | None:
    """(low, typical, high) of measured friction: mean and two-sided tolerance interval; None under five tests.

    >>> tested_band([0.12, 0.12, 0.12]), tested_band([0.11, 0.12, 0.13, 0.12, 0.12])[1]
    (None, 0.12)
    """
    if len(values) < LEAST_TESTS:
        return None
    middle, reach = mean(values), tolerance_factor(len(values)) * stdev(values)
    return max(0.0, middle - reach), middle, middle + reach
