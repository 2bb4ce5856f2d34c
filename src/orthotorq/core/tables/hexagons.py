"""Hexagon heads and nuts by size: width across flats, bearing face, clearance hole (mm)."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache

from .reader import rows
from .threads import Thread

#: a width is that of an inch socket when it is so near [mm]
_SAME = 0.06
_HEADS = ("hex", "heavy hex", "socket head", "set screw")


@dataclass(frozen=True, slots=True)
class Hexagon:
    """One row: sizes in mm; `certainty` is sure for tabulated figures and typical for derived
    ones."""

    head: str
    size: str
    across_flats: float
    face_diameter: float
    hole: float
    certainty: str


@lru_cache(maxsize=1)
def table() -> dict[tuple[str, str], Hexagon]:
    """All rows by (head, size)."""
    return {
        (r["head"], r["name"]): Hexagon(
            r["head"],
            r["name"],
            float(r["across_flats_mm"]),
            float(r["face_diameter_mm"]),
            float(r["hole_mm"]),
            r["certainty"],
        )
        for r in rows("hexagons.csv")
    }


def hexagon(thread: Thread, head: str = "hex") -> Hexagon | None:
    """The row for a thread and head, or None where the tables end: nothing is guessed.

    >>> from .threads import parse_thread
    >>> hexagon(parse_thread("M20")).face_diameter
    28.19
    """
    return table().get((head, thread.size))


@lru_cache(maxsize=1)
def _other() -> dict[str, tuple[tuple[float, str], ...]]:
    out: dict[str, tuple[tuple[float, str], ...]] = {}
    for row in rows("other_flats.csv"):
        out[row["name"]] = (*out.get(row["name"], ()), (float(row["across_flats_mm"]), row["what"]))
    return out


def other_flats(thread: Thread) -> tuple[tuple[float, str], ...]:
    """Widths [mm] that also stand on bolts and nuts of a size, with what they are.

    >>> from .threads import parse_thread
    >>> other_flats(parse_thread("M12"))
    ((19.0, 'older width'),)
    """
    return _other().get(thread.size, ())


@lru_cache(maxsize=1)
def _keys() -> dict[tuple[str, str], float]:
    return {(r["head"], r["name"]): float(r["across_flats_mm"]) for r in rows("keys.csv")}


def key_width(thread: Thread, head: str) -> float | None:
    """Width [mm] of the hexagon key of a head that has one, or None where the tables end.

    >>> from .threads import parse_thread
    >>> key_width(parse_thread("M5"), "set screw"), key_width(parse_thread("M5"), "socket head")
    (2.5, 4.0)
    """
    if head == "socket head":
        found = hexagon(thread, head)
        return found.across_flats if found else None
    return _keys().get((head, thread.size))


def head_kinds() -> tuple[str, ...]:
    """Heads the tables know."""
    return _HEADS


def flats_words(thread: Thread, width: float) -> str:
    """A width across flats [mm] as it stands on the socket: for inch threads in sixteenths, where
    it is one of them.

    >>> from .threads import parse_thread
    >>> flats_words(parse_thread("3/4-10 UNC"), 28.575), flats_words(parse_thread("M20"), 30.0)
    ('1-1/8 in', '30 mm')
    """
    sixteenths = Fraction(round(width / 25.4 * 16), 16)
    if thread.series.startswith("UN") and abs(float(sixteenths) * 25.4 - width) < _SAME:
        whole, rest = divmod(sixteenths, 1)
        return "-".join([*([str(whole)] if whole else []), *([str(rest)] if rest else [])]) + " in"
    return f"{width:g} mm"
