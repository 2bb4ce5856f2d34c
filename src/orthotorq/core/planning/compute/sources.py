"""Sources of a figure: what each says, what it is valid for, which is chosen and why (domain 3.1).

Validity first, then precedence: equipment maker, gasket or part maker, standard, site rule, calculated. A code is a bound.
"""
from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from ...documents.joint import Group
from ...documents.plan import Plan
from ...documents.targets import Says, Source
from ...mechanics import preload as pre
from ...mechanics import strength as lim
from ...tables import lubricants
from ...tables.threads import parse_thread
from ...thresholds import SOURCES_APART
from ...units import convert, pair_difference, show_quantity
from ..findings import Finding
from .facts import Facts
from .found import Found
from .words import newton_metre

RANK = {"equipment maker": 1, "gasket maker": 2, "part maker": 2, "standard": 3, "site rule": 4, "calculation": 5}


@dataclass(frozen=True, slots=True)
class Reading:
    """What a source comes to for one group: torque [N·mm] where it gives one, whether it was calculated, and how it was read."""

    source: Source
    torque: float | None
    calculated: bool
    how: str
    struck: str | None


@dataclass(frozen=True, slots=True)
class Sources:
    """All sources of a group with the one that ranks first among the valid ones, and what was found about them."""

    readings: tuple[Reading, ...]
    first: Reading | None
    found: tuple[Found, ...] = ()


def _add(found: list[Found], code: Finding, where: str, **params: object) -> None:
    found.append(Found(code, where, params))


def struck_because(plan: Plan, facts: Facts, source: Source) -> str | None:
    """Why a source does not hold for this group, or None."""
    group, valid = facts.group, source.valid_for
    if valid.thread is not None and parse_thread(valid.thread).designation != facts.thread.designation:
        return f"it is for {valid.thread}, these are {facts.thread.designation}"
    if valid.grade is not None and valid.grade.casefold() not in (group.fastener.grade.casefold(),
                                                                  facts.strength.name.casefold()):
        return f"it is for {valid.grade}, these are {group.fastener.grade}"
    if valid.lubricant is not None and valid.lubricant != group.friction.lubricant:
        return f"it is for {_lubricant(plan, valid.lubricant)}, this joint has {facts.friction.name}"
    if valid.gasket is not None and (group.gasket is None or valid.gasket not in (group.gasket.name, group.gasket.type)):
        return f"it is for the gasket {valid.gasket}, this joint has {group.gasket.name if group.gasket else 'none'}"
    if valid.count is not None and valid.count != group.layout.count:
        return f"it is for {valid.count} bolts, this joint has {group.layout.count}"
    return None


def _lubricant(plan: Plan, identifier: str) -> str:
    own = plan.definitions.lubricants.get(identifier)
    shipped = lubricants.table().get(identifier)
    return own.name if own else shipped.name if shipped else identifier


def _read(facts: Facts, source: Source, others: Callable[[], list[float]], where: str,
          found: list[Found]) -> tuple[float | None, bool, str]:
    """(torque N·mm, calculated, how it was read); notes ranges, pairs, conflicts inside the source."""
    says, group = source.says, facts.group
    if says.torque is not None:
        first = says.torque[0]
        if len(says.torque) == 2:
            return _pair(group, says, others, where, found)
        return first.base, False, str(first)
    if says.range is not None:
        low, high = says.range
        middle = (low.base + high.base) / 2
        taken = show_quantity(middle, "torque", low.quantity.unit)
        _add(found, Finding.SOURCE_RANGE, where, group=group.name, low=str(low), high=str(high), taken=taken)
        return middle, False, f"middle of {low} to {high}"
    if says.places is not None:
        first = says.places[0].torque
        words = " and ".join(f"{p.torque} at {p.at}" for p in says.places)
        _add(found, Finding.SOURCE_TWO_FIGURES, where, group=group.name, figures=words, taken=str(first))
        return first.base, False, f"{first} at {says.places[0].at}"
    k, prevailing = facts.joint.band_per_preload().typical, facts.joint.prevailing
    if says.preload is not None:
        return pre.torque_from_preload(says.preload.base, k, prevailing), True, f"calculated for {says.preload}"
    if says.yield_fraction is not None:
        force = lim.preload_at_fraction(says.yield_fraction, facts.strength.yield_, facts.thread.stress_area)
        return (pre.torque_from_preload(force, k, prevailing), True,
                f"calculated for {says.yield_fraction * 100:g} % of yield")
    return None, False, ""


def _pair(group: Group, says: Says, others: Callable[[], list[float]], where: str,
          found: list[Found]) -> tuple[float, bool, str]:
    """One figure in two units: where they disagree, the reading that the rest supports is said, and the first is taken
    unless the rest supports the second."""
    assert says.torque is not None
    first, second = says.torque
    difference, agree = pair_difference(first.quantity, second.quantity)
    words = {"group": group.name, "first": str(first), "second": str(second), "difference": f"{difference * 100:+.1f}"}
    if agree:
        _add(found, Finding.PAIR_AGREES, where, **words)
        return first.base, False, f"{first} ({second})"
    rest = others()
    if not rest:
        _add(found, Finding.PAIR_MISMATCH, where, taken=str(first), supports="nothing else in this plan tells which holds",
                      **words)
        return first.base, False, f"{first}, not {second}"
    middle = sorted(rest)[len(rest) // 2]
    better = min((first, second), key=lambda q: abs(q.base / middle - 1))
    supports = f"the rest ({newton_metre(middle)}) supports {better}"
    _add(found, Finding.PAIR_MISMATCH, where, taken=str(better), supports=supports, **words)
    return better.base, False, f"{better}, supported by the rest"


def _plain(facts: Facts, source: Source) -> float | None:
    """A figure of a source that needs no judgement, N·mm, to weigh others by."""
    says = source.says
    if says.torque is not None and len(says.torque) == 1:
        return says.torque[0].base
    if says.range is not None:
        return (says.range[0].base + says.range[1].base) / 2
    if says.preload is not None or says.yield_fraction is not None:
        return _read(facts, source, list, "", [])[0]
    return None


def read_sources(plan: Plan, facts: Facts) -> Sources:
    """Every source that speaks of a group, read and judged; ranks first whatever is valid and highest."""
    mine = [s for s in plan.sources if not s.groups or facts.group.id in s.groups]
    readings, found = [], list[Found]()
    for source in mine:
        where = f"sources/{source.id}"
        struck = struck_because(plan, facts, source)

        def others(own: Source = source) -> list[float]:
            valid = [s for s in mine if s is not own and s.by != "code" and struck_because(plan, facts, s) is None]
            plain = [t for s in valid if (t := _plain(facts, s)) is not None]
            if plain or facts.group.limits.yield_fraction is None:
                return plain
            # nothing else speaks: the chosen share of yield is a rough judge
            k, share = facts.joint.band_per_preload().typical, facts.group.limits.yield_fraction
            force = lim.preload_at_fraction(share, facts.strength.yield_, facts.thread.stress_area)
            return [pre.torque_from_preload(force, k, facts.joint.prevailing)]

        if struck is not None:
            _add(found, Finding.SOURCE_STRUCK, where, source=name_of(source), group=facts.group.name, reason=struck)
            readings.append(Reading(source, _plain(facts, source), False, "", struck))
            continue
        torque, calculated, how = _read(facts, source, others, where, found)
        silent = torque is None and source.says.at_most is None and source.says.at_least is None
        if silent:
            _add(found, Finding.SOURCE_SILENT, where, source=name_of(source), group=facts.group.name)
        readings.append(Reading(source, torque, calculated or source.by == "calculation", how, None))
    ranked = sorted((r for r in readings if r.struck is None and r.torque is not None and r.source.by in RANK),
                    key=lambda r: RANK[r.source.by])
    _conflicts(facts, ranked, found)
    return Sources(tuple(readings), ranked[0] if ranked else None, tuple(found))


def _conflicts(facts: Facts, ranked: list[Reading], found: list[Found]) -> None:
    if len(ranked) < 2:
        return
    first = ranked[0]
    for other in ranked[1:]:
        assert first.torque is not None and other.torque is not None
        gap = other.torque / first.torque - 1
        if abs(gap) > SOURCES_APART.value:
            _add(found, Finding.SOURCE_CONFLICT, f"sources/{other.source.id}", group=facts.group.name,
                          first=f"{name_of(first.source)} ({newton_metre(first.torque)})",
                          second=f"{name_of(other.source)} ({newton_metre(other.torque)})", difference=f"{gap * 100:+.0f}")


def name_of(source: Source) -> str:
    """A source in words."""
    return f"{source.by}{', ' + source.reference if source.reference else ''}"


def second_unit(torque: float, unit: str) -> str:
    """The torque in the other unit a wrench may be graduated in."""
    other = "ft·lbf" if unit not in ("ft·lbf", "in·lbf") else "N·m"
    value = convert(torque, "torque", other)
    return f"{value:.0f} {other}" if value >= 100 else f"{value:.1f} {other}"


