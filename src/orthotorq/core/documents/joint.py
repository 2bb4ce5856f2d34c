"""The joint itself: fastener, mating thread, clamped stack, friction, gasket, limits; one group is
bolts of one kind."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, Tag, model_validator

from ..errors import Impossible
from ..forms.base import KIND, FrictionBand, Id, Model, Name, NutFactorBand, Share, Words, written
from ..forms.quantities import (
    ConeAngle,
    Force,
    Length,
    SignedForce,
    Stress,
    Temperature,
    TorqueOrZero,
    Turn,
)
from ..messages import Message
from ..number_formats import read_share
from .layouts import Layout


class FlatFace(Model):
    """Bearing face of a head, flange or washer."""

    kind: Literal["flat"]
    face_diameter: Length
    hole: Length

    @model_validator(mode="after")
    def _hole_inside(self) -> FlatFace:
        if self.hole.base >= self.face_diameter.base:
            raise Impossible(
                Message.FACE_IMPOSSIBLE,
                ("hole",),
                hole=f"{self.hole.base:g}",
                face=f"{self.face_diameter.base:g}",
            )
        return self


class ConeFace(Model):
    """Cone seat; the effective diameter is the mean diameter of its contact."""

    kind: Literal["cone"]
    half_angle: ConeAngle
    effective_diameter: Length | None = None


Face = Annotated[Annotated[FlatFace, Tag("~flat")] | Annotated[ConeFace, Tag("~cone")], KIND]
Uses = Annotated[int, Field(ge=0, le=1000)]


class Fastener(Model):
    """Bolt, stud or nut of a group. `uses` counts tightenings so far, `max_uses` is the maker's
    limit.

    A `stud` has a nut at either end; a `shank_diameter` below the thread's stress diameter carries
    less than the thread.
    """

    thread: Annotated[str, Field(min_length=1, max_length=40)]
    grade: Name
    head: Literal["hex", "heavy hex", "socket head", "set screw", "other"] = "hex"
    face: Face | None = None
    across_flats: Length | None = None
    shank_length: Length | None = None
    shank_diameter: Length | None = None
    stud: bool = False
    prevailing: TorqueOrZero = Field(default="0 N·m", validate_default=True)
    condition: Literal["new", "used"] = "used"
    history: Literal["known", "unknown"] = "known"
    single_use: bool = False
    uses: Uses = 0
    max_uses: Annotated[int, Field(ge=1, le=1000)] | None = None


class Into(Model):
    """What the thread goes into. `reach` is how far the bolt comes in, `depth` the usable thread of
    a blind hole."""

    kind: Literal["nut", "tapped"]
    material: Name | None = None
    engaged: Length | None = None
    depth: Length | None = None
    reach: Length | None = None
    spacer: Length | None = None
    shear: Stress | None = None


class Layer(Model):
    """One clamped part of the stack, from the turned side on; `limit` is its own limit of pressure
    under the head.

    A `washer` lies under head or nut: it spreads the load onto the part behind it.
    """

    material: Name
    thickness: Length
    outside: Length | None = None
    limit: Stress | None = None
    name: Name | None = None
    washer: bool = False


class Work(Model):
    """What acts on one bolt at work: an axial load between its lowest and its highest, a transverse
    one that friction of `faces` faces holds, a pressure to be sealed inside a diameter (of all
    bolts). `introduction` says where the axial load enters, 0 to 1."""

    axial: Force | None = None
    axial_low: SignedForce | None = None
    introduction: Annotated[float, Field(ge=0, le=1)] = 0.5
    transverse: Force | None = None
    slip_friction: Annotated[float, Field(gt=0, le=1)] | None = None
    faces: Annotated[int, Field(ge=1, le=20)] = 1
    alternates: bool = False
    pressure: Stress | None = None
    sealed_diameter: Length | None = None
    thread: Literal["rolled before heat treatment", "rolled after heat treatment", "cut"] = (
        "rolled before heat treatment"
    )

    @model_validator(mode="after")
    def _pairs(self) -> Work:
        for one, other in (("transverse", "slip_friction"), ("pressure", "sealed_diameter")):
            if (getattr(self, one) is None) != (getattr(self, other) is None):
                missing = other if getattr(self, other) is None else one
                raise Impossible(
                    Message.BAD_VALUE, (missing,), reason=f"{one} and {other} are given together"
                )
        if self.axial_low is not None and self.axial is None:
            raise Impossible(
                Message.BAD_VALUE, ("axial",), reason="A lowest axial load needs the highest one"
            )
        if (
            self.axial is not None
            and self.axial_low is not None
            and self.axial_low.base > self.axial.base
        ):
            raise Impossible(
                Message.RANGE_REVERSED,
                ("axial_low",),
                low=str(self.axial_low),
                high=str(self.axial),
            )
        return self


class AtWork(Model):
    """Steady temperatures of bolt and parts at work."""

    bolt: Temperature
    parts: Temperature


class Component(Model):
    """A flange judged by component: stresses on the bolt's root area. What the flange bears comes
    from its maker or a code calculation; the gasket's own stresses stand with the gasket."""

    target_stress: Stress
    relaxation: Share = 0.7
    bolt_min: Stress | None = None
    bolt_max: Stress | None = None
    flange_max: Stress | None = None
    gasket_rotation: Turn | None = None
    flange_rotation: Turn | None = None


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
    """A ring gasket with the stress window of its sheet, or of its type where the sheet is
    silent."""

    name: Name
    outside: Length
    inside: Length
    #: of the table, whose names have points where a thickness has one
    type: Annotated[str, Field(pattern=r"^[A-Za-z0-9][A-Za-z0-9._-]{0,39}$")] | None = None
    seating: Stress | None = None
    service: Stress | None = None
    damage: Stress | None = None
    pressure: Stress | None = None
    m: Annotated[float, Field(ge=0, le=20)] | None = None
    y: Stress | None = None
    creep: Annotated[float, written(read_share, float), Field(ge=0, lt=1)] | None = None
    thickness: Length | None = None
    modulus: Stress | None = None
    hot_retighten: Literal["not said", "allowed by the maker", "forbidden"] = "not said"

    @model_validator(mode="after")
    def _ring(self) -> Gasket:
        if self.inside.base >= self.outside.base:
            raise Impossible(
                Message.RANGE_REVERSED,
                ("inside",),
                low=f"inside {self.inside}",
                high=f"outside {self.outside}",
            )
        return self


class Limits(Model):
    """Bounds the planner sets: share of yield (on the stated area), nu of the combined limit, a
    soft part's clamp."""

    yield_fraction: Share | None = None
    nu: Share = 0.9
    area: Literal["tensile", "root"] = "tensile"
    soft_part: Force | None = None


class Group(Model):
    """Bolts of one kind with one target. `must_be` says which friction condition the seat asks for.

    `variants` limits it to some ways of doing it; one that is `like` another says only what
    differs.
    """

    id: Id
    name: Name
    like: Id | None = None
    variants: Annotated[list[Id], Field(max_length=20)] = []
    layout: Layout
    fastener: Fastener
    into: Into | None = None
    stack: Annotated[list[Layer], Field(max_length=20)] = []
    body: Body | None = None
    friction: Friction
    gasket: Gasket | None = None
    component: Component | None = None
    work: Work | None = None
    at_work: AtWork | None = None
    required_clamp: Force | None = None
    must_be: Literal["dry", "lightly oiled", "lubricated"] | None = None
    roughness: Literal["below 10 µm", "10 to 40 µm", "40 to 160 µm"] = "10 to 40 µm"
    limits: Limits = Limits()
    note: Words = ""

    @property
    def numbers(self) -> range:
        """The numbers of its bolts."""
        return range(self.layout.first_label, self.layout.first_label + self.layout.count)

    @property
    def seated_stud(self) -> bool:
        """Whether these are studs that are screwed into a part: they have no head to hold them
        by."""
        return (
            self.fastener.head == "other" and self.into is not None and self.into.kind == "tapped"
        )
