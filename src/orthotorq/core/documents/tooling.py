"""What a plan asks of tools, and the chains they form between hand and bolt."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Discriminator, Field, Tag, model_validator

from ..errors import Impossible
from ..forms.base import Model, Name, Ratio, ShareBand, written
from ..forms.quantities import Direction, Length, Torque
from ..messages import Message
from ..number_formats import read_share

Drive = Literal["1/4 in", "3/8 in", "1/2 in", "3/4 in", "1 in", "1-1/2 in"]
ToolKind = Literal[
    "click wrench", "dial wrench", "beam wrench", "electronic wrench", "preset driver"
]

#: no wrench is allowed 20 %: a bare number above that is in percent
_MOST_SHARE = 0.2
Accuracy = Annotated[
    float, written(lambda text: read_share(text, _MOST_SHARE), float), Field(gt=0, le=0.5)
]


class Tool(Model):
    """What the plan asks of a wrench; `mark` is the step of the main scale of a two-part (mark +
    collar) scale.

    `prefer` names registered wrenches by serial. A preset driver gives one figure: its range is
    from it to it.
    """

    kind: ToolKind
    name: Name | None = None
    range: Annotated[list[Torque], Field(min_length=2, max_length=2)]
    increment: Torque | None = None
    mark: Torque | None = None
    accuracy: Accuracy | None = None
    length: Length | None = None
    drive: Drive | None = None
    prefer: Annotated[list[Name], Field(max_length=10)] = []

    @model_validator(mode="after")
    def _rising(self) -> Tool:
        low, high = self.range[0].base, self.range[1].base
        if low > high or (low == high and self.kind != "preset driver"):
            raise Impossible(
                Message.RANGE_REVERSED, ("range",), low=str(self.range[0]), high=str(self.range[1])
            )
        return self


#: of a planetary multiplier in good order (typical; the maker's figure replaces it)
USUAL_EFFICIENCY = (0.87, 0.9, 0.93)


class Multiplier(Model):
    """A torque multiplier in a chain; efficiency low, typical, high, by its sheet; `drive` is that
    of its output, which the socket has."""

    multiplier: Ratio
    efficiency: ShareBand | None = None
    arm: Length | None = None
    rests_on: Name | None = None
    drive: Drive | None = None

    @property
    def band(self) -> tuple[float, float, float]:
        """Its efficiency, low, typical, high; a typical band where its sheet is not at hand, never
        100 %."""
        low, typical, high = self.efficiency or USUAL_EFFICIENCY
        return low, typical, high

    @model_validator(mode="after")
    def _band(self) -> Multiplier:
        low, typical, high = self.band
        if not low <= typical <= high:
            raise Impossible(
                Message.BAND_ORDER, ("efficiency",), low=low, typical=typical, high=high
            )
        return self


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


Link = Annotated[
    Annotated[str, Tag("~tool")]
    | Annotated[Multiplier, Tag("~multiplier")]
    | Annotated[Adapter, Tag("~adapter")],
    Discriminator(link),
]
