"""A joint at work: what an axial and a transverse load do to bolt and clamp (VDI 2230-1, bolt and
load concentric)."""

from __future__ import annotations

import math

from .formula import formula

_PHI = (r"\Phi", "-", "load factor")
_FA = ("F_A", "force", "axial load")
_FM = ("F_M", "force", "preload")
_AS = ("A_s", "area", "tensile stress area")
_SOURCE = "VDI 2230-1, concentric"


@formula(
    r"\Phi = n\,\frac{\delta_p}{\delta_s + \delta_p}",
    _PHI,
    _SOURCE,
    introduction=("n", "-", "load introduction factor"),
    fastener=(r"\delta_s", "resilience", "resilience of the fastener"),
    parts=(r"\delta_p", "resilience", "resilience of the parts"),
)
def load_factor(introduction: float, fastener: float, parts: float) -> float:
    """Share of an axial load that the bolt gets; introduction factor 0 to 1, resiliences [mm/N].

    >>> round(load_factor(0.5, 2.1208e-6, 4.5489e-7), 5)
    0.0883
    """
    return introduction * parts / (fastener + parts)


@formula(
    r"F_{SA} = \Phi\,F_A",
    ("F_{SA}", "force", "additional bolt force"),
    _SOURCE,
    factor=_PHI,
    axial=_FA,
)
def bolt_extra(factor: float, axial: float) -> float:
    """What an axial load [N] adds to the bolt.

    >>> bolt_extra(0.1, 20_000.0)
    2000.0
    """
    return factor * axial


@formula(
    r"F_{KR} = F_M - F_Z - (1 - \Phi)\,F_A",
    ("F_{KR}", "force", "residual clamp"),
    _SOURCE,
    preload=_FM,
    loss=("F_Z", "force", "losses and thermal change"),
    factor=_PHI,
    axial=_FA,
)
def residual_clamp(preload: float, loss: float, factor: float, axial: float) -> float:
    """Clamp [N] left between the parts; at or below zero they separate and the bolt carries all of
    the axial load.

    >>> residual_clamp(50_000.0, 5_000.0, 0.1, 20_000.0)
    27000.0
    """
    return preload - loss - (1 - factor) * axial


@formula(
    r"F_Q' = \frac{F_Q}{q\,\mu_T}",
    ("F_Q'", "force", "clamp against slip"),
    _SOURCE,
    transverse=("F_Q", "force", "transverse load"),
    faces=("q", "-", "friction faces"),
    friction=(r"\mu_T", "-", "friction between the parts, low end"),
)
def clamp_against_slip(transverse: float, faces: float, friction: float) -> float:
    """Clamp [N] that holds a transverse load [N] by friction of so many faces.

    >>> clamp_against_slip(3_000.0, 1.0, 0.15)
    20000.0
    """
    return transverse / (faces * friction)


@formula(
    r"S_G = \frac{F_{KR}}{F_Q'}",
    ("S_G", "-", "safety against slip"),
    _SOURCE,
    residual=("F_{KR}", "force", "residual clamp"),
    needed=("F_Q'", "force", "clamp against slip"),
)
def slip_safety(residual: float, needed: float) -> float:
    """Safety against slip [-] of a residual clamp [N]; wanted 1.2 for a steady, 1.8 for an
    alternating load.

    >>> slip_safety(27_000.0, 20_000.0)
    1.35
    """
    return residual / needed


@formula(
    r"\sigma_a = \frac{\Phi\,(F_{A,o} - F_{A,u})}{2\,A_s}",
    (r"\sigma_a", "stress", "alternating stress"),
    _SOURCE,
    factor=_PHI,
    high=("F_{A,o}", "force", "highest axial load"),
    low=("F_{A,u}", "force", "lowest axial load"),
    stress_area=_AS,
)
def alternating_stress(factor: float, high: float, low: float, stress_area: float) -> float:
    """Stress amplitude [MPa] in the bolt between two axial loads [N].

    >>> round(alternating_stress(0.1, 20_000.0, 0.0, 156.67), 2)
    6.38
    """
    return factor * (high - low) / (2 * stress_area)


@formula(
    r"F_{SA} = F_A - (F_M - F_Z)",
    ("F_{SA}", "force", "additional bolt force, joint open"),
    _SOURCE,
    preload=_FM,
    loss=("F_Z", "force", "losses and thermal change"),
    axial=_FA,
)
def extra_once_separated(preload: float, loss: float, axial: float) -> float:
    """What an axial load [N] adds to the bolt once the joint has separated: the bolt carries all of
    it.

    >>> extra_once_separated(20_000.0, 2_000.0, 60_000.0)
    42000.0
    """
    return axial - max(0.0, preload - loss)


@formula(
    r"\sigma_a = \frac{F_{A,o} - (F_V + \Phi\,F_{A,u})}{2\,A_s},\quad F_V = F_M - F_Z",
    (r"\sigma_a", "stress", "alternating stress, joint open at the top"),
    _SOURCE,
    preload=_FM,
    loss=("F_Z", "force", "losses and thermal change"),
    factor=_PHI,
    high=("F_{A,o}", "force", "highest axial load"),
    low=("F_{A,u}", "force", "lowest axial load"),
    stress_area=_AS,
)
def alternating_once_separated(
    preload: float, loss: float, factor: float, high: float, low: float, stress_area: float
) -> float:
    """Stress amplitude [MPa] in the bolt of a joint that separates at its highest load [N].

    At a lowest load at which it is open, too, the bolt carries all of that one as well.

    >>> round(alternating_once_separated(20_000.0, 0.0, 0.1, 60_000.0, 10_000.0, 156.67), 2)
    124.47
    """
    left = max(0.0, preload - loss)
    return (high - max(left + factor * low, low, 0.0)) / (2 * stress_area)


@formula(
    r"\sigma_{ASV} = 0.85\left(\frac{150}{d} + 45\right)",
    (r"\sigma_{ASV}", "stress", "endurance limit"),
    "VDI 2230-1: thread rolled before heat treatment, 2 million cycles",
    approximation="less for cut, plated or corroded threads",
    diameter=("d", "length", "nominal diameter"),
)
def endurance_limit(diameter: float) -> float:
    """Stress amplitude [MPa] that a thread rolled before heat treatment bears; diameter [mm].

    >>> round(endurance_limit(16.0), 2)
    46.22
    """
    return 0.85 * (150 / diameter + 45)


@formula(
    (
        r"\sigma_{red} = \sqrt{\left(\frac{F_M + F_{SA}}{A_s}\right)^2 + "
        r"3\left(k_\tau\,\frac{T_G}{\pi d_0^3/16}\right)^2}"
    ),
    (r"\sigma_{red}", "stress", "stress at work"),
    "VDI 2230-1: half of the tightening's torsion stays",
    preload=_FM,
    extra=("F_{SA}", "force", "additional bolt force"),
    stress_area=_AS,
    thread_torque=("T_G", "torque", "torque in the thread"),
    stress_diameter=("d_0", "length", "stress diameter"),
    kept=(r"k_\tau", "-", "share of the torsion that stays"),
)
def stress_at_work(
    preload: float,
    extra: float,
    stress_area: float,
    thread_torque: float,
    stress_diameter: float,
    kept: float,
) -> float:
    """Stress [MPa] of tension with what is left of the torsion; forces [N], torque [N·mm], sizes
    [mm], [mm²].

    >>> round(stress_at_work(60e3, 2e3, 156.67, 60e3, 14.12, 0.5), 1)
    406.7
    """
    tension = (preload + extra) / stress_area
    torsion = thread_torque / (math.pi * stress_diameter**3 / 16)
    return math.hypot(tension, math.sqrt(3) * kept * torsion)


@formula(
    r"F_M = \frac{-F_{SA}/A^2 + \sqrt{R_e^2\,(1/A^2 + b^2) - (b\,F_{SA}/A)^2}}{1/A^2 + b^2},\quad "
    r"b = \frac{\sqrt{3}\,k_\tau\,k_G}{\pi d_0^3/16}",
    (r"F_M", "force", "preload at which the bolt yields at work"),
    "VDI 2230-1, stress at work solved for the preload",
    yield_strength=("R_e", "stress", "yield strength"),
    extra=("F_{SA}", "force", "additional bolt force"),
    stress_area=_AS,
    thread_arm=("k_G", "length", "torque in the thread per preload"),
    stress_diameter=("d_0", "length", "stress diameter"),
    kept=(r"k_\tau", "-", "share of the torsion that stays"),
)
def preload_at_work(
    yield_strength: float,
    extra: float,
    stress_area: float,
    thread_arm: float,
    stress_diameter: float,
    kept: float,
) -> float:
    """Preload [N] at which a bolt that gets more force [N] yields, with what is left of the
    torsion; [MPa], [mm²], [mm].

    >>> f = preload_at_work(640.0, 2e3, 156.67, 1.2, 14.12, 0.5)
    >>> round(stress_at_work(f, 2e3, 156.67, 1.2 * f, 14.12, 0.5), 6)
    640.0
    """
    a, b = 1 / stress_area, math.sqrt(3) * kept * thread_arm / (math.pi * stress_diameter**3 / 16)
    square = a**2 + b**2
    inside = yield_strength**2 * square - (a * b * extra) ** 2
    return max(0.0, (-extra * a**2 + math.sqrt(max(0.0, inside))) / square)


@formula(
    r"F_K = \frac{A_D\,p}{n}",
    ("F_K", "force", "clamp that seals"),
    _SOURCE,
    pressure=("p", "stress", "pressure"),
    sealed=("D", "length", "sealed diameter"),
    bolts=("n", "-", "number of bolts"),
)
def clamp_that_seals(pressure: float, sealed: float, bolts: float) -> float:
    """Clamp [N] of one bolt that holds a pressure [MPa] inside a diameter [mm].

    >>> round(clamp_that_seals(1.0, 100.0, 4.0))
    1963
    """
    return math.pi / 4 * sealed**2 * pressure / bolts


@formula(
    r"F_V = S\,F_K + (1 - \Phi)\,F_A",
    ("F_V", "force", "preload that is needed at work"),
    _SOURCE,
    clamp=("F_K", "force", "clamp that is needed"),
    safety=("S", "-", "wanted safety"),
    factor=_PHI,
    axial=_FA,
)
def preload_needed(clamp: float, safety: float, factor: float, axial: float) -> float:
    """Preload [N] that must be left after losses so that a clamp [N] stays under the axial load
    [N].

    >>> preload_needed(20_000.0, 1.2, 0.1, 10_000.0)
    33000.0
    """
    return safety * clamp + (1 - factor) * axial


@formula(
    r"F_M = p_G\,\frac{\pi}{4}(d_w^2 - d_h^2) - F_{SA}",
    ("F_M", "force", "preload at the pressure limit, at work"),
    _SOURCE,
    at_rest=("F_p", "force", "clamp at the pressure limit"),
    extra=("F_{SA}", "force", "additional bolt force"),
)
def preload_under_the_head(at_rest: float, extra: float) -> float:
    """Preload [N] at which the pressure under the head reaches its limit while the axial load adds
    to the bolt [N].

    >>> preload_under_the_head(100_000.0, 4_000.0)
    96000.0
    """
    return max(0.0, at_rest - extra)


def rolled_after(limit: float, preload: float, at_yield: float) -> float:
    """Endurance limit [MPa] of a thread rolled after heat treatment: more the less it is tightened.
    Source: VDI 2230-1.

    >>> round(rolled_after(46.0, 60_000.0, 100_000.0), 3)
    64.4
    """
    return limit * (2 - preload / at_yield)
