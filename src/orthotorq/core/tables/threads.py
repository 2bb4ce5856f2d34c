"""Threads: the standard series, and reading a thread from text as people write it.

Geometry: ISO 68-1, ISO 724, ISO 898-1 (metric); ASME B1.1 (unified). Lengths in mm, areas in mm².
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from functools import lru_cache

from ..errors import BadQuantity, BadThread
from ..messages import Message
from ..units import plain_fractions, read_number
from .reader import rows

_INCH = 25.4


@dataclass(frozen=True, slots=True)
class Thread:
    """One thread: `diameter` and `pitch` in mm, `unified` decides the stress areas, `size` names
    the hexagon row."""

    designation: str
    size: str
    series: str
    diameter: float
    pitch: float
    unified: bool

    @property
    def pitch_diameter(self) -> float:
        """d2 = d - 0.649519 P, mm (ISO 724)."""
        return self.diameter - 0.649519 * self.pitch

    @property
    def minor_diameter(self) -> float:
        """d3 = d - 1.226869 P, mm (ISO 898-1)."""
        return self.diameter - 1.226869 * self.pitch

    @property
    def internal_minor_diameter(self) -> float:
        """D1 = d - 1.082532 P, mm (ISO 724)."""
        return self.diameter - 1.082532 * self.pitch

    @property
    def stress_diameter(self) -> float:
        """d0 = (d2 + d3)/2, mm: the diameter that carries tension with torsion (VDI 2230-1)."""
        return (self.pitch_diameter + self.minor_diameter) / 2

    @property
    def stress_area(self) -> float:
        """Tensile stress area, mm² (ISO 898-1 metric; ASME B1.1 unified)."""
        if self.unified:
            return math.pi / 4 * (self.diameter - 0.9743 * self.pitch) ** 2
        return math.pi / 4 * self.stress_diameter**2

    @property
    def root_area(self) -> float:
        """Root area, mm²: pi/4 d3² metric, pi/4 (D - 1.299038/n)² unified."""
        if self.unified:
            return math.pi / 4 * (self.diameter - 1.299038 * self.pitch) ** 2
        return self.minor_area

    @property
    def minor_area(self) -> float:
        """A_d3 = pi/4 d3², mm², used for resilience of free thread (VDI 2230-1)."""
        return math.pi / 4 * self.minor_diameter**2


@dataclass(frozen=True, slots=True)
class _Series:
    metric_coarse: dict[float, float]
    metric_fine: frozenset[tuple[float, float]]
    unified: dict[tuple[str, str], float]  # (size, series) -> threads per inch
    sizes: dict[str, float]  # size -> diameter in inches


@lru_cache(maxsize=1)
def series() -> _Series:
    """The shipped series, read once."""
    coarse: dict[float, float] = {}
    fine: set[tuple[float, float]] = set()
    unified: dict[tuple[str, str], float] = {}
    sizes: dict[str, float] = {}
    for row in rows("threads.csv"):
        diameter, pitch = float(row["diameter"]), float(row["pitch_or_tpi"])
        if row["series"] == "metric coarse":
            coarse[diameter] = pitch
        elif row["series"] == "metric fine":
            fine.add((diameter, pitch))
        else:
            unified[(row["name"], row["series"])] = pitch
            sizes[row["name"]] = diameter
    return _Series(coarse, frozenset(fine), unified, sizes)


def _designate(value: float) -> str:
    return f"{value:g}"


def _metric(text: str, diameter: float, pitch: float | None) -> Thread:
    known = series()
    coarse = known.metric_coarse.get(diameter)
    if pitch is None:
        if coarse is None:
            raise BadThread(
                Message.THREAD_PITCH_MISSING, text=text, example=f"M{_designate(diameter)}x2"
            )
        pitch = coarse
    size = f"M{_designate(diameter)}"
    if pitch == coarse:
        return _checked(text, Thread(size, size, "metric coarse", diameter, pitch, False))
    kind = "metric fine" if (diameter, pitch) in known.metric_fine else "metric, free entry"
    return _checked(text, Thread(f"{size}x{_designate(pitch)}", size, kind, diameter, pitch, False))


def _unified(text: str, size: str, inches: float, tpi: float | None, name: str) -> Thread:
    known = series()
    wanted = {"UN": "8-UN", "8UN": "8-UN", "8-UN": "8-UN"}.get(name, name)
    if tpi is None:
        tpi = known.unified.get((size, wanted)) if wanted else None
        if tpi is None:
            options = [
                f"{size}-{_designate(n)}" for (s, _), n in known.unified.items() if s == size
            ]
            raise BadThread(
                Message.THREAD_PITCH_MISSING,
                text=text,
                example=options[0] if options else f"{size}-8",
            )
    matches = [s for (z, s), n in known.unified.items() if z == size and n == tpi]
    if wanted in ("UNC", "UNF") and wanted not in matches:
        right = known.unified.get((size, wanted))
        raise BadThread(
            Message.THREAD_PITCH_MISSING,
            text=text,
            example=f"{size}-{_designate(right)} {wanted}"
            if right
            else f"{size}-{_designate(tpi)}",
        )
    kind = wanted if wanted in matches else (matches[0] if matches else "unified, free entry")
    label = "UN" if kind in ("8-UN", "unified, free entry") else kind
    thread = Thread(
        f"{size}-{_designate(tpi)} {label}", size, kind, inches * _INCH, _INCH / tpi, True
    )
    return _checked(text, thread)


def _checked(text: str, thread: Thread) -> Thread:
    if not 1 <= thread.diameter <= 500 or thread.pitch < 0.1:
        raise BadThread(
            Message.OUT_OF_RANGE,
            value=f"“{text}”",
            range="a thread of 1 to 500 mm, pitch from 0.1 mm",
        )
    if thread.pitch > thread.diameter / 3:
        raise BadThread(Message.THREAD_IMPOSSIBLE, text=text, limit=f"{thread.diameter / 3:.3g} mm")
    return thread


_METRIC = re.compile(
    r"^m\s*(\d+(?:[.,]\d+)?)(?:\s*[x×*/]\s*(\d*[.,]?\d+))?(?:\s*[-–]?\s*(?:[3-9][a-hA-H]){1,2})?$",
    re.I,
)
#: hand and class behind a thread change nothing of its geometry
_HAND = re.compile(r"[\s,-]+(?:LH|RH|left[ -]?hand(?:ed)?|right[ -]?hand(?:ed)?)\.?$", re.I)
_CLASS = re.compile(r"\s*[-–]\s*[123][AB]$|\s+[123][AB]$", re.I)
_NUMBERED = re.compile(r"^(?:#|no\.?\s*|nr\.?\s*)(\d{1,2})(?:\s*[-–]\s*(\d+(?:\.\d+)?))?$", re.I)
_INCHES = re.compile(
    r'^(\d+\s*[- ]\s*\d+/\d+|\d+/\d+|\d*\.\d+|\d+)\s*(?:["″”]|in\.?(?:ch)?)?'
    r"(?:\s*[-–x×]\s*(\d+ \d+/\d+|\d+(?:\.\d+)?))?$",
    re.I,
)
_SERIES = re.compile(
    r"\s*(?:[-–]\s*)?(UNC|UNF|8\s*-?\s*UN|UNR|UN)(?:\s*[-–]\s*[123][AB])?\s*$", re.I
)


@lru_cache(maxsize=512)
def parse_thread(text: str) -> Thread:
    """The thread meant by a text in any usual spelling.

    Raises BadThread with a sentence when it is none, when its pitch is missing or when it cannot
    exist.

    >>> parse_thread("m24 × 2").designation, round(parse_thread("M24").stress_area, 2)
    ('M24x2', 352.5)
    >>> parse_thread('1 1/8"-8 UN').designation, parse_thread("#10-24").series
    ('1-1/8-8 UN', 'UNC')
    """
    raw = text.strip()
    if not raw or len(raw) > 40:
        raise BadThread(Message.THREAD_NOT_READ, text=raw[:40])
    raw = _CLASS.sub("", _HAND.sub("", plain_fractions(raw)))
    if match := _METRIC.match(raw):
        diameter = float(match[1].replace(",", "."))
        return _metric(raw, diameter, float(match[2].replace(",", ".")) if match[2] else None)
    body, name = raw, ""
    if match := _SERIES.search(raw):
        body, name = raw[: match.start()], re.sub(r"[\s-]", "", match[1]).upper()
    body = body.strip().rstrip("-").strip()
    if match := _NUMBERED.match(body):
        number = int(match[1])
        if number > 14:
            raise BadThread(Message.THREAD_NOT_READ, text=raw)
        tpi = float(match[2]) if match[2] else None
        return _unified(raw, f"#{number}", 0.060 + 0.013 * number, tpi, name)
    if match := _INCHES.match(body):
        return _from_inches(raw, match[1], match[2], name)
    raise BadThread(Message.THREAD_NOT_READ, text=raw)


def _from_inches(raw: str, size_text: str, tpi_text: str | None, name: str) -> Thread:
    try:
        inches = read_number(size_text)[0]
    except BadQuantity:
        raise BadThread(Message.THREAD_NOT_READ, text=raw) from None
    tpi = read_number(tpi_text)[0] if tpi_text else None
    # a bare 10-32 is a number size: nobody cuts 32 threads per inch on ten inches
    if (
        size_text.isdecimal()
        and tpi is not None
        and ((f"#{size_text}", "UNC") in series().unified)
        and tpi in (series().unified.get((f"#{size_text}", s)) for s in ("UNC", "UNF"))
    ):
        return _unified(raw, f"#{size_text}", 0.060 + 0.013 * int(size_text), tpi, name)
    # "1-8 UN" is one inch, eight threads; "8UN" behind a bare size means eight threads too
    if tpi is None and name == "8UN":
        tpi = 8.0
    if (
        inches <= 0
        or tpi == 0
        or (tpi is None and not name and "/" not in size_text and "." not in size_text)
    ):
        raise BadThread(Message.THREAD_NOT_READ, text=raw)
    known = {round(value, 6): size for size, value in series().sizes.items()}
    size = known.get(round(inches, 6), f"{inches:g}")
    return _unified(raw, size, inches, tpi, name)
