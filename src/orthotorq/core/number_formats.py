"""How shares, bands and ratios are written: one reader for documents, sums and screens, and one way
to show them.

A share is `50 %` or `0.5`; a band `0.10 – 0.12 – 0.14`, `0.12 ± 0.02`, `0.10 0.14` (the typical is
then the middle) or one figure for all three; a ratio `3:1`, `1:3` or `3`.
"""

from __future__ import annotations

import re
from collections.abc import Iterable

from .errors import BadQuantity, Impossible
from .messages import Message
from .units import parse, read_number

#: a bare number above 1 can be no share: it is in percent
WHOLE = 1.0
#: no reference is 3 % uncertain: a bare number above that is in percent
UNCERTAIN = 0.03
_NUMBER = r"\d*[.,]?\d+(?:e-?\d+)?"
_PERCENT = re.compile(rf"\s*[+±]?\s*({_NUMBER})\s*(%|percent|per cent)?\s*", re.I)
_RATIO = re.compile(rf"\s*({_NUMBER})\s*(?::|to|/)\s*({_NUMBER})\s*", re.I)
_BAND_BETWEEN = re.compile(r"\s*(?:;|–|—|\bto\b|…|(?<=[\d%])-(?=[\s\d.])|,\s|\s)\s*")
_AROUND = re.compile(rf"\s*({_NUMBER})\s*(%?)\s*(?:±|\+/-|\+-)\s*({_NUMBER})\s*(%?)\s*")


def _not_read(text: str, kind: str, example: str) -> BadQuantity:
    return BadQuantity(
        Message.QUANTITY_NOT_READ, text=text.strip()[:40], kind=kind, example=example
    )


def _figure(text: str) -> float:
    return read_number(text)[0]


def read_share(text: str, bare: float = WHOLE) -> float:
    """A share. A bare number above `bare` is in percent. Raises BadQuantity.

    >>> read_share("50 %"), read_share("0.5"), read_share("62,5"), read_share("4", 0.2)
    (0.5, 0.5, 0.625, 0.04)
    """
    found = _PERCENT.fullmatch(text)
    if found is None:
        raise _not_read(text, "share", "50 %")
    figure = _figure(found[1])
    return figure / 100 if found[2] or figure > bare else figure


def read_percent(text: str) -> float:
    """Percent, with or without its sign. Raises BadQuantity.

    >>> read_percent("70 %"), read_percent("62,5")
    (70.0, 62.5)
    """
    found = _PERCENT.fullmatch(text)
    if found is None:
        raise _not_read(text, "percent", "70 %")
    return _figure(found[1])


def read_ratio(text: str) -> float:
    """A ratio as the greater over the smaller. Raises BadQuantity.

    >>> read_ratio("3:1"), read_ratio("1 : 3.5"), read_ratio("4")
    (3.0, 3.5, 4.0)
    """
    found = _RATIO.fullmatch(text)
    if found is None:
        if not re.fullmatch(rf"\s*{_NUMBER}\s*", text):
            raise _not_read(text, "ratio", "3:1")
        return _figure(text)
    one, other = _figure(found[1]), _figure(found[2])
    if min(one, other) <= 0:
        raise _not_read(text, "ratio", "3:1")
    return max(one, other) / min(one, other)


def read_band(text: str) -> list[float]:
    """Low, typical, high of a band as figures; a percent sign anywhere makes all of them percent.
    Raises BadQuantity.

    >>> (read_band("0.10 – 0.12 – 0.14"), read_band("0.12 ± 0.02"), read_band("87 90 93 %"),
    ...  read_band("0.1 to 0.14"))
    ([0.1, 0.12, 0.14], [0.1, 0.12, 0.14], [0.87, 0.9, 0.93], [0.1, 0.12, 0.14])
    >>> read_band("0.1,0.12,0.14"), read_band("0,10 0,12 0,14")
    ([0.1, 0.12, 0.14], [0.1, 0.12, 0.14])
    >>> read_band("0,9")
    [0.9, 0.9, 0.9]
    """
    by = 100 if "%" in text else 1
    around = _AROUND.fullmatch(text)
    if around is not None:
        middle, reach = _figure(around[1]), _figure(around[3])
        reach = middle * reach / 100 if around[4] and not around[2] else reach
        by = 100 if around[2] else 1
        figures = [middle - reach, middle, middle + reach]
    else:
        # where figures have points, a comma stands between them
        plain = text.replace(",", " ") if "." in text else text
        parts = [part for part in _BAND_BETWEEN.split(plain.replace("%", " ").strip()) if part]
        if not parts or any(re.fullmatch(_NUMBER, part) is None for part in parts):
            raise _not_read(text, "band", "0.10 0.12 0.14")
        figures = [_figure(part) for part in parts]
    if len(figures) == 1:
        figures *= 3
    elif len(figures) == 2:
        figures.insert(1, sum(figures) / 2)
    return [round(figure / by, 9) for figure in figures]


def band_text(figures: Iterable[float]) -> str:
    """A band as it is shown everywhere.

    >>> band_text([0.1, 0.12, 0.14])
    '0.1 – 0.12 – 0.14'
    """
    return " – ".join(f"{v:g}" for v in figures)


def read_readings(text: str, unit: str) -> tuple[tuple[str, ...], tuple[float, ...]]:
    """(texts, values [N·mm]) of torques that a reference showed; those without a unit are in that
    of the last one, else in `unit`. Raises BadQuantity, Impossible.

    >>> read_readings("198; 203.5", "N·m")
    (('198 N·m', '203.5 N·m'), (198000.0, 203500.0))
    """
    parts = [
        part.strip()
        for part in re.split(r";|\n|,\s+|,(?=\d+(?:\.\d+)?\s*(?:,|;|$|[^\d,.;]))", text)
        if part.strip()
    ]
    units = [read_number(part)[2].strip() for part in parts]
    unit = next((one for one in reversed(units) if one), unit)
    texts = tuple(part if own else f"{part} {unit}" for part, own in zip(parts, units, strict=True))
    values = tuple(parse(one, "torque").base for one in texts)
    if not values or any(value <= 0 for value in values):
        raise Impossible(
            Message.OUT_OF_RANGE,
            ("readings",),
            value="a reading of 0 or less" if values else "no reading",
            range="one or more readings above 0",
        )
    return texts, values
