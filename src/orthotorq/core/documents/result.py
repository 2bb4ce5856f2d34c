"""The result document: what a plan computes to. Runs take targets, orders and limits from a stored result."""
from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict


class Out(BaseModel):
    """Base of result parts."""

    model_config = ConfigDict(extra="forbid")


class PlacePoint(Out):
    """A bolt's place, `group.number`, with its centre in mm (x right, y up) and its angle in degrees cw from the top.

    `label` is what is painted on the part: the place number, or the number in tightening order.
    """

    id: str
    number: int
    label: str
    x_mm: float
    y_mm: float
    angle_deg: float

    model_config = ConfigDict(extra="forbid", frozen=True)


class ThreadOut(Out):
    """Thread and hexagon of a group."""

    designation: str
    diameter_mm: float
    pitch_mm: float
    stress_area_mm2: float
    across_flats_mm: float | None
    head_mm: float
    head: str
    effective_diameter_mm: float


class StrengthOut(Out):
    """Grade of a group, MPa."""

    grade: str
    proof_MPa: float | None
    yield_MPa: float
    tensile_MPa: float
    certainty: str
    assumed: list[str]


class FrictionOut(Out):
    """Friction bands in use, with where they come from."""

    lubricant: str | None
    name: str
    mu_thread: list[float] | None
    mu_bearing: list[float] | None
    nut_factor: list[float]
    form: Literal["long", "short"]
    source: str


class PreloadOut(Out):
    """Preload of one bolt at the settable torque [N]. Beyond yield no load is known: the figures stop at the yield load."""

    typical_N: float
    low_N: float
    high_N: float
    low_rss_N: float
    high_rss_N: float
    beyond_yield: bool = False


class LossOut(Out):
    """What settling takes from one bolt: embedding of all faces [mm] and its load [N], creep of the gasket as a share."""

    embedding_N: float | None
    embedding_mm: float | None
    creep_share: float


class StiffnessOut(Out):
    """Resiliences [mm/N], load per degree [N], elongation at the typical preload [mm], grip [mm]."""

    fastener_mm_per_N: float
    parts_mm_per_N: float
    gain_N_per_deg: float
    elongation_mm: float
    grip_mm: float


class TeethOut(Out):
    """Engaged thread: turns, length engaged and needed so that the bolt breaks first [mm], load carried [N], weaker thread."""

    turns: float
    engaged_mm: float
    required_mm: float
    carries_N: float
    weaker: str


class SourceOut(Out):
    """One source and what became of it."""

    id: str
    by: str
    reference: str
    says: str
    torque_Nm: float | None
    verdict: Literal["taken", "valid", "struck", "bound", "silent"]
    why: str


class SplitOut(Out):
    """Shares of the torque that stretch the bolt and that heat thread and face."""

    pitch: float
    thread: float
    bearing: float


class LimitOut(Out):
    """One bound of the clamp load: `use` is the typical preload over it; `input` is the field that sets it."""

    code: str
    name: str
    side: Literal["lower", "upper"]
    clamp_N: float
    use: float
    input: str


class WindowOut(Out):
    """Clamp load that is needed and allowed, and whether the scatter fits; `opens` says what would widen it."""

    lower_N: float | None
    upper_N: float | None
    verdict: Literal["fine", "tight", "impossible", "unbounded"]
    opens: str | None


class TargetOut(Out):
    """The chosen torque: exact and as the wrench can be set."""

    kind: str
    torque_Nm: float
    set_torque_Nm: float
    angle_deg: float | None
    calculated: bool
    source: str | None
    why: str


class GroupOut(Out):
    """One group of bolts."""

    id: str
    name: str
    layout: Literal["circle", "row", "grid", "points"]
    places: list[PlacePoint]
    span_mm: float
    thread: ThreadOut
    strength: StrengthOut
    friction: FrictionOut
    target: TargetOut | None
    preload: PreloadOut | None
    share_of_yield: float | None
    losses: LossOut
    stiffness: StiffnessOut | None
    teeth: TeethOut | None
    split: SplitOut | None
    limits: list[LimitOut]
    window: WindowOut | None
    sources: list[SourceOut]
    history: Literal["known", "unknown"]
    note: str


class ScaleOut(Out):
    """How a setting reads on a two-part scale: last main mark passed and the collar's figure, in the wrench's unit."""

    main: str
    collar: str
    mark: str


class LinkOut(Out):
    """One link between hand and bolt, for drawing the chain: lengths in mm, angle in degrees off the handle's line."""

    kind: Literal["wrench", "adapter", "multiplier"]
    text: str
    length_mm: float | None = None
    angle_deg: float | None = None
    ratio: float | None = None
    arm_mm: float | None = None
    rests_on: str | None = None


class SettingOut(Out):
    """What to set on a wrench for one pass."""

    chain: str
    tool: str
    exact_Nm: float
    settable_Nm: float
    error: float
    text: str
    unit: str
    figure: str
    second: str
    bolt_torque_Nm: float
    hand_force_N: float | None
    reaction_Nm: float | None
    reaction_N: float | None
    scale: ScaleOut | None
    links: list[LinkOut] = []
    preset: bool = False


PassKind = Literal["hand", "snug", "feel", "torque", "angle", "back_off", "gap_round", "wait", "loosen", "jack"]


class PassOut(Out):
    """One pass over one group: the order, the rule of its rounds, and the settings per chain.

    A pass by angle has `turn_deg` and its window, an even draw its gap limits [mm] and torque cap, a wait its seconds.
    """

    id: str
    name: str
    group: str
    do: PassKind
    note: str = ""
    percent: float | None = None
    check: bool = False
    order_kind: str = "circle"
    order: list[list[str]]
    rounds_max: int = 1
    until: Literal["once", "none_moves", "gap", "free"] = "once"
    moved_above_deg: float | None = None
    repeat_still: int | None = None
    repeat_max: int | None = None
    before_each: str | None = None
    slacken_first: bool = False
    turn_deg: float | None = None
    window_deg: list[float] | None = None
    read_by: str | None = None
    max_spread_mm: float | None = None
    stop_at_mm: float | None = None
    wait_s: float | None = None
    torque_Nm: float | None = None
    settings: list[SettingOut] = []


class ItemOut(Out):
    """A thing to tick, a check to answer or a reading to take; with `places`, once at each of them. Limits in base units."""

    id: str
    text: str
    answer: Literal["done", "good", "value", "wait", "moved"]
    quantity: str | None = None
    min: float | None = None
    max: float | None = None
    limit_text: str | None = None
    unit: str | None = None
    gauge: str | None = None
    places: list[str] = []
    on_fail: list[str] = []
    wait_s: float | None = None


class StageOut(Out):
    """One stage in the order of the document; `after` names, by occasion, what it comes after."""

    id: str
    kind: str
    title: str
    note: str = ""
    occasions: list[str]
    variants: list[str] = []
    after: dict[str, list[str]] = {}
    across: Literal["once", "position_by_position", "all_positions_first"]
    condition: list[str]
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
    seconds: float = 0.0


class FindingOut(Out):
    """A finding as a sentence, with its remedy and the field it hangs on; `waived` is the planner's reason."""

    code: str
    severity: Literal["stop", "caution", "note"]
    waivable: bool
    role: str | None
    where: str
    text: str
    remedy: str
    waived: str | None = None


class PositionOut(Out):
    """A position of the machine."""

    id: str
    name: str


class VariantOut(Out):
    """A variant to be chosen at the start of a run."""

    id: str
    name: str
    choice: str


class KitLine(Out):
    """Something to bring, and what for."""

    kind: Literal["tool", "socket", "wrench", "multiplier", "adapter", "compound", "gauge", "sundry", "part", "consumable"]
    text: str
    count: int
    for_: str


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
    """When to come back: readings of a meter in its unit, rising, then every so much."""

    id: str
    meter: str
    at: list[float]
    every: float | None
    occasion: str
    reason: str


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
    steps: list[str] | None = None
