"""A template to lay on the joint, 1:1: bolts with their numbers, over as many sheets as it takes,
to be cut and joined."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from html import escape

from ..core.errors import Impossible
from ..core.forms.group import GroupOut
from ..core.forms.result import Result
from ..core.messages import Message
from ..core.running import first_variants, groups_of
from .pdf import render_html, to_pdf

#: printable part of a sheet [mm], so much of which two neighbours share
_SHEETS = {"A4": (180.0, 250.0), "Letter": (186.0, 232.0)}
_SHARED = 10.0
_MOST_SHEETS = 80
_BAR = 100.0


@dataclass(frozen=True, slots=True)
class Tile:
    """One sheet: its mark, the part of the drawing on it [mm], and which neighbours it is joined
    to."""

    mark: str
    left: float
    top: float
    right_neighbour: bool
    lower_neighbour: bool


def tiles_of(width: float, height: float, paper: str) -> list[Tile]:
    """The sheets of a drawing of a size [mm], row by row. Raises Impossible where it takes too
    many.

    >>> [t.mark for t in tiles_of(300, 200, "A4")]
    ['A1', 'A2']
    """
    wide, high = (side - _SHARED for side in _SHEETS[paper])
    columns, rows = (
        max(1, math.ceil((width - _SHARED) / wide)),
        max(1, math.ceil((height - _SHARED) / high)),
    )
    if columns * rows > _MOST_SHEETS:
        raise Impossible(
            Message.BAD_VALUE,
            reason=(
                f"A template of {width / 1000:.1f} by {height / 1000:.1f} m takes "
                f"{columns * rows} sheets; at most {_MOST_SHEETS} "
                "are printed"
            ),
        )
    return [
        Tile(
            f"{chr(65 + row % 26)}{column + 1}",
            column * wide,
            row * high,
            column + 1 < columns,
            row + 1 < rows,
        )
        for row in range(rows)
        for column in range(columns)
    ]


def _bolts(groups: list[GroupOut]) -> Iterator[str]:
    for group in groups:
        across, hole = (
            group.thread.across_flats_mm or 1.5 * group.thread.diameter_mm,
            group.thread.diameter_mm,
        )
        for place in group.places:
            x, y = place.x_mm, -place.y_mm
            corner = across / math.sqrt(3)
            turns = [math.pi / 3 * i + math.radians(place.angle_deg) for i in range(6)]
            points = " ".join(
                f"{x + corner * math.cos(a):.2f},{y + corner * math.sin(a):.2f}" for a in turns
            )
            arm = hole * 0.75
            yield (
                f'<polygon points="{points}" fill="none" stroke="#1b2529" stroke-width="0.25"/>'
                f'<circle cx="{x:.2f}" cy="{y:.2f}" r="{hole / 2:.2f}" fill="none" '
                'stroke="#1b2529" stroke-width="0.4"/>'
                f'<path d="M{x - arm:.2f} {y:.2f}h{2 * arm:.2f}M{x:.2f} '
                f'{y - arm:.2f}v{2 * arm:.2f}" stroke="#56636a" '
                f'stroke-width="0.15"/>'
            )
            size = max(4.0, min(9.0, hole * 0.5))
            yield (
                f'<text x="{x + corner:.2f}" y="{y - corner * 0.6:.2f}" '
                f'font-size="{size:.1f}" font-weight="700">'
                f"{escape(place.label)}</text>"
            )


def _rings(groups: list[GroupOut]) -> Iterator[str]:
    for group in groups:
        if group.layout == "circle":
            x, y = (
                sum(getattr(p, axis) for p in group.places) / len(group.places)
                for axis in ("x_mm", "y_mm")
            )
            yield (
                f'<circle cx="{x:.2f}" cy="{-y:.2f}" r="{group.span_mm / 2:.2f}" fill="none" '
                'stroke="#56636a" '
                f'stroke-width="0.2" stroke-dasharray="6 2 1 2"/>'
                f'<path d="M{x - 5:.2f} {-y:.2f}h10M{x:.2f} {-y - 5:.2f}v10" '
                'stroke="#56636a" stroke-width="0.2"/>'
            )


def _marks(tile: Tile, wide: float, high: float) -> str:
    """Where a sheet is cut to be joined to its neighbours."""
    out = []
    if tile.right_neighbour:
        x = tile.left + wide - _SHARED / 2
        out.append(
            f'<path d="M{x} {tile.top}v{high}" stroke="#888" stroke-width="0.15" '
            'stroke-dasharray="3 3"/>'
        )
    if tile.lower_neighbour:
        y = tile.top + high - _SHARED / 2
        out.append(
            f'<path d="M{tile.left} {y}h{wide}" stroke="#888" stroke-width="0.15" '
            'stroke-dasharray="3 3"/>'
        )
    return "".join(out)


def render_template(result: Result, title: str, *, paper: str = "A4") -> bytes:
    """PDF of a template of the bolts of a joint in its first way, 1:1. Raises Impossible where it
    takes too many sheets."""
    groups = groups_of(result, first_variants(result))
    places = [
        (p, (g.thread.across_flats_mm or 2 * g.thread.diameter_mm) * 0.9 + 6)
        for g in groups
        for p in g.places
    ]
    left, right = min(p.x_mm - r for p, r in places), max(p.x_mm + r for p, r in places)
    top, bottom = -max(p.y_mm + r for p, r in places), -min(p.y_mm - r for p, r in places)
    wide, high = _SHEETS[paper]
    drawing = "".join([*_rings(groups), *_bolts(groups)])
    sheets = []
    for tile in tiles_of(right - left, bottom - top, paper):
        moved = Tile(
            tile.mark, left + tile.left, top + tile.top, tile.right_neighbour, tile.lower_neighbour
        )
        box = f"{moved.left:.2f} {moved.top:.2f} {wide} {high}"
        sheets.append(
            {
                "mark": tile.mark,
                "svg": (
                    f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{box}" '
                    f'width="{wide}mm" height="{high}mm" '
                    'font-family="Orthotorq Sans, '
                    f'sans-serif">{drawing}{_marks(moved, wide, high)}</svg>'
                ),
            }
        )
    html = render_html(
        "template.html",
        title=title,
        paper=paper,
        sheets=sheets,
        bar=_BAR,
        always="",
        calculated=False,
        foot=f"{title} · template 1:1 · print at 100 %, without fitting to the page",
    )
    return to_pdf(html)
