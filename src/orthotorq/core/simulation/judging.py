"""What a trace of torque over angle says about a pull: good, or what is wrong, with the part of the
curve that shows it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..kinds.pulls import Code
from ..thresholds import (
    BITES,
    BREAKS_AWAY,
    EARLY,
    FALLS,
    JUDGED_FROM,
    JUMPS,
    LITTLE_TURN,
    MOVES_ON,
    MUCH_TURN,
    WIND_UP,
    YIELDING,
)
from .pull import Floats, Trace


@dataclass(frozen=True, slots=True)
class Expected:
    """What the plan expects of a pull: target and snug torque [N·m], rise after snug [N·m/deg],
    run-down [deg].

    `standing` is the torque [N·m] that the bolt has already, 0 for one that still runs down.
    `check`: the pull proves, so that no turn is as good as one. `to_yield`: the plan means the bolt
    to yield. Without a rise (0) no turn is judged.
    """

    target: float
    snug: float
    slope: float
    rundown: float
    standing: float = 0.0
    check: bool = False
    to_yield: bool = False


@dataclass(frozen=True, slots=True)
class Verdict:
    """A code with the samples from and to which the curve shows it, and what was measured, in
    words."""

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
    """The verdict on a pull. Rules in order of danger; each is a comparison that a fitter can
    follow on the curve.

    Source: practice of torque-angle signature analysis; the thresholds are our own, in
    thresholds.py.
    """
    return _pulled_on(trace, expected) if expected.standing > 0 else _run_down(trace, expected)


def turned(trace: Trace, expected: Expected) -> float:
    """Turn [deg] since the bolt broke away, or since snug for one that ran down: without what
    socket and wrench wind up."""
    last = trace.torque.size - 1
    if expected.standing > 0:
        return max(
            0.0, float(trace.angle[last]) - float(trace.torque[last]) / _winds(trace, expected)
        )
    above = np.flatnonzero(_smooth(trace.torque) >= expected.snug)
    return float(trace.angle[last] - trace.angle[int(above[0])]) if above.size else 0.0


def _winds(trace: Trace, expected: Expected) -> float:
    """How stiff socket and wrench are [N·m/deg]: from the begin of the pull, well below what the
    bolt has."""
    below = trace.torque <= 0.5 * expected.standing
    below[:3] = True
    # only the first piece: a torque that falls later is none of the begin
    count = int(np.argmin(below)) if not below.all() else below.size
    angle, torque = trace.angle[:count], trace.torque[:count]
    return max(1e-9, float(angle @ torque) / max(1e-12, float(angle @ angle)))


def _pulled_on(trace: Trace, expected: Expected) -> Verdict:
    """A bolt that has torque already: it breaks away at what it has, then rises on with its
    joint."""
    torque, angle = _smooth(trace.torque), trace.angle
    last, top, net = torque.size - 1, float(torque.max()), turned(trace, expected)
    gone = np.flatnonzero(torque < (1 - BREAKS_AWAY.value / 100) * _winds(trace, expected) * angle)
    away = min(int(gone[0]), last) if gone.size else last
    if _jumps(trace.torque[away:], expected.target) >= 3:
        return Verdict("stick_slip", away, last, "the torque falls and rises again several times")
    if float(torque[last]) < (1 - FALLS.value / 100) * top:
        return Verdict(
            "no_rise", int(torque.argmax()), last, f"{top:.0f} N·m, then {torque[last]:.0f} N·m"
        )
    if expected.check:
        return Verdict("good", away, last, f"{net:.0f}° since it broke away")
    if expected.slope <= 0:
        code: Code = "good" if net >= MOVES_ON.value else "too_little_turn"
        return Verdict(code, away, last, f"{net:.0f}° since it broke away")
    wanted = max(0.0, float(torque[last]) - expected.standing) / expected.slope
    if away == last and wanted >= JUDGED_FROM.value:
        return Verdict(
            "too_little_turn", 0, last, f"{net:.0f}° since it broke away, {wanted:.0f}° expected"
        )
    return _by_turn(torque, angle, away, last, expected)


def _run_down(trace: Trace, expected: Expected) -> Verdict:
    """A bolt that still runs down."""
    torque, angle = _smooth(trace.torque), trace.angle
    last, top = torque.size - 1, float(torque.max())
    turn = float(angle[last])
    if turn < WIND_UP.value:
        return Verdict("too_little_turn", 0, last, f"{turn:.0f}° until {top:.0f} N·m")
    above = np.flatnonzero(torque >= expected.snug)
    snug = int(above[0]) if above.size else last
    first, early = angle < 0.2 * expected.rundown, angle < 0.6 * expected.rundown
    if float(torque[first].max()) > BITES.value / 100 * expected.target:
        return Verdict(
            "cross_thread",
            0,
            int(np.flatnonzero(first)[-1]),
            f"{torque[first].max():.0f} N·m in the first turn",
        )
    if float(torque[early].max()) > EARLY.value / 100 * expected.target:
        return Verdict(
            "too_little_turn",
            0,
            int(np.flatnonzero(early)[-1]),
            f"{torque[early].max():.0f} N·m before it should be snug",
        )
    if snug >= last:
        return Verdict("no_rise", max(0, last // 2), last, f"never above {top:.0f} N·m")
    if _jumps(trace.torque[snug:], expected.target) >= 3:
        return Verdict("stick_slip", snug, last, "the torque falls and rises again several times")
    if float(torque[last]) < (1 - FALLS.value / 100) * top:
        return Verdict(
            "no_rise", int(torque.argmax()), last, f"{top:.0f} N·m, then {torque[last]:.0f} N·m"
        )
    return _by_turn(torque, angle, snug, last, expected)


def _by_turn(torque: Floats, angle: Floats, snug: int, last: int, expected: Expected) -> Verdict:
    """By the turn from snug to the end against what the joint's stiffness gives."""
    gained, turned = float(torque[last] - torque[snug]), float(angle[last] - angle[snug])
    wanted = gained / expected.slope if expected.slope > 0 else turned
    if expected.slope > 0 and max(wanted, turned) < JUDGED_FROM.value:
        return Verdict(
            "good",
            snug,
            last,
            f"{turned:.1f}° from snug; so stiff a joint is not judged by its turn",
        )
    late, half = (
        angle[last] - 0.25 * turned,
        (angle >= angle[snug]) & (angle <= angle[snug] + 0.4 * min(turned, wanted)),
    )
    mask = angle >= late
    rise, before = _steepness(torque[mask], angle[mask]), _steepness(torque[half], angle[half])
    if rise < YIELDING.value / 100 * before and turned > wanted and not expected.to_yield:
        return Verdict(
            "yields",
            int(np.flatnonzero(mask)[0]),
            last,
            f"it rises by {rise / before * 100:.0f} % of what it did before",
        )
    if turned < LITTLE_TURN.value * wanted:
        return Verdict(
            "too_little_turn", snug, last, f"{turned:.0f}° from snug, {wanted:.0f}° expected"
        )
    if turned > MUCH_TURN.value * wanted and not expected.to_yield:
        return Verdict(
            "too_much_turn", snug, last, f"{turned:.0f}° from snug, {wanted:.0f}° expected"
        )
    return Verdict("good", snug, last, f"{turned:.0f}° from snug, {wanted:.0f}° expected")


def _steepness(torque: Floats, angle: Floats) -> float:
    """Rise [N·m/deg] of a piece of the curve by least squares; 0 for a piece too short."""
    if angle.size < 3 or float(np.ptp(angle)) < 1e-9:
        return 0.0
    return float(np.polyfit(angle, torque, 1)[0])


def _jumps(torque: Floats, target: float) -> int:
    """How often the torque falls by more than a share of the target from a peak before it rises
    above it again."""
    count, peak, fallen = 0, float(torque[0]), False
    for value in torque:
        if value > peak:
            peak, fallen = float(value), False
        elif not fallen and value < peak - JUMPS.value / 100 * target:
            count, fallen = count + 1, True
    return count


#: what each fault should be judged as
MEANT: dict[str, Code] = {
    "none": "good",
    "cross_thread": "cross_thread",
    "already_tight": "too_little_turn",
    "bottomed": "too_little_turn",
    "seized": "too_little_turn",
    "stick_slip": "stick_slip",
    "soft_part": "too_much_turn",
    "wrong_bolt": "yields",
    "strips": "no_rise",
}
#: the same of a bolt that is tight already
MEANT_ON: dict[str, Code] = {**MEANT, "cross_thread": "too_little_turn"}
