"""A joint pulled pass by pass: loads after every step, what moved, how far the joint was pulled
askew; with scatter."""

from __future__ import annotations

import math
from dataclasses import dataclass, field

import numpy as np

from ...errors import Impossible
from ...messages import Message
from .compliance import Array, Joint
from .passes import PassOrder, moves_of
from .tightening import Tightening

#: trials in one run, and at once
MOST_TRIALS = 1_000_000
_AT_ONCE = 2_000


@dataclass(frozen=True)
class Scatter:
    """How loads scatter: friction of each bolt and tool at each pull, as standard deviations of the
    mean (log-normal)."""

    trials: int
    friction_cv: float
    tool_cv: float
    seed: int = 0


@dataclass(frozen=True)
class Step:
    """One move: pass and bolts (from 0), the wanted load, which nuts moved, all loads after it
    (N)."""

    number: int
    bolts: tuple[int, ...]
    wanted_N: float
    moved: tuple[bool, ...]
    loads_N: Array


@dataclass
class Simulated:
    """Loads left (n,) N; steps; bolts (from 0) that moved in the last pass; largest tilting moment
    N·mm; scatter."""

    loads_N: Array
    steps: list[Step]
    moved_last: list[int]
    tilting_Nmm: float
    #: (trials, n) N, where scatter was asked for
    scattered_N: Array | None = field(default=None)

    @property
    def mean_N(self) -> float:
        """Mean of the loads left."""
        return float(self.loads_N.mean())

    @property
    def cv(self) -> float:
        """Coefficient of variation of the loads left, of the population, as a share."""
        mean = self.mean_N
        return float(self.loads_N.std() / mean) if mean else 0.0


def simulated(
    joint: Joint,
    passes: list[PassOrder],
    target_N: float,
    static_friction: float = 0.0,
    scatter: Scatter | None = None,
    last_targets_N: Array | None = None,
) -> Simulated:
    """The joint after its passes; `last_targets_N` (n,) are own targets of the bolts in the last
    pass.

    Raises Impossible for a target or static friction that cannot be.
    """
    _checked(target_N, static_friction, passes)
    state = Tightening(joint, 1, static_friction)
    steps: list[Step] = []
    tilting = 0.0
    for number, bolts, wanted in moves_of(passes, target_N, last_targets_N):
        moved = state.pull(bolts, wanted[None, :])
        loads = state.loads[0].copy()
        tilting = max(tilting, float(np.hypot(*(loads @ joint.arms))))
        steps.append(Step(number, tuple(bolts), float(wanted[0]), tuple(moved[0].tolist()), loads))
    last = len(passes) - 1
    moved_last = [
        bolt
        for step in steps
        if step.number == last
        for bolt, moved in zip(step.bolts, step.moved, strict=True)
        if moved
    ]
    scattered = (
        None
        if scatter is None
        else _scattered(joint, passes, target_N, static_friction, scatter, last_targets_N)
    )
    return Simulated(steps[-1].loads_N, steps, moved_last, tilting, scattered)


def _checked(target_N: float, static_friction: float, passes: list[PassOrder]) -> None:
    if not (math.isfinite(target_N) and target_N > 0):
        raise Impossible(
            Message.OUT_OF_RANGE, ("target",), value=f"{target_N:g} N", range="a load above 0"
        )
    if not 0 <= static_friction <= 1:
        raise Impossible(
            Message.OUT_OF_RANGE,
            ("static-friction",),
            value=f"{static_friction:g}",
            range="a share from 0 to 1",
        )
    if not passes:
        raise Impossible(Message.MISSING_FIELD, ("passes",))


def _log_normal(cv: float, chance: np.random.Generator, shape: tuple[int, ...]) -> Array:
    """Factors whose median is 1 and whose coefficient of variation is `cv`."""
    return np.exp(math.sqrt(math.log1p(cv * cv)) * chance.standard_normal(shape))


def _scattered(
    joint: Joint,
    passes: list[PassOrder],
    target_N: float,
    static_friction: float,
    scatter: Scatter,
    own: Array | None,
) -> Array:
    """(trials, n) N: loads left where friction differs from bolt to bolt and the tool from pull to
    pull."""
    if not 1 <= scatter.trials <= MOST_TRIALS:
        raise Impossible(
            Message.OUT_OF_RANGE,
            ("trials",),
            value=f"{scatter.trials:,}".replace(",", " "),
            range=f"1 to {MOST_TRIALS:,} trials".replace(",", " "),
        )
    for name, value in (("friction-cv", scatter.friction_cv), ("tool-cv", scatter.tool_cv)):
        if not 0 <= value <= 1:
            raise Impossible(
                Message.OUT_OF_RANGE, (name,), value=f"{value:g}", range="a share from 0 to 1"
            )
    chance = np.random.default_rng(scatter.seed)
    out = np.empty((scatter.trials, joint.count))
    for start in range(0, scatter.trials, _AT_ONCE):
        trials = min(_AT_ONCE, scatter.trials - start)
        state = Tightening(joint, trials, static_friction)
        slip = 1 / _log_normal(scatter.friction_cv, chance, (trials, joint.count))
        for _, bolts, wanted in moves_of(passes, target_N, own):
            tool = _log_normal(scatter.tool_cv, chance, (trials, len(bolts)))
            state.pull(bolts, wanted * tool * slip[:, bolts])
        out[start : start + trials] = state.loads
    return out
