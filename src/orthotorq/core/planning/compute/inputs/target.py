"""What a group is tightened to, and why: a typed torque, a source, a wanted clamp, a share of
yield, torque plus angle."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from ....documents.plan import Plan
from ....documents.targets import (
    AngleTarget,
    PreloadTarget,
    RankedTarget,
    Target,
    TorqueTarget,
    YieldTarget,
)
from ....errors import Impossible
from ....mechanics import angle as ang
from ....mechanics import preload as pre
from ....mechanics import strength as lim
from ....mechanics.window import Ends, PreloadBand, band_after_angle, preload_band
from ....messages import Message
from ....thresholds import STIFFNESS_SCATTER
from ....units import show
from ...findings import Finding
from .facts import Facts
from .figure_text import newton_metre
from .finding_builder import Found, find
from .sources import Reading, Sources, name_of


@dataclass(frozen=True, slots=True)
class Chosen:
    """The target of a group: torque [N·mm], angle after it [rad] or 0, whether calculated, why,
    from which source.

    `differs` is the source that a typed figure names and does not follow.
    """

    facts: Facts
    sources: Sources
    torque: float
    angle: float
    calculated: bool
    why: str
    source: str | None
    target: Target
    differs: Reading | None = None

    @property
    def reason(self) -> str:
        """The planner's own reason."""
        return self.target.reason or ""

    @property
    def words(self) -> str:
        """The figure as people say it."""
        return newton_metre(self.torque) + (
            f" + {show(math.degrees(self.angle), 3)}°" if self.angle else ""
        )

    @property
    def force(self) -> float:
        """The load [N] that the figure stands for at typical friction."""
        k = self.facts.joint.band_per_preload().typical
        return pre.preload_from_torque(self.torque, k, self.facts.joint.prevailing)

    def gain(self, angle: float | None = None) -> float:
        """Preload [N] that the angle of the figure, or another one [rad], adds in the elastic
        range; 0 without one."""
        turn = self.angle if angle is None else angle
        if not turn or self.facts.stiffness is None:
            return 0.0
        return ang.preload_gain(self.facts.thread.pitch, turn, self.facts.stiffness.both)

    def band(self, torque: float, accuracies: tuple[float, ...]) -> PreloadBand:
        """Preload band [N] of a torque [N·mm] and the figure's angle, without the passes that lead
        to it."""
        snug = preload_band(torque, accuracies, self.facts.joint)
        gain = self.gain()
        if not gain:
            return snug
        return band_after_angle(
            snug, Ends(gain, gain, gain), STIFFNESS_SCATTER.value, self.facts.yields()
        )


def choose(plan: Plan, facts: Facts, sources: Sources) -> Chosen | None:
    """The target of a group, or None when it has none. Raises Impossible for one that cannot be."""
    group = facts.group
    target = plan.targets.get(group.id)
    if target is None:
        return None
    if isinstance(target, RankedTarget):
        if sources.first is None:
            raise Impossible(Message.NO_VALID_SOURCE, group=group.name)
        return _from_reading(facts, sources, sources.first, target)
    if isinstance(target, TorqueTarget) and target.source is not None:
        return _from_reading(facts, sources, _taken(sources, target.source, group.name), target)
    if isinstance(target, TorqueTarget | AngleTarget):
        return _typed(facts, sources, target)
    k, prevailing = facts.joint.band_per_preload().typical, facts.joint.prevailing
    if isinstance(target, PreloadTarget):
        force, words = target.preload.base, f"calculated for {target.preload} at typical friction"
    else:
        assert isinstance(target, YieldTarget)
        force = lim.preload_at_fraction(target.fraction, facts.strength.yield_, facts.area)
        words = (
            f"calculated for {target.fraction * 100:g} % of yield on the {facts.area_words} at "
            "typical friction"
        )
    return Chosen(
        facts,
        sources,
        pre.torque_from_preload(force, k, prevailing),
        0.0,
        True,
        words,
        None,
        target,
    )


def _typed(facts: Facts, sources: Sources, target: TorqueTarget | AngleTarget) -> Chosen:
    """A figure the planner typed; one that names a source and is not what it says is the planner's
    own."""
    assert target.torque is not None
    _above_prevailing(target.torque.base, facts.joint.prevailing)
    angle = target.angle.base if isinstance(target, AngleTarget) else 0.0
    if angle:
        _needs_stack(facts)
    own = "torque plus angle as entered" if angle else "entered by the planner"
    torque = target.torque.base
    named = (
        _taken(sources, target.source, facts.group.name, needs_figure=False)
        if target.source is not None
        else None
    )
    if named is None:
        return Chosen(facts, sources, torque, angle, False, target.reason or own, None, target)
    if named.gives(torque, angle):
        return Chosen(
            facts,
            sources,
            torque,
            angle,
            named.calculated,
            name_of(named.source),
            named.source.id,
            target,
        )
    why = f"the planner's own figure; {name_of(named.source)} says {_says(named)}"
    return Chosen(
        facts,
        sources,
        torque,
        angle,
        False,
        f"{why} ({target.reason})" if target.reason else why,
        None,
        target,
        named,
    )


def _says(reading: Reading) -> str:
    """What a source says, for the sentence about a figure that is another one."""
    return reading.words if reading.torque is not None else "no figure"


class NeedsStack(Impossible):
    """An angle on a group whose clamped parts are not given: mended at the group, not at the
    figure."""


def _needs_stack(facts: Facts) -> None:
    if facts.stiffness is None:
        raise NeedsStack(Message.ANGLE_NEEDS_STACK, group=facts.group.name)


def _above_prevailing(torque: float, prevailing: float) -> None:
    if torque <= prevailing:
        raise Impossible(
            Message.PREVAILING_EATS_TORQUE,
            ("torque",),
            torque=f"{torque / 1e3:g}",
            prevailing=f"{prevailing / 1e3:g}",
        )


def _taken(sources: Sources, source_id: str, group: str, needs_figure: bool = True) -> Reading:
    reading = next((r for r in sources.readings if r.source.id == source_id), None)
    if reading is None or (needs_figure and reading.torque is None):
        raise Impossible(Message.SOURCE_WITHOUT_FIGURE, ("source",), source=source_id, group=group)
    return reading


def _from_reading(
    facts: Facts, sources: Sources, reading: Reading, target: TorqueTarget | RankedTarget
) -> Chosen:
    """The figure of a source: its angle comes with its torque."""
    assert reading.torque is not None
    _above_prevailing(reading.torque, facts.joint.prevailing)
    if reading.angle:
        _needs_stack(facts)
    why = name_of(reading.source)
    if reading.how and not reading.how.startswith(tuple("0123456789")):
        why = f"{why}: {reading.how}"
    return Chosen(
        facts,
        sources,
        reading.torque,
        reading.angle,
        reading.calculated,
        f"{why} ({target.reason})" if target.reason else why,
        reading.source.id,
        target,
    )


def choice_findings(chosen: Chosen) -> Iterator[Found]:
    """What was taken, held against what it names and what ranks first."""
    group, first = chosen.facts.group, chosen.sources.first
    where = f"targets/{group.id}"
    taken = next((r for r in chosen.sources.readings if r.source.id == chosen.source), None)
    if (differs := chosen.differs) is not None:
        off = (chosen.torque / differs.torque - 1) * 100 if differs.torque else 0.0
        turn = math.degrees(chosen.angle - differs.angle)
        parts = [
            f"{off:+.0f} % torque" if abs(off) >= 0.5 else "",
            f"{turn:+.0f}°" if abs(turn) >= 0.5 else "",
        ]
        yield find(
            Finding.OWN_FIGURE,
            where,
            group=group.name,
            taken=chosen.words,
            source=name_of(differs.source),
            says=_says(differs),
            difference=", ".join(p for p in parts if p) or "no figure to compare",
        )
    if taken is not None and taken.struck is not None:
        yield find(Finding.STRUCK_SOURCE_TAKEN, where, group=group.name, reason=taken.struck)
    elif (
        first is not None
        and first.angle
        and not (chosen.angle or chosen.calculated)
        and first is not chosen.differs
    ):
        yield find(
            Finding.ANGLE_LEFT_OUT,
            where,
            group=group.name,
            taken=chosen.words,
            first=f"{name_of(first.source)} ({first.words})",
        )
    elif (
        first is not None
        and first.source.id != chosen.source
        and first is not chosen.differs
        and not first.gives(chosen.torque, chosen.angle)
    ):
        code = Finding.OVERRULED if chosen.reason else Finding.OVERRULED_WITHOUT_REASON
        yield find(
            code,
            where,
            group=group.name,
            taken=chosen.words,
            first=f"{name_of(first.source)} ({first.words})",
            reason=chosen.reason,
        )
