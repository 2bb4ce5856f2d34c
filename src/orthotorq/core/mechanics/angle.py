"""Torque plus angle, and backing off (VDI 2230-1; geometry of the thread)."""

from __future__ import annotations

import math

from .formula import formula

_P = ("P", "length", "pitch")
_SUM = (r"\delta_s + \delta_p", "resilience", "resilience of fastener and parts")
_F0 = ("F_0", "force", "preload before")
_TURN = (r"\theta", "angle", "angle turned")


@formula(
    r"\Delta F = \frac{P\,\theta}{2\pi\,(\delta_s + \delta_p)}",
    (r"\Delta F", "force", "gain of preload"),
    "VDI 2230-1: elastic turn after snug",
    pitch=_P,
    turn=_TURN,
    resilience=_SUM,
)
def preload_gain(pitch: float, turn: float, resilience: float) -> float:
    """Preload [N] gained by an angle [rad] after snug, elastic range only; pitch [mm], resilience
    [mm/N].

    Beyond yield the load no longer grows like this: check it with the combined limit and say so.

    >>> round(preload_gain(2.0, math.radians(1), 2.1208e-6 + 4.5489e-7), 0)
    2157.0
    """
    return pitch * turn / (2 * math.pi * resilience)


@formula(
    r"\theta = \frac{2\pi\,\Delta F\,(\delta_s + \delta_p)}{P}",
    (r"\theta", "angle", "angle for a wanted gain"),
    "VDI 2230-1: elastic turn after snug",
    gain=(r"\Delta F", "force", "gain of preload"),
    resilience=_SUM,
    pitch=_P,
)
def angle_for_gain(gain: float, resilience: float, pitch: float) -> float:
    """Angle [rad] that gives a gain of preload [N]; resilience [mm/N], pitch [mm].

    >>> round(math.degrees(angle_for_gain(30e3, 3.0e-6, 1.5)), 1)
    21.6
    """
    return 2 * math.pi * gain * resilience / pitch


@formula(
    r"F = F_0\left(1 - \frac{\theta}{\theta_e}\right) \ge 0",
    ("F", "force", "preload left"),
    "elastic unloading",
    preload=_F0,
    turn=_TURN,
    elastic=(r"\theta_e", "angle", "elastic angle"),
)
def preload_left(preload: float, turn: float, elastic: float) -> float:
    """Preload [N] left after backing off by an angle [rad]; `elastic` [rad] is the angle that takes
    all of it.

    >>> round(preload_left(30e3, math.radians(5.4), math.radians(21.6)))
    22500
    """
    return preload * max(0.0, 1 - turn / elastic)


@formula(
    r"s = \frac{P\,(\theta - \theta_e)}{2\pi} \ge 0",
    ("s", "length", "end play"),
    "geometry of the thread",
    approximation="for a rigid stack; the lock nut shifts it, so the measured play decides",
    pitch=_P,
    turn=_TURN,
    elastic=(r"\theta_e", "angle", "elastic angle"),
)
def end_play(pitch: float, turn: float, elastic: float) -> float:
    """End play [mm] after backing off by an angle [rad] past the elastic angle [rad]; pitch [mm].

    >>> round(end_play(1.5, math.radians(60), math.radians(21.6)), 3)
    0.16
    """
    return max(0.0, pitch * (turn - elastic) / (2 * math.pi))


@formula(
    r"F = F_s + \Delta F",
    ("F", "force", "preload after the angle"),
    "elastic range: the loads add",
    snug=("F_s", "force", "preload at snug torque"),
    gain=(r"\Delta F", "force", "gain of preload"),
)
def after_angle(snug: float, gain: float) -> float:
    """Preload [N] when an angle has added its gain to that of the snug torque.

    >>> after_angle(40_000.0, 85_000.0)
    125000.0
    """
    return snug + gain
