"""Sources of a figure: what each says, what it is valid for, which is chosen and why (domain 3.1).

Validity first, then precedence: equipment maker, gasket or part maker, standard, site rule,
calculated. A code is a bound.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field

from ....documents.plan import Plan
from ....documents.targets import PlacedTorque, Source
from ....forms.quantities import QuantityText
from ....mechanics import preload as pre
from ....mechanics import strength as lim
from ....tables import lubricants
from ....tables.grades import same_grade
from ....tables.threads import parse_thread
from ....thresholds import SOURCES_APART
from ....units import convert, show, show_quantity
from ...findings import Finding
from .facts import Facts
from .figure_text import newton_metre
from .finding_builder import Found, find
from .unit_mismatch import PairReading, read_pair

RANK = {
    "equipment maker": 1,
    "gasket maker": 2,
    "part maker": 2,
    "standard": 3,
    "site rule": 4,
    "calculation": 5,
}


@dataclass(frozen=True, slots=True)
class Reading:
    """What a source comes to for one group.

    `torque` [N·mm] where it gives one, `low` to `high` what it leaves open, `angle` [rad] after it
    or 0; whether it was calculated, how it was read, and why it does not hold here, if so.
    """

    source: Source
    torque: float | None = None
    calculated: bool = False
    how: str = ""
    struck: str | None = None
    low: float = 0.0
    high: float = 0.0
    angle: float = 0.0
    found: tuple[Found, ...] = ()

    @property
    def words(self) -> str:
        """Its figure as people say it."""
        angle = f" + {show(math.degrees(self.angle), 3)}°" if self.angle else ""
        return f"{newton_metre(self.torque or 0.0)}{angle}"

    def gives(self, torque: float, angle: float) -> bool:
        """Whether a figure is the one that it gives, or lies in the range that it leaves open."""
        inside = self.low * (1 - 1e-6) <= torque <= self.high * (1 + 1e-6)
        return self.torque is not None and inside and abs(self.angle - angle) < 1e-6


@dataclass(frozen=True, slots=True)
class Sources:
    """All sources of a group with the one that ranks first among the valid ones, and what was found
    about them."""

    readings: tuple[Reading, ...]
    first: Reading | None
    found: tuple[Found, ...] = field(default=())


def struck_because(plan: Plan, facts: Facts, source: Source) -> str | None:
    """Why a source does not hold for this group, or None. What it is valid for is compared by what
    is meant."""
    group, valid = facts.group, source.valid_for
    if valid.thread is not None:
        other, own = parse_thread(valid.thread), facts.thread
        if (other.diameter, other.pitch, other.unified) != (own.diameter, own.pitch, own.unified):
            return f"it is for {valid.thread}, these are {own.designation}"
    if valid.grade is not None and not any(
        same_grade(valid.grade, name) for name in (group.fastener.grade, facts.strength.name)
    ):
        return f"it is for {valid.grade}, these are {group.fastener.grade}"
    if valid.lubricant is not None and valid.lubricant.casefold() not in (
        (group.friction.lubricant or "").casefold(),
        facts.friction.name.casefold(),
    ):
        return (
            f"it is for {_lubricant(plan, valid.lubricant)}, this joint has {facts.friction.name}"
        )
    if valid.gasket is not None and (
        group.gasket is None
        or valid.gasket.strip().casefold()
        not in (group.gasket.name.strip().casefold(), (group.gasket.type or "").casefold())
    ):
        return (
            f"it is for the gasket {valid.gasket}, this joint has "
            f"{group.gasket.name if group.gasket else 'none'}"
        )
    if valid.count is not None and valid.count != group.layout.count:
        return f"it is for {valid.count} bolts, this joint has {group.layout.count}"
    return None


def _lubricant(plan: Plan, identifier: str) -> str:
    own = plan.definitions.lubricants.get(identifier)
    shipped = lubricants.table().get(identifier)
    return own.name if own else shipped.name if shipped else identifier


def _exact(source: Source, torque: float, how: str, calculated: bool = False) -> Reading:
    return Reading(
        source, torque, calculated or source.by == "calculation", how, None, torque, torque
    )


def _read(facts: Facts, source: Source) -> Reading:
    """What a source says, whether it holds here or not; a figure in two units is judged apart."""
    says = source.says
    if says.torque is not None:
        return _exact(source, says.torque[0].base, str(says.torque[0]))
    if says.range is not None:
        return _of_range(facts, source, says.range)
    if says.places is not None:
        return _of_places(facts, source, says.places)
    return _calculated(facts, source)


def _of_range(facts: Facts, source: Source, said_range: Sequence[QuantityText]) -> Reading:
    low, high = said_range
    middle = (low.base + high.base) / 2
    taken = show_quantity(middle, "torque", low.quantity.unit)
    said = find(
        Finding.SOURCE_RANGE,
        f"sources/{source.id}",
        group=facts.group.name,
        low=str(low),
        high=str(high),
        middle=taken,
    )
    return Reading(
        source,
        middle,
        source.by == "calculation",
        f"middle of {low} to {high}",
        None,
        low.base,
        high.base,
        found=(said,),
    )


def _of_places(facts: Facts, source: Source, places: Sequence[PlacedTorque]) -> Reading:
    first = places[0].torque
    words = " and ".join(f"{p.torque} at {p.at}" for p in places)
    bases = [p.torque.base for p in places]
    return Reading(
        source,
        first.base,
        source.by == "calculation",
        f"{first} at {places[0].at}",
        None,
        min(bases),
        max(bases),
        found=(
            find(
                Finding.SOURCE_TWO_FIGURES,
                f"sources/{source.id}",
                group=facts.group.name,
                figures=words,
                taken=str(first),
            ),
        ),
    )


def _calculated(facts: Facts, source: Source) -> Reading:
    says = source.says
    k, prevailing = facts.joint.band_per_preload().typical, facts.joint.prevailing
    if says.preload is not None:
        return _exact(
            source,
            pre.torque_from_preload(says.preload.base, k, prevailing),
            f"calculated for {says.preload}",
            True,
        )
    if says.yield_fraction is not None:
        force = lim.preload_at_fraction(says.yield_fraction, facts.strength.yield_, facts.area)
        return _exact(
            source,
            pre.torque_from_preload(force, k, prevailing),
            f"calculated for {says.yield_fraction * 100:g} % of yield on the {facts.area_words}",
            True,
        )
    return Reading(source)


def _decided(reading: Reading, pair: PairReading) -> Reading:
    return Reading(
        reading.source,
        pair.torque,
        reading.calculated,
        pair.how,
        reading.struck,
        pair.torque,
        pair.torque,
        found=(pair.found,),
    )


def _readings(plan: Plan, facts: Facts) -> list[Reading]:
    """Every source that speaks of a group; a figure in two units may be decided by other sources,
    never by a sum of ours."""
    out = []
    for source in (s for s in plan.sources if not s.groups or facts.group.id in s.groups):
        read = _read(facts, source)
        angle = source.says.angle.base if source.says.angle is not None else 0.0
        out.append(
            Reading(
                source,
                read.torque,
                read.calculated,
                read.how,
                struck_because(plan, facts, source),
                read.low,
                read.high,
                angle,
                read.found,
            )
        )
    pairs = [r for r in out if r.source.says.torque is not None and len(r.source.says.torque) == 2]
    witnesses = [
        r
        for r in out
        if r not in pairs
        and r.struck is None
        and r.torque is not None
        and not r.calculated
        and not r.angle
        and r.source.by in RANK
    ]
    for reading in pairs:
        others = (
            []
            if reading.struck is not None
            else [(name_of(r.source), r.torque or 0.0) for r in witnesses]
        )
        pair = _decided(reading, read_pair(facts, reading.source, others))
        out[out.index(reading)] = Reading(
            pair.source,
            pair.torque,
            pair.calculated,
            pair.how,
            pair.struck,
            pair.low,
            pair.high,
            reading.angle,
            pair.found,
        )
    return out


def read_sources(plan: Plan, facts: Facts) -> Sources:
    """Every source that speaks of a group, read and judged; ranks first whatever is valid and
    highest."""
    readings = _readings(plan, facts)
    ranked = sorted(
        (r for r in readings if r.struck is None and r.torque is not None and r.source.by in RANK),
        key=lambda r: RANK[r.source.by],
    )
    return Sources(
        tuple(readings),
        ranked[0] if ranked else None,
        (*_found(facts, readings), *_conflicts(facts, ranked)),
    )


def _found(facts: Facts, readings: list[Reading]) -> Iterator[Found]:
    """What is to be said about each source by itself."""
    for reading in readings:
        source, where = reading.source, f"sources/{reading.source.id}"
        silent = (
            reading.torque is None and source.says.at_most is None and source.says.at_least is None
        )
        if reading.struck is not None:
            yield find(
                Finding.SOURCE_STRUCK,
                where,
                source=name_of(source),
                group=facts.group.name,
                reason=reading.struck,
            )
        elif silent:
            yield find(Finding.SOURCE_SILENT, where, source=name_of(source), group=facts.group.name)
        else:
            yield from reading.found


def _conflicts(facts: Facts, ranked: list[Reading]) -> Iterator[Found]:
    """Sources that hold and cannot both be right: what they leave open does not overlap."""
    for other in ranked[1:]:
        first, apart = ranked[0], SOURCES_APART.value
        if first.torque is None or other.torque is None:
            continue
        near = other.low <= first.high * (1 + apart) and other.high >= first.low * (1 - apart)
        if near and abs(first.angle - other.angle) < math.radians(1):
            continue
        equal = RANK[first.source.by] == RANK[other.source.by]
        gap = other.torque / first.torque - 1
        yield find(
            Finding.SOURCE_CONFLICT,
            f"sources/{other.source.id}",
            group=facts.group.name,
            first=f"{name_of(first.source)} ({first.words})",
            second=f"{name_of(other.source)} ({other.words})",
            difference=f"{gap * 100:+.0f}",
            rank="ranks the same" if equal else "ranks higher",
        )


def name_of(source: Source) -> str:
    """A source in words."""
    return f"{source.by}{', ' + source.reference if source.reference else ''}"


def second_unit(torque: float, unit: str) -> str:
    """The torque in the other unit a wrench may be graduated in."""
    other = "ft·lbf" if unit not in ("ft·lbf", "in·lbf") else "N·m"
    value = convert(torque, "torque", other)
    return f"{value:.0f} {other}" if value >= 100 else f"{value:.1f} {other}"
