"""Places of a group from its layout: number, centre, angle from the top."""

from __future__ import annotations

import math
from collections.abc import Iterable

from ..planning import layouts
from .layouts import Circle, Grid, Layout, Row


def points_of(layout: Layout) -> list[layouts.Point]:
    """Centres of the bolts in place order, mm from the joint's common origin (x right, y up)."""
    points: Iterable[layouts.Point]
    if isinstance(layout, Circle):
        points = layouts.circle_points(
            layout.count, layout.diameter.base, layout.first_at.quantity.base, layout.sense == "cw"
        )
    elif isinstance(layout, Row):
        points = layouts.row_points(layout.count, layout.pitch.base, layout.direction.base)
    elif isinstance(layout, Grid):
        points = layouts.grid_points(
            layout.rows,
            layout.columns,
            layout.row_pitch.base,
            layout.column_pitch.base,
            layout.perimeter,
        )
    else:
        points = [(p[0].base, p[1].base) for p in layout.points]
    ox, oy = layout.origin[0].quantity.base, layout.origin[1].quantity.base
    return [(x + ox, y + oy) for x, y in points]


def angle_of(x: float, y: float) -> float:
    """Degrees clockwise from the top of a centre; 0 at the origin itself."""
    return math.degrees(math.atan2(x, y)) % 360 if (x, y) != (0.0, 0.0) else 0.0


def span_of(layout: Layout) -> float:
    """The size people name: bolt circle diameter, length of a row, longer side of a grid or
    pattern, mm."""
    if isinstance(layout, Circle):
        return layout.diameter.base
    points = points_of(layout)
    return max(max(p[axis] for p in points) - min(p[axis] for p in points) for axis in (0, 1))
