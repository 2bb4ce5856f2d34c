"""What the checks of a wrench say together: its trend, whether a check looked at the whole range,
what an error did to bolts."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

#: where a check in full is made, as shares of the highest setting (ISO 6789-1), each within this
FULL_AT, NEAR = (0.2, 0.6, 1.0), 0.05
#: readings that a check in full has at each setting
READINGS = 3
#: torques from this percent of the figure on are what a bolt was left with
FULL_SHARE = 99.0
#: checks with figures that a trend needs, and the years that it looks ahead
_CHECKS, _AHEAD = 3, 5.0

Lies = Literal["inside", "edge", "outside", "unknown"]


@dataclass(frozen=True, slots=True)
class Effect:
    """What an error did: where the clamp band then lies in its window, that in words, and the band
    [N]."""

    lies: Lies
    words: str
    was: tuple[float, float, float] | None = None


def full_at(low: float, high: float, preset: bool) -> tuple[float, ...]:
    """Settings of a check in full, as shares of the highest: 20, 60 and 100 %, or what the scale
    begins with; of a preset driver its one figure.

    >>> full_at(100.0, 400.0, False), full_at(38.0, 38.0, True)
    ((0.25, 0.6, 1.0), (1.0,))
    """
    return (1.0,) if preset else tuple(max(at, low / high) for at in FULL_AT)


def in_full(low: float, high: float, preset: bool, points: Sequence[tuple[float, int]]) -> bool:
    """Whether a check, as (setting, number of readings), looked at the whole range.

    >>> (in_full(20.0, 100.0, False, [(20.0, 3), (60.0, 3), (100.0, 3)]), in_full(20.0, 100.0,
    ...  False, [(60.0, 5)]))
    (True, False)
    """
    return all(
        any(abs(setting / high - at) <= NEAR and count >= READINGS for setting, count in points)
        for at in full_at(low, high, preset)
    )


def effect_of(
    error: float | None,
    percent: float,
    band: tuple[float, float, float] | None,
    window: tuple[float | None, float | None],
) -> Effect:
    """What a wrench that was off by (set - reference) / reference did to bolts of a clamp band [N]
    with a window [N], at a share of the figure in percent: they got the torque set, over one plus
    the error, and the load goes with it.

    >>> effect_of(0.10, 100.0, (90e3, 100e3, 110e3), (95e3, 150e3)).lies
    'outside'
    >>> effect_of(0.02, 100.0, (100e3, 110e3, 120e3), (99e3, 150e3)).lies
    'edge'
    """
    if band is None:
        return Effect("unknown", "no clamp load is known for these bolts")
    if percent < FULL_SHARE:
        return Effect("inside", "only passes below the full figure: others gave the last of it")
    if error is None:
        return Effect("unknown", "its error is not known: record a calibration check first")
    was = (band[0] / (1 + error), band[1] / (1 + error), band[2] / (1 + error))
    if window == (None, None):
        return Effect("unknown", "no window is known for these bolts", was)
    low = 0.0 if window[0] is None else window[0]
    high = float("inf") if window[1] is None else window[1]
    if was[1] < low:
        return Effect("outside", "typical load below the joint need", was)
    if was[1] > high:
        return Effect("outside", "typical load above the limit of the joint", was)
    # an end that lay outside as planned was waived at the release: only what got worse counts
    if was[0] < low <= band[0]:
        return Effect("edge", "lowest load below the joint need", was)
    if was[2] > high >= band[2]:
        return Effect("edge", "highest load above the limit of the joint", was)
    return Effect(
        "inside",
        "no load farther out than planned"
        if was[0] < low or was[2] > high
        else "all loads inside the limits",
        was,
    )


def trend_of(
    checks: Sequence[tuple[float, float]], limit: float | None
) -> tuple[float | None, str]:
    """(slope of the mean error a year, that in words) over checks as (year, mean error), by least
    squares.

    >>> trend_of([(2026.0, 0.010), (2026.5, 0.014), (2027.0, 0.018)], 0.04)[1]
    '+0.8 % a year over 3 checks: at this rate it reaches ±4 % in 33 months'
    """
    if len(checks) < _CHECKS or checks[-1][0] - checks[0][0] < 1 / 12:
        return None, f"a trend needs three checks with figures; so far {len(checks)}"
    middle = sum(year for year, _ in checks) / len(checks)
    mean = sum(error for _, error in checks) / len(checks)
    slope = sum((y - middle) * (e - mean) for y, e in checks) / sum(
        (y - middle) ** 2 for y, _ in checks
    )
    words, last = f"{slope * 100:+.1f} % a year over {len(checks)} checks", checks[-1][1]
    if limit is not None and slope:
        left = ((limit if slope > 0 else -limit) - last) / slope
        if 0 < left < _AHEAD:
            words += (
                f": at this rate it reaches ±{limit * 100:g} % in {max(1, round(left * 12))} months"
            )
    return slope, words
