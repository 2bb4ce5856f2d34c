"""The window: how far the preload of one torque really scatters (worst case and root-sum-square)."""
from __future__ import annotations

import math
from dataclasses import dataclass

from ..tables.lubricants import Band
from .preload import preload_from_torque, torque_per_preload


@dataclass(frozen=True, slots=True)
class Joint:
    """What the preload of a torque depends on: lengths [mm], friction bands [-], prevailing torque [N·mm].

    `nut_factor` replaces both friction bands when given (short form). `cone` divides bearing friction (sin of the
    half-angle; 1 for a flat face).
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
        return torque_per_preload(self.pitch, self.pitch_diameter, mu_thread, mu_bearing / self.cone,
                                  self.bearing_diameter)

    def band_per_preload(self) -> Band:
        """k [mm] at low, typical and high friction."""
        if self.nut_factor is not None:
            return Band(*(k * self.diameter for k in self.nut_factor))
        return Band(*(self.per_preload(t, b) for t, b in zip(self.mu_thread, self.mu_bearing, strict=True)))


@dataclass(frozen=True, slots=True)
class PreloadBand:
    """Preload [N]: typical; worst case low and high; root-sum-square low and high."""

    typical: float
    low: float
    high: float
    low_rss: float
    high_rss: float


def preload_band(torque: float, accuracies: tuple[float, ...], joint: Joint) -> PreloadBand:
    """Preload band [N] of a torque [N·mm] with tool accuracies [-] in series.

    Worst case: F_low = (T(1-a) - T_p)/k(high friction) and the reverse, `a` the sum of the accuracies. Root-sum-square:
    one-at-a-time deviations of friction and of each accuracy, upper and lower side each on its own. Source: error
    propagation; VDI 2230-1 for the tightening factor.

    Raises Impossible when the prevailing torque eats the torque at the low end.
    """
    k = joint.band_per_preload()
    total = sum(accuracies)
    typical = preload_from_torque(torque, k.typical, joint.prevailing)
    low = preload_from_torque(torque * (1 - total), k.high, joint.prevailing)
    high = preload_from_torque(torque * (1 + total), k.low, joint.prevailing)
    if joint.nut_factor is not None:
        ups, downs = [k.low], [k.high]
    else:
        mt, mb = joint.mu_thread, joint.mu_bearing
        ups = [joint.per_preload(mt.low, mb.typical), joint.per_preload(mt.typical, mb.low)]
        downs = [joint.per_preload(mt.high, mb.typical), joint.per_preload(mt.typical, mb.high)]
    net = torque - joint.prevailing
    up = [net / one - typical for one in ups] + [torque * a / k.typical for a in accuracies]
    down = [typical - net / one for one in downs] + [torque * a / k.typical for a in accuracies]
    return PreloadBand(typical, low, high, typical - math.hypot(*down), typical + math.hypot(*up))
