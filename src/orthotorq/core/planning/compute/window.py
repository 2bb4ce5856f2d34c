"""The window between what is needed and what is allowed, and whether the scatter fits."""
from __future__ import annotations

from ...forms.group import LimitOut, LossOut, WindowOut
from ...mechanics.window import PreloadBand
from .losses import after_losses

#: bounds of the torque, not of the load: they are shown, but scatter of friction does not pass them
OF_TORQUE = ("wrench", "drive", "code_at_most", "code_at_least")
#: lower bounds that must hold at assembly; the others must hold after losses
AT_ASSEMBLY = ("gasket_seating", "gasket_y", "code_at_least")


def low_for(limit: LimitOut, band: PreloadBand, losses: LossOut) -> float:
    """The low end of the band that a lower bound is held against [N]."""
    return band.low if limit.code in AT_ASSEMBLY else after_losses(band.low, losses)


def window_of(limits: list[LimitOut], band: PreloadBand, losses: LossOut) -> WindowOut:
    """Needed and allowed clamp; fine when the whole worst-case band fits, tight when only its middle does."""
    limits = [x for x in limits if x.code not in OF_TORQUE]
    lower = max((x for x in limits if x.side == "lower"), key=lambda x: x.clamp_N, default=None)
    upper = min((x for x in limits if x.side == "upper"), key=lambda x: x.clamp_N, default=None)
    low, high = lower.clamp_N if lower else None, upper.clamp_N if upper else None
    if lower is None and upper is None:
        return WindowOut(lower_N=None, upper_N=None, verdict="unbounded", opens=None)
    misses_low = any(low_for(x, band, losses) < x.clamp_N for x in limits if x.side == "lower")
    misses_high = upper is not None and band.high > upper.clamp_N
    if not misses_low and not misses_high:
        return WindowOut(lower_N=low, upper_N=high, verdict="fine", opens=None)
    if lower is not None and upper is not None and lower.clamp_N >= upper.clamp_N:
        return WindowOut(lower_N=low, upper_N=high, verdict="impossible",
                         opens=f"“{lower.name}” lies above “{upper.name}”: one of the two inputs must change")
    middle = (lower is None or band.typical >= lower.clamp_N) and (upper is None or band.typical <= upper.clamp_N)
    spread = band.high / max(band.low, 1.0)
    need = (upper.clamp_N / lower.clamp_N) if lower and upper else None
    if need is not None and spread > need:
        opens = f"a narrower friction band: the load scatters 1 : {spread:.2f}, the window is 1 : {need:.2f} wide"
    else:
        opens = "a higher torque" if misses_low else "a lower torque"
    return WindowOut(lower_N=low, upper_N=high, verdict="tight" if middle else "impossible", opens=opens)
