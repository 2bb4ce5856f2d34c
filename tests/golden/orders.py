"""Where bolts stand and in which order they are tightened, number by number; `python -m
tests.golden.orders` writes it anew."""

from __future__ import annotations

import math
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from orthotorq.core.planning import layouts, orders
from orthotorq.core.planning.compute.output.order_choice import order_choices
from tests.plans import small

FILE = Path(__file__).parent / "orders.txt"
#: bolts wherever they are: an L, a slanted pair of rows, one alone in the middle
FREE = {
    "an L": [(0, 0), (0, 80), (0, 160), (80, 0), (170, 0)],
    "slanted": [(0, 0), (50, 20), (100, 40), (10, 60), (60, 80), (110, 100)],
    "one inside": [(-90, -60), (90, -60), (95, 60), (-90, 60), (5, -3)],
}
LAYOUTS: dict[str, dict[str, Any]] = {
    **{
        f"circle of {n}": {"kind": "circle", "count": n, "diameter": "200 mm"}
        for n in (3, 5, 8, 11, 12, 16)
    },
    "row of 5": {"kind": "row", "count": 5, "pitch": "70 mm"},
    "grid of 3 × 4": {
        "kind": "grid",
        "rows": 3,
        "columns": 4,
        "row_pitch": "60 mm",
        "column_pitch": "90 mm",
    },
    "edge of 4 × 5": {
        "kind": "grid",
        "rows": 4,
        "columns": 5,
        "row_pitch": "60 mm",
        "column_pitch": "90 mm",
        "perimeter": True,
    },
    **{
        name: {"kind": "points", "points": [[f"{x} mm", f"{y} mm"] for x, y in points]}
        for name, points in FREE.items()
    },
}


def _row(numbers: list[int] | tuple[int, ...]) -> str:
    return " ".join(map(str, numbers))


def _points(points: list[tuple[float, float]] | tuple[tuple[float, float], ...]) -> str:
    # no minus before a nought
    return " ".join(f"{round(x, 2) + 0:g},{round(y, 2) + 0:g}" for x, y in points)


def _circles() -> Iterator[str]:
    for count in (*range(1, 33), 36, 40, 48, 63, 64, 100):
        order = orders.cross_order(count)
        yield f"cross {count}: {_row(order)}"
        if count > 1:
            yield (
                f"cross {count}: strays {orders.measures(order, count)[0]:.3f}, gaps "
                f"{_row(orders.largest_gap(order, count))}"
            )
    for count, together in ((8, 2), (12, 3), (12, 4), (20, 4), (24, 2)):
        yield f"cross {count} by {together}: {_row(orders.grouped_cross_order(count, together))}"
    for count, start, sense in ((8, 3, "cw"), (8, 3, "ccw"), (7, 7, "ccw"), (12, 1, "ccw")):
        yield (
            f"cross {count} from {start} {sense}: "
            f"{_row(orders.turned(orders.cross_order(count), start, sense, count))}"
        )
    for count, tools in ((8, 2), (12, 4), (12, 3), (16, 2)):
        yield (
            f"{tools} tools on {count}: "
            f"{' | '.join(map(_row, orders.tool_moves(count, tools, orders.cross_order(count))))}"
        )


def _layouts() -> Iterator[str]:
    for count, first, clockwise in (
        (5, 0.0, True),
        (5, math.radians(30), True),
        (6, math.radians(45), False),
        (1, 0.0, True),
    ):
        points = layouts.circle_points(count, 200.0, first, clockwise)
        yield f"circle {count} from {math.degrees(first):.0f}° {clockwise}: {_points(points)}"
    for count, direction in ((4, 90), (3, 0), (5, 30)):
        yield (
            f"row {count} to {direction}°: "
            f"{_points(layouts.row_points(count, 70.0, math.radians(direction)))}"
        )
    for count in (1, 2, 3, 4, 7, 8, 15):
        yield f"row {count} middle out: {_row(layouts.row_order(count))}"
    for rows, columns in ((1, 4), (2, 2), (2, 3), (3, 3), (3, 4), (4, 4), (4, 6), (5, 5)):
        yield (
            f"grid {rows} × {columns}: "
            f"{_points(layouts.grid_points(rows, columns, 60.0, 90.0, False))}"
        )
        yield (
            f"grid {rows} × {columns}, edge: "
            f"{_points(layouts.grid_points(rows, columns, 60.0, 90.0, True))}"
        )
        yield f"grid {rows} × {columns} centre out: {_row(layouts.grid_order(rows, columns))}"
    for name, points in FREE.items():
        placed = tuple((float(x), float(y)) for x, y in points)
        yield (
            f"{name}: centre out {_row(layouts.centre_out_order(placed))}, nearest "
            f"{layouts.nearest_spacing(placed):.3f}"
        )


def _offered() -> Iterator[str]:
    for name, layout in LAYOUTS.items():
        document = small()
        document["groups"][0]["layout"] = layout
        for one in order_choices(document, "b"):
            moves = " | ".join(
                _row([int(place.rpartition(".")[2]) for place in move]) for move in one.moves
            )
            yield f"{name}, {one.words} {one.order}: strays {one.stray}, gap {one.gap}; {moves}"


def lines() -> list[str]:
    """All of it, a line each."""
    return [*_circles(), *_layouts(), *_offered()]


if __name__ == "__main__":
    FILE.write_text("\n".join(lines()) + "\n", encoding="utf-8")
