"""What a group is tightened to, and why: a typed torque, a source, a wanted clamp, a share of yield, torque plus angle."""
from __future__ import annotations

import math
from dataclasses import dataclass

from ...documents.plan import Plan
from ...documents.targets import AngleTarget, PreloadTarget, RankedTarget, Target, TorqueTarget, YieldTarget
from ...errors import Impossible
from ...mechanics import angle as ang
from ...mechanics import preload as pre
from ...mechanics import strength as lim
from ...mechanics.window import PreloadBand, preload_band
from ...messages import Message
from ...thresholds import STIFFNESS_SCATTER
from ..findings import Finding
from .facts import Facts
from .found import Found, find
from .sources import Reading, Sources, name_of
from .words import newton_metre


@dataclass(frozen=True, slots=True)
class Chosen:
    """The target of a group: torque [N·mm], angle after it [rad] or 0, whether calculated, why, from which source."""

    facts: Facts
    sources: Sources
    torque: float
    angle: float
    calculated: bool
    why: str
    source: str | None
    target: Target

    @property
    def reason(self) -> str:
        """The planner's own reason."""
        return self.target.reason or ""

    def gain(self) -> float:
        """Preload [N] that the angle adds, elastic; 0 without an angle."""
        if not self.angle or self.facts.stiffness is None:
            return 0.0
        return ang.preload_gain(self.facts.thread.pitch, self.angle, self.facts.stiffness.both)

    def band(self, torque: float, accuracies: tuple[float, ...]) -> PreloadBand:
        """Preload band [N] of a torque [N·mm]: friction and tools, then the angle with the stiffness's own scatter."""
        snug = preload_band(torque, accuracies, self.facts.joint)
        gain = self.gain()
        if not gain:
            return snug
        off = gain * STIFFNESS_SCATTER.value
        low_rss = math.hypot(snug.typical - snug.low_rss, off)
        high_rss = math.hypot(snug.high_rss - snug.typical, off)
        typical = snug.typical + gain
        most = self.yield_load()
        return PreloadBand(*(min(f, most) for f in (typical, snug.low + gain - off, snug.high + gain + off,
                                                    typical - low_rss, typical + high_rss)))

    def yield_load(self) -> float:
        """Load [N] at which the bolt yields under tension with torsion, at low friction."""
        thread, mu = self.facts.thread, self.facts.friction.mu_thread
        return lim.combined_preload(1.0, self.facts.strength.yield_, thread.stress_area, thread.pitch, thread.pitch_diameter,
                                    thread.stress_diameter, mu.low if mu else 0.0)

    def beyond_yield(self, torque: float) -> bool:
        """Whether snug torque [N·mm] and angle take the bolt past yield at typical friction."""
        k = self.facts.joint.band_per_preload().typical
        return bool(self.angle) and (torque - self.facts.joint.prevailing) / k + self.gain() > self.yield_load()


def choose(plan: Plan, facts: Facts, sources: Sources) -> Chosen | None:
    """The target of a group, or None when it has none. Raises Impossible for one that cannot be."""
    group, strength, thread = facts.group, facts.strength, facts.thread
    target = plan.targets.get(group.id)
    if target is None:
        return None
    k, prevailing = facts.joint.band_per_preload().typical, facts.joint.prevailing

    def made(torque: float, calculated: bool, why: str, source: str | None = None, angle: float = 0.0) -> Chosen:
        return Chosen(facts, sources, torque, angle, calculated, why, source, target)

    if isinstance(target, RankedTarget):
        if sources.first is None or sources.first.torque is None:
            raise Impossible(Message.NO_VALID_SOURCE, group=group.name)
        return _from_reading(sources.first, made, target.reason or "")
    if isinstance(target, TorqueTarget):
        if target.source is not None:
            return _from_reading(_taken(sources, target.source, group.name), made, target.reason or "")
        assert target.torque is not None
        _above_prevailing(target.torque.base, prevailing)
        return made(target.torque.base, False, target.reason or "entered by the planner")
    if isinstance(target, AngleTarget):
        if facts.stiffness is None:
            raise Impossible(Message.ANGLE_NEEDS_STACK, ("angle",), group=group.name)
        _above_prevailing(target.torque.base, prevailing)
        words = target.reason or "torque plus angle as entered"
        if target.source is not None:
            words = name_of(next(s for s in plan.sources if s.id == target.source))
        return made(target.torque.base, False, words, target.source, target.angle.base)
    if isinstance(target, PreloadTarget):
        words = f"calculated for {target.preload} at typical friction"
        return made(pre.torque_from_preload(target.preload.base, k, prevailing), True, words)
    assert isinstance(target, YieldTarget)
    area = thread.root_area if group.limits.area == "root" else thread.stress_area
    force = lim.preload_at_fraction(target.fraction, strength.yield_, area)
    words = f"calculated for {target.fraction * 100:g} % of yield on the {area_words(facts)} at typical friction"
    return made(pre.torque_from_preload(force, k, prevailing), True, words)


def area_words(facts: Facts) -> str:
    """The area a share of yield stands on, in words."""
    return "root area" if facts.group.limits.area == "root" else "tensile stress area"


def _above_prevailing(torque: float, prevailing: float) -> None:
    if torque <= prevailing:
        raise Impossible(Message.PREVAILING_EATS_TORQUE, ("torque",), torque=f"{torque / 1e3:g}",
                         prevailing=f"{prevailing / 1e3:g}")


def _taken(sources: Sources, source_id: str, group: str) -> Reading:
    reading = next((r for r in sources.readings if r.source.id == source_id), None)
    if reading is None or reading.torque is None:
        raise Impossible(Message.SOURCE_WITHOUT_FIGURE, ("source",), source=source_id, group=group)
    return reading


def _from_reading(reading: Reading, made, reason: str) -> Chosen:  # type: ignore[no-untyped-def]
    assert reading.torque is not None
    why = name_of(reading.source)
    if reading.how and not reading.how.startswith(tuple("0123456789")):
        why = f"{why}: {reading.how}"
    chosen: Chosen = made(reading.torque, reading.calculated, f"{why} ({reason})" if reason else why, reading.source.id)
    return chosen


def choice_findings(chosen: Chosen) -> list[Found]:
    """What was taken, held against what ranks first and against bounds."""
    group, first = chosen.facts.group, chosen.sources.first
    where, out = f"targets/{group.id}", list[Found]()
    taken = next((r for r in chosen.sources.readings if r.source.id == chosen.source), None)
    if taken is not None and taken.struck is not None:
        out.append(find(Finding.STRUCK_SOURCE_TAKEN, where, group=group.name, reason=taken.struck))
    elif first is not None and first.source.id != chosen.source and not chosen.angle:
        words = f"{name_of(first.source)} ({newton_metre(first.torque or 0.0)})"
        if abs((first.torque or 0.0) / chosen.torque - 1) > 1e-6:
            code = Finding.OVERRULED if chosen.reason else Finding.OVERRULED_WITHOUT_REASON
            out.append(find(code, where, group=group.name, taken=newton_metre(chosen.torque), first=words,
                            reason=chosen.reason))
    for reading in chosen.sources.readings:
        says = reading.source.says
        if reading.struck is not None:
            continue
        named = {"group": group.name, "torque": newton_metre(chosen.torque), "source": name_of(reading.source)}
        if says.at_most is not None and chosen.torque > says.at_most.base * (1 + 1e-9):
            out.append(find(Finding.BOUND_EXCEEDED, where, limit=str(says.at_most), **named))
        if says.at_least is not None and chosen.torque < says.at_least.base * (1 - 1e-9):
            out.append(find(Finding.BELOW_BOUND, where, limit=str(says.at_least), **named))
    return out
