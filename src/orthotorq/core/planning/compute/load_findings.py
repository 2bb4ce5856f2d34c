"""Findings about the load of the bolts: what the band does to every limit, and what figure would keep it inside."""
from __future__ import annotations

import math
from collections.abc import Iterator

from ...documents.plan import Plan
from ...forms.group import LimitOut, LossOut
from ...mechanics.window import PreloadBand
from ...thresholds import NUT_TURNS, PLAIN_ALUMINIUM, PLAIN_IRON, PLAIN_STEEL, SHORT_GRIP, SIZES_APART
from ..findings import Finding
from .chosen import Chosen
from .context import Context
from .facts import Facts
from .found import Found, find
from .stiffness import material_of
from .teeth import Teeth
from .window import low_for
from .words import kilonewton, newton_metre, percent

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


def _words(chosen: Chosen, teeth: Teeth | None, limit: LimitOut, load: float, band: PreloadBand, low: float) -> dict[str, str]:
    facts = chosen.facts
    group = facts.group
    teeth = teeth if limit.code == "stripping" else None
    return {"group": group.name, "typical": kilonewton(band.typical), "high": kilonewton(band.high),
            "low": kilonewton(low), "limit": kilonewton(limit.clamp_N), "share": percent(group.limits.yield_fraction or 0),
            "nu": percent(group.limits.nu), "torque": _remedy(chosen, limit.clamp_N, load, limit.side == "upper"),
            "which": teeth.weaker if teeth else "", "engaged": f"{teeth.engaged:.3g} mm" if teeth else "",
            "part": limit.name.removeprefix("pressure on ")}


def _beyond(chosen: Chosen, teeth: Teeth | None, limit: LimitOut, band: PreloadBand, losses: LossOut, yields: bool,
            said: set[Finding]) -> Iterator[Found]:
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
    yield find(code, f"groups/{chosen.facts.group.id}", **_words(chosen, teeth, limit, load, band, extreme))


def _yield_finding(chosen: Chosen, band: PreloadBand) -> Found | None:
    facts = chosen.facts
    full = chosen.yield_load()
    if band.high < full * (1 - 1e-9) or (not chosen.angle and band.high <= full):
        return None
    where, words = f"groups/{facts.group.id}", {"group": facts.group.name, "limit": kilonewton(full)}
    if not chosen.beyond_yield(chosen.torque):
        return find(Finding.YIELDS, where, high=kilonewton(band.high), **words)
    snug = (chosen.torque - facts.joint.prevailing) / facts.joint.band_per_preload().typical
    allowed = max(0.0, (full - snug) / chosen.gain()) * math.degrees(chosen.angle)
    return find(Finding.ANGLE_YIELDS, where, angle=f"{math.floor(allowed):d}°", **words)


def load_findings(plan: Plan, chosen: Chosen, limits: list[LimitOut], band: PreloadBand, losses: LossOut,
                  teeth: Teeth | None) -> Iterator[Found]:
    """Findings of one group about load and strength."""
    facts = chosen.facts
    group, strength = facts.group, facts.strength
    where = f"groups/{group.id}"
    yields = _yield_finding(chosen, band)
    if yields is not None:
        yield yields
    said: set[Finding] = set()
    # the strictest bound first, so that it is the one that speaks
    for limit in sorted(limits, key=lambda x: x.clamp_N if x.side == "upper" else -x.clamp_N):
        yield from _beyond(chosen, teeth, limit, band, losses, yields is not None, said)
    yield from _teeth_findings(chosen, teeth, said, _family(plan, facts))
    if strength.certainty in ("unsure", "medium"):
        yield find(Finding.STRENGTH_UNSURE, where, group=group.name, grade=strength.name, certainty=strength.certainty,
                   note=strength.note)
    if strength.assumed:
        yield find(Finding.STRENGTH_ASSUMED, where, group=group.name, grade=strength.name,
                   assumed=" or ".join(strength.assumed), value=f"yield {strength.yield_:g} MPa")
    if chosen.calculated:
        yield find(Finding.CALCULATED, where, group=group.name, torque=newton_metre(chosen.torque))
    seated = plan.joint_kind != "bearing_nut"
    if seated and facts.stiffness is not None and facts.stiffness.grip / facts.thread.diameter < SHORT_GRIP.value:
        share = (losses.embedding_N or 0.0) / band.typical
        yield find(Finding.SHORT_GRIP, where, group=group.name, share=percent(share, 2),
                   ratio=f"{facts.stiffness.grip / facts.thread.diameter:.2g}")


_PLAIN_RULE = {"aluminium": PLAIN_ALUMINIUM, "iron": PLAIN_IRON}


def _family(plan: Plan, facts: Facts) -> str:
    """What the internal thread is cut in; a nut without a named material matches its bolt."""
    into = facts.group.into
    return material_of(plan, into.material).family if into is not None and into.material else "steel"


def plain_rule(family: str, diameter: float) -> float:
    """Engaged length of the plain rule [mm]: 1 d in steel, 1.5 d in cast iron, 2 d in aluminium.

    >>> plain_rule("aluminium", 10.0)
    20.0
    """
    return diameter * _PLAIN_RULE.get(family, PLAIN_STEEL).value


def _teeth_findings(chosen: Chosen, teeth: Teeth | None, said: set[Finding], family: str) -> Iterator[Found]:
    facts, into = chosen.facts, chosen.facts.group.into
    where, group = f"groups/{facts.group.id}", facts.group.name
    if into is None:
        return
    reach = into.reach or into.engaged
    if into.depth is not None and reach is not None and reach.base > into.depth.base:
        yield find(Finding.BOTTOMS, where, group=group, reach=str(reach), depth=str(into.depth))
    if teeth is None:
        return
    rule = plain_rule(family, facts.thread.diameter)
    # a nut is made to match its bolt, thin ones on purpose; a handful of turns is the least
    short = teeth.turns < NUT_TURNS.value if into.kind == "nut" else teeth.engaged < rule * (1 - 1e-9)
    if short:
        yield find(Finding.FEW_TURNS, where, group=group, turns=f"{teeth.turns:.3g}", material=into.material or "carbon steel",
                   rule=f"{rule:.3g} mm ({rule / facts.thread.pitch:.3g} turns)")
    elif into.kind == "tapped" and teeth.required > teeth.engaged and not said & {Finding.STRIPS, Finding.MAY_STRIP}:
        yield find(Finding.STRIPS_FIRST, where, group=group, which=teeth.weaker, engaged=f"{teeth.engaged:.3g} mm",
                   required=f"{teeth.required:.3g} mm", pitch=f"{facts.thread.pitch:g} mm")


def share_of_yield(facts: Facts, band: PreloadBand) -> float:
    """Typical preload as a share of yield on the tensile stress area."""
    return band.typical / (facts.strength.yield_ * facts.thread.stress_area)


def compare_sizes(context: Context, bands: dict[str, PreloadBand]) -> Iterator[Found]:
    """Sizes that are tightened together compared by stress: one far from the others is a finding."""
    for stage in context.tighten_stages():
        if len(stage.groups) > 1:
            yield from _compare([(context.facts[g], b) for g, b in bands.items() if g in stage.groups])


def _compare(pairs: list[tuple[Facts, PreloadBand]]) -> Iterator[Found]:
    plain = [(f, share_of_yield(f, b)) for f, b in pairs]
    if len(plain) < 2:
        return
    middle = sorted(s for _, s in plain)[len(plain) // 2]
    low, high = min(plain, key=lambda x: x[1]), max(plain, key=lambda x: x[1])
    if high[1] / low[1] <= SIZES_APART.value:
        return
    odd, other = (high, low) if high[1] / middle >= middle / low[1] else (low, high)
    yield find(Finding.SIZES_OUT_OF_LINE, f"groups/{odd[0].group.id}", group=odd[0].group.name,
               share=percent(odd[1], 2), other=other[0].group.name, other_share=percent(other[1], 2))
