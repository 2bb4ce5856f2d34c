"""What stands in the tool room: wrenches, multipliers, adapters, testers and gauges, each with what
has to be known of it."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, TypeAdapter

from ..errors import OrthotorqError
from ..forms.base import Model, Name, Ratio, ShareBand, Words, written
from ..forms.quantities import Direction, Length, Torque
from ..mechanics.calibration import class_limit
from ..number_formats import UNCERTAIN, read_share
from .tooling import Drive, Tool

Uncertainty = Annotated[
    float, written(lambda text: read_share(text, UNCERTAIN), float), Field(ge=0, le=0.5)
]


class MultiplierSpec(Model):
    """A torque multiplier: ratio, efficiency band by its sheet or its last check, the drive of its
    output."""

    kind: Literal["torque multiplier"] = "torque multiplier"
    name: Name | None = None
    ratio: Ratio
    efficiency: ShareBand | None = None
    range: Annotated[list[Torque], Field(min_length=2, max_length=2)] | None = None
    drive: Drive | None = None


class AdapterSpec(Model):
    """An offset adapter, from drive to bolt."""

    kind: Literal["offset adapter"] = "offset adapter"
    name: Name | None = None
    length: Length
    angle: Annotated[Direction, Field(validate_default=True)] = "0 deg"  # type: ignore[assignment]
    drive: Drive | None = None


class TesterSpec(Model):
    """A torque tester: what wrenches are held against; its own uncertainty, expanded, as a
    share."""

    kind: Literal["torque tester"] = "torque tester"
    name: Name | None = None
    range: Annotated[list[Torque], Field(min_length=2, max_length=2)]
    uncertainty: Uncertainty
    drive: Drive | None = None


class GaugeSpec(Model):
    """A gauge: angle disc, ultrasonic length gauge, feeler gauge; what it measures and how well, as
    its sheet says."""

    kind: Literal["gauge"] = "gauge"
    name: Name | None = None
    measures: Words
    uncertainty: Words = ""


Spec = Tool | MultiplierSpec | AdapterSpec | TesterSpec | GaugeSpec
#: sort of a tool -> (form, words)
SORTS: dict[str, tuple[Any, str]] = {
    "wrench": (Tool, "wrench"),
    "multiplier": (MultiplierSpec, "multiplier"),
    "adapter": (AdapterSpec, "adapter"),
    "tester": (TesterSpec, "tester"),
    "gauge": (GaugeSpec, "gauge"),
}
#: what a wrench is held to where nothing else was said (types and classes of ISO 6789-1)
USUAL_CLASS = {
    "click wrench": "II A",
    "dial wrench": "I B",
    "beam wrench": "I A",
    "electronic wrench": "I C",
    "preset driver": "II B",
}


def read_spec(sort: str, raw: Any) -> Spec:
    """A tool's sheet of its sort. Raises pydantic's ValidationError, KeyError for no such sort."""
    found: Spec = TypeAdapter(SORTS[sort][0]).validate_python(raw)
    return found


def limit_of(held_to: str, spec: Tool, setting: float) -> float:
    """What a wrench may be off at a setting [N·mm], as a share: by its class of ISO 6789-1, or its
    own limit (`±3 %`).

    Raises BadQuantity, UnknownName for what is neither.

    >>> limit_of("II A", None, 200e3), limit_of("3 %", None, 200e3)
    (0.04, 0.03)
    """
    text = held_to.strip() or USUAL_CLASS[spec.kind]
    try:
        return class_limit(text, setting)
    except OrthotorqError:
        if not any(c.isdecimal() for c in text) or text.lower().startswith(("i", "type", "iso")):
            raise
    return read_share(text.lstrip("± "), 0.2)
