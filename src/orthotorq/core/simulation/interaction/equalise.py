"""Own targets of the bolts in the last pass, so that the loads end even."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...errors import Impossible
from ...messages import Message
from .compliance import Array, Joint
from .passes import PassOrder, moves_of
from .run import Simulated, simulated
from .tightening import Tightening

#: rounds in which targets under a cap are brought nearer, and the share of the load that is near
#: enough
_ROUNDS = 60
_EVEN = 1e-6


@dataclass(frozen=True)
class Equalised:
    """Targets (n,) N of the last pass, those that the cap holds down, and what is left of the
    evenness."""

    targets_N: Array
    capped: list[int]
    result: Simulated


def equalised(
    joint: Joint,
    passes: list[PassOrder],
    target_N: float,
    static_friction: float = 0.0,
    cap_N: float | None = None,
) -> Equalised:
    """Targets of the last pass that leave every bolt at the target.

    When all is done the take-up of the nuts is known: `u = A F`. In the last pass every nut is
    turned to it in its turn; the load that its bolt bears at that moment is its target. A cap below
    what is needed leaves the joint less even; bolts that it leaves free still end at the target.
    Raises Impossible for a cap below the target.
    """
    if cap_N is not None and cap_N < target_N:
        raise Impossible(
            Message.OUT_OF_RANGE,
            ("cap",),
            value=f"{cap_N / 1000:g} kN",
            range=f"at least the target, {target_N / 1000:g} kN",
        )
    wanted = passes[-1].share * target_N
    state = Tightening(joint, 1, static_friction)
    for _, bolts, loads in moves_of(passes[:-1], target_N):
        state.pull(bolts, loads[None, :])
    final = joint.flexibility @ np.full(joint.count, wanted)
    targets = np.full(joint.count, wanted)
    for bolts in map(list, passes[-1].moves):
        for bolt in bolts:
            state.turn_to(bolt, final[bolt : bolt + 1])
        targets[bolts] = state.loads[0, bolts]

    def made(own: Array) -> Simulated:
        return simulated(joint, passes, target_N, static_friction, last_targets_N=own)

    if cap_N is None:
        return Equalised(targets, [], made(targets))
    targets = np.minimum(targets, cap_N)
    for _ in range(_ROUNDS):
        loads = made(targets).loads_N
        better = np.clip(targets + wanted - loads, wanted / 2, cap_N)
        if np.abs(better - targets).max() < _EVEN * wanted:
            break
        targets = better
    return Equalised(targets, np.flatnonzero(targets >= cap_N).tolist(), made(targets))
