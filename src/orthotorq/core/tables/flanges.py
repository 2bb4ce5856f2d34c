"""Flanges of a standard by nominal size and pressure: bolting, bolt circle, the flat gasket inside
the bolts (mm)."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from .reader import rows


@dataclass(frozen=True, slots=True)
class Flange:
    """One flange: so many bolts of a thread on a circle, the hole for a bolt, and what its flat
    gasket measures [mm]."""

    standard: str
    dn: int
    pn: int
    count: int
    thread: str
    circle: float
    hole: float
    gasket_inside: float

    @property
    def id(self) -> str:
        """Its name in an act.

        >>> table()["DN100 PN16"].words
        'DN100 PN16 (EN 1092-1): 8 × M16 on Ø 180 mm'
        """
        return f"DN{self.dn} PN{self.pn}"

    @property
    def gasket_outside(self) -> float:
        """The gasket lies inside the bolts: its rim touches them.

        >>> table()["DN150 PN40"].gasket_outside
        224.0
        """
        return self.circle - self.hole

    @property
    def words(self) -> str:
        """The flange in words."""
        return f"{self.id} ({self.standard}): {self.count} × {self.thread} on Ø {self.circle:g} mm"


@lru_cache(maxsize=1)
def table() -> dict[str, Flange]:
    """All flanges by id."""
    found = (
        Flange(
            r["standard"],
            int(r["dn"]),
            int(r["pn"]),
            int(r["count"]),
            r["thread"],
            float(r["circle_mm"]),
            float(r["hole_mm"]),
            float(r["gasket_inside_mm"]),
        )
        for r in rows("flanges.csv")
    )
    return {one.id: one for one in found}
