"""Orders of layouts that are no circle: rows from the middle out, grids from the centre out."""
from __future__ import annotations

import math

from ..errors import Impossible
from ..messages import Message
from .orders import check_count


def row_order(count: int) -> list[int]:
    """A row of bolts from the middle out, sides alternately.

    >>> row_order(5), row_order(6)
    ([3, 2, 4, 1, 5], [3, 4, 2, 5, 1, 6])
    """
    middle = (check_count(count) + 1) / 2
    return sorted(range(1, count + 1), key=lambda i: (abs(i - middle), i))


def grid_order(rows: int, columns: int) -> list[int]:
    """A grid numbered row by row, from the centre out: each bolt is followed by the one opposite through the centre.

    Within the same distance pairs are taken crosswise, so that the load stays centred. Raises Impossible for no grid.

    >>> grid_order(2, 3), grid_order(3, 3)
    ([2, 5, 1, 6, 3, 4], [5, 2, 8, 4, 6, 1, 9, 3, 7])
    """
    if rows < 1 or columns < 1:
        raise Impossible(Message.ORDER_IMPOSSIBLE, what=f"A grid of {rows} by {columns}",
                         expected="1 row and 1 column or more")
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
