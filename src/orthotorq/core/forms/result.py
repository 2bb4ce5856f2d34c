"""The result document: what a plan computes to. Runs take targets, orders and limits from a stored
result."""

from __future__ import annotations

from typing import Literal

from .base import Out
from .group import GroupOut
from .stage import StageOut
from .tested import RigBandOut


class FindingOut(Out):
    """A finding as a sentence, with its remedy and the field it hangs on; `waived` is the planner's
    reason.

    `act` is what one word closes it by, where one does: the act of the Bench, in `act_words`, which
    is given `sets`.
    """

    code: str
    severity: Literal["stop", "caution", "note"]
    waivable: bool
    role: str | None
    where: str
    text: str
    remedy: str
    waived: str | None = None
    sets: dict[str, str] = {}
    act: str = ""
    act_words: str = ""


class PositionOut(Out):
    """A position of the machine."""

    id: str
    name: str


class VariantOut(Out):
    """A variant to be chosen at the start of a run."""

    id: str
    name: str
    choice: str


class KitWhen(Out):
    """When something is needed: on these occasions, with these variants where not with all."""

    occasions: list[str]
    variants: list[str] = []


class KitLine(Out):
    """Something to bring, what for, and when; `occasions` are all of them together."""

    kind: Literal[
        "tool",
        "socket",
        "wrench",
        "multiplier",
        "adapter",
        "compound",
        "gauge",
        "sundry",
        "part",
        "consumable",
    ]
    text: str
    count: int
    for_: str
    occasions: list[str] = []
    when: list[KitWhen] = []


class ToolOut(Out):
    """What the plan asks of a wrench, for choosing one by serial at the start of a run."""

    id: str
    kind: str
    name: str
    low_Nm: float
    high_Nm: float
    prefer: list[str]
    groups: list[str]


class RecheckOut(Out):
    """When to come back: readings of a meter in its unit, rising, then every so much; or every year
    from a day on (month-day), or after something that happens."""

    id: str
    meter: str
    at: list[float]
    every: float | None
    occasion: str
    reason: str
    season: str = ""
    after: str = ""


class Result(Out):
    """A computed plan."""

    format: Literal["orthotorq.result"] = "orthotorq.result"
    version: Literal[1] = 1
    plan_hash: str
    tables: str
    core: str
    title: str
    joint_kind: str
    note: str = ""
    #: how long the work may stand still [s]; None as usual
    longest_break_s: float | None = None
    links_before: list[str] = []
    links_after: list[str] = []
    variants: list[VariantOut] = []
    positions: list[PositionOut]
    groups: list[GroupOut]
    tools: list[ToolOut] = []
    stages: list[StageOut]
    kit: list[KitLine] = []
    rechecks: list[RecheckOut] = []
    minutes: float = 0.0
    findings: list[FindingOut]
    calculated: bool
    #: what own tests of the plan's own compounds say, by the compound
    own_tests: dict[str, list[RigBandOut]] = {}
    steps: list[str] | None = None
