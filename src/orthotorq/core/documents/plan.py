"""The plan document, version 3: one JSON document carries a plan everywhere (design: The plan
document).

Later versions add optional fields; a file written today stays readable. Ids are given once and
never derived.
"""

from __future__ import annotations

from typing import Annotated, Literal, get_args

from pydantic import Field, model_validator

from ..errors import Impossible
from ..forms.base import FrictionBand, Id, Model, Name, NutFactorBand, Words
from ..forms.quantities import Amount, Duration, Modulus, Stress
from ..kinds.joints.joint_traits import JointTraits
from ..kinds.joints.registry import JOINTS
from ..kinds.registry import OwnMethod
from ..kinds.stage_kind import Occasion
from ..kinds.stage_registry import Stage
from ..mechanics.friction_tests import LEAST_TESTS
from ..messages import Message
from .joint import Group
from .rig_tests import RigTest
from .targets import Source, Target
from .tooling import Link, Tool

VERSION = 3
JointKind = Literal[
    "wheel",
    "twin_wheel",
    "gasketed_cover",
    "machine_mount",
    "stud_row",
    "locking_hub",
    "centre_bolt",
    "bearing_nut",
    "axle_nut",
    "soft_clamp",
    "fixture",
    "casting_studs",
    "hung_equipment",
    "bolt_circle",
    "cylinder_head",
    "plain_group",
]
#: kinds of joint in words
JOINT_KINDS: dict[str, str] = {kind: one.words for kind, one in JOINTS.items()}
Meter = Literal["km", "h", "d", "cycles", "starts"]
METERS: tuple[str, ...] = get_args(Meter)
#: what is counted, in words: hours of running are no hours of the clock
METER_WORDS: dict[str, str] = {
    "km": "km travelled",
    "h": "running hours",
    "d": "clock: hours, days, months",
    "cycles": "cycles",
    "starts": "starts",
}
#: what a part or a bolt is made of, as far as rules ask
Family = Literal["steel", "stainless", "iron", "aluminium", "bronze", "other"]


class OwnLubricant(Model):
    """A friction condition embedded in the plan: its bands as typed, or out of its own tests."""

    name: Name
    mu_thread: FrictionBand | None = None
    mu_bearing: FrictionBand | None = None
    nut_factor: NutFactorBand | None = None
    dry: bool = False
    solid: bool = False
    source: Words = ""
    tests: Annotated[list[RigTest], Field(max_length=20)] = []

    @model_validator(mode="after")
    def _something(self) -> OwnLubricant:
        if (
            self.mu_thread is None
            and self.nut_factor is None
            and sum(len(t.readings) for t in self.tests) < LEAST_TESTS
        ):
            raise Impossible(
                Message.BAD_VALUE,
                ("mu_thread",),
                reason=f"Enter the friction of the thread, the nut factor, or at "
                f"least {LEAST_TESTS} tests",
            )
        return self


class OwnGrade(Model):
    """A grade embedded in the plan: strengths as typed, and what it is made of."""

    yield_strength: Stress
    tensile: Stress
    proof: Stress | None = None
    family: Family = "other"
    source: Words = ""


class OwnMaterial(Model):
    """A part material embedded in the plan."""

    modulus: Modulus
    tensile: Stress
    shear: Stress | None = None
    bearing: Stress | None = None
    family: Family = "other"
    source: Words = ""


class Definitions(Model):
    """Own entries the plan needs, so that the file stands alone."""

    lubricants: dict[Id, OwnLubricant] = {}
    grades: dict[Name, OwnGrade] = {}
    materials: dict[Name, OwnMaterial] = {}
    methods: dict[Id, OwnMethod] = {}


class Place(Model):
    """A position of the machine at which the same joint exists again (left, right)."""

    id: Id
    name: Name


class Variant(Model):
    """One way of doing it, chosen at the start of a run; of those with the same `choice` exactly
    one is taken."""

    id: Id
    name: Name
    choice: Annotated[str, Field(max_length=60)] = ""


class Links(Model):
    """Procedures that come before and after, by title or joint."""

    before: Annotated[list[Name], Field(max_length=20)] = []
    after: Annotated[list[Name], Field(max_length=20)] = []


class Part(Model):
    """A part or consumable to bring; `count` is for one position or for the run."""

    id: Id
    name: Name
    count: Annotated[int, Field(ge=1, le=10_000)] = 1
    per: Literal["position", "run"] = "run"
    new: bool = False
    consumable: bool = False
    quantity: Annotated[str, Field(max_length=60)] = ""


#: month and day of a year, 29 February among them; nothing
_SEASON = (
    r"^((0[13578]|1[02])-(0[1-9]|[12]\d|3[01])|(0[469]|11)-(0[1-9]|[12]\d|30)|02-(0[1-9]|[12]\d))?$"
)


class Recheck(Model):
    """When the joint is looked at again: at certain readings of a meter, then at an interval; every
    year from a day on (`season`, month-day); or after something that happens (`after`, in
    words)."""

    id: Id
    meter: Meter
    at: Annotated[list[Amount], Field(max_length=20)] = []
    every: Amount | None = None
    season: Annotated[str, Field(pattern=_SEASON)] = ""
    after: Words = ""
    occasion: Occasion = "recheck"
    reason: Words = ""


class Waiver(Model):
    """A finding the planner takes on, with the reason; only what the table of findings calls
    waivable can be waived."""

    finding: Annotated[str, Field(min_length=1, max_length=60)]
    where: Annotated[str, Field(max_length=120)] | None = None
    reason: Annotated[str, Field(min_length=3, max_length=500)]


class Plan(Model):
    """A plan for tightening one joint (at one or several positions)."""

    format: Literal["orthotorq.plan"]
    version: Literal[3]
    title: Name
    joint_kind: JointKind
    joint: Annotated[str, Field(max_length=120)] | None = None
    note: Words = ""
    #: how long the work may stand still before its condition, states and tools are asked for again
    longest_break: Duration | None = None
    #: media that some compounds must never meet
    service: Annotated[list[Literal["oxygen", "food"]], Field(max_length=2)] = []
    definitions: Definitions = Definitions()
    links: Links = Links()
    variants: Annotated[list[Variant], Field(max_length=20)] = []
    positions: Annotated[list[Place], Field(max_length=40)] = []
    groups: Annotated[list[Group], Field(min_length=1, max_length=60)]
    sources: Annotated[list[Source], Field(max_length=60)] = []
    targets: dict[Id, Target]
    tools: dict[Id, Tool] = {}
    chains: dict[Id, Annotated[list[Link], Field(min_length=1, max_length=6)]] = {}
    parts: Annotated[list[Part], Field(max_length=100)] = []
    stages: Annotated[list[Stage], Field(min_length=1, max_length=100)]
    rechecks: Annotated[list[Recheck], Field(max_length=20)] = []
    waivers: Annotated[list[Waiver], Field(max_length=60)] = []
    #: values of the example that the plan began from, by their place; what still stands there is
    #: not yet the planner's own
    examples: Annotated[
        dict[Annotated[str, Field(max_length=300)], str | int | float], Field(max_length=2000)
    ] = {}

    @property
    def traits(self) -> JointTraits:
        """What its kind of joint asks for."""
        return JOINTS[self.joint_kind]
