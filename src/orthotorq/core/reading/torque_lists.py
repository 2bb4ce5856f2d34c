"""Torques whose unit is said once: steps one after the other, and lists by size."""

from __future__ import annotations

import re
from dataclasses import replace
from itertools import pairwise

from ..units import Quantity, pair_difference
from .designations import Size
from .torques import LEAST_STEPS, PLAIN, Figure, Torques, written
from .units_in_text import MAYBE_UNIT, NUMBER, UNIT, torque, torque_unit
from .words import Words

_ONE = r"(?<![\w.,/])\d+(?:\.\d+)?(?![\d.]*\d)"
_NEXT = (
    r"\s*(?:-|/|,\s|→|>|;|\bthen\b|\band\b)\s*(?:(?:then|and|finally|to)\s+)*"
    r"\d+(?:\.\d+)?(?![\d.]*\d)"
)
#: more torques one after the other are no steps; unlimited, a long text would be gone over again
#: and again
_MOST_STEPS = 12
_CHAIN = re.compile(rf"(?P<all>{_ONE}(?:{_NEXT}){{1,{_MOST_STEPS}}})\s*-?\s*(?P<u>{MAYBE_UNIT})")
_BARE = re.compile(r"\d+(?:\.\d+)?")
_BARE_NUMBER = re.compile(NUMBER)
_COLUMN = re.compile(
    rf"[\s:=|,\-(]*(?P<n>{NUMBER}(?:[\s|/(]+{NUMBER})*)\s*\)?\s*(?P<u>{MAYBE_UNIT})?"
)


def _with_second(words: Words, figure: Figure, last: Quantity) -> Figure:
    """A figure with the same in a second unit behind it, where it stands there."""
    gap = re.compile(r"\s*[(\[=]?\s*").match(words.text, figure.end)
    second = PLAIN.match(words.text, gap.end() if gap else figure.end)
    other = torque_unit(second["u"]) if second else None
    if second is None or other is None or other == last.unit:
        return figure
    said = torque(second["n"], other)
    close = 1 if words.text[second.end() : second.end() + 1] in (")", "]") else 0
    texts = (*figure.texts, written(said))
    agrees = pair_difference(last, said)[1]
    return replace(figure, pair_agrees=agrees, end=second.end() + close, texts=texts)


def chain_of(words: Words) -> Torques | None:
    """Rising torques with their unit said once: “20, 40 and 60 Nm” are steps to the last of
    them."""
    for found in _CHAIN.finditer(words.text):
        unit, numbers = torque_unit(found["u"]), _BARE.findall(found["all"])
        # two with a dash are a range, as are two behind “between”
        dashed = len(numbers) == LEAST_STEPS and re.search(r"\d\s*[-/]\s*\d", found["all"])
        ends = re.search(r"(?<![\w])(?:between|from)\s*$", words.text[: found.start()])
        if unit is None or dashed or ends or words.negated(found.start()):
            continue
        values = [torque(n, unit) for n in numbers]
        if not values[0].base or not all(a.base < b.base for a, b in pairwise(values)):
            continue
        last = values[-1]
        figure = Figure(
            torque=last.base, texts=(written(last),), start=found.start(), end=found.end()
        )
        figure = _with_second(words, figure, last)
        words.take("figure", figure.start, figure.end)
        return Torques([figure], [100 * v.base / last.base for v in values])
    return None


#: a size, its numbers, where they end, their own unit
_Row = tuple[Size, list[str], int, str | None]


def _rows(words: Words, sizes: list[Size], columns: int) -> list[_Row]:
    """The numbers behind each size."""
    ends, out = [*(s.start for s in sizes[1:]), len(words.text)], list[_Row]()
    for size, end in zip(sizes, ends, strict=True):
        row = _COLUMN.match(words.text[:end], size.end)
        if row is None:
            continue
        numbers = _BARE_NUMBER.findall(row["n"])
        if columns > 1 and len(numbers) != columns:
            # with a column each, a blank between two numbers is no thousand
            numbers = _BARE.findall(row["n"])
        out.append((size, numbers, row.end(), torque_unit(row["u"])))
    return out


def list_by_size(words: Words, sizes: list[Size]) -> list[Figure]:
    """A list by size whose unit is said once, at its head or at its last row; one column or two."""
    if not sizes:
        return []
    said = re.finditer(rf"(?<![\w.])(?<!\d )(?<!\d){UNIT}", words.text[: sizes[0].start])
    heads = [(unit, m.span()) for m in said if (unit := torque_unit(m[0])) is not None]
    rows = _rows(words, sizes, len(heads))
    if heads and any(unit for *_, unit in rows):
        return []
    units = [unit for unit, _ in heads]
    if not heads:
        last = rows[-1][3] if len(rows) >= LEAST_STEPS else None
        if last is None or any(unit for *_, unit in rows[:-1]):
            return []
        units = [last]
    if any(len(numbers) != len(units) for _, numbers, _, _ in rows):
        return []
    for _, span in heads if rows else []:
        words.take("figure", *span)
    return [_row_figure(row, units) for row in rows]


def _row_figure(row: _Row, units: list[str]) -> Figure:
    size, numbers, end, _ = row
    said = [torque(n, unit) for n, unit in zip(numbers, units, strict=True)]
    agrees = all(pair_difference(said[0], one)[1] for one in said[1:]) if len(said) > 1 else None
    texts = tuple(written(one) for one in said)
    return Figure(said[0].base, None, None, agrees, (), texts, (), size.end, end, size.name)
