"""Bounds held against what a bolt sees: one answer for findings, window and remedies."""

from __future__ import annotations

from dataclasses import dataclass

from ....documents.plan import Plan
from ....forms.group import LimitOut, WindowOut
from ....mechanics.window import Ends
from ..inputs.facts import Facts
from .bolt_load import Seen
from .limit import Bound
from .limit_source import set_by

#: bounds of the torque, not of the load: they are shown, but scatter of friction does not pass them
OF_TORQUE = ("wrench", "drive", "code_at_most", "code_at_least")
#: lower bounds that must hold at assembly (some carry their own relaxation); the others must hold
#: after losses
AT_ASSEMBLY = (
    "gasket_seating",
    "gasket_y",
    "code_at_least",
    "component_seating",
    "component_operating",
    "component_bolt_min",
)
#: places of low, typical and high in Ends; typical first, so that it speaks where all are alike
_LOW, _TYPICAL, _HIGH = 0, 1, 2
_ENDS = (_TYPICAL, _LOW, _HIGH)
#: rounding of figures, no more
_SAME = 1e-9


@dataclass(frozen=True, slots=True)
class Held:
    """One bound under what a bolt sees [N]: its loads at each end, whether it holds at typical
    friction and at every end, and the load of the end that is worst off."""

    bound: Bound
    loads: Ends
    typical: bool
    whole: bool
    worst: float
    worst_limit: float

    def margin(self, whole: bool) -> float:
        """How far inside the bound the load lies, as a share of it: at the worst end, or at typical
        friction."""
        limit, sign = self.bound.clamps, 1.0 if self.bound.upper else -1.0
        return min(
            sign * (limit[e] - self.loads[e]) / limit[e] for e in (_ENDS if whole else (_TYPICAL,))
        )


def loads_for(bound: Bound, seen: Seen) -> Ends:
    """The loads that a bound is held against: the most of all passes, what assembly leaves, or what
    losses leave."""
    if bound.upper and seen.stretched and bound.code == "bearing":
        # the tool stands on the part beside the nut: under the nut acts what is left
        return Ends(seen.band.low, seen.band.typical, seen.figure_high)
    if bound.upper:
        return (
            seen.hot_peak if bound.code == "hot_yield" and seen.hot_peak is not None else seen.peak
        )
    if bound.code in AT_ASSEMBLY:
        return Ends(seen.band.low, seen.band.typical, seen.figure_high)
    # a need must be met cold and hot
    return seen.after if seen.hot is None else Ends(*map(min, seen.after, seen.hot))


def held(bound: Bound, seen: Seen) -> Held:
    """One bound held against what a bolt sees. A code's bound is a torque, and is held against what
    is set."""
    loads, limit = loads_for(bound, seen), bound.clamps
    if bound.torque is not None:
        least, most = seen.torques
        good = (
            most <= bound.torque * (1 + _SAME)
            if bound.upper
            else least >= bound.torque * (1 - _SAME)
        )
        return Held(bound, loads, good, good, loads.typical, limit.typical)
    sign = 1 if bound.upper else -1
    beyond = [e for e in _ENDS if sign * (loads[e] - limit[e]) > _SAME * limit[e]]
    worst = max(_ENDS, key=lambda e: sign * loads[e] / limit[e])
    return Held(bound, loads, _TYPICAL not in beyond, not beyond, loads[worst], limit[worst])


def limit_outs(every: list[Held], plan: Plan, facts: Facts) -> list[LimitOut]:
    """Bounds as the result shows them, each with how far the typical load uses it."""
    return [
        LimitOut(
            id=h.bound.id,
            code=h.bound.code,
            name=h.bound.name,
            side="upper" if h.bound.upper else "lower",
            clamp_N=h.bound.clamp,
            typical_N=h.bound.clamps.typical,
            use=h.loads.typical / h.bound.clamps.typical,
            input=h.bound.input,
            set_by=set_by(plan, facts, h.bound),
        )
        for h in every
    ]


def window_of(every: list[Held], seen: Seen) -> WindowOut:
    """Needed and allowed clamp; fine when every bound holds at every end, tight when only at
    typical friction."""
    mine = [h for h in every if h.bound.code not in OF_TORQUE]
    lower = max((h.bound for h in mine if not h.bound.upper), key=lambda b: b.clamp, default=None)
    upper = min((h.bound for h in mine if h.bound.upper), key=lambda b: b.clamp, default=None)
    low, high = lower.clamp if lower else None, upper.clamp if upper else None
    if lower is None and upper is None:
        return WindowOut(lower_N=None, upper_N=None, verdict="unbounded", opens=None)
    if all(h.whole for h in mine):
        return WindowOut(lower_N=low, upper_N=high, verdict="fine", opens=None)
    if lower is not None and upper is not None and lower.clamp >= upper.clamp:
        return WindowOut(
            lower_N=low,
            upper_N=high,
            verdict="impossible",
            opens=f"“{lower.name}” lies above “{upper.name}”: one of the two inputs must change",
        )
    spread = seen.band.high / max(seen.band.low, 1.0)
    need = upper.clamp / lower.clamp if lower and upper else None
    if need is not None and spread > need:
        opens = (
            f"a narrower friction band: the load scatters 1 : {spread:.2f}, the window is 1 : "
            f"{need:.2f} wide"
        )
    else:
        opens = (
            "a higher torque"
            if any(not h.whole and not h.bound.upper for h in mine)
            else "a lower torque"
        )
    return WindowOut(
        lower_N=low,
        upper_N=high,
        verdict="tight" if all(h.typical for h in mine) else "impossible",
        opens=opens,
    )
