"""What a joint did from recheck to recheck: whether it keeps moving, and what would help."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..thresholds import KEEPS_MOVING, MOVED_DIES

#: what helps a joint that keeps moving, the cheapest first
PROPOSALS = (
    (
        "check first that the torque fits this joint: lubricant, face and condition of the bolts "
        "as the plan says"
    ),
    "longer bolts with sleeves, so that they stretch more and lose less when the parts settle",
    "hardened washers under head and nut, where the faces give way",
    "a lock: wedge washers, adhesive or tab, where it loosens by shaking",
    "more preload, where the window on the Bench has room for it",
    "a shorter interval until it stays",
)


@dataclass(frozen=True, slots=True)
class Checked:
    """One recheck: its run, how many bolts were looked at and how many had moved."""

    run: int
    checked: int
    moved: int

    @property
    def share(self) -> float:
        """The share of bolts that had moved."""
        return self.moved / self.checked if self.checked else 0.0


@dataclass(frozen=True, slots=True)
class Movement:
    """What the rechecks say in words; `finding` is "keeps" or "lasts" where there is one, with what
    would help."""

    finding: str
    words: str
    proposals: tuple[str, ...] = ()


def movement_of(checks: Sequence[Checked]) -> Movement:
    """What rechecks since the joint was put together say, in the order of time.

    >>> movement_of([Checked(7, 16, 5), Checked(8, 16, 0)]).finding
    ''
    >>> movement_of([Checked(7, 16, 2), Checked(8, 16, 1), Checked(9, 16, 2)]).finding
    'keeps'
    >>> movement_of([Checked(7, 16, 4), Checked(8, 16, 5)]).finding
    'lasts'
    """
    looked = [one for one in checks if one.checked]
    if not looked:
        return Movement("", "no recheck yet")
    line = ", ".join(f"run {one.run}: {one.moved} of {one.checked}" for one in looked[-5:])
    last = looked[-int(KEEPS_MOVING.value) :]
    if len(last) == KEEPS_MOVING.value and all(one.moved for one in last):
        return Movement(
            "keeps", f"bolts had moved at each of the last {len(last)} rechecks ({line})", PROPOSALS
        )
    if (
        len(looked) > 1
        and looked[-1].moved
        and looked[-1].share > MOVED_DIES.value * looked[-2].share
    ):
        return Movement("lasts", f"the movement does not die away ({line})", PROPOSALS)
    return Movement("", f"bolts that had moved: {line}")
