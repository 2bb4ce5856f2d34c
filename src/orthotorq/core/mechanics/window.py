"""The window: how far the preload of one torque really scatters (worst case and
root-sum-square)."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import NamedTuple

from ..tables.lubricants import Band
from .preload import friction_from_nut_factor, preload_from_torque, torque_per_preload


class Ends(NamedTuple):
    """One figure at the three ends of the *load*: at high, typical and low friction."""

    low: float
    typical: float
    high: float


@dataclass(frozen=True, slots=True)
class Joint:
    """What the preload of a torque depends on: lengths [mm], friction bands [-], prevailing torque
    [N·mm].

    `nut_factor` replaces both friction bands when given (short form). `cone` divides bearing
    friction (sin of the half-angle; 1 for a flat face).
    """

    diameter: float
    pitch: float
    pitch_diameter: float
    bearing_diameter: float
    mu_thread: Band
    mu_bearing: Band
    nut_factor: Band | None = None
    cone: float = 1.0
    prevailing: float = 0.0

    def per_preload(self, mu_thread: float, mu_bearing: float) -> float:
        """k [mm] of the long form at given coefficients."""
        return torque_per_preload(
            self.pitch,
            self.pitch_diameter,
            mu_thread,
            mu_bearing / self.cone,
            self.bearing_diameter,
        )

    def band_per_preload(self) -> Band:
        """k [mm] at low, typical and high friction."""
        if self.nut_factor is not None:
            return Band(*(k * self.diameter for k in self.nut_factor))
        return Band(
            *(self.per_preload(t, b) for t, b in zip(self.mu_thread, self.mu_bearing, strict=True))
        )

    def thread_friction(self) -> Band:
        """Friction in the thread at low, typical and high friction; from the nut factor with thread
        and face alike."""
        if self.nut_factor is None:
            return self.mu_thread
        face = self.bearing_diameter / self.cone or 1.3 * self.diameter
        return Band(
            *(
                friction_from_nut_factor(k, self.diameter, self.pitch, self.pitch_diameter, face)
                for k in self.nut_factor
            )
        )


@dataclass(frozen=True, slots=True)
class PreloadBand:
    """Preload [N]: typical; worst case low and high; root-sum-square low and high."""

    typical: float
    low: float
    high: float
    low_rss: float
    high_rss: float


@lru_cache(maxsize=512)
def _arms(joint: Joint) -> tuple[Band, tuple[float, ...], tuple[float, ...]]:
    """(k at low, typical, high friction; k with one friction at a time at its low end; at its high
    end), [mm]."""
    k = joint.band_per_preload()
    if joint.nut_factor is not None:
        return k, (k.low,), (k.high,)
    mt, mb = joint.mu_thread, joint.mu_bearing
    return (
        k,
        (joint.per_preload(mt.low, mb.typical), joint.per_preload(mt.typical, mb.low)),
        (joint.per_preload(mt.high, mb.typical), joint.per_preload(mt.typical, mb.high)),
    )


def preload_band(torque: float, accuracies: tuple[float, ...], joint: Joint) -> PreloadBand:
    """Preload band [N] of a torque [N·mm] with tool accuracies [-] in series.

    Worst case: F_low = (T(1-a) - T_p)/k(high friction) and the reverse, `a` the sum of the
    accuracies. Root-sum-square: one-at-a-time deviations of friction and of each accuracy, upper
    and lower side each on its own. Source: error propagation; VDI 2230-1 for the tightening factor.

    Raises Impossible when the prevailing torque eats the torque at the low end.
    """
    k, ups, downs = _arms(joint)
    total = sum(accuracies)
    typical = preload_from_torque(torque, k.typical, joint.prevailing)
    low = preload_from_torque(torque * (1 - total), k.high, joint.prevailing)
    high = preload_from_torque(torque * (1 + total), k.low, joint.prevailing)
    net = torque - joint.prevailing
    up = [net / one - typical for one in ups] + [torque * a / k.typical for a in accuracies]
    down = [typical - net / one for one in downs] + [torque * a / k.typical for a in accuracies]
    return PreloadBand(typical, low, high, typical - math.hypot(*down), typical + math.hypot(*up))


def band_after_angle(snug: PreloadBand, gain: Ends, scatter: float, yields: Ends) -> PreloadBand:
    """The band [N] after an angle whose gain [N] is known at the ends of its window.

    The gain scatters with the window and, by a share, with the stiffness; at each end the load
    stops where the bolt yields there [N]. Worst case adds the ends; root-sum-square takes snug
    load, stiffness and window each on its own.
    """
    typical = snug.typical + gain.typical
    down = math.hypot(snug.typical - snug.low_rss, gain.typical * scatter, gain.typical - gain.low)
    up = math.hypot(snug.high_rss - snug.typical, gain.typical * scatter, gain.high - gain.typical)
    return PreloadBand(
        min(typical, yields.typical),
        min(snug.low + gain.low * (1 - scatter), yields.low),
        min(snug.high + gain.high * (1 + scatter), yields.high),
        min(typical - down, yields.low),
        min(typical + up, yields.high),
    )
