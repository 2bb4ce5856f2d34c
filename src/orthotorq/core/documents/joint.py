"""The joint itself: fastener, mating thread, clamped stack, friction, gasket, limits; one group is bolts of one kind."""
from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, Tag, model_validator

from ..errors import Impossible
from ..forms.base import KIND, FrictionBand, Id, Model, Name, NutFactorBand, Share, Words
from ..forms.quantities import ConeAngle, Force, Length, Stress, TorqueOrZero
from ..messages import Message
from .layouts import Layout


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
Uses = Annotated[int, Field(ge=0, le=1000)]


class Fastener(Model):
    """Bolt, stud or nut of a group. `uses` counts tightenings so far, `max_uses` is the maker's limit."""

    thread: Annotated[str, Field(min_length=1, max_length=40)]
    grade: Name
    head: Literal["hex", "heavy hex", "socket head", "other"] = "hex"
    face: Face | None = None
    across_flats: Length | None = None
    shank_length: Length | None = None
    prevailing: TorqueOrZero = Field(default="0 N·m", validate_default=True)
    condition: Literal["new", "used"] = "used"
    history: Literal["known", "unknown"] = "known"
    single_use: bool = False
    uses: Uses = 0
    max_uses: Annotated[int, Field(ge=1, le=1000)] | None = None


class Into(Model):
    """What the thread goes into. `reach` is how far the bolt comes in, `depth` the usable thread of a blind hole."""

    kind: Literal["nut", "tapped"]
    material: Name | None = None
    engaged: Length | None = None
    depth: Length | None = None
    reach: Length | None = None
    spacer: Length | None = None
    shear: Stress | None = None


class Layer(Model):
    """One clamped part of the stack, from the turned side on; `limit` is its own limit of pressure under the head."""

    material: Name
    thickness: Length
    outside: Length | None = None
    limit: Stress | None = None
    name: Name | None = None


class Body(Model):
    """The body that carries the bolts, for interaction between them."""

    shape: Literal["ring", "plate", "beam"]
    thickness: Length
    width: Length
    material: Name = "carbon steel"


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
    """A ring gasket with the stress window of its sheet, or of its type where the sheet is silent."""

    name: Name
    outside: Length
    inside: Length
    type: Id | None = None
    seating: Stress | None = None
    service: Stress | None = None
    damage: Stress | None = None
    pressure: Stress | None = None
    m: Annotated[float, Field(ge=0, le=20)] | None = None
    y: Stress | None = None
    creep: Annotated[float, Field(ge=0, lt=1)] | None = None
    hot_retighten: Literal["not said", "allowed by the maker", "forbidden"] = "not said"

    @model_validator(mode="after")
    def _ring(self) -> Gasket:
        if self.inside.base >= self.outside.base:
            raise Impossible(Message.RANGE_REVERSED, ("inside",), low=f"inside {self.inside}",
                             high=f"outside {self.outside}")
        return self


class Limits(Model):
    """Bounds the planner sets: share of yield (on the stated area), nu of the combined limit, a soft part's clamp."""

    yield_fraction: Share | None = None
    nu: Share = 0.9
    area: Literal["tensile", "root"] = "tensile"
    soft_part: Force | None = None


class Group(Model):
    """Bolts of one kind with one target. `must_be` says which friction condition the seat asks for."""

    id: Id
    name: Name
    layout: Layout
    fastener: Fastener
    into: Into | None = None
    stack: Annotated[list[Layer], Field(max_length=20)] = []
    body: Body | None = None
    friction: Friction
    gasket: Gasket | None = None
    required_clamp: Force | None = None
    must_be: Literal["dry", "lightly oiled", "lubricated"] | None = None
    roughness: Literal["below 10 µm", "10 to 40 µm", "40 to 160 µm"] = "10 to 40 µm"
    limits: Limits = Limits()
    note: Words = ""
