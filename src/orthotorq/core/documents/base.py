"""Bricks of every document: text that carries a checked quantity, ids, bands, and field errors by path."""
from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Annotated, Any

from pydantic import (
    AfterValidator,
    BaseModel,
    ConfigDict,
    Discriminator,
    Field,
    GetCoreSchemaHandler,
    GetJsonSchemaHandler,
    ValidationError,
)
from pydantic_core import CoreSchema, core_schema

from ..errors import Impossible, OrthotorqError, UnknownName
from ..messages import Message, render
from ..tables.lubricants import Band
from ..units import EXAMPLES, Quantity, find_unit, parse, read_number


class Model(BaseModel):
    """Base of all documents: unknown fields and silent conversions are refused."""

    model_config = ConfigDict(extra="forbid", frozen=True, strict=True, allow_inf_nan=False)


def kind(value: object) -> str | None:
    """Discriminator by the field `kind`; the `~` lets field_errors take the tag out of paths again."""
    return _tag(value, "kind")


def do(value: object) -> str | None:
    """Discriminator by the field `do`."""
    return _tag(value, "do")


def _tag(value: object, field: str) -> str | None:
    found = value.get(field) if isinstance(value, dict) else getattr(value, field, None)
    return f"~{found}" if isinstance(found, str) else None


KIND = Discriminator(kind)
DO = Discriminator(do)


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

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.no_info_after_validator_function(
            self._read, core_schema.str_schema(strict=True, max_length=80),
            serialization=core_schema.plain_serializer_function_ser_schema(str))

    def __get_pydantic_json_schema__(self, schema: CoreSchema, handler: GetJsonSchemaHandler) -> dict[str, Any]:
        return {"type": "string", "title": self.kind, "examples": [EXAMPLES[self.kind]],
                "description": f"{self.kind} with its unit, as typed; {self.words}"}

    def _read(self, text: str) -> QuantityText:
        quantity = parse(text, self.kind)
        high_enough = quantity.base >= self.low if self.low_inclusive else quantity.base > self.low
        if not high_enough or quantity.base > self.high:
            raise Impossible(Message.OUT_OF_RANGE, value=f"“{text.strip()}”", range=self.words)
        out = QuantityText(text)
        out.quantity = quantity
        return out


Torque = Annotated[QuantityText, QuantityRule("torque", 0, 1e9, "more than 0 and at most 1 000 000 N·m")]
TorqueOrZero = Annotated[QuantityText, QuantityRule("torque", 0, 1e9, "0 to 1 000 000 N·m", True)]
Force = Annotated[QuantityText, QuantityRule("force", 0, 1e8, "more than 0 and at most 100 MN")]
Length = Annotated[QuantityText, QuantityRule("length", 0, 1e5, "more than 0 and at most 100 m")]
Position = Annotated[QuantityText, QuantityRule("length", -1e5, 1e5, "-100 m to 100 m", True)]
Stress = Annotated[QuantityText, QuantityRule("stress", 0, 1e4, "more than 0 and at most 10 000 MPa")]
Duration = Annotated[QuantityText, QuantityRule("time", 0, 3.2e7, "more than 0 and at most 370 days")]
TURN = 6.283185307179587
Direction = Annotated[QuantityText, QuantityRule("angle", -TURN, TURN, "-360° to 360°", True)]
Turn = Annotated[QuantityText, QuantityRule("angle", 0, 10 * TURN, "more than 0 and at most 10 turns")]
ConeAngle = Annotated[QuantityText, QuantityRule("angle", TURN / 36 - 1e-9, TURN / 4 + 1e-9, "10° to 90°", True)]


@dataclass(frozen=True)
class OneOfKinds:
    """Pydantic annotation: text of any of several kinds of quantity; which one is told by its unit."""

    kinds: tuple[str, ...]
    negative: bool = False
    most: float = 1e9

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.no_info_after_validator_function(
            self._read, core_schema.str_schema(strict=True, max_length=80),
            serialization=core_schema.plain_serializer_function_ser_schema(str))

    def __get_pydantic_json_schema__(self, schema: CoreSchema, handler: GetJsonSchemaHandler) -> dict[str, Any]:
        return {"type": "string", "title": " or ".join(self.kinds), "examples": [EXAMPLES[k] for k in self.kinds],
                "description": "a figure with its unit, as typed"}

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


Reading = Annotated[QuantityText, OneOfKinds(("length", "angle", "torque", "force", "stress", "time"), True)]
Amount = Annotated[QuantityText, OneOfKinds(("time", "length", "cycles"), most=1e13)]


def _identifier(text: str) -> str:
    if not re.fullmatch(r"[A-Za-z0-9][A-Za-z0-9_-]{0,39}", text):
        raise Impossible(Message.BAD_VALUE, reason="An id is 1 to 40 letters, digits, - or _")
    if text == "condition":
        raise Impossible(Message.RESERVED_ID, id=text)
    return text


Id = Annotated[str, AfterValidator(_identifier)]
Name = Annotated[str, Field(min_length=1, max_length=120)]
Words = Annotated[str, Field(max_length=500)]
Share = Annotated[float, Field(gt=0, le=1)]


def _check_band(values: list[float], low: float, high: float, words: str) -> list[float]:
    if len(values) != 3:
        raise Impossible(Message.LIST_LENGTH, range="exactly 3 (low, typical, high)")
    if not values[0] <= values[1] <= values[2]:
        raise Impossible(Message.BAND_ORDER, low=values[0], typical=values[1], high=values[2])
    for value in values:
        if not low <= value <= high:
            raise Impossible(Message.OUT_OF_RANGE, value=f"{value:g}", range=words)
    return values


FrictionBand = Annotated[list[float], AfterValidator(
    lambda v: _check_band(v, 0.01, 1.0, "a friction coefficient from 0.01 to 1"))]
NutFactorBand = Annotated[list[float], AfterValidator(
    lambda v: _check_band(v, 0.02, 1.5, "a nut factor from 0.02 to 1.5"))]


def as_band(values: list[float]) -> Band:
    """A checked list of three as a Band."""
    return Band(values[0], values[1], values[2])


@dataclass(frozen=True, slots=True)
class FieldError:
    """One thing wrong at one field: path in the document, code and sentence."""

    path: tuple[str | int, ...]
    code: str
    text: str

    def pointer(self) -> str:
        """The path as text, `groups/0/layout/count`."""
        return "/".join(str(part) for part in self.path)


class DocumentErrors(ValueError):
    """A document that is refused: every field error found, never just the first."""

    def __init__(self, errors: list[FieldError]) -> None:
        self.errors = errors
        super().__init__("; ".join(f"{e.pointer()}: {e.text}" for e in errors))

    @classmethod
    def one(cls, error: OrthotorqError, *path: str | int) -> DocumentErrors:
        """A single field error from an error of the core."""
        return cls([FieldError(path or error.path, error.code.value, str(error))])


_EXPECTED = {"string_type": "text", "int_type": "a whole number", "float_type": "a number", "bool_type": "true or false",
             "list_type": "a list", "dict_type": "an object", "model_type": "an object",
             "int_from_float": "a whole number", "finite_number": "a finite number",
             "model_attributes_type": "an object", "is_instance_of": "an object"}


def _sentence(kind: str, context: dict[str, Any], value: object, field: str) -> tuple[Message, dict[str, object]]:
    """Our code and parameters for one of pydantic's own complaints."""
    shown = str(value)[:60]
    if kind == "missing":
        return Message.MISSING_FIELD, {}
    if kind == "extra_forbidden":
        return Message.UNKNOWN_FIELD, {"field": field}
    if kind in _EXPECTED:
        return Message.WRONG_TYPE, {"expected": _EXPECTED[kind]}
    if kind in ("literal_error", "enum"):
        return Message.CHOICE, {"value": shown, "choices": context.get("expected", "")}
    if kind in ("union_tag_invalid", "union_tag_not_found"):
        tag = str(context.get("tag", "~"))[1:41]
        choices = str(context.get("expected_tags", "")).replace("~", "")
        return (Message.CHOICE, {"value": tag, "choices": choices}) if tag else (Message.MISSING_FIELD, {})
    bounds = {"greater_than": "more than {gt}", "greater_than_equal": "at least {ge}", "less_than": "less than {lt}",
              "less_than_equal": "at most {le}"}
    if kind in bounds:
        return Message.OUT_OF_RANGE, {"value": shown, "range": bounds[kind].format(**context)}
    lengths = {"too_short": "at least {min_length}", "too_long": "at most {max_length}",
               "string_too_short": "at least {min_length}", "string_too_long": "at most {max_length}"}
    if kind in lengths:
        code = Message.TEXT_LENGTH if kind.startswith("string") else Message.LIST_LENGTH
        return code, {"range": lengths[kind].format(**context)}
    return Message.BAD_VALUE, {"reason": "This value cannot be used here"}


def field_errors(error: ValidationError) -> list[FieldError]:
    """Pydantic's errors as ours: same paths, our codes and sentences, never an echo of long input."""
    out = []
    for item in error.errors(include_url=False):
        # pydantic puts the tag of a union into the path; a reader of the file does not have it there
        path = tuple(p for p in item["loc"] if not (isinstance(p, str) and p.startswith("~")))
        cause = item.get("ctx", {}).get("error")
        if isinstance(cause, OrthotorqError):
            out.append(FieldError((*path, *cause.path), cause.code.value, str(cause)))
            continue
        if item["type"].startswith("union_tag"):
            path = (*path, str(item["ctx"]["discriminator"]).removesuffix("()").split("_")[0])
        code, params = _sentence(item["type"], item.get("ctx", {}), item.get("input"), str(path[-1]) if path else "")
        out.append(FieldError(path, code.value, render(code, **params)))
    return out


def unknown(kind: str, identifier: str, known: list[str], *path: str | int) -> FieldError:
    """The field error for an id that is not in the plan."""
    error = UnknownName(Message.UNKNOWN_REFERENCE, id=identifier, kind=kind, known=", ".join(known) or "none")
    return FieldError(path, error.code.value, str(error))
