"""Friction conditions: typical bands of thread friction, bearing friction and nut factor."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import NamedTuple

from .reader import number, rows


class Band(NamedTuple):
    """Low, typical and high value of one coefficient (no unit)."""

    low: float
    typical: float
    high: float


@dataclass(frozen=True, slots=True)
class Lubricant:
    """A friction condition with its bands, the faces it belongs on, and where it is forbidden.

    `solid` marks pastes and coatings with solid lubricant, which a friction hub must never see;
    `group` is what it is: dry, guess (a surface nobody can vouch for), oil, oiled (a surface that
    comes with oil on it), coating, grease, paste, threadlocker. `hottest` is the temperature [°C]
    up to which it is used.
    """

    id: str
    name: str
    mu_thread: Band
    mu_bearing: Band
    nut_factor: Band
    faces: tuple[str, ...]
    solid: bool
    forbidden: tuple[str, ...]
    notes: str
    group: str
    certainty: str = "typical"
    hottest: float | None = None

    @property
    def dry(self) -> bool:
        """Whether nothing is put on: these are the conditions a dry-only seat allows."""
        return self.group in ("dry", "guess")

    @property
    def supplied(self) -> bool:
        """Whether it comes with the bolt: no stage has to put it on."""
        return self.group in ("oiled", "coating")


def _band(text: str) -> Band:
    low, typical, high = (float(part) for part in text.split())
    return Band(low, typical, high)


@lru_cache(maxsize=1)
def table() -> dict[str, Lubricant]:
    """All shipped conditions by id."""
    return {
        r["id"]: Lubricant(
            r["id"],
            r["name"],
            _band(r["mu_thread"]),
            _band(r["mu_bearing"]),
            _band(r["nut_factor"]),
            tuple(r["faces"].split(";")),
            r["solid"] == "yes",
            tuple(filter(None, r["forbidden"].split(";"))),
            r["notes"],
            r["group"],
            hottest=number(r["hottest_C"]),
        )
        for r in rows("lubricants.csv", delimiter="|")
    }
