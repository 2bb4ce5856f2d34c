"""Sources of figures and what is taken from them."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, Tag, model_validator

from ..errors import Impossible
from ..forms.base import KIND, Id, Model, Name, Share, Words
from ..forms.quantities import Force, Torque, Turn
from ..messages import Message

By = Literal[
    "equipment maker", "gasket maker", "part maker", "standard", "site rule", "calculation", "code"
]
#: whose word a planner may enter; a calculation is a target of its own, a code is a bound
SAYING: tuple[By, ...] = ("equipment maker", "gasket maker", "part maker", "standard", "site rule")


class PlacedTorque(Model):
    """A figure and where in the source it stands."""

    at: Name
    torque: Torque


class Says(Model):
    """What a source says. Two torques in two units are one statement written twice; `places` are
    figures that differ."""

    torque: Annotated[list[Torque], Field(min_length=1, max_length=2)] | None = None
    range: Annotated[list[Torque], Field(min_length=2, max_length=2)] | None = None
    places: Annotated[list[PlacedTorque], Field(min_length=2, max_length=6)] | None = None
    angle: Turn | None = None
    preload: Force | None = None
    yield_fraction: Share | None = None
    at_most: Torque | None = None
    at_least: Torque | None = None

    @model_validator(mode="after")
    def _one_form(self) -> Says:
        forms = [
            f
            for f in ("torque", "range", "places", "preload", "yield_fraction")
            if getattr(self, f) is not None
        ]
        if len(forms) > 1:
            raise Impossible(
                Message.BAD_VALUE,
                (forms[1],),
                reason=(
                    f"A source has one value: enter either {forms[0]} or {forms[1]}, or write "
                    "two sources"
                ),
            )
        if self.range is not None and self.range[0].base > self.range[1].base:
            raise Impossible(
                Message.RANGE_REVERSED, ("range",), low=str(self.range[0]), high=str(self.range[1])
            )
        return self


class ValidFor(Model):
    """What a source is valid for; what is left out is not restricted."""

    thread: Annotated[str, Field(min_length=1, max_length=40)] | None = None
    grade: Name | None = None
    lubricant: Id | None = None
    gasket: Name | None = None
    count: Annotated[int, Field(ge=1, le=400)] | None = None


class Source(Model):
    """Where a figure comes from. A code is a bound, not a rank."""

    id: Id
    groups: list[Id] = []
    by: By
    reference: Words = ""
    says: Says = Says()
    valid_for: ValidFor = ValidFor()
    #: of a figure misprinted in two units the one that holds, as the planner decided, and why
    holds: Literal["first", "second"] | None = None
    because: Words = ""

    @model_validator(mode="after")
    def _decided(self) -> Source:
        if self.holds is not None and (self.says.torque is None or len(self.says.torque) != 2):
            raise Impossible(
                Message.BAD_VALUE,
                ("holds",),
                reason="Only a torque given in two units can have one that applies",
            )
        if self.holds is not None and len(self.because.strip()) < 3:
            raise Impossible(
                Message.BAD_VALUE,
                ("because",),
                reason="Enter the reason why this one of the two applies",
            )
        return self


class TorqueTarget(Model):
    """A given torque: typed, or the figure of a source."""

    kind: Literal["torque"]
    torque: Torque | None = None
    source: Id | None = None
    reason: Words | None = None

    @model_validator(mode="after")
    def _one_of(self) -> TorqueTarget:
        if (self.torque is None) == (self.source is None):
            raise Impossible(
                Message.BAD_VALUE,
                reason="Give either a torque or a source, not both and not neither",
            )
        return self


class RankedTarget(Model):
    """The figure of the valid source that ranks first."""

    kind: Literal["ranked"]
    reason: Words | None = None


class PreloadTarget(Model):
    """A wanted preload; the torque is calculated at typical friction."""

    kind: Literal["preload"]
    preload: Force
    reason: Words | None = None


class YieldTarget(Model):
    """A share of yield; the torque is calculated at typical friction."""

    kind: Literal["yield_fraction"]
    fraction: Share
    reason: Words | None = None


class AngleTarget(Model):
    """A snug torque and an angle after it."""

    kind: Literal["torque+angle"]
    torque: Torque
    angle: Turn
    source: Id | None = None
    reason: Words | None = None


Target = Annotated[
    Annotated[TorqueTarget, Tag("~torque")]
    | Annotated[RankedTarget, Tag("~ranked")]
    | Annotated[PreloadTarget, Tag("~preload")]
    | Annotated[YieldTarget, Tag("~yield_fraction")]
    | Annotated[AngleTarget, Tag("~torque+angle")],
    KIND,
]
