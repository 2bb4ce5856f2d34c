"""Findings about the load of the bolts: what the band does to every limit, and what figure would keep it inside."""
from __future__ import annotations

import math

from ...documents.plan import Plan
from ...documents.result import LimitOut, LossOut
from ...documents.stages import TightenStage
from ...mechanics.window import PreloadBand
from ..findings import Finding
from .chosen import Chosen
from .collect import Collector, kilonewton, newton_metre, percent
from .facts import Facts
from .limits import low_for, teeth_of

#: limit code -> (typical beyond it, band beyond it); None where there is no finding of that kind
_BEYOND: dict[str, tuple[Finding | None, Finding | None]] = {
    "share": (Finding.OVER_SHARE, Finding.MAY_EXCEED_SHARE),
    "combined": (Finding.OVER_COMBINED, Finding.MAY_EXCEED_COMBINED),
    "proof": (None, Finding.OVER_PROOF),
    "stripping": (Finding.STRIPS, Finding.MAY_STRIP),
    "bearing": (Finding.PRESSES_IN, Finding.MAY_PRESS_IN),
    "soft_part": (Finding.SOFT_PART_OVER, Finding.MAY_EXCEED_SOFT_PART),
    "required": (Finding.BELOW_REQUIRED, Finding.MAY_FALL_BELOW_REQUIRED),
    "gasket_seating": (Finding.GASKET_TOO_LITTLE, Finding.GASKET_MAY_GET_TOO_LITTLE),
    "gasket_service": (Finding.GASKET_TOO_LITTLE, Finding.GASKET_MAY_GET_TOO_LITTLE),
    "gasket_y": (Finding.GASKET_TOO_LITTLE, Finding.GASKET_MAY_GET_TOO_LITTLE),
    "gasket_m": (Finding.GASKET_TOO_LITTLE, Finding.GASKET_MAY_GET_TOO_LITTLE),
    "gasket_damage": (Finding.GASKET_TOO_MUCH, Finding.GASKET_MAY_GET_TOO_MUCH),
}
_YIELDING = (Finding.MAY_EXCEED_COMBINED, Finding.OVER_PROOF, Finding.MAY_EXCEED_SHARE)
_PAST_YIELD = (*_YIELDING, Finding.OVER_SHARE, Finding.OVER_COMBINED)


def _remedy(chosen: Chosen, limit: float, load: float, upper: bool) -> str:
    """A round torque, or after a snug torque an angle, that brings the load to its limit, on the safe side."""
    gain = chosen.gain()
    if gain and load > gain:
        degrees = (limit - (load - gain)) / gain * math.degrees(chosen.angle)
        if degrees > 0:
            return f"an angle of {math.floor(degrees) if upper else math.ceil(degrees)}°"
    exact = chosen.torque * max(limit / load, 1e-3)
    step = 10 ** (math.floor(math.log10(exact)) - 1)
    marks = exact / step
    rounded = math.floor(marks + 1e-9) if upper else math.ceil(marks - 1e-9)
    return newton_metre(rounded * step)


def _words(plan: Plan, chosen: Chosen, limit: LimitOut, load: float, band: PreloadBand, low: float) -> dict[str, str]:
    facts = chosen.facts
    group = facts.group
    teeth = teeth_of(plan, facts) if limit.code == "stripping" else None
    return {"group": group.name, "typical": kilonewton(band.typical), "high": kilonewton(band.high),
            "low": kilonewton(low), "limit": kilonewton(limit.clamp_N), "share": percent(group.limits.yield_fraction or 0),
            "nu": percent(group.limits.nu), "torque": _remedy(chosen, limit.clamp_N, load, limit.side == "upper"),
            "which": teeth.weaker if teeth else "", "engaged": f"{teeth.engaged:.3g} mm" if teeth else "",
            "part": limit.name.removeprefix("pressure on ")}


def _beyond(plan: Plan, chosen: Chosen, limit: LimitOut, band: PreloadBand, losses: LossOut, yields: bool,
            said: set[Finding], collector: Collector) -> None:
    hard, soft = _BEYOND.get(limit.code, (None, None))
    upper = limit.side == "upper"
    extreme = band.high if upper else low_for(limit, band, losses)
    beyond_typical = band.typical > limit.clamp_N if upper else band.typical < limit.clamp_N
    beyond_band = extreme > limit.clamp_N if upper else extreme < limit.clamp_N
    code = hard if beyond_typical and hard else soft if beyond_band else None
    # yield is the finding, and the first gasket bound is: that milder ones are passed too says nothing more
    if code is None or (yields and code in (_PAST_YIELD if chosen.angle else _YIELDING)) or code in said:
        return
    said.add(code)
    load = band.typical if code is hard else extreme
    collector.add(code, f"groups/{chosen.facts.group.id}", **_words(plan, chosen, limit, load, band, extreme))


def _yield_finding(chosen: Chosen, band: PreloadBand, collector: Collector) -> bool:
    facts = chosen.facts
    full = chosen.yield_load()
    if band.high < full * (1 - 1e-9) or (not chosen.angle and band.high <= full):
        return False
    where, words = f"groups/{facts.group.id}", {"group": facts.group.name, "limit": kilonewton(full)}
    if chosen.beyond_yield(chosen.torque):
        snug = (chosen.torque - facts.joint.prevailing) / facts.joint.band_per_preload().typical
        allowed = max(0.0, (full - snug) / chosen.gain()) * math.degrees(chosen.angle)
        collector.add(Finding.ANGLE_YIELDS, where, angle=f"{math.floor(allowed):d}°", **words)
    else:
        collector.add(Finding.YIELDS, where, high=kilonewton(band.high), **words)
    return True


def load_findings(plan: Plan, chosen: Chosen, limits: list[LimitOut], band: PreloadBand, losses: LossOut,
                  collector: Collector) -> None:
    """Findings of one group about load and strength."""
    facts = chosen.facts
    group, strength = facts.group, facts.strength
    where = f"groups/{group.id}"
    yields = _yield_finding(chosen, band, collector)
    said: set[Finding] = set()
    # the strictest bound first, so that it is the one that speaks
    for limit in sorted(limits, key=lambda x: x.clamp_N if x.side == "upper" else -x.clamp_N):
        _beyond(plan, chosen, limit, band, losses, yields, said, collector)
    _teeth_findings(plan, chosen, said, collector)
    if strength.certainty in ("unsure", "medium"):
        collector.add(Finding.STRENGTH_UNSURE, where, group=group.name, grade=strength.name,
                      certainty=strength.certainty, note=strength.note)
    if strength.assumed:
        collector.add(Finding.STRENGTH_ASSUMED, where, group=group.name, grade=strength.name,
                      assumed=" or ".join(strength.assumed), value=f"yield {strength.yield_:g} MPa")
    if chosen.calculated:
        collector.add(Finding.CALCULATED, where, group=group.name, torque=newton_metre(chosen.torque))
    seated = plan.joint_kind != "bearing_nut"
    if seated and facts.stiffness is not None and facts.stiffness.grip / facts.thread.diameter < 3:
        share = (losses.embedding_N or 0.0) / band.typical
        collector.add(Finding.SHORT_GRIP, where, group=group.name, share=percent(share, 2),
                      ratio=f"{facts.stiffness.grip / facts.thread.diameter:.2g}")


def plain_rule(material: str, diameter: float) -> float:
    """Engaged length of the plain rule [mm]: 1 d in steel, 1.5 d in cast iron, 2 d in aluminium.

    >>> plain_rule("cast aluminium", 10.0)
    20.0
    """
    return diameter * (2.0 if "aluminium" in material else 1.5 if "iron" in material else 1.0)


def _teeth_findings(plan: Plan, chosen: Chosen, said: set[Finding], collector: Collector) -> None:
    facts, into = chosen.facts, chosen.facts.group.into
    where, group = f"groups/{facts.group.id}", facts.group.name
    if into is None:
        return
    reach = into.reach or into.engaged
    if into.depth is not None and reach is not None and reach.base > into.depth.base:
        collector.add(Finding.BOTTOMS, where, group=group, reach=str(reach), depth=str(into.depth))
    teeth = teeth_of(plan, facts)
    if teeth is None:
        return
    material = into.material or "carbon steel"
    rule = plain_rule(material, facts.thread.diameter)
    # a nut is made to match its bolt, thin ones on purpose; a handful of turns is the least
    short = teeth.turns < 5 if into.kind == "nut" else teeth.engaged < rule * (1 - 1e-9)
    if short:
        collector.add(Finding.FEW_TURNS, where, group=group, turns=f"{teeth.turns:.3g}", material=material,
                      rule=f"{rule:.3g} mm ({rule / facts.thread.pitch:.3g} turns)")
    elif into.kind == "tapped" and teeth.required > teeth.engaged and not said & {Finding.STRIPS, Finding.MAY_STRIP}:
        collector.add(Finding.STRIPS_FIRST, where, group=group, which=teeth.weaker, engaged=f"{teeth.engaged:.3g} mm",
                      required=f"{teeth.required:.3g} mm", pitch=f"{facts.thread.pitch:g} mm")


def share_of_yield(facts: Facts, band: PreloadBand) -> float:
    """Typical preload as a share of yield on the tensile stress area."""
    return band.typical / (facts.strength.yield_ * facts.thread.stress_area)


def compare_sizes(plan: Plan, pairs: list[tuple[Facts, PreloadBand]], collector: Collector) -> None:
    """Sizes that are tightened together compared by stress: one far from the others is a finding."""
    for stage in plan.stages:
        if isinstance(stage, TightenStage) and len(stage.groups) > 1:
            _compare([(f, b) for f, b in pairs if f.group.id in stage.groups], collector)


def _compare(pairs: list[tuple[Facts, PreloadBand]], collector: Collector) -> None:
    plain = [(f, share_of_yield(f, b)) for f, b in pairs]
    if len(plain) < 2:
        return
    middle = sorted(s for _, s in plain)[len(plain) // 2]
    low, high = min(plain, key=lambda x: x[1]), max(plain, key=lambda x: x[1])
    if high[1] / low[1] <= 1.5:
        return
    odd, other = (high, low) if high[1] / middle >= middle / low[1] else (low, high)
    collector.add(Finding.SIZES_OUT_OF_LINE, f"groups/{odd[0].group.id}", group=odd[0].group.name,
                  share=percent(odd[1], 2), other=other[0].group.name, other_share=percent(other[1], 2))
