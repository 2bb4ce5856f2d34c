"""Text that carries a checked quantity, exactly as typed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any

from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic_core import CoreSchema, core_schema

from ..errors import Impossible
from ..messages import Message
from ..unit_table import EXAMPLES
from ..units import Quantity, find_unit, parse, read_number


class QuantityText(str):
    """A quantity exactly as typed; `.quantity` is what it means. Serialised as the text."""

    quantity: Quantity

    @property
    def base(self) -> float:
        """The value in the core's base unit."""
        return self.quantity.base

    def __deepcopy__(self, memo: dict[int, Any]) -> QuantityText:
        return self  # nothing in it changes; defaults of documents are copied at every reading


@dataclass(frozen=True)
class QuantityRule:
    """Pydantic annotation: text of one kind of quantity within limits given in base units."""

    kind: str
    low: float
    high: float
    words: str
    low_inclusive: bool = False

    def __get_pydantic_core_schema__(
        self, source: Any, handler: GetCoreSchemaHandler
    ) -> CoreSchema:
        return core_schema.no_info_after_validator_function(
            self._read,
            core_schema.str_schema(strict=True, max_length=80),
            serialization=core_schema.plain_serializer_function_ser_schema(str),
        )

    def __get_pydantic_json_schema__(
        self, schema: CoreSchema, handler: GetJsonSchemaHandler
    ) -> dict[str, Any]:
        return {
            "type": "string",
            "title": self.kind,
            "examples": [EXAMPLES[self.kind]],
            "description": f"{self.kind} with its unit, as typed; {self.words}",
        }

    def _read(self, text: str) -> QuantityText:
        quantity = parse(text, self.kind)
        high_enough = quantity.base >= self.low if self.low_inclusive else quantity.base > self.low
        if not high_enough or quantity.base > self.high:
            raise Impossible(Message.OUT_OF_RANGE, value=f"“{text.strip()}”", range=self.words)
        out = QuantityText(text)
        out.quantity = quantity
        return out


Torque = Annotated[
    QuantityText, QuantityRule("torque", 0, 1e9, "more than 0 and at most 1 000 000 N·m")
]
TorqueOrZero = Annotated[QuantityText, QuantityRule("torque", 0, 1e9, "0 to 1 000 000 N·m", True)]
Force = Annotated[QuantityText, QuantityRule("force", 0, 1e8, "more than 0 and at most 100 MN")]
SignedForce = Annotated[QuantityText, QuantityRule("force", -1e8, 1e8, "-100 MN to 100 MN", True)]
Temperature = Annotated[
    QuantityText, QuantityRule("temperature", -200, 900, "-200 °C to 900 °C", True)
]
Length = Annotated[QuantityText, QuantityRule("length", 0, 1e5, "more than 0 and at most 100 m")]
Position = Annotated[QuantityText, QuantityRule("length", -1e5, 1e5, "-100 m to 100 m", True)]
Stress = Annotated[
    QuantityText, QuantityRule("stress", 0, 1e4, "more than 0 and at most 10 000 MPa")
]
Pressure = Annotated[
    QuantityText, QuantityRule("stress", 0, 400, "more than 0 and at most 4 000 bar")
]
Area = Annotated[QuantityText, QuantityRule("area", 0, 1e6, "more than 0 and at most 1 m²")]
Modulus = Annotated[
    QuantityText, QuantityRule("stress", 0, 1e6, "more than 0 and at most 1 000 GPa")
]
Duration = Annotated[
    QuantityText, QuantityRule("time", 0, 3.2e7, "more than 0 and at most 370 days")
]
TURN = 6.283185307179587
Direction = Annotated[QuantityText, QuantityRule("angle", -TURN, TURN, "-360° to 360°", True)]
Turn = Annotated[
    QuantityText, QuantityRule("angle", 0, 10 * TURN, "more than 0 and at most 10 turns")
]
ConeAngle = Annotated[
    QuantityText, QuantityRule("angle", TURN / 36 - 1e-9, TURN / 4 + 1e-9, "10° to 90°", True)
]


@dataclass(frozen=True)
class OneOfKinds:
    """Pydantic annotation: text of any of several kinds of quantity; which one is told by its
    unit."""

    kinds: tuple[str, ...]
    negative: bool = False
    most: float = 1e9

    def __get_pydantic_core_schema__(
        self, source: Any, handler: GetCoreSchemaHandler
    ) -> CoreSchema:
        return core_schema.no_info_after_validator_function(
            self._read,
            core_schema.str_schema(strict=True, max_length=80),
            serialization=core_schema.plain_serializer_function_ser_schema(str),
        )

    def __get_pydantic_json_schema__(
        self, schema: CoreSchema, handler: GetJsonSchemaHandler
    ) -> dict[str, Any]:
        return {
            "type": "string",
            "title": " or ".join(self.kinds),
            "examples": [EXAMPLES[k] for k in self.kinds],
            "description": "a figure with its unit, as typed",
        }

    def _read(self, text: str) -> QuantityText:
        unit = find_unit(read_number(text)[2]) if text.strip() else None
        kind = unit[0] if unit and unit[0] in self.kinds else self.kinds[0]
        quantity = parse(text, kind)
        if abs(quantity.base) > self.most or (quantity.base < 0 and not self.negative):
            words = "a figure that can be" if self.negative else f"0 to {self.most:g} in base units"
            raise Impossible(Message.OUT_OF_RANGE, value=f"“{text.strip()}”", range=words)
        out = QuantityText(text)
        out.quantity = quantity
        return out


Reading = Annotated[
    QuantityText,
    OneOfKinds(("length", "angle", "torque", "force", "stress", "time", "temperature"), True),
]
Amount = Annotated[QuantityText, OneOfKinds(("time", "length", "cycles"), most=1e13)]
