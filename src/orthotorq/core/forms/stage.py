"""Stages and passes as a result shows them."""

from __future__ import annotations

from typing import Literal

from .base import Out
from .setting import SettingOut


class LookOut(Out):
    """How a bolt is drawn: state and share of the chosen torque."""

    state: str
    percent: float


class PassLoadOut(Out):
    """What one bolt has after a pass [N], at high, typical and low friction, with every chain that
    may be used."""

    low_N: float
    typical_N: float
    high_N: float


class PassOut(Out):
    """One pass over one group: the order, the rule of its rounds, and the settings per chain.

    `ceiling_Nm` is the torque at the bolt that rounding to a scale may not pass, whichever tool is
    taken; `height` its share on the tape, `leaves` how its bolts stand after it.

    A pass by angle has `turn_deg` and its window, an even draw its gap limits [mm] and torque cap,
    a wait its seconds, stretching its pressure as typed and [MPa], with the loads while it is
    pumped and that are left [N], each at its low, typical and high end.
    """

    id: str
    name: str
    group: str
    do: str
    note: str = ""
    condition: list[str] = []
    percent: float | None = None
    check: bool = False
    order_kind: str = "circle"
    order: list[list[str]]
    rounds_max: int = 1
    until: Literal["once", "none_moves", "gap", "free"] = "once"
    falls: bool = False
    moved_above_deg: float | None = None
    repeat_still: int | None = None
    repeat_max: int | None = None
    before_each: str | None = None
    slacken_first: bool = False
    left_loose: bool = False
    self_locking: bool = False
    never: list[str] = []
    turn_deg: float | None = None
    window_deg: list[float] | None = None
    read_by: str | None = None
    counts_on: bool = False
    max_spread_mm: float | None = None
    stop_at_mm: float | None = None
    wait_s: float | None = None
    pressure: str | None = None
    pressure_MPa: float | None = None
    pumped_N: list[float] = []
    left_N: list[float] = []
    torque_Nm: float | None = None
    ceiling_Nm: float | None = None
    settings: list[SettingOut] = []
    height: float = 0.0
    leaves: LookOut | None = None
    variants: list[str] = []
    load: PassLoadOut | None = None


class ItemOut(Out):
    """A thing to tick, a check to answer or a reading to take; with `places`, once at each of them.
    Limits in base units."""

    id: str
    text: str
    answer: Literal["done", "good", "value", "wait", "moved"]
    quantity: str | None = None
    min: float | None = None
    max: float | None = None
    limit_text: str | None = None
    #: what its readings must keep to among themselves, in words
    relation_text: str = ""
    #: so many readings at one place, no further apart than that
    repeats: int | None = None
    repeats_within: float | None = None
    #: `stage/item` of the reading that this one is compared with, what that is, and how far it may
    #: have gone from it
    change_from: str | None = None
    change_text: str = ""
    change_min: float | None = None
    change_max: float | None = None
    #: the largest minus the smallest of all places, at most
    spread_max: float | None = None
    unit: str | None = None
    gauge: str | None = None
    places: list[str] = []
    on_fail: list[str] = []
    back: str | None = None
    good: str | None = None
    bad: str | None = None
    wait_s: float | None = None
    variants: list[str] = []
    #: what is recorded with the answer
    asks: list[Literal["batch", "photo", "second"]] = []

    @property
    def limits(self) -> str:
        """Everything that its readings must keep to, in words."""
        return "; ".join(words for words in (self.limit_text, self.relation_text) if words)


class StageOut(Out):
    """One stage in the order of the document; `after` names, by occasion, what it comes after.

    `brings` are states of the joint that hold after it, `puts_in` what must come out again,
    `takes_out` what does.
    """

    id: str
    kind: str
    title: str
    note: str = ""
    occasions: list[str]
    variants: list[str] = []
    after: dict[str, list[str]] = {}
    across: Literal["once", "position_by_position", "all_positions_first"]
    condition: list[str]
    brings: list[str] = []
    puts_in: list[str] = []
    takes_out: list[str] = []
    only_again: bool = False
    cautions: list[str]
    impact: str | None = None
    watch_for: str | None = None
    groups: list[str] = []
    items: list[ItemOut]
    passes: list[PassOut]
    sets_in_s: float | None = None
    sets_before: list[str] = []
    redo: str | None = None
    fit: str | None = None
    temporary: bool = False
    what: str | None = None
    seconds: float = 0.0
