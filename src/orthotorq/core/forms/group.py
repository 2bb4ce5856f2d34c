"""One group of bolts as a result shows it."""

from __future__ import annotations

from typing import Literal

from pydantic import ConfigDict

from .base import Out


class PlacePoint(Out):
    """A bolt's place, `group.number`, with its centre in mm (x right, y up) and its angle in
    degrees cw from the top.

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
    #: the socket or key in words
    socket: str = ""


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
    origin: str = ""
    source: str


class PreloadOut(Out):
    """Preload of one bolt at the settable torque [N]: low and typical of the figure, high the most
    of every pass and chain.

    `peak` is the typical load of the highest pass, `after` the figure less losses, `hot` that at
    working temperature. Beyond yield no load is known: figures of torque and angle stop at the
    yield load.
    """

    typical_N: float
    low_N: float
    high_N: float
    low_rss_N: float
    high_rss_N: float
    peak_N: float | None = None
    after_low_N: float | None = None
    after_typical_N: float | None = None
    after_high_N: float | None = None
    hot_low_N: float | None = None
    hot_typical_N: float | None = None
    hot_high_N: float | None = None
    beyond_yield: bool = False


class LossOut(Out):
    """What settling takes from one bolt: embedding of all faces [mm] and its load [N], creep of the
    gasket as a share."""

    embedding_N: float | None
    embedding_mm: float | None
    creep_share: float


class StiffnessOut(Out):
    """Resiliences [mm/N], load per degree [N], elongation at the typical preload [mm], grip
    [mm]."""

    fastener_mm_per_N: float
    parts_mm_per_N: float
    gain_N_per_deg: float
    elongation_mm: float
    grip_mm: float


class TeethOut(Out):
    """Engaged thread: turns, length engaged and needed so that the bolt breaks first [mm], load
    carried [N], weaker thread."""

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
    #: its bounds, or the ends of its range
    least_Nm: float | None = None
    torque_Nm: float | None
    most_Nm: float | None = None
    verdict: Literal["taken", "valid", "struck", "bound", "silent"]
    why: str


class SplitOut(Out):
    """Shares of the torque that stretch the bolt and that heat thread and face."""

    pitch: float
    thread: float
    bearing: float


class LimitOut(Out):
    """One bound of the clamp load at the end that it guards; `typical_N` at typical friction, `use`
    the typical load over that; `input` is the field that sets it, `set_by` that field in words with
    its figure.

    `id` is its own, `code` that of its kind: two sources may each give a bound of one kind.
    """

    id: str = ""
    code: str
    name: str
    side: Literal["lower", "upper"]
    clamp_N: float
    typical_N: float | None = None
    use: float
    input: str
    set_by: str = ""


class WindowOut(Out):
    """Clamp load that is needed and allowed, and whether the scatter fits; `opens` says what would
    widen it."""

    lower_N: float | None
    upper_N: float | None
    verdict: Literal["fine", "tight", "impossible", "unbounded"]
    opens: str | None


class TargetOut(Out):
    """The chosen torque: exact and as the wrench can be set. Where bolts are stretched no torque
    acts: `force_N` is the load that is to be left, and the torque the one that it would take."""

    kind: str
    torque_Nm: float
    set_torque_Nm: float
    angle_deg: float | None
    calculated: bool
    source: str | None
    why: str
    force_N: float | None = None


class GroupOut(Out):
    """One group of bolts."""

    id: str
    name: str
    variants: list[str] = []
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
    #: what goes on its heads: a socket or a key with its width
    socket: str = ""
    note: str
