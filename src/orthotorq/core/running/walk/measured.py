"""What a measuring device may answer: a pull of a wrench, or a length."""

from __future__ import annotations

from dataclasses import dataclass

from ...forms.group import GroupOut
from ...forms.stage import PassOut
from ...kinds.registry import PASS_KINDS
from .bolt_step import slackens
from .pending import Pending
from .step_walker import Walk

#: a gap that nobody has measured and nothing limits [mm], for a simulated gauge
_SOME_GAP = 6.0


@dataclass(frozen=True, slots=True)
class PullStep:
    """A step that a wrench may answer: group, pass, round, the share [percent] that the bolt has,
    whether it was slackened a moment ago, and the angle [deg] by which passes of its stage have
    turned it on before."""

    group: GroupOut
    one: PassOut
    round: int
    percent: float
    slackened: bool
    turned: float


def pull_step(walk: Walk, pending: Pending) -> PullStep | None:
    """The pull that a step asks of one wrench at one bolt, or None where it asks for no such
    thing."""
    one, place = pending.segment.one, pending.place
    if (
        one is None
        or place is None
        or pending.decision is not None
        or pending.slackens
        or len(pending.move) > 1
    ):
        return None
    group = walk.group(place)
    if group is None or group.target is None or not PASS_KINDS[one.do].traced:
        return None
    slackened = slackens(walk, one, pending.round or 1, pending.pull)
    passes = pending.unit.stage.passes
    before = passes[
        : next(i for i, p in enumerate(passes) if p.id == one.id and p.group == one.group)
    ]
    turned = sum(
        p.turn_deg or 0.0 for p in before if p.group == one.group and PASS_KINDS[p.do].adds_angle
    )
    return PullStep(
        group,
        one,
        pending.round or 1,
        walk.bolt(pending.segment.position, place).percent,
        slackened,
        turned,
    )


def length_step(walk: Walk, pending: Pending) -> float | None:
    """About what length [mm] a step asks for, or None where it asks for none."""
    if pending.decision is not None or not any(c.word == "value" for c in pending.ask.choices):
        return None
    item = pending.segment.item
    if item is not None:
        if item.quantity != "length":
            return None
        low, high = item.min or 0.0, item.max
        return (low + high) / 2 if high is not None else low * 1.1 or _SOME_GAP
    if pending.ask.wanted != "length" or pending.place is None:
        return None
    before = walk.bolt(pending.segment.position, pending.place).gap
    return _SOME_GAP if before is None else 0.8 * before


def devices_for(walk: Walk, pending: Pending) -> list[str]:
    """What a device may answer at a step."""
    if pull_step(walk, pending) is not None:
        return ["pull", "click"]
    return ["length"] if length_step(walk, pending) is not None else []
