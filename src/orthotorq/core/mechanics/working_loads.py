"""A joint at work: what an axial and a transverse load do to bolt and clamp (VDI 2230-1, bolt and load concentric)."""
from __future__ import annotations

import math

from .formula import formula

_PHI = (r"\Phi", "-", "load factor")
_FA = ("F_A", "force", "axial load")
_FM = ("F_M", "force", "preload")
_AS = ("A_s", "area", "tensile stress area")
_SOURCE = "VDI 2230-1, concentric"


@formula(r"\Phi = n\,\frac{\delta_p}{\delta_s + \delta_p}", _PHI, _SOURCE,
         introduction=("n", "-", "load introduction factor"), fastener=(r"\delta_s", "resilience", "resilience of the fastener"),
         parts=(r"\delta_p", "resilience", "resilience of the parts"))
def load_factor(introduction: float, fastener: float, parts: float) -> float:
    """Share of an axial load that the bolt gets; introduction factor 0 to 1, resiliences [mm/N].

    >>> round(load_factor(0.5, 2.1208e-6, 4.5489e-7), 5)
    0.0883
    """
    return introduction * parts / (fastener + parts)


@formula(r"F_{SA} = \Phi\,F_A", ("F_{SA}", "force", "additional bolt force"), _SOURCE, factor=_PHI, axial=_FA)
def bolt_extra(factor: float, axial: float) -> float:
    """What an axial load [N] adds to the bolt.

    >>> bolt_extra(0.1, 20_000.0)
    2000.0
    """
    return factor * axial


@formula(r"F_{KR} = F_M - F_Z - (1 - \Phi)\,F_A", ("F_{KR}", "force", "residual clamp"), _SOURCE, preload=_FM,
         loss=("F_Z", "force", "losses and thermal change"), factor=_PHI, axial=_FA)
def residual_clamp(preload: float, loss: float, factor: float, axial: float) -> float:
    """Clamp [N] left between the parts; at or below zero they separate and the bolt carries all of the axial load.

    >>> residual_clamp(50_000.0, 5_000.0, 0.1, 20_000.0)
    27000.0
    """
    return preload - loss - (1 - factor) * axial


@formula(r"F_Q' = \frac{F_Q}{q\,\mu_T}", ("F_Q'", "force", "clamp against slip"), _SOURCE,
         transverse=("F_Q", "force", "transverse load"), faces=("q", "-", "friction faces"),
         friction=(r"\mu_T", "-", "friction between the parts, low end"))
def clamp_against_slip(transverse: float, faces: float, friction: float) -> float:
    """Clamp [N] that holds a transverse load [N] by friction of so many faces.

    >>> clamp_against_slip(3_000.0, 1.0, 0.15)
    20000.0
    """
    return transverse / (faces * friction)


@formula(r"S_G = \frac{F_{KR}}{F_Q'}", ("S_G", "-", "safety against slip"), _SOURCE,
         residual=("F_{KR}", "force", "residual clamp"), needed=("F_Q'", "force", "clamp against slip"))
def slip_safety(residual: float, needed: float) -> float:
    """Safety against slip [-] of a residual clamp [N]; wanted 1.2 for a steady, 1.8 for an alternating load.

    >>> slip_safety(27_000.0, 20_000.0)
    1.35
    """
    return residual / needed


@formula(r"\sigma_a = \frac{\Phi\,(F_{A,o} - F_{A,u})}{2\,A_s}", (r"\sigma_a", "stress", "alternating stress"), _SOURCE,
         factor=_PHI, high=("F_{A,o}", "force", "highest axial load"), low=("F_{A,u}", "force", "lowest axial load"),
         stress_area=_AS)
def alternating_stress(factor: float, high: float, low: float, stress_area: float) -> float:
    """Stress amplitude [MPa] in the bolt between two axial loads [N].

    >>> round(alternating_stress(0.1, 20_000.0, 0.0, 156.67), 2)
    6.38
    """
    return factor * (high - low) / (2 * stress_area)


@formula(r"\sigma_{ASV} = 0.85\left(\frac{150}{d} + 45\right)", (r"\sigma_{ASV}", "stress", "endurance limit"),
         "VDI 2230-1: thread rolled before heat treatment, 2 million cycles",
         approximation="less for cut, plated or corroded threads", diameter=("d", "length", "nominal diameter"))
def endurance_limit(diameter: float) -> float:
    """Stress amplitude [MPa] that a thread rolled before heat treatment bears; diameter [mm].

    >>> round(endurance_limit(16.0), 2)
    46.22
    """
    return 0.85 * (150 / diameter + 45)


@formula(r"\sigma_{red} = \sqrt{\left(\frac{F_M + F_{SA}}{A_s}\right)^2 + 3\left(k_\tau\,\frac{T_G}{\pi d_0^3/16}\right)^2}",
         (r"\sigma_{red}", "stress", "stress at work"), "VDI 2230-1: half of the tightening's torsion stays",
         preload=_FM, extra=("F_{SA}", "force", "additional bolt force"), stress_area=_AS,
         thread_torque=("T_G", "torque", "torque in the thread"), stress_diameter=("d_0", "length", "stress diameter"),
         kept=(r"k_\tau", "-", "share of the torsion that stays"))
def stress_at_work(preload: float, extra: float, stress_area: float, thread_torque: float, stress_diameter: float,
                   kept: float) -> float:
    """Stress [MPa] of tension with what is left of the torsion; forces [N], torque [N·mm], sizes [mm], [mm²].

    >>> round(stress_at_work(60e3, 2e3, 156.67, 60e3, 14.12, 0.5), 1)
    406.7
    """
    tension = (preload + extra) / stress_area
    torsion = thread_torque / (math.pi * stress_diameter**3 / 16)
    return math.hypot(tension, math.sqrt(3) * kept * torsion)
