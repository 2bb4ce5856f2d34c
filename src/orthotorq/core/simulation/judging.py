"""What a trace of torque over angle says about a pull: good, or what is wrong, with the part of the curve that shows it."""
from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..thresholds import BITES, EARLY, FALLS, JUMPS, LITTLE_TURN, MUCH_TURN, WIND_UP, YIELDING
from .pull import Floats, Trace

Code = Literal["good", "cross_thread", "too_little_turn", "too_much_turn", "no_rise", "yields", "stick_slip"]
#: code -> (what is wrong, what it may be and what to do)
SAYS: dict[str, tuple[str, str]] = {
    "good": ("good", ""),
    "cross_thread": ("the torque rises while it runs down",
                     "Crossed or damaged thread: turn it off again, look at both threads, run it on by hand."),
    "too_little_turn": ("too little turn for this torque",
                        "Already tight, seized or bottomed: the bolt has not its load. Slacken it and look."),
    "too_much_turn": ("too much turn for this torque",
                      "A soft part, a missing washer or a bolt too long in the wrong place: look before pulling on."),
    "no_rise": ("the torque falls while it turns", "A thread strips or something breaks: stop, take it out."),
    "yields": ("it turns on while the torque hardly rises",
               "The bolt yields, or is of a lower grade than planned: take it out, it is not used again."),
    "stick_slip": ("the torque jumps", "Stick-slip: what the wrench read is not the bolt's load. Slacken, clean, lubricate."),
}

@dataclass(frozen=True, slots=True)
class Expected:
    """What the plan expects of a pull: target and snug torque [N·m], rise after snug [N·m/deg], run-down [deg]."""

    target: float
    snug: float
    slope: float
    rundown: float


@dataclass(frozen=True, slots=True)
class Verdict:
    """A code with the samples from and to which the curve shows it, and what was measured, in words."""

    code: Code
    first: int
    last: int
    seen: str


def _smooth(values: Floats, width: int = 5) -> Floats:
    """Running mean, as wide as a hand's tremor."""
    if values.size < 2 * width:
        return values
    kernel = np.ones(width) / width
    return np.convolve(np.pad(values, (width // 2, width // 2), mode="edge"), kernel, mode="valid")


def judged(trace: Trace, expected: Expected) -> Verdict:
    """The verdict on a pull. Rules in order of danger; each is a comparison that a fitter can follow on the curve.

    Source: practice of torque-angle signature analysis; the thresholds are our own, in thresholds.py.
    """
    torque, angle = _smooth(trace.torque), trace.angle
    last, top = torque.size - 1, float(torque.max())
    turn = float(angle[last])
    if turn < WIND_UP.value:
        return Verdict("too_little_turn", 0, last, f"{turn:.0f}° until {top:.0f} N·m")
    above = np.flatnonzero(torque >= expected.snug)
    snug = int(above[0]) if above.size else last
    first, early = angle < 0.2 * expected.rundown, angle < 0.6 * expected.rundown
    if float(torque[first].max()) > BITES.value / 100 * expected.target:
        return Verdict("cross_thread", 0, int(np.flatnonzero(first)[-1]), f"{torque[first].max():.0f} N·m in the first turn")
    if float(torque[early].max()) > EARLY.value / 100 * expected.target:
        return Verdict("too_little_turn", 0, int(np.flatnonzero(early)[-1]),
                       f"{torque[early].max():.0f} N·m before it should be snug")
    if snug >= last:
        return Verdict("no_rise", max(0, last // 2), last, f"never above {top:.0f} N·m")
    if _jumps(trace.torque[snug:], expected.target) >= 3:
        return Verdict("stick_slip", snug, last, "the torque falls and rises again several times")
    if float(torque[last]) < (1 - FALLS.value / 100) * top:
        return Verdict("no_rise", int(torque.argmax()), last, f"{top:.0f} N·m, then {torque[last]:.0f} N·m")
    return _by_turn(torque, angle, snug, last, expected)


def _by_turn(torque: Floats, angle: Floats, snug: int, last: int, expected: Expected) -> Verdict:
    """By the turn from snug to the end against what the joint's stiffness gives."""
    gained, turned = float(torque[last] - torque[snug]), float(angle[last] - angle[snug])
    wanted = gained / expected.slope
    late, half = angle[last] - 0.25 * turned, (angle >= angle[snug]) & (angle <= angle[snug] + 0.4 * min(turned, wanted))
    mask = angle >= late
    rise, before = _steepness(torque[mask], angle[mask]), _steepness(torque[half], angle[half])
    if rise < YIELDING.value / 100 * before and turned > wanted:
        return Verdict("yields", int(np.flatnonzero(mask)[0]), last,
                       f"it rises by {rise / before * 100:.0f} % of what it did before")
    if turned < LITTLE_TURN.value * wanted:
        return Verdict("too_little_turn", snug, last, f"{turned:.0f}° from snug, {wanted:.0f}° expected")
    if turned > MUCH_TURN.value * wanted:
        return Verdict("too_much_turn", snug, last, f"{turned:.0f}° from snug, {wanted:.0f}° expected")
    return Verdict("good", snug, last, f"{turned:.0f}° from snug, {wanted:.0f}° expected")


def _steepness(torque: Floats, angle: Floats) -> float:
    """Rise [N·m/deg] of a piece of the curve by least squares; 0 for a piece too short."""
    if angle.size < 3 or float(np.ptp(angle)) < 1e-9:
        return 0.0
    return float(np.polyfit(angle, torque, 1)[0])


def _jumps(torque: Floats, target: float) -> int:
    """How often the torque falls by more than a share of the target from a peak before it rises above it again."""
    count, peak, fallen = 0, float(torque[0]), False
    for value in torque:
        if value > peak:
            peak, fallen = float(value), False
        elif not fallen and value < peak - JUMPS.value / 100 * target:
            count, fallen = count + 1, True
    return count


#: what each fault should be judged as
MEANT: dict[str, Code] = {
    "none": "good", "cross_thread": "cross_thread", "already_tight": "too_little_turn", "bottomed": "too_little_turn",
    "seized": "too_little_turn", "stick_slip": "stick_slip", "soft_part": "too_much_turn", "wrong_bolt": "yields",
    "strips": "no_rise"}
