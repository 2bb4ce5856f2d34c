"""The joint face as SVG for paper: the joint to scale, bolts as hexagons with number, order and state."""
from __future__ import annotations

import math
from collections.abc import Mapping

from ..core.documents.result import PlacePoint

#: fills of the states, told by lightness and by mark, so that black and white paper shows them too
_FILL = {"untouched": "#ffffff", "hand": "#ffffff", "part": "#dcebec", "full": "#3d8792", "checked": "#3d8792",
         "moved": "#ffffff", "deviating": "#ffffff"}
_DARK = ("full", "checked")


def _hexagon(x: float, y: float, radius: float, turn: float) -> str:
    points = (math.pi / 3 * i + turn for i in range(6))
    return " ".join(f"{x + radius * math.cos(a):.2f},{y + radius * math.sin(a):.2f}" for a in points)


def joint_face_svg(places: list[PlacePoint], across_flats: float, states: Mapping[str, str] | None = None,
                   width_mm: float = 90) -> str:
    """SVG of one position. Places in mm; states by place; hexagons are drawn larger than life where they would be lost."""
    states = states or {}
    reach = max(max(abs(p.x_mm), abs(p.y_mm)) for p in places) or across_flats
    count = len(places)
    room = reach * math.sin(math.pi / count) if count > 1 else reach
    radius = min(max(across_flats / math.sqrt(3), reach * 0.12), room * 0.92, reach * 0.3)
    half = reach + radius * 1.6
    body = [f'<circle cx="0" cy="0" r="{half * 0.985:.2f}" fill="none" stroke="#888" stroke-width="{half * 0.004:.3f}"/>']
    for place in places:
        state = states.get(place.id, "untouched")
        x, y = place.x_mm, -place.y_mm
        outline = half * (0.016 if state in ("moved", "deviating") else 0.007)
        points = _hexagon(x, y, radius, math.radians(place.angle_deg))
        body.append(f'<polygon points="{points}" fill="{_FILL[state]}" stroke="#1b2529" stroke-width="{outline:.3f}"/>')
        ink = "#ffffff" if state in _DARK else "#1b2529"
        body.append(f'<text x="{x:.2f}" y="{y + radius * 0.33:.2f}" font-size="{radius * 0.95:.2f}" text-anchor="middle" '
                    f'font-weight="700" fill="{ink}">{place.number}</text>')
    box = f"{-half:.2f} {-half:.2f} {2 * half:.2f} {2 * half:.2f}"
    return (f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{box}" width="{width_mm}mm" height="{width_mm}mm" '
            f'font-family="Orthotorq Sans, sans-serif">{"".join(body)}</svg>')
