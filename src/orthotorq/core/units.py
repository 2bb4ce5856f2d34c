"""Quantities at the border: text with a unit in, text with a unit out.

Inside the core everything is N, mm, MPa, N·mm, rad and s; this module is the only place that knows
others. Factors are exact by definition (inch 25.4 mm, pound-force 4.4482216152605 N, kilogram-force
9.80665 N).
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache

from .errors import BadQuantity
from .messages import Message
from .unit_table import _ALIASES, EXAMPLES, FACTORS


def _unit_key(text: str) -> str:
    return re.sub(r"[\s·⋅∙.*×\-]+", "·", text.strip()).strip("·")


def _lookup_tables() -> tuple[dict[str, tuple[str, str]], dict[str, tuple[str, str]]]:
    exact: dict[str, tuple[str, str]] = {}
    for kind, units in FACTORS.items():
        for symbol in units:
            exact[_unit_key(symbol)] = (kind, symbol)
    folded: dict[str, tuple[str, str]] = {}
    for key, value in exact.items():
        # MN and mN, Pa and pa: where folding the case is not unique the exact spelling is required
        folded[key.casefold()] = ("", "") if key.casefold() in folded else value
    for alias, symbol in _ALIASES.items():
        folded.setdefault(alias, exact[_unit_key(symbol)])
    return exact, folded


_EXACT, _FOLDED = _lookup_tables()


@dataclass(frozen=True, slots=True)
class Quantity:
    """A figure as it was written: `value` in `unit`, `base` in the core's unit of its kind.

    `half_digit` is half a unit in the last written digit, in base units: how exactly it was stated.
    """

    text: str
    kind: str
    value: float
    unit: str
    base: float
    half_digit: float


#: digits in groups of three: a plain or narrow space or an apostrophe stands between them, and
#: three digits follow it
_NUMBER = re.compile(
    r"^\s*(?P<sign>[-−+]?)\s*(?:(?P<whole>\d+)[\s-]+(?P<n1>\d+)\s*/\s*(?P<d1>\d+)|(?P<n2>\d+)\s*/\s*(?P<d2>\d+)"
    r"|(?P<dec>(?:\d(?:[\d.,]|[ "
    r"\u00a0\u2009\u202f'](?=\d{3}(?!\d)))*|\.\d+)(?:[eE][-+]?\d{1,2})?))\s*(?P<unit>.*)$",
    re.S,
)
#: fractions that are one character
_VULGAR = {
    "½": "1/2",
    "¼": "1/4",
    "¾": "3/4",
    "⅛": "1/8",
    "⅜": "3/8",
    "⅝": "5/8",
    "⅞": "7/8",
    "⅓": "1/3",
    "⅔": "2/3",
}


def plain_fractions(text: str) -> str:
    """Text with fractions that are one character written out.

    >>> plain_fractions("1½ in"), plain_fractions("¾-10")
    ('1 1/2 in', '3/4-10')
    """
    for sign, words in _VULGAR.items():
        text = re.sub(rf"(?<=\d)\s*{sign}", f" {words}", text).replace(sign, words)
    return text.replace("⁄", "/")


def _decimal(number: str, text: str) -> tuple[float, float]:
    """Value and half a unit of its last digit of a decimal as people type it; asks back where two
    readings exist."""
    raw = re.sub(r"[ \u00a0\u2009\u202f']", "", number)
    mantissa, _, exponent = re.sub("E", "e", raw).partition("e")
    if "," in mantissa:
        if re.fullmatch(r"[1-9]\d{0,2},\d{3}", mantissa):
            raise BadQuantity(
                Message.QUANTITY_AMBIGUOUS,
                text=text,
                first=mantissa.replace(",", "."),
                second=mantissa.replace(",", ""),
            )
        if re.fullmatch(r"\d{1,3}(,\d{3})+(\.\d+)?", mantissa) and (
            mantissa.count(",") > 1 or "." in mantissa
        ):
            mantissa = mantissa.replace(",", "")
        elif re.fullmatch(r"\d+,\d+", mantissa):
            mantissa = mantissa.replace(",", ".")
    mantissa = mantissa.rstrip(".") if re.fullmatch(r"\d+\.", mantissa) else mantissa
    if not re.fullmatch(r"\d+(\.\d+)?|\.\d+", mantissa):
        raise BadQuantity(Message.QUANTITY_NOT_READ, text=text, kind="number", example="480")
    power = 10.0 ** int(exponent or 0)
    digits = len(mantissa.partition(".")[2])
    return float(mantissa) * power, 0.5 * 10.0**-digits * power


@lru_cache(maxsize=4096)
def read_number(text: str) -> tuple[float, float, str]:
    """Read the number at the start of text: (value, half a unit of the last digit, the rest of the
    text).

    >>> read_number("1-1/8 in")
    (1.125, 0.0, 'in')
    >>> read_number("12,5 mm")[0]
    12.5
    """
    match = _NUMBER.match(plain_fractions(text))
    if not match:
        raise BadQuantity(Message.QUANTITY_NOT_READ, text=text, kind="number", example="480")
    if match["dec"]:
        value, half = _decimal(match["dec"], text)
    else:
        bottom = int(match["d1"] or match["d2"])
        if bottom == 0:
            raise BadQuantity(Message.QUANTITY_NOT_READ, text=text, kind="number", example="3/4")
        top = int(match["n1"] or match["n2"])
        value, half = float(int(match["whole"] or 0) + Fraction(top, bottom)), 0.0
    if match["sign"] in ("-", "−"):
        value = -value
    if not math.isfinite(value) or abs(value) > 1e12:
        raise BadQuantity(
            Message.OUT_OF_RANGE, value=text.strip()[:40], range="a number below 1e12"
        )
    return value, half, match["unit"]


@lru_cache(maxsize=1024)
def find_unit(text: str) -> tuple[str, str] | None:
    """(kind, symbol) of a unit in any usual spelling, or None.

    >>> find_unit("ft-lb"), find_unit("Nm"), find_unit("furlong")
    (('torque', 'ft·lbf'), ('torque', 'N·m'), None)
    """
    key = _unit_key(text)
    found = _EXACT.get(key) or _FOLDED.get(key.casefold()) or _FOLDED.get(text.strip().casefold())
    if not found or not found[0]:
        return None
    symbol = _unit_key(found[1])
    # mPa is not MPa: where the rest is spelled as it should be, the prefix is meant as it is
    # spelled
    other_prefix = (
        key[:1] + symbol[:1] in ("mM", "Mm") and key[1:] == symbol[1:] and found[0] != "time"
    )
    return None if other_prefix else found


@lru_cache(maxsize=4096)
def parse(text: str, kind: str) -> Quantity:
    """Read a quantity of one kind from text as a person types it.

    Raises BadQuantity with a sentence when it is empty, ambiguous, without a unit or of another
    kind.

    >>> q = parse("355 ft-lb", "torque"); q.unit, round(q.base)
    ('ft·lbf', 481315)
    >>> parse("1-1/8 in", "length").base
    28.575
    """
    example = EXAMPLES[kind]
    if not text or not text.strip():
        raise BadQuantity(Message.QUANTITY_EMPTY, kind=kind, example=example)
    if len(text) > 80:
        raise BadQuantity(
            Message.QUANTITY_NOT_READ, text=text[:40] + "…", kind=kind, example=example
        )
    try:
        value, half, rest = read_number(text)
    except BadQuantity as error:
        if error.code is Message.QUANTITY_NOT_READ:
            raise BadQuantity(
                Message.QUANTITY_NOT_READ, text=text.strip(), kind=kind, example=example
            ) from None
        raise
    if not rest.strip():
        raise BadQuantity(Message.UNIT_MISSING, text=text.strip(), example=example)
    unit = find_unit(rest)
    if unit is None:
        known = ", ".join(FACTORS[kind])
        raise BadQuantity(Message.UNIT_UNKNOWN, unit=rest.strip(), kind=kind, units=known)
    if unit[0] != kind:
        raise BadQuantity(
            Message.UNIT_WRONG_KIND, text=text.strip(), found=unit[0], kind=kind, example=example
        )
    factor = FACTORS[kind][unit[1]]
    return Quantity(text.strip(), kind, value, unit[1], value * factor, half * factor)


def convert(base: float, kind: str, unit: str) -> float:
    """A base value in another unit of its kind.

    >>> round(convert(1000.0, "torque", "ft·lbf"), 4)
    0.7376
    """
    return base / FACTORS[kind][unit]


def show(value: float, digits: int = 4) -> str:
    """A figure with so many significant digits and no exponent between 1e-4 and 1e7.

    >>> show(450.06), show(0.158842), show(127958.0)
    ('450.1', '0.1588', '128000')
    """
    if value == 0 or not math.isfinite(value):
        return "0" if value == 0 else str(value)
    places = max(0, digits - 1 - math.floor(math.log10(abs(value))))
    rounded = round(value, digits - 1 - math.floor(math.log10(abs(value))))
    if 1e-4 <= abs(rounded) < 1e7:
        text = f"{rounded:.{places}f}"
        return text.rstrip("0").rstrip(".") if "." in text else text
    return f"{rounded:.{digits - 1}e}"


def show_quantity(base: float, kind: str, unit: str, digits: int = 4) -> str:
    """A base value as text in a unit: what a person reads.

    >>> show_quantity(450060.0, "torque", "N·m")
    '450.1 N·m'
    """
    return f"{show(convert(base, kind, unit), digits)} {unit}"


def pair_difference(first: Quantity, second: Quantity) -> tuple[float, bool]:
    """(difference of the second from the first as a share, whether the two agree).

    They agree when their intervals of half a unit in the last written digit overlap. Raises
    BadQuantity for a first of zero.

    >>> pair_difference(parse("250 N·m", "torque"), parse("184 ft·lbf", "torque"))[1]
    True
    """
    if first.base == 0:
        raise BadQuantity(
            Message.OUT_OF_RANGE, ("first",), value=first.text, range="a figure other than zero"
        )
    gap = abs(second.base - first.base)
    return second.base / first.base - 1, gap <= (first.half_digit + second.half_digit) * (1 + 1e-12)
