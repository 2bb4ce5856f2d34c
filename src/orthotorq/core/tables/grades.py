"""Strength grades by standard and size range (MPa), from published standards."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache

from ..errors import UnknownName
from ..messages import Message
from .reader import number, rows


@dataclass(frozen=True, slots=True)
class Strength:
    """Strength of a grade at one size, MPa. `assumed` names the values the standard does not set;
    `family` its material."""

    name: str
    proof: float | None
    yield_: float
    tensile: float
    certainty: str
    assumed: tuple[str, ...]
    note: str
    family: str = "other"


@dataclass(frozen=True, slots=True)
class GradeRow:
    """One line of the table: a grade over a range of diameters in mm."""

    standard: str
    grade: str
    low: float
    high: float
    strength: Strength


@lru_cache(maxsize=1)
def table() -> tuple[GradeRow, ...]:
    """All rows in the order of the file."""
    out = []
    for row in rows("grades.csv"):
        proof, yield_ = number(row["proof_MPa"]), number(row["yield_MPa"])
        assumed = tuple(
            k
            for k, have in (("proof", proof), ("yield", yield_))
            if have is None and row[f"assumed_{k}_MPa"]
        )
        name = f"{row['standard']} {row['grade']}"
        value = yield_ if yield_ is not None else number(row["assumed_yield_MPa"])
        tensile = number(row["tensile_MPa"])
        if value is None or tensile is None:
            raise ValueError(f"grades.csv: {name} has no yield or tensile strength")
        strength = Strength(
            name,
            proof if proof is not None else number(row["assumed_proof_MPa"]),
            value,
            tensile,
            row["certainty"],
            assumed,
            row["note"],
            row["family"],
        )
        out.append(
            GradeRow(
                row["standard"],
                row["grade"],
                float(row["d_min_mm"]),
                float(row["d_max_mm"]),
                strength,
            )
        )
    return tuple(out)


_WORDS = re.compile(r"\b(?:property class|grade|class|gr\.?|cl\.?)(?=\s*[\w])\s*", re.I)


def _plain(text: str) -> str:
    """A spelling of a grade without what people add to it: words, European prefixes, the other
    code's letters."""
    text = re.sub(r"[\s,]+", " ", text.strip())
    if not re.search(r"\bB8M? ", text, re.I):  # there the class is part of the grade
        text = _WORDS.sub("", text)
    text = re.sub(r"^(?:DIN |BS )?EN ISO\b", "ISO", text, flags=re.I)
    text = re.sub(r"\b(?:ASME )?S?A-?(?=\d{3})", "A", text, flags=re.I)
    text = re.sub(r"\b(F1|A[1-5]|D[2468]) (?=\d{2,3}$)", r"\1-", text, flags=re.I)
    return text.casefold()


@lru_cache(maxsize=1)
def _names() -> dict[str, dict[str, tuple[GradeRow, ...]]]:
    """Spelling -> standard -> rows: with the edition, without it, the grade alone."""
    out: dict[str, dict[str, tuple[GradeRow, ...]]] = {}
    for row in table():
        bare = re.sub(r":\d{4}$", "", row.standard)
        short = re.sub(r"^(ISO|ASTM|SAE) ", "", bare)
        family = re.sub(r" .*", "", bare)
        for spelling in {
            f"{row.standard} {row.grade}",
            f"{bare} {row.grade}",
            f"{short} {row.grade}",
            row.grade,
            f"{family} {row.grade}",
        }:
            by = out.setdefault(_plain(spelling), {})
            by[row.standard] = (*by.get(row.standard, ()), row)
        if row.grade.startswith("socket"):
            by = out.setdefault(_plain(bare), {})
            by[row.standard] = (*by.get(row.standard, ()), row)
    return out


def same_grade(one: str, other: str) -> bool:
    """Whether two spellings can mean one grade: with or without standard and edition.

    >>> same_grade("8.8", "ISO 898-1:2013 8.8"), same_grade("8.8", "ISO 898-1 10.9")
    (True, False)
    """
    if _plain(one) == _plain(other):
        return True
    first, second = (
        {
            (row.standard, row.grade)
            for rows_ in _names().get(_plain(name), {}).values()
            for row in rows_
        }
        for name in (one, other)
    )
    return bool(first & second)


def strength_of(name: str, diameter: float) -> Strength:
    """Strength of a grade at a nominal diameter in mm.

    A lower bound where two ranges meet is exclusive. Raises UnknownName for an unknown or ambiguous
    grade and for a size the standard does not cover.

    >>> strength_of("ISO 898-1 8.8", 24).yield_, strength_of("ISO 898-1:2013 8.8", 16).yield_
    (660.0, 640.0)
    """
    by = _names().get(_plain(name))
    if not by:
        raise UnknownName(Message.GRADE_UNKNOWN, text=name.strip()[:60])
    if name.strip().isdecimal():
        # a bare 8 is a grade here, the class of a nut there, and half of 8.8
        raise UnknownName(
            Message.GRADE_BARE,
            text=name.strip(),
            grades=", ".join(sorted(found[0].strength.name for found in by.values())),
        )
    if len(by) > 1:
        raise UnknownName(
            Message.GRADE_AMBIGUOUS, text=name.strip()[:60], standards=", ".join(sorted(by))
        )
    found = next(iter(by.values()))
    first = min(row.low for row in found)
    for row in found:
        above = diameter > row.low or (row.low == first and diameter >= row.low - 1e-9)
        if above and diameter <= row.high + 1e-9:
            return row.strength
    raise UnknownName(
        Message.GRADE_OUT_OF_RANGE,
        grade=found[0].strength.name,
        low=f"{first:g}",
        high=f"{max(r.high for r in found):g}",
        diameter=f"{diameter:g}",
    )
