"""Fields of a sum and how their text is read; values inside are in base units."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from ..errors import BadQuantity, Impossible, OrthotorqError, in_range
from ..mechanics.formula import Step
from ..messages import Message
from ..number_formats import read_ratio, read_share
from ..tables.lubricants import Band
from ..tables.threads import parse_thread
from ..unit_table import FACTORS
from ..units import parse, read_number


@dataclass(frozen=True, slots=True)
class Chain:
    """What a tool sum is about, for drawing it: lengths [mm], angle [rad], ratios, step of the main
    scale [N·mm]."""

    length: float | None
    adapter: float | None
    angle: float
    ratios: tuple[float, ...]
    arm: float | None
    increment: float | None
    mark: float | None


@dataclass(frozen=True, slots=True)
class Answer:
    """Figures by key (the unit is in the key's name; None where no figure exists), steps for the
    working, notes.

    `bounds` are upper bounds of a clamp load as (code, words, N), for the gauge; `chain` is what a
    setting is for.
    """

    figures: dict[str, Any]
    steps: tuple[Step, ...] = ()
    notes: tuple[str, ...] = ()
    bounds: tuple[tuple[str, str, float], ...] = ()
    chain: Chain | None = None


@dataclass(frozen=True, slots=True)
class Field:
    """One field. `kind` is a kind of quantity, or thread, text, number, share, friction, degrees,
    count, choice, flag, a resilience, an expansion, a rise of temperature, or a force that may be
    negative."""

    name: str
    kind: str
    words: str
    required: bool = False
    repeat: bool = False
    choices: tuple[str, ...] = ()
    positional: bool = False
    zero: bool = False

    @property
    def key(self) -> str:
        """The name as an identifier."""
        return self.name.replace("-", "_")


@dataclass(frozen=True, slots=True)
class Sum:
    """One question: its fields and the function that answers it from read values."""

    name: str
    words: str
    fields: tuple[Field, ...]
    function: Callable[[dict[str, Any]], Answer] = field(compare=False)


def _number(text: str) -> float:
    value, _, rest = read_number(text)
    if rest.strip() == "%":
        return value / 100
    if rest.strip():
        raise BadQuantity(Message.QUANTITY_NOT_READ, text=text, kind="number", example="0.12")
    return value


def _parted(text: str) -> list[str]:
    """The figures of a list. A comma parts them unless semicolons do; commas behind every zero are
    decimal.

    >>> _parted("0.1,0.12,0.16"), _parted("0,12"), _parted("0,10; 0,12; 0,16")
    (['0.1', '0.12', '0.16'], ['0.12'], ['0,10', '0,12', '0,16'])
    """
    if ";" in text:
        return [part.strip() for part in text.split(";") if part.strip()]
    parts = [part.strip() for part in text.split(",") if part.strip()]
    if (
        len(parts) in (2, 6)
        and all(p == "0" for p in parts[::2])
        and all(p.isdecimal() for p in parts)
    ):
        return [f"0.{p}" for p in parts[1::2]]
    return parts


def _friction(text: str) -> Band:
    parts = _parted(text)
    values = [in_range(_number(p), 1e-3, 1.0, "friction above 0 and at most 1") for p in parts]
    if len(values) == 1:
        return Band(values[0], values[0], values[0])
    if len(values) != 3:
        raise Impossible(Message.BAD_VALUE, reason=f"“{text}”: give one value, or low,typical,high")
    if not values[0] <= values[1] <= values[2]:
        raise Impossible(Message.BAND_ORDER, low=values[0], typical=values[1], high=values[2])
    return Band(*values)


def _degrees(text: str) -> float:
    if any(c.isalpha() or c == "°" for c in text):
        return parse(text, "angle").base
    return math.radians(_number(text))


def _turn(text: str) -> float:
    angle = _degrees(text)
    if not 0 <= angle <= 20 * math.pi:
        raise Impossible(Message.OUT_OF_RANGE, value=f"“{text.strip()}”", range="0° to 3600°")
    return angle


def _count(text: str) -> int:
    value = _number(text)
    if value != int(value):
        raise BadQuantity(Message.QUANTITY_NOT_READ, text=text, kind="whole number", example="8")
    return int(in_range(value, 1, 100_000, "a whole number from 1"))


def _plain(text: str, *units: str) -> float:
    """A bare number, or one with one of its units written behind it."""
    value, _, rest = read_number(text)
    if rest.strip() and rest.replace(" ", "") not in units:
        raise BadQuantity(
            Message.QUANTITY_NOT_READ,
            text=text,
            kind=f"number in {units[0]}",
            example=f"2.1e-6 {units[0]}"
            if units[0] == "mm/N"
            else f"1.2e-5 {units[0]}"
            if units[0] == "1/K"
            else f"80 {units[0]}",
        )
    return value


def _signed(text: str) -> float:
    return parse(text, "force").base


def _quantity(one: Field, text: str) -> float:
    base = parse(text, one.kind).base
    low = "0 or more" if one.zero else "more than 0"
    if base < 0 or (base == 0 and not one.zero):
        raise Impossible(Message.OUT_OF_RANGE, value=f"“{text.strip()}”", range=low)
    return base


def _read(one: Field, text: str) -> Any:
    if one.kind in FACTORS:
        return _quantity(one, text)
    if one.kind == "choice":
        if text not in one.choices:
            raise Impossible(Message.CHOICE, value=text[:40], choices=", ".join(one.choices))
        return text
    readers: dict[str, Callable[[str], Any]] = {
        "thread": parse_thread,
        "text": str,
        "friction": _friction,
        "degrees": _degrees,
        "turn": _turn,
        "count": _count,
        "ratio": lambda t: in_range(read_ratio(t), 1.0, 1000.0, "a ratio from 1 to 1000"),
        "number": lambda t: in_range(
            _number(t), 0.0 if one.zero else 1e-9, 1e9, "a number above 0"
        ),
        "share": lambda t: in_range(
            read_share(t, math.inf), 0.0 if one.zero else 1e-6, 1.0, "a share from 0 to 1"
        ),
        "resilience": lambda t: in_range(
            _plain(t, "mm/N"), 1e-12, 1.0, "a resilience above 0, in mm/N"
        ),
        "expansion": lambda t: in_range(
            _plain(t, "1/K"), 0.0, 1e-3, "an expansion from 0 to 0.001 1/K"
        ),
        "rise": lambda t: in_range(
            _plain(t, "K", "°C"), -300.0, 2000.0, "a rise from -300 to 2000 K"
        ),
        "signed force": _signed,
        "flag": lambda t: t not in ("", "false", "no", "0"),
        "statement": lambda t: t,
    }
    return readers[one.kind](text)


def listed(one: Field, given: Any) -> list[str]:
    """The texts of a field that may be given several times: a list, or one text with semicolons;
    bare numbers may have blanks between them.

    >>> listed(Field("torque", "torque", "Torque", repeat=True), "318 N·m; 330 N·m")
    ['318 N·m', '330 N·m']
    >>> listed(Field("ratio", "ratio", "Ratio", repeat=True), "5 4")
    ['5', '4']
    """
    if not isinstance(given, str):
        return list(given or ())
    parts = [part.strip() for part in given.split(";") if part.strip()]
    return parts if one.kind in FACTORS or len(parts) != 1 else parts[0].split()


def read_values(asked: Sum, texts: Mapping[str, Any]) -> dict[str, Any]:
    """Base values by key from texts by field name; fields left out are None (empty tuples where
    repeatable), and under `units` the unit that each quantity was typed in.

    Raises an error of the core with the field as its path when a text cannot be read or a needed
    field is missing.
    """
    out: dict[str, Any] = {}
    for one in asked.fields:
        given = texts.get(one.name)
        try:
            if one.repeat:
                out[one.key] = tuple(_read(one, t) for t in listed(one, given))
            elif given is None or given == "":
                if one.required:
                    raise Impossible(Message.MISSING_FIELD)
                out[one.key] = False if one.kind == "flag" else None
            else:
                out[one.key] = _read(one, str(given))
                if one.kind in FACTORS:
                    out.setdefault("units", {})[one.key] = parse(str(given), one.kind).unit
        except OrthotorqError as error:
            error.path = (one.name,)
            raise
    return out
