"""Targets from sources: one figure, or one statement in two units that may disagree."""
from __future__ import annotations

from ...documents.plan import Group, Source
from ...sums.tools import pair_difference
from ...units import convert
from ..findings import Finding
from .collect import Collector


def torque_of_source(source: Source, group: Group, collector: Collector) -> tuple[float, bool, str]:
    """(torque N·mm, False: not calculated, why); notes whether two units agree."""
    first = source.says.torque[0]
    why = f"{source.by}{', ' + source.reference if source.reference else ''}"
    if len(source.says.torque) == 2:
        second = source.says.torque[1]
        difference, agree = pair_difference(first.quantity, second.quantity)
        code = Finding.PAIR_AGREES if agree else Finding.PAIR_MISMATCH
        collector.add(code, f"sources/{source.id}", group=group.name, first=str(first), second=str(second),
                      difference=f"{difference * 100:+.1f}", taken=str(first))
    return first.base, False, why


def second_unit(torque: float, unit: str) -> str:
    """The torque in the other unit a wrench may be graduated in."""
    other = "ft·lbf" if unit not in ("ft·lbf", "in·lbf") else "N·m"
    value = convert(torque, "torque", other)
    return f"{value:.0f} {other}" if value >= 100 else f"{value:.1f} {other}"
