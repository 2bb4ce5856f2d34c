"""Bricks of every document: models that refuse what they do not know, ids, names, bands."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Callable
from typing import Annotated, Any

from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, Discriminator, Field

from ..errors import Impossible
from ..messages import Message
from ..number_formats import read_band, read_ratio, read_share
from ..tables.lubricants import Band


class _Fresh(BaseModel):
    """An empty list or object as a default is made anew for every instance; left to the library it
    is copied, slower."""

    def __init_subclass__(cls, **kwargs: Any) -> None:
        for name, value in list(vars(cls).items()):
            if name in cls.__annotations__ and type(value) in (list, dict) and not value:
                setattr(cls, name, Field(default_factory=type(value)))
        super().__init_subclass__(**kwargs)


class Model(_Fresh):
    """Base of all documents: unknown fields and silent conversions are refused."""

    model_config = ConfigDict(extra="forbid", frozen=True, strict=True, allow_inf_nan=False)


class Out(_Fresh):
    """Base of what the program gives out."""

    model_config = ConfigDict(extra="forbid")


def kind(value: object) -> str | None:
    """Discriminator by the field `kind`; the `~` lets field_errors take the tag out of paths
    again."""
    return _tag(value, "kind")


def do(value: object) -> str | None:
    """Discriminator by the field `do`."""
    return _tag(value, "do")


def _tag(value: object, field: str) -> str | None:
    found = value.get(field) if isinstance(value, dict) else getattr(value, field, None)
    return f"~{found}" if isinstance(found, str) else None


KIND = Discriminator(kind)
DO = Discriminator(do)


_ID = re.compile(r"[A-Za-z0-9][A-Za-z0-9_-]{0,39}")


def _identifier(text: str) -> str:
    if not _ID.fullmatch(text):
        raise Impossible(Message.BAD_VALUE, reason="An id is 1 to 40 letters, digits, - or _")
    if text == "condition":
        raise Impossible(Message.RESERVED_ID, id=text)
    return text


def written(reader: Callable[[str], Any], figures: Any) -> BeforeValidator:
    """Pydantic annotation: text is read, figures pass as they are."""
    return BeforeValidator(
        lambda value: reader(value) if isinstance(value, str) else value,
        json_schema_input_type=figures | str,
    )


Id = Annotated[str, AfterValidator(_identifier)]


def one_line(text: str) -> bool:
    """Whether a text is one line: without line breaks and control characters.

    >>> one_line("Cover 1"), one_line("Cover\\n} body {")
    (True, False)
    """
    return not any(unicodedata.category(c) in ("Cc", "Zl", "Zp") for c in text)


def _as_one_line(text: str) -> str:
    if not one_line(text):
        raise Impossible(
            Message.BAD_VALUE,
            reason="A name is one line, without line breaks or control characters",
        )
    return text


Name = Annotated[str, Field(min_length=1, max_length=120), AfterValidator(_as_one_line)]
Words = Annotated[str, Field(max_length=500)]
Share = Annotated[float, written(read_share, float), Field(gt=0, le=1)]
Ratio = Annotated[float, written(read_ratio, float), Field(gt=1, le=200)]
_AsBand = written(read_band, list[float])
ShareBand = Annotated[list[Share], _AsBand, Field(min_length=3, max_length=3)]


def _check_band(values: list[float], low: float, high: float, words: str) -> list[float]:
    if len(values) != 3:
        raise Impossible(Message.LIST_LENGTH, range="exactly 3 (low, typical, high)")
    if not values[0] <= values[1] <= values[2]:
        raise Impossible(Message.BAND_ORDER, low=values[0], typical=values[1], high=values[2])
    for value in values:
        if not low <= value <= high:
            raise Impossible(Message.OUT_OF_RANGE, value=f"{value:g}", range=words)
    return values


#: between these a friction coefficient, and a nut factor, lies; anything else is a slip of the hand
FRICTION, NUT_FACTOR = (0.01, 1.0), (0.02, 1.5)
FrictionBand = Annotated[
    list[float],
    _AsBand,
    AfterValidator(lambda v: _check_band(v, *FRICTION, "a friction coefficient from 0.01 to 1")),
]
NutFactorBand = Annotated[
    list[float],
    _AsBand,
    AfterValidator(lambda v: _check_band(v, *NUT_FACTOR, "a nut factor from 0.02 to 1.5")),
]
#: load while pumped over the load that is left, at a tensioner
TRANSFER = (1.0, 3.0)
TransferBand = Annotated[
    list[float],
    _AsBand,
    AfterValidator(lambda v: _check_band(v, *TRANSFER, "a load transfer factor from 1 to 3")),
]


def as_band(values: list[float]) -> Band:
    """A checked list of three as a Band."""
    return Band(values[0], values[1], values[2])
