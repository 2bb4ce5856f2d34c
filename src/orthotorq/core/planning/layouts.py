"""Where bolts stand, and the orders of layouts that are no circle: middle out, centre out."""

from __future__ import annotations

import math
from collections import defaultdict
from functools import lru_cache

from ..errors import Impossible
from ..messages import Message
from .orders import check_count, cross_order

Point = tuple[float, float]


@lru_cache(maxsize=64)
def circle_points(
    count: int, diameter: float, first_at: float, clockwise: bool
) -> tuple[Point, ...]:
    """Centres [mm] of bolts on a circle of a diameter [mm]; angles [rad] from the top, x right, y
    up.

    >>> [(round(x), round(y)) for x, y in circle_points(4, 200.0, 0.0, True)]
    [(0, 100), (100, 0), (0, -100), (-100, 0)]
    """
    sign, radius = (1 if clockwise else -1), diameter / 2
    turns = [first_at + sign * 2 * math.pi * i / count for i in range(count)]
    return tuple((radius * math.sin(a), radius * math.cos(a)) for a in turns)


def row_points(count: int, pitch: float, direction: float) -> list[Point]:
    """Centres [mm] of a row centred on the origin; direction [rad] from the top, pi/2 runs to the
    right.

    >>> [(round(x), round(y)) for x, y in row_points(3, 80.0, math.pi / 2)]
    [(-80, 0), (0, 0), (80, 0)]
    """
    middle = (count - 1) / 2
    return [
        ((i - middle) * pitch * math.sin(direction), (i - middle) * pitch * math.cos(direction))
        for i in range(count)
    ]


def grid_points(
    rows: int, columns: int, row_pitch: float, column_pitch: float, perimeter: bool
) -> list[Point]:
    """Centres [mm] of a grid row by row from the top left, or of its edge alone, clockwise from the
    top left.

    >>> len(grid_points(3, 4, 10.0, 10.0, False)), len(grid_points(3, 4, 10.0, 10.0, True))
    (12, 10)
    """
    left, top = -(columns - 1) * column_pitch / 2, (rows - 1) * row_pitch / 2
    cells = [(r, c) for r in range(rows) for c in range(columns)]
    if perimeter and min(rows, columns) >= 3:
        cells = (
            [(0, c) for c in range(columns)]
            + [(r, columns - 1) for r in range(1, rows)]
            + [(rows - 1, c) for c in range(columns - 2, -1, -1)]
            + [(r, 0) for r in range(rows - 2, 0, -1)]
        )
    return [(left + c * column_pitch, top - r * row_pitch) for r, c in cells]


@lru_cache(maxsize=64)
def nearest_spacing(points: tuple[Point, ...]) -> float:
    """Smallest distance [mm] between two bolts, infinite for one; by sweeping, so that 400 cost
    little.

    >>> nearest_spacing(((0.0, 0.0), (30.0, 0.0), (30.0, 40.0)))
    30.0
    """
    best = math.inf
    ordered = sorted(points)
    for i, (x, y) in enumerate(ordered):
        for other in ordered[i + 1 :]:
            if other[0] - x >= best:
                break
            best = min(best, math.hypot(other[0] - x, other[1] - y))
    return best


def row_order(count: int) -> list[int]:
    """A row of bolts from the middle out, sides alternately.

    >>> row_order(5), row_order(6)
    ([3, 2, 4, 1, 5], [3, 4, 2, 5, 1, 6])
    """
    middle = (check_count(count) + 1) / 2
    return sorted(range(1, count + 1), key=lambda i: (abs(i - middle), i))


def grid_order(rows: int, columns: int) -> list[int]:
    """A grid numbered row by row, from the centre out: each bolt is followed by the one opposite
    through the centre.

    Within the same distance pairs are taken crosswise, so that the load stays centred. Raises
    Impossible for no grid.

    >>> grid_order(2, 3), grid_order(3, 3)
    ([2, 5, 1, 6, 3, 4], [5, 2, 8, 4, 6, 1, 9, 3, 7])
    """
    if rows < 1 or columns < 1:
        raise Impossible(
            Message.ORDER_IMPOSSIBLE,
            what=f"A grid of {rows} by {columns}",
            expected="1 row and 1 column or more",
        )
    count = check_count(rows * columns)
    mid_row, mid_column = (rows - 1) / 2, (columns - 1) / 2

    def far(index: int) -> float:
        return round(math.hypot(index // columns - mid_row, index % columns - mid_column), 9)

    order: list[int] = []
    done: set[int] = set()
    for index in sorted(range(count), key=lambda i: (far(i), i)):
        for one in (index, count - 1 - index):
            if one not in done:
                done.add(one)
                order.append(one + 1)
    return order


@lru_cache(maxsize=256)
def centre_out_order(points: tuple[Point, ...]) -> tuple[int, ...]:
    """Free points [mm] from their centre out: rings of like distance, each crossed so that opposite
    sides alternate.

    >>> centre_out_order(((0.0, 50.0), (50.0, 0.0), (0.0, -50.0), (-50.0, 0.0), (0.0, 0.0)))
    (5, 1, 3, 2, 4)
    """
    count = check_count(len(points))
    cx, cy = (sum(p[axis] for p in points) / count for axis in (0, 1))
    reach = max(math.hypot(x - cx, y - cy) for x, y in points) or 1.0
    rings: dict[int, list[int]] = defaultdict(list)
    for index, (x, y) in enumerate(points):
        # a tenth of the reach is one ring: a slightly oval pattern is crossed like a circle
        rings[round(math.hypot(x - cx, y - cy) / reach * 10)].append(index)
    order: list[int] = []
    for _, members in sorted(rings.items()):
        members.sort(key=lambda i: math.atan2(points[i][0] - cx, points[i][1] - cy) % (2 * math.pi))
        order += [members[place - 1] + 1 for place in cross_order(len(members))]
    return tuple(order)
