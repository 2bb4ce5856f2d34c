"""Gasket types with typical m, y, stress window and creep, and the marks on heads by standard."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from .reader import number, rows


@dataclass(frozen=True, slots=True)
class GasketType:
    """One type: factors m [-], y [MPa], stresses to seat and before damage [MPa], creep as a share
    of load, and the temperature [°C] up to which it is used."""

    id: str
    name: str
    m: float
    y: float
    seating: float
    damage: float
    creep: float
    notes: str
    certainty: str = "typical"
    hottest: float | None = None


@lru_cache(maxsize=1)
def table() -> dict[str, GasketType]:
    """All shipped types by id."""
    return {
        r["id"]: GasketType(
            r["id"],
            r["name"],
            float(r["m"]),
            float(r["y_MPa"]),
            float(r["seating_MPa"]),
            float(r["damage_MPa"]),
            float(r["creep"]),
            r["notes"],
            hottest=number(r["hottest_C"]),
        )
        for r in rows("gaskets.csv", delimiter="|")
    }


@dataclass(frozen=True, slots=True)
class HeadMark:
    """What a grade of a standard carries on head or stud end; `lines` counts radial lines."""

    standard: str
    grade: str
    mark: str
    where: str
    lines: int
    certainty: str
    notes: str


@lru_cache(maxsize=1)
def head_marks() -> tuple[HeadMark, ...]:
    """All marks in the order of the file."""
    return tuple(
        HeadMark(
            r["standard"],
            r["grade"],
            r["mark"],
            r["where"],
            int(number(r["lines"]) or 0),
            r["certainty"],
            r["notes"],
        )
        for r in rows("head_marks.csv", delimiter="|")
    )
