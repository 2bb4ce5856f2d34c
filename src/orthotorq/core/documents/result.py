"""The result document: what a plan computes to. Runs take targets, orders and limits from a stored result."""
from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict


class Out(BaseModel):
    """Base of result parts."""

    model_config = ConfigDict(extra="forbid")


class PlacePoint(Out):
    """A bolt's place, `group.number`, with its centre in mm (x right, y up) and its angle in degrees cw from the top."""

    id: str
    number: int
    x_mm: float
    y_mm: float
    angle_deg: float


class ThreadOut(Out):
    """Thread and hexagon of a group."""

    designation: str
    diameter_mm: float
    pitch_mm: float
    stress_area_mm2: float
    across_flats_mm: float | None
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
    """Preload of one bolt at the settable torque, N."""

    typical_N: float
    low_N: float
    high_N: float
    low_rss_N: float
    high_rss_N: float


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
    calculated: bool
    why: str


class GroupOut(Out):
    """One group of bolts."""

    id: str
    name: str
    places: list[PlacePoint]
    layout_diameter_mm: float
    thread: ThreadOut
    strength: StrengthOut
    friction: FrictionOut
    target: TargetOut
    preload: PreloadOut
    split: SplitOut | None
    limits: list[LimitOut]
    window: WindowOut


class ScaleOut(Out):
    """How a setting reads on a two-part scale: last main mark passed and the collar's figure, in the wrench's unit."""

    main: str
    collar: str
    mark: str


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


class PassOut(Out):
    """One pass over one group: the order, and the settings per chain."""

    id: str
    name: str
    group: str
    do: Literal["hand", "torque"]
    percent: float | None
    check: bool
    order_kind: str
    order: list[list[str]]
    rounds_max: int
    until: Literal["once", "none_moves"]
    moved_above_deg: float | None
    torque_Nm: float | None
    settings: list[SettingOut]


class ItemOut(Out):
    """A thing to tick, a check to answer or a reading to take."""

    id: str
    text: str
    answer: Literal["done", "good", "length"]
    min_mm: float | None = None
    max_mm: float | None = None
    limit_text: str | None = None
    unit: str | None = None


class StageOut(Out):
    """One stage in work order."""

    id: str
    kind: str
    title: str
    occasions: list[str]
    across: Literal["once", "position_by_position", "all_positions_first"]
    condition: list[str]
    cautions: list[str]
    impact: str | None
    items: list[ItemOut]
    passes: list[PassOut]


class FindingOut(Out):
    """A finding as a sentence, with its remedy and the field it hangs on."""

    code: str
    severity: Literal["stop", "caution", "note"]
    waivable: bool
    role: str | None
    where: str
    text: str
    remedy: str


class PositionOut(Out):
    """A position of the machine."""

    id: str
    name: str


class Result(Out):
    """A computed plan."""

    format: Literal["orthotorq.result"] = "orthotorq.result"
    version: Literal[1] = 1
    plan_hash: str
    tables: str
    core: str
    title: str
    joint_kind: str
    positions: list[PositionOut]
    groups: list[GroupOut]
    stages: list[StageOut]
    findings: list[FindingOut]
    calculated: bool
