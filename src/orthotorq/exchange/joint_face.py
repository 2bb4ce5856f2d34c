"""The joint face as SVG for paper: the joint to scale, bolts as hexagons with number, order and
state."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from html import escape

from ..core.forms.group import PlacePoint

#: fills of the states, told by lightness and by mark, so that black and white paper shows them too
_FILL = {
    "untouched": "#ffffff",
    "hand": "#ffffff",
    "part": "#dcebec",
    "full": "#3d8792",
    "checked": "#3d8792",
    "moved": "#ffffff",
    "deviating": "#ffffff",
}
_DARK = ("full", "checked")


def _hexagon(x: float, y: float, radius: float, turn: float) -> str:
    points = (math.pi / 3 * i + turn for i in range(6))
    return " ".join(
        f"{x + radius * math.cos(a):.2f},{y + radius * math.sin(a):.2f}" for a in points
    )


def _nearest(places: list[PlacePoint]) -> float:
    """Least distance of two places, mm; infinite for one alone."""
    return min(
        (
            math.dist((a.x_mm, a.y_mm), (b.x_mm, b.y_mm))
            for i, a in enumerate(places)
            for b in places[i + 1 :]
        ),
        default=math.inf,
    )


def _bolt(place: PlacePoint, state: str, radius: float, half: float) -> tuple[str, str]:
    """A bolt in its state with its number."""
    x, y = place.x_mm, -place.y_mm
    outline = half * (0.016 if state in ("moved", "deviating") else 0.007)
    points = _hexagon(x, y, radius, math.radians(place.angle_deg))
    ink = "#ffffff" if state in _DARK else "#1b2529"
    size = radius * min(0.95, 1.9 / max(1, len(place.label)))
    return (
        f'<polygon points="{points}" fill="{_FILL[state]}" stroke="#1b2529" '
        f'stroke-width="{outline:.3f}"/>',
        f'<text x="{x:.2f}" y="{y + size * 0.35:.2f}" font-size="{size:.2f}" '
        f'text-anchor="middle" font-weight="700" fill="{ink}">{escape(place.label)}</text>',
    )


def joint_face_svg(
    places: list[PlacePoint],
    across_flats: float,
    states: Mapping[str, str] | None = None,
    width_mm: float = 90,
    ring: bool = True,
    path: Sequence[str] = (),
) -> str:
    """SVG of one position. Places in mm; states by place; hexagons are drawn larger than life
    where they would be lost;
    `path` are places in the order of a custom sequence, drawn as one line.

    A flange ring is drawn behind circles, a plate behind rows, grids and free points.
    """
    states = states or {}
    reach = max(max(math.hypot(p.x_mm, p.y_mm) for p in places), across_flats)
    radius = min(
        max(across_flats / math.sqrt(3), reach * 0.12), _nearest(places) * 0.46, reach * 0.3
    )
    edge = radius * 1.6
    left, right = min(p.x_mm for p in places) - edge, max(p.x_mm for p in places) + edge
    low, high = min(p.y_mm for p in places) - edge, max(p.y_mm for p in places) + edge
    half = reach + edge
    if ring:
        left, right, low, high = -half, half, -half, half
        body = [
            (
                f'<circle cx="0" cy="0" r="{half * 0.985:.2f}" fill="none" stroke="#888" '
                f'stroke-width="{half * 0.004:.3f}"/>'
            )
        ]
    else:
        half = max(right - left, high - low) / 2
        body = [
            f'<rect x="{left + half * 0.01:.2f}" y="{-high + half * 0.01:.2f}" '
            f'width="{right - left - half * 0.02:.2f}" '
            f'height="{high - low - half * 0.02:.2f}" fill="none" stroke="#888" '
            f'stroke-width="{half * 0.006:.3f}"/>'
        ]
    if len(path) > 1:
        at = {p.id: f"{p.x_mm:.2f},{-p.y_mm:.2f}" for p in places}
        line = " ".join(at[place] for place in path if place in at)
        body.append(
            f'<polyline points="{line}" fill="none" stroke="#888" '
            f'stroke-width="{half * 0.006:.3f}"/>'
        )
    for place in places:
        body += _bolt(place, states.get(place.id, "untouched"), radius, half)
    box = f"{left:.2f} {-high:.2f} {right - left:.2f} {high - low:.2f}"
    scale = width_mm / max(right - left, high - low)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{box}" '
        f'width="{(right - left) * scale:.2f}mm" '
        f'height="{(high - low) * scale:.2f}mm" font-family="Orthotorq Sans, '
        f'sans-serif">{"".join(body)}</svg>'
    )
