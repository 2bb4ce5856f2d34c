"""Findings about the load of the bolts: what the band does to every limit, and what figure would keep it inside."""
from __future__ import annotations

import math

from ...documents.plan import Plan
from ...documents.result import LimitOut
from ...mechanics.strength import combined_preload
from ...mechanics.window import PreloadBand, preload_band
from ...tables.lubricants import Band
from ..findings import Finding
from .collect import Collector, kilonewton, newton_metre, percent
from .groups import Facts, dry_joint

#: limit code -> (typical beyond it, band beyond it); None where there is no finding of that kind
_BEYOND: dict[str, tuple[Finding | None, Finding]] = {
    "share": (Finding.OVER_SHARE, Finding.MAY_EXCEED_SHARE),
    "combined": (Finding.OVER_COMBINED, Finding.MAY_EXCEED_COMBINED),
    "proof": (None, Finding.OVER_PROOF),
    "required": (Finding.BELOW_REQUIRED, Finding.MAY_FALL_BELOW_REQUIRED),
    "gasket_seating": (Finding.GASKET_TOO_LITTLE, Finding.GASKET_MAY_GET_TOO_LITTLE),
    "gasket_service": (Finding.GASKET_TOO_LITTLE, Finding.GASKET_MAY_GET_TOO_LITTLE),
    "gasket_damage": (Finding.GASKET_TOO_MUCH, Finding.GASKET_MAY_GET_TOO_MUCH),
}


def _remedy_torque(torque: float, ratio: float, upper: bool) -> str:
    """A round torque that brings the load to its limit, on the safe side."""
    exact = torque * ratio
    step = 10 ** (math.floor(math.log10(exact)) - 1)
    marks = exact / step
    rounded = math.floor(marks + 1e-9) if upper else math.ceil(marks - 1e-9)
    return newton_metre(rounded * step)


def _beyond(facts: Facts, limit: LimitOut, band: PreloadBand, yields: bool, collector: Collector) -> None:
    hard, soft = _BEYOND[limit.code]
    upper = limit.side == "upper"
    extreme = band.high if upper else band.low
    beyond_typical = band.typical > limit.clamp_N if upper else band.typical < limit.clamp_N
    beyond_band = extreme > limit.clamp_N if upper else extreme < limit.clamp_N
    code = hard if beyond_typical and hard else soft if beyond_band else None
    # yield is the finding; that the milder limits below it are passed too says nothing more
    if code is None or (yields and code in (Finding.MAY_EXCEED_COMBINED, Finding.OVER_PROOF)):
        return
    load = band.typical if code is hard else extreme
    group = facts.group
    collector.add(code, f"groups/{group.id}", group=group.name, typical=kilonewton(band.typical),
                  high=kilonewton(band.high), low=kilonewton(band.low), limit=kilonewton(limit.clamp_N),
                  share=percent(group.limits.yield_fraction or 0), nu=percent(group.limits.nu),
                  torque=_remedy_torque(facts.torque, limit.clamp_N / load, upper))


def load_findings(plan: Plan, facts: Facts, limits: list[LimitOut], band: PreloadBand, accuracies: tuple[float, ...],
                  collector: Collector) -> None:
    """Findings of one group about load, friction, strength and history."""
    group, thread, strength = facts.group, facts.thread, facts.strength
    where, mu = f"groups/{group.id}", facts.friction.mu_thread
    full = combined_preload(1.0, strength.yield_, thread.stress_area, thread.pitch, thread.pitch_diameter,
                            thread.stress_diameter, mu.low if mu else 0.0)
    yields = band.high > full
    if yields:
        collector.add(Finding.YIELDS, where, group=group.name, high=kilonewton(band.high), limit=kilonewton(full))
    for limit in limits:
        _beyond(facts, limit, band, yields, collector)
    _condition_findings(plan, facts, band, accuracies, collector)
    if strength.certainty in ("unsure", "medium"):
        collector.add(Finding.STRENGTH_UNSURE, where, group=group.name, grade=strength.name,
                      certainty=strength.certainty, note=strength.note)
    if strength.assumed:
        collector.add(Finding.STRENGTH_ASSUMED, where, group=group.name, grade=strength.name,
                      assumed=" or ".join(strength.assumed), value=f"yield {strength.yield_:g} MPa")
    if group.fastener.history == "unknown":
        collector.add(Finding.HISTORY_UNKNOWN, where, group=group.name)
    if facts.calculated:
        collector.add(Finding.CALCULATED, where, group=group.name, torque=newton_metre(facts.torque))
    if facts.hexagon is not None and group.layout.count > 1:
        spacing = group.layout.diameter.base * math.sin(math.pi / group.layout.count)
        # a socket's wall adds about half of the width across flats around the head
        if spacing < 1.3 * facts.hexagon.across_flats:
            collector.add(Finding.SOCKET_ROOM, where, group=group.name, count=group.layout.count,
                          spacing=f"{spacing:.1f}", flats=f"{facts.hexagon.across_flats:g}")


def _condition_findings(plan: Plan, facts: Facts, band: PreloadBand, accuracies: tuple[float, ...],
                        collector: Collector) -> None:
    group, friction = facts.group, facts.friction
    where = f"groups/{group.id}"
    if plan.joint_kind in ("wheel", "twin_wheel") and not friction.dry:
        dry_band = preload_band(facts.torque, accuracies, dry_joint(facts))
        same = facts.torque * dry_band.typical / band.typical
        collector.add(Finding.DRY_SEAT_LUBRICATED, where, group=group.name, lubricant=friction.name,
                      typical=kilonewton(band.typical), dry=kilonewton(dry_band.typical),
                      rise=f"{(band.typical / dry_band.typical - 1) * 100:+.0f}", torque=newton_metre(same, 3))
    if friction.source.startswith("typical"):
        shown: Band | None = friction.mu_thread or friction.nut_factor
        assert shown is not None
        collector.add(Finding.FRICTION_TYPICAL, where, group=group.name, lubricant=friction.name,
                      band=f"{shown.low:g} to {shown.high:g}")
