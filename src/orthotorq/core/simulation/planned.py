"""What a plan's step expects of a pull, and how a simulated bolt answers it."""

from __future__ import annotations

from dataclasses import dataclass

from ..forms.group import GroupOut
from ..forms.stage import PassOut
from ..kinds.pulls import SAYS
from ..kinds.registry import PASS_KINDS
from ..units import show
from .judging import Expected, Verdict, judged, turned
from .pull import Fault, Pull, Trace

#: what a bolt keeps of its last torque while its neighbours are pulled: of a rising pass; in a
#: check, where nothing has moved;
#: and where it has
_KEEPS, _STANDS, _RELAXED = 0.9, 1.12, 0.75
#: the snug torque as a share of the whole figure
_SNUG = 0.15
#: a joint of which no stiffness is known turns so far to its figure, simulated [deg]
_UNKNOWN_TURN = 60.0


@dataclass(frozen=True, slots=True)
class Situation:
    """The step of a pull: group and pass of the result, round, the share [percent] of its torque
    that the bolt has, and whether it was slackened a moment ago; `turned` is the angle [deg] that
    steps before this one have turned it on by."""

    group: GroupOut
    one: PassOut
    round: int
    percent: float
    slackened: bool = False
    turned: float = 0.0


@dataclass(frozen=True, slots=True)
class PullRead:
    """A pull as it answers its step: the answer's word, readings as they are typed, the verdict
    with its words."""

    answer: str
    torque: str
    angle: str
    verdict: Verdict
    says: str
    advice: str


def slope_of(group: GroupOut) -> float:
    """Rise of the torque after snug [N·m/deg] by the joint's stiffness and the torque's load; 0
    where they are not known."""
    if group.stiffness is None or group.preload is None or group.target is None:
        return 0.0
    return group.stiffness.gain_N_per_deg * group.target.set_torque_Nm / group.preload.typical_N


def expected_of(at: Situation) -> Expected:
    """What a pull of the step should be."""
    whole, one = _whole(at), at.one
    target = one.torque_Nm or whole + slope_of(at.group) * (at.turned + (one.turn_deg or 0.0))
    beyond = at.group.preload is not None and at.group.preload.beyond_yield
    return Expected(
        target,
        min(_SNUG * whole, 0.5 * target),
        slope_of(at.group),
        40.0,
        _standing(at),
        one.check,
        beyond,
    )


def _whole(at: Situation) -> float:
    return at.group.target.torque_Nm if at.group.target is not None else at.one.torque_Nm or 1.0


def _standing(at: Situation) -> float:
    """What the bolt has already [N·m]: a pass by angle begins at its snug torque and what was
    turned since; what is checked was tightened once."""
    if at.slackened:
        return 0.0
    if at.one.turn_deg is not None:
        return _whole(at) + slope_of(at.group) * at.turned
    before = at.percent / 100 * _whole(at)
    if at.one.check:
        return max(before, at.one.torque_Nm or 0.0)
    return before if at.round > 1 else _KEEPS * before


def simulated(at: Situation, fault: Fault | None, seed: int) -> Pull:
    """A pull of a simulated bolt: None is a bolt as it should be; in a check every fault is one
    that has let go."""
    expected = expected_of(at)
    slope = expected.slope or expected.target / _UNKNOWN_TURN
    standing = expected.standing
    if standing and at.one.turn_deg is None and (at.one.check or at.round > 1):
        # in the second round a few still settle
        moves = fault is not None or (not at.one.check and at.round == 2 and seed % 3 == 0)
        standing *= _RELAXED if moves else _STANDS
        fault = None
    return Pull(
        expected.target,
        expected.snug,
        slope,
        expected.rundown,
        0.01 * expected.target,
        fault or "none",
        seed,
        standing,
        at.one.turn_deg,
    )


def read(trace: Trace, expected: Expected, one: PassOut) -> PullRead:
    """What a trace answers to a step of a pass."""
    verdict, net = judged(trace, expected), round(turned(trace, expected), 1)
    says, advice = SAYS[verdict.code]
    word = PASS_KINDS[one.do].answered(one, net)
    return PullRead(
        word, f"{show(float(trace.torque.max()), 4)} N·m", f"{net:g}°", verdict, says, advice
    )
