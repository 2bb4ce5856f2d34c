"""One pull of a torque-and-angle wrench on a simulated joint: run-down, snug, elastic rise, yield;
with faults to be found.

A pull is a row of inputs with a seed; its trace is a pure function of it, so that it is never
stored.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

Fault = Literal[
    "none",
    "cross_thread",
    "already_tight",
    "bottomed",
    "seized",
    "stick_slip",
    "soft_part",
    "wrong_bolt",
    "strips",
]
#: the same in words, for choosing what a simulated joint has
JOINT_HAS: dict[Fault, str] = {
    "none": "as planned",
    "cross_thread": "a crossed thread",
    "already_tight": "already tight",
    "bottomed": "bottomed",
    "seized": "seized",
    "stick_slip": "stick-slip",
    "soft_part": "a soft part",
    "wrong_bolt": "a bolt of a lower grade",
    "strips": "a thread that strips",
}
FAULTS: tuple[Fault, ...] = tuple(JOINT_HAS)
Floats = NDArray[np.float64]
#: samples a second, and degrees a second of a hand on the wrench while it runs down and while it
#: tightens
RATE, RUN_SPEED, PULL_SPEED = 100, 180.0, 25.0
#: degrees a second while socket and wrench wind up, and how far that is watched [deg]
_WIND_SPEED, _WIND = 10.0, 5.0
#: no hand turns further than this in one pull [deg]
_MOST_TURN = 400.0


@dataclass(frozen=True, slots=True)
class Pull:
    """What is pulled: target torque [N·m], torque at snug [N·m], rise after snug [N·m/deg],
    run-down before it [deg], torque of the free thread [N·m], with a fault and a seed.

    `standing` is the torque [N·m] at which a bolt that is tight already breaks away; 0 for one that
    still runs down. With `turn` [deg] the wrench stops there instead of at the target.
    """

    target: float
    snug: float
    slope: float
    rundown: float = 120.0
    free: float = 1.0
    fault: Fault = "none"
    seed: int = 0
    standing: float = 0.0
    turn: float | None = None


@dataclass(frozen=True, slots=True)
class Trace:
    """Samples of a pull: time [s], torque [N·m], angle from its begin [deg]."""

    seconds: Floats
    torque: Floats
    angle: Floats


def _stiff(pull: Pull, angle: Floats, slope: float, rundown: float) -> Floats:
    """Free run, a soft rise to snug over 15°, then a straight line [N·m]."""
    soft = 15.0
    rise = np.clip((angle - rundown) / soft, 0.0, 1.0) ** 2 * (pull.snug - pull.free)
    return pull.free + rise + np.maximum(0.0, angle - rundown - soft) * slope


def _torque(pull: Pull, angle: Floats, chance: np.random.Generator) -> Floats:
    """Torque over angle [N·m], with its fault and without noise."""
    fault, rundown = pull.fault, pull.rundown * chance.uniform(0.85, 1.15)
    slope = pull.slope * chance.uniform(0.88, 1.12)
    if fault == "already_tight":
        return np.minimum(angle / chance.uniform(1.0, 2.5), 1.0) * pull.target * 1.1 + pull.free
    if fault == "cross_thread":
        # the flanks bite from the first turn on
        return pull.free + pull.target * chance.uniform(1.1, 1.5) * (
            angle / (0.75 * rundown)
        ) ** chance.uniform(0.8, 1.1)
    if fault == "seized":
        # it picks up somewhere in the run-down, and rises steeply
        return _stiff(
            pull, angle, pull.slope * chance.uniform(3.0, 5.0), rundown * chance.uniform(0.25, 0.6)
        )
    if fault == "bottomed":
        return _stiff(pull, angle, slope * chance.uniform(2.8, 4.5), rundown)
    if fault == "soft_part":
        return _stiff(pull, angle, slope * chance.uniform(0.3, 0.45), rundown)
    made = _stiff(pull, angle, slope, rundown)
    if fault == "stick_slip":
        tooth = (angle / chance.uniform(2.5, 4.0)) % 1.0
        return np.where(made > pull.snug, made * (1 - chance.uniform(0.1, 0.2) * (1 - tooth)), made)
    if fault in ("wrong_bolt", "strips"):
        knee = pull.target * chance.uniform(0.6, 0.8)
        over = np.maximum(0.0, made - knee)
        return np.minimum(made, knee) + over * (
            chance.uniform(0.04, 0.12) if fault == "wrong_bolt" else -0.5
        )
    return made


def trace_of(pull: Pull) -> Trace:
    """The samples of a pull, until the wrench clicks at its target or the hand gives up."""
    chance = np.random.default_rng(pull.seed)
    return _pulled_on(pull, chance) if pull.standing > 0 else _run_down(pull, chance)


def _pulled_on(pull: Pull, chance: np.random.Generator) -> Trace:
    """A bolt that has torque already: socket and wrench wind up until it breaks away, then it turns
    on with its joint."""
    breaks = (
        2.0 * max(pull.target, pull.standing) if pull.fault == "already_tight" else pull.standing
    )
    stiff = pull.target / chance.uniform(2.0, 3.0)
    wind, slope = breaks / stiff, pull.slope * chance.uniform(0.88, 1.12)
    if pull.fault in ("cross_thread", "seized", "bottomed"):
        slope = pull.slope * chance.uniform(3.0, 4.5)
    elif pull.fault == "soft_part":
        slope = pull.slope * chance.uniform(0.3, 0.45)
    # no hand pulls much beyond what the bolt is to have
    most = pull.target if pull.turn is None else 1.6 * pull.target
    reach = wind + (
        pull.turn
        if pull.turn is not None
        else 10 + 3.5 * max(0.0, pull.target - breaks) / pull.slope
    )
    first = np.arange(0.0, _WIND, _WIND_SPEED / RATE)
    angle = np.concatenate([first, np.arange(_WIND, max(reach, _WIND + 1.0), PULL_SPEED / RATE)])
    torque = np.minimum(angle * stiff, breaks + np.maximum(0.0, angle - wind) * slope)
    if pull.fault in ("wrong_bolt", "strips"):
        knee = breaks + (pull.target - breaks) * chance.uniform(0.35, 0.55)
        over = np.maximum(0.0, torque - knee)
        torque = np.minimum(torque, knee) + over * (
            chance.uniform(0.04, 0.12) if pull.fault == "wrong_bolt" else -1.0
        )
    elif pull.fault == "stick_slip":
        tooth = ((angle - wind) / max(1.0, 0.2 * (pull.target - breaks) / pull.slope)) % 1.0
        torque = np.where(
            angle > wind, torque - chance.uniform(0.1, 0.2) * pull.target * (1 - tooth), torque
        )
    torque = np.maximum(0.0, torque + chance.normal(0.0, 0.004 * pull.target, angle.size))
    reached = np.flatnonzero((torque >= most) | (angle >= reach))
    end = int(reached[0]) + 1 if reached.size else angle.size
    if pull.fault == "strips":
        fallen = np.flatnonzero(torque < 0.8 * np.maximum.accumulate(torque) - 0.02 * pull.target)
        end = min(end, int(fallen[0]) + 1) if fallen.size else end
    return Trace(np.arange(end) / RATE, torque[:end], angle[:end])


def _run_down(pull: Pull, chance: np.random.Generator) -> Trace:
    """A bolt that still runs down to its seat."""
    reach = min(_MOST_TURN, pull.rundown * 1.2 + 15 + 3.5 * (pull.target - pull.snug) / pull.slope)
    fast = (
        np.arange(0.0, 0.8 * pull.rundown, RUN_SPEED / RATE)
        if pull.fault != "already_tight"
        else np.zeros(1)
    )
    slow = np.arange(fast[-1], max(reach, fast[-1] + 10), PULL_SPEED / RATE)
    angle = np.concatenate([fast, slow[1:]])
    torque = _torque(pull, angle, chance)
    torque = np.maximum(0.0, torque + chance.normal(0.0, 0.004 * pull.target, angle.size))
    clicked = np.flatnonzero(torque >= pull.target)
    end = int(clicked[0]) + 1 if clicked.size else angle.size
    if pull.fault == "strips":
        # nobody turns on for long when it gets easier
        fallen = np.flatnonzero(torque < 0.75 * np.maximum.accumulate(torque) - 0.05 * pull.target)
        late = fallen[angle[fallen] > 0.9 * pull.rundown]
        end = min(end, int(late[0]) + 1) if late.size else end
    return Trace(np.arange(end) / RATE, torque[:end], angle[:end])
