"""Expansion, modulus and yield at temperature by family of material."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise

from .reader import rows

ROOM = 20.0


@dataclass(frozen=True, slots=True)
class AtTemperature:
    """Mean expansion from 20 °C [1/K], modulus and yield over those at 20 °C [-], and how sure they
    are."""

    expansion: float
    modulus: float
    yield_: float
    certainty: str


@lru_cache(maxsize=1)
def table() -> dict[str, tuple[tuple[float, AtTemperature], ...]]:
    """Rows by family, in rising temperature [°C]."""
    out: dict[str, list[tuple[float, AtTemperature]]] = {}
    for row in rows("thermal.csv"):
        out.setdefault(row["family"], []).append(
            (
                float(row["temperature_C"]),
                AtTemperature(
                    float(row["expansion_per_MK"]) / 1e6,
                    float(row["modulus_ratio"]),
                    float(row["yield_ratio"]),
                    row["certainty"],
                ),
            )
        )
    return {family: tuple(found) for family, found in out.items()}


def at_temperature(family: str, celsius: float) -> AtTemperature | None:
    """The row of a family at a temperature [°C], between rows in a straight line; below 20 °C as at
    20; None above the table.

    A family that is not in the table counts as steel, and unsure.

    >>> round(at_temperature("steel", 150).modulus, 4), at_temperature("steel", 700)
    (0.9625, None)
    """
    known = table().get(family)
    found = known or table()["steel"]
    if celsius <= found[0][0]:
        return found[0][1]
    for (low, one), (high, other) in pairwise(found):
        if celsius <= high:
            share = (celsius - low) / (high - low)
            certainty = (
                "unsure"
                if known is None or "unsure" in (one.certainty, other.certainty)
                else other.certainty
            )
            expansion, modulus, yield_ = (
                a + (b - a) * share
                for a, b in (
                    (one.expansion, other.expansion),
                    (one.modulus, other.modulus),
                    (one.yield_, other.yield_),
                )
            )
            return AtTemperature(expansion, modulus, yield_, certainty)
    return None
