"""Torque and preload (ISO 16047; VDI 2230-1 in another form)."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..errors import Impossible
from ..messages import Message
from .formula import formula

_COS_FLANK = math.cos(math.radians(30))

_FACE = ("D_b", "length", "effective bearing diameter")
_MU_T = (r"\mu_t", "-", "thread friction")
_MU_B = (r"\mu_b", "-", "bearing friction")
_P = ("P", "length", "pitch")
_D2 = ("d_2", "length", "pitch diameter")


@formula(
    r"D_b = \frac{d_w + d_h}{2}",
    ("D_b", "length", "effective bearing diameter"),
    "ISO 16047; VDI 2230-1",
    approximation="uniform pressure gives 0.2 to 0.5 % more torque",
    face_diameter=("d_w", "length", "outer diameter of the bearing face"),
    hole=("d_h", "length", "hole diameter"),
)
def effective_diameter(face_diameter: float, hole: float) -> float:
    """Effective bearing diameter D_b [mm] of a flat face d_w [mm] over a hole d_h [mm].

    Raises Impossible when the hole is not smaller than the face. Source: ISO 16047.

    >>> effective_diameter(28.19, 22.0)
    25.095
    """
    if not 0 < hole < face_diameter:
        raise Impossible(Message.FACE_IMPOSSIBLE, hole=f"{hole:g}", face=f"{face_diameter:g}")
    return (face_diameter + hole) / 2


@formula(
    r"\mu_b' = \frac{\mu_b}{\sin a}",
    (r"\mu_b'", "-", "bearing friction of the cone seat"),
    "wedge on a cone; ISO 16047 for the flat face",
    mu_bearing=_MU_B,
    half_angle=("a", "angle", "half-angle of the cone"),
)
def cone_friction(mu_bearing: float, half_angle: float) -> float:
    """Bearing friction of a cone seat [-] from that of a flat face [-] and the half-angle [rad].

    Valid for half-angles of 10° to 90° (a flat face).

    >>> round(cone_friction(0.12, math.radians(30)), 3)
    0.24
    """
    return mu_bearing / math.sin(half_angle)


@formula(
    r"k = \frac{P}{2\pi} + \frac{\mu_t\,d_2}{2\cos 30^\circ} + \frac{\mu_b\,D_b}{2}",
    ("k", "length", "torque per preload"),
    "ISO 16047 (long form)",
    approximation="up to a friction of 0.2 the exact tan(φ + ρ′) gives 0.2 to 0.5 % more torque",
    pitch=_P,
    pitch_diameter=_D2,
    mu_thread=_MU_T,
    mu_bearing=_MU_B,
    bearing_diameter=_FACE,
)
def torque_per_preload(
    pitch: float,
    pitch_diameter: float,
    mu_thread: float,
    mu_bearing: float,
    bearing_diameter: float,
) -> float:
    """Torque per preload k [mm], that is N·mm per N. Lengths [mm], friction [-]. Source: ISO 16047.

    >>> round(torque_per_preload(2.5, 18.376, 0.12, 0.12, 25.095), 4)
    3.1767
    """
    return (
        pitch / (2 * math.pi)
        + mu_thread * pitch_diameter / (2 * _COS_FLANK)
        + mu_bearing * bearing_diameter / 2
    )


@formula(
    r"T = F\left[\frac{d_2}{2}\tan(\varphi + \rho') + \frac{\mu_b D_b}{2}\right]",
    ("T", "torque", "torque, exact"),
    "VDI 2230-1 before it is simplified: tan φ = P/(π d2), tan ρ′ = μt/cos 30°",
    preload=("F", "force", "preload"),
    pitch=_P,
    pitch_diameter=_D2,
    mu_thread=_MU_T,
    mu_bearing=_MU_B,
    bearing_diameter=_FACE,
)
def exact_torque(
    preload: float,
    pitch: float,
    pitch_diameter: float,
    mu_thread: float,
    mu_bearing: float,
    bearing_diameter: float,
) -> float:
    """Torque [N·mm] for a preload [N] without the long form's approximation; sizes [mm], friction
    [-].

    >>> round(exact_torque(100e3, 2.5, 18.376, 0.12, 0.12, 25.095) / 317_670, 4)
    1.0032
    """
    lead, flank = math.atan(pitch / (math.pi * pitch_diameter)), math.atan(mu_thread / _COS_FLANK)
    return preload * (
        pitch_diameter / 2 * math.tan(lead + flank) + mu_bearing * bearing_diameter / 2
    )


@formula(
    r"T = F\,k + T_p",
    ("T", "torque", "torque"),
    "ISO 16047",
    preload=("F", "force", "preload"),
    per_preload=("k", "length", "torque per preload"),
    prevailing=("T_p", "torque", "prevailing torque"),
)
def torque_from_preload(preload: float, per_preload: float, prevailing: float) -> float:
    """Torque T [N·mm] for a preload F [N], k [mm] and prevailing torque [N·mm]. Source: ISO 16047.

    >>> round(torque_from_preload(100e3, 3.1767, 0.0))
    317670
    """
    return preload * per_preload + prevailing


@formula(
    r"F = \frac{T - T_p}{k}",
    ("F", "force", "preload"),
    "ISO 16047",
    torque=("T", "torque", "torque"),
    per_preload=("k", "length", "torque per preload"),
    prevailing=("T_p", "torque", "prevailing torque"),
)
def preload_from_torque(torque: float, per_preload: float, prevailing: float) -> float:
    """Preload F [N] that a torque T [N·mm] gives, k [mm], prevailing torque [N·mm]. Source: ISO
    16047.

    Raises Impossible when the prevailing torque eats the torque.

    >>> round(preload_from_torque(317670.0, 3.1767, 0.0))
    100000
    """
    if torque <= prevailing:
        raise Impossible(
            Message.PREVAILING_EATS_TORQUE,
            torque=f"{torque / 1e3:g}",
            prevailing=f"{prevailing / 1e3:g}",
        )
    return (torque - prevailing) / per_preload


@formula(
    r"T = K\,F\,d",
    ("T", "torque", "torque"),
    "ISO 16047 (short form)",
    approximation="the nut factor K holds all friction in one value",
    preload=("F", "force", "preload"),
    nut_factor=("K", "-", "nut factor"),
    diameter=("d", "length", "nominal diameter"),
)
def torque_from_nut_factor(preload: float, nut_factor: float, diameter: float) -> float:
    """Torque [N·mm] in the short form from preload [N], nut factor [-], nominal diameter [mm].

    >>> round(torque_from_nut_factor(100e3, 0.16, 20.0))
    320000
    """
    return nut_factor * preload * diameter


@formula(
    r"K = \frac{k}{d}",
    ("K", "-", "nut factor"),
    "long form = short form",
    per_preload=("k", "length", "torque per preload"),
    diameter=("d", "length", "nominal diameter"),
)
def nut_factor(per_preload: float, diameter: float) -> float:
    """Nut factor K [-] equal to a torque per preload k [mm] at nominal diameter d [mm].

    >>> round(nut_factor(3.17674, 20.0), 5)
    0.15884
    """
    return per_preload / diameter


@formula(
    r"\mu = \frac{K\,d - P/2\pi}{d_2/(2\cos 30^\circ) + D_b/2}",
    (r"\mu", "-", "friction, thread and face alike"),
    "VDI 2230-1, table of the tightening factor",
    approximation="thread and face are taken to have the same friction",
    nut_factor=("K", "-", "nut factor"),
    diameter=("d", "length", "nominal diameter"),
    pitch=_P,
    pitch_diameter=_D2,
    bearing_diameter=_FACE,
)
def friction_from_nut_factor(
    nut_factor: float, diameter: float, pitch: float, pitch_diameter: float, bearing_diameter: float
) -> float:
    """Friction [-] that thread and face would both have to give a nut factor K [-]; sizes [mm].
    Never below zero.

    K does not say where the torque goes; the split is an assumption, and is said where this is
    used.

    >>> round(friction_from_nut_factor(0.15884, 20.0, 2.5, 18.376, 25.095), 3)
    0.12
    """
    arm = pitch_diameter / (2 * _COS_FLANK) + bearing_diameter / 2
    return max(0.0, (nut_factor * diameter - pitch / (2 * math.pi)) / arm)


@dataclass(frozen=True, slots=True)
class TorqueSplit:
    """Where the torque goes, as shares that add to 1: pitch (stretches the bolt), thread and
    bearing friction."""

    pitch: float
    thread: float
    bearing: float


def torque_split(
    pitch: float,
    pitch_diameter: float,
    mu_thread: float,
    mu_bearing: float,
    bearing_diameter: float,
) -> TorqueSplit:
    """Shares of the torque that stretch the bolt and that heat thread and face (same arguments as
    the long form).

    >>> round(torque_split(2.5, 18.376, 0.12, 0.12, 25.095).pitch, 3)
    0.125
    """
    total = torque_per_preload(pitch, pitch_diameter, mu_thread, mu_bearing, bearing_diameter)
    lead = pitch / (2 * math.pi)
    thread = mu_thread * pitch_diameter / (2 * _COS_FLANK)
    return TorqueSplit(lead / total, thread / total, (total - lead - thread) / total)
