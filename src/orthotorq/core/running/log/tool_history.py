"""Which bound wrench an answer was given with, and what that did: so that a bad wrench can be
followed to its bolts."""

from __future__ import annotations

from dataclasses import dataclass

from ...forms.result import Result
from .event_log import Fact, Log
from .step_id import parse

#: answers that say that the wrench was pulled
PULLED = ("turned", "did_not_turn", "not_sure", "turns_on")


@dataclass(frozen=True, slots=True)
class Touch:
    """A bolt under a bound wrench: serial, group, place, position, torque at the bolt, share of the
    chosen figure in percent."""

    serial: str
    group: str
    place: str
    position: str
    torque_Nm: float
    percent: float


def touch_of(result: Result, log: Log, fact: Fact) -> Touch | None:
    """What an accepted answer says a bound wrench did; None where none was pulled."""
    step = parse(fact.step)
    if (
        fact.kind != "answer"
        or fact.payload.get("answer") not in PULLED
        or step is None
        or step.place is None
    ):
        return None
    group = step.place.split(".")[0]
    stage = next((s for s in result.stages if s.id == step.stage), None)
    one = (
        next((p for p in stage.passes if p.id == step.part and p.group == group), None)
        if stage is not None
        else None
    )
    if stage is None or one is None:
        return None
    settings = log.setup.settings_of(stage, one)
    serial = next(
        (t.serial for t in log.setup.tools if settings and t.name == settings[0].tool), None
    )
    if serial is None:
        return None
    chosen = next(
        (g.target.set_torque_Nm for g in result.groups if g.id == group and g.target is not None),
        0.0,
    )
    torque = settings[0].bolt_torque_Nm
    share = one.percent if one.percent is not None else 100.0 * torque / chosen if chosen else 100.0
    return Touch(serial, group, step.place, step.position or "", torque, share)
