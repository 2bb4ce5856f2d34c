"""Temperature: what different expansion and softer material do to the preload."""

from __future__ import annotations

from .formula import formula

_SOURCE = "VDI 2230-1, thermal change of the preload"


@formula(
    r"\Delta F = \frac{l_K(\alpha_s \Delta T_s - \alpha_p \Delta T_p)}{\delta_s/r_s + "
    r"\delta_p/r_p} + "
    r"F\left[1 - \frac{\delta_s + \delta_p}{\delta_s/r_s + \delta_p/r_p}\right]",
    (r"\Delta F", "force", "preload lost when hot"),
    _SOURCE,
    preload=("F", "force", "preload cold"),
    grip=("l_K", "length", "clamped length"),
    fastener=(r"\delta_s", "resilience", "resilience of the fastener, cold"),
    parts=(r"\delta_p", "resilience", "resilience of the parts, cold"),
    bolt_growth=(r"\alpha_s \Delta T_s", "-", "growth of the bolt"),
    parts_growth=(r"\alpha_p \Delta T_p", "-", "growth of the parts"),
    bolt_ratio=("r_s", "-", "modulus of the bolt, hot over cold"),
    parts_ratio=("r_p", "-", "modulus of the parts, hot over cold"),
)
def preload_lost(
    preload: float,
    grip: float,
    fastener: float,
    parts: float,
    bolt_growth: float,
    parts_growth: float,
    bolt_ratio: float,
    parts_ratio: float,
) -> float:
    """Preload [N] lost when hot (negative: gained); grip [mm], resiliences [mm/N], growths and
    ratios [-].

    >>> round(preload_lost(50e3, 60.0, 2e-6, 5e-7, 0.0012, 0.0010, 1.0, 1.0))
    4800
    >>> round(preload_lost(50e3, 60.0, 2e-6, 5e-7, 0.0, 0.0, 0.9, 0.9))
    5000
    """
    hot = fastener / bolt_ratio + parts / parts_ratio
    return grip * (bolt_growth - parts_growth) / hot + preload * (1 - (fastener + parts) / hot)


@formula(
    r"F_T = F - \Delta F",
    ("F_T", "force", "preload hot"),
    _SOURCE,
    preload=("F", "force", "preload cold"),
    lost=(r"\Delta F", "force", "preload lost when hot"),
)
def preload_hot(preload: float, lost: float) -> float:
    """Preload [N] that is left when hot.

    >>> preload_hot(50_000.0, 4_800.0)
    45200.0
    """
    return preload - lost
