"""The plan document, version 1: one JSON document carries a plan everywhere (design: The plan document).

Later versions add optional fields; a file written today stays readable. Ids are given once and never derived.
"""
from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Discriminator, Field, Tag, model_validator

from ..errors import Impossible
from ..messages import Message
from .base import (
    KIND,
    ConeAngle,
    Direction,
    Force,
    FrictionBand,
    Id,
    Length,
    Model,
    NutFactorBand,
    Position,
    Stress,
    Torque,
    TorqueOrZero,
)
from .stages import Stage

VERSION = 1
JointKind = Literal["wheel", "twin_wheel", "gasketed_cover", "machine_mount", "stud_row", "locking_hub", "centre_bolt",
                    "bearing_nut", "axle_nut", "soft_clamp", "fixture", "casting_studs", "hung_equipment"]
Name = Annotated[str, Field(min_length=1, max_length=120)]
Words = Annotated[str, Field(max_length=500)]
Share = Annotated[float, Field(gt=0, le=1)]


class OwnLubricant(Model):
    """A friction condition embedded in the plan."""

    name: Name
    mu_thread: FrictionBand
    mu_bearing: FrictionBand | None = None
    nut_factor: NutFactorBand | None = None
    dry: bool = False
    source: Words = ""


class OwnGrade(Model):
    """A grade embedded in the plan: strengths as typed."""

    yield_strength: Stress
    tensile: Stress
    proof: Stress | None = None
    source: Words = ""


class Definitions(Model):
    """Own entries the plan needs, so that the file stands alone."""

    lubricants: dict[Id, OwnLubricant] = {}
    grades: dict[Name, OwnGrade] = {}


class Place(Model):
    """A position of the machine at which the same joint exists again (left, right)."""

    id: Id
    name: Name


class Circle(Model):
    """Bolts equally spaced on a circle; 0° at the top, seen from the turning side."""

    kind: Literal["circle"]
    count: Annotated[int, Field(ge=1, le=400)]
    diameter: Length
    first_at: Direction = Field(default="0 deg", validate_default=True)
    sense: Literal["cw", "ccw"] = "cw"
    origin: Annotated[list[Position], Field(min_length=2, max_length=2)] = Field(
        default=["0 mm", "0 mm"], validate_default=True)
    labels: Literal["place", "order"] = "place"


class FlatFace(Model):
    """Bearing face of a head, flange or washer."""

    kind: Literal["flat"]
    face_diameter: Length
    hole: Length

    @model_validator(mode="after")
    def _hole_inside(self) -> FlatFace:
        if self.hole.base >= self.face_diameter.base:
            raise Impossible(Message.FACE_IMPOSSIBLE, ("hole",), hole=f"{self.hole.base:g}",
                             face=f"{self.face_diameter.base:g}")
        return self


class ConeFace(Model):
    """Cone seat; the effective diameter is the mean diameter of its contact."""

    kind: Literal["cone"]
    half_angle: ConeAngle
    effective_diameter: Length | None = None


Face = Annotated[Annotated[FlatFace, Tag("~flat")] | Annotated[ConeFace, Tag("~cone")], KIND]


class Fastener(Model):
    """Bolt, stud or nut of a group."""

    thread: Annotated[str, Field(min_length=1, max_length=40)]
    grade: Name
    head: Literal["hex", "heavy hex", "other"] = "hex"
    face: Face | None = None
    prevailing: TorqueOrZero = Field(default="0 N·m", validate_default=True)
    condition: Literal["new", "used"] = "used"
    history: Literal["known", "unknown"] = "known"


class Friction(Model):
    """A condition from the tables or the plan's own, with bands that replace the typical ones."""

    lubricant: Id | None = None
    mu_thread: FrictionBand | None = None
    mu_bearing: FrictionBand | None = None
    nut_factor: NutFactorBand | None = None

    @model_validator(mode="after")
    def _something(self) -> Friction:
        if self.lubricant is None and self.mu_thread is None and self.nut_factor is None:
            raise Impossible(Message.NO_FRICTION)
        return self


class Gasket(Model):
    """A ring gasket inside or under the bolts, with the stress window of its sheet."""

    name: Name
    outside: Length
    inside: Length
    seating: Stress | None = None
    service: Stress | None = None
    damage: Stress | None = None

    @model_validator(mode="after")
    def _ring(self) -> Gasket:
        if self.inside.base >= self.outside.base:
            raise Impossible(Message.RANGE_REVERSED, ("inside",), low=f"inside {self.inside}",
                             high=f"outside {self.outside}")
        return self


class Limits(Model):
    """Bounds the planner sets: share of yield in tension, and nu of the combined limit."""

    yield_fraction: Share | None = None
    nu: Share = 0.9


class Group(Model):
    """Bolts of one kind with one target."""

    id: Id
    name: Name
    layout: Circle
    fastener: Fastener
    friction: Friction
    gasket: Gasket | None = None
    required_clamp: Force | None = None
    limits: Limits = Limits()


class Says(Model):
    """What a source says; two figures in two units are one statement written twice."""

    torque: Annotated[list[Torque], Field(min_length=1, max_length=2)]


class Source(Model):
    """Where a figure comes from."""

    id: Id
    groups: list[Id]
    by: Literal["equipment maker", "gasket maker", "part maker", "standard", "site rule"]
    reference: Words = ""
    says: Says


class TorqueTarget(Model):
    """A given torque: typed, or the figure of a source."""

    kind: Literal["torque"]
    torque: Torque | None = None
    source: Id | None = None
    reason: Words | None = None

    @model_validator(mode="after")
    def _one_of(self) -> TorqueTarget:
        if (self.torque is None) == (self.source is None):
            raise Impossible(Message.BAD_VALUE, reason="Give either a torque or a source, not both and not neither")
        return self


class PreloadTarget(Model):
    """A wanted preload; the torque is calculated at typical friction."""

    kind: Literal["preload"]
    preload: Force
    reason: Words | None = None


class YieldTarget(Model):
    """A share of yield on the tensile stress area; the torque is calculated at typical friction."""

    kind: Literal["yield_fraction"]
    fraction: Share
    reason: Words | None = None


Target = Annotated[Annotated[TorqueTarget, Tag("~torque")] | Annotated[PreloadTarget, Tag("~preload")]
                   | Annotated[YieldTarget, Tag("~yield_fraction")], KIND]


class Tool(Model):
    """What the plan asks of a wrench; `mark` is the step of the main scale of a two-part (mark + collar) scale."""

    kind: Literal["click wrench", "dial wrench", "beam wrench", "electronic wrench", "preset driver"]
    name: Name | None = None
    range: Annotated[list[Torque], Field(min_length=2, max_length=2)]
    increment: Torque | None = None
    mark: Torque | None = None
    accuracy: Annotated[float, Field(gt=0, le=0.5)] | None = None
    length: Length | None = None
    drive: Literal["1/4 in", "3/8 in", "1/2 in", "3/4 in", "1 in", "1-1/2 in"] | None = None

    @model_validator(mode="after")
    def _rising(self) -> Tool:
        if self.range[0].base >= self.range[1].base:
            raise Impossible(Message.RANGE_REVERSED, ("range",), low=str(self.range[0]), high=str(self.range[1]))
        return self


class Multiplier(Model):
    """A torque multiplier in a chain; efficiency low, typical, high."""

    multiplier: Annotated[float, Field(gt=1, le=200)]
    efficiency: Annotated[list[Share], Field(min_length=3, max_length=3)] = [1.0, 1.0, 1.0]
    arm: Length | None = None


class Adapter(Model):
    """An offset adapter at the wrench."""

    adapter: Length
    angle: Annotated[Direction, Field(validate_default=True)] = "0 deg"  # type: ignore[assignment]


def link(value: object) -> str | None:
    """Discriminator of a chain's links: a tool's id, a multiplier, an adapter."""
    if isinstance(value, str):
        return "~tool"
    keys = value if isinstance(value, dict) else getattr(value, "__dict__", {})
    return next((f"~{k}" for k in ("multiplier", "adapter") if k in keys), None)


Link = Annotated[Annotated[str, Tag("~tool")] | Annotated[Multiplier, Tag("~multiplier")]
                 | Annotated[Adapter, Tag("~adapter")], Discriminator(link)]


class Plan(Model):
    """A plan for tightening one joint (at one or several positions)."""

    format: Literal["orthotorq.plan"]
    version: Literal[1]
    title: Name
    joint_kind: JointKind
    joint: Annotated[str, Field(max_length=120)] | None = None
    tables: Annotated[str, Field(max_length=20)] | None = None
    definitions: Definitions = Definitions()
    positions: Annotated[list[Place], Field(max_length=40)] = []
    groups: Annotated[list[Group], Field(min_length=1, max_length=60)]
    sources: Annotated[list[Source], Field(max_length=60)] = []
    targets: dict[Id, Target]
    tools: dict[Id, Tool] = {}
    chains: dict[Id, Annotated[list[Link], Field(min_length=1, max_length=6)]] = {}
    stages: Annotated[list[Stage], Field(min_length=1, max_length=100)]
