"""Tightening orders of bolt circles, from properties rather than from a table (mechanics.md,
orders).

A good order is a permutation of 1…n in which the second bolt is opposite the first, every group of
four closes opposite pairs at right angles when four divides n, the sum of unit vectors is back near
the centre after every pair, and the largest untouched arc shrinks as evenly as it can.
"""

from __future__ import annotations

import math
from functools import lru_cache

from ..errors import Impossible
from ..messages import Message

MAX_BOLTS = 400


def check_count(count: int) -> int:
    """A number of bolts on a circle, 1 to 400, else Impossible."""
    if not 1 <= count <= MAX_BOLTS:
        raise Impossible(
            Message.ORDER_IMPOSSIBLE, what=f"{count} bolts", expected=f"1 to {MAX_BOLTS} bolts"
        )
    return count


def _spread(count: int) -> list[int]:
    """Positions 0…count-1 in an order in which each next one falls into the largest gap left (0 4 2
    6 1 5 3 7).

    Taken along the van der Corput sequence, at the nearest position still free.
    """
    bits = max(1, (count - 1).bit_length() + 1)
    order: list[int] = []
    free = set(range(count))
    for i in range(1 << bits):
        if not free:
            break
        wanted = int(f"{i:0{bits}b}"[::-1], 2) / (1 << bits) * count
        nearest = min(free, key=lambda p: (min(abs(p - wanted), count - abs(p - wanted)), p))
        if abs(nearest - wanted) < 1 or i >= count:
            order.append(nearest)
            free.discard(nearest)
    return order + sorted(free)


def _axes(half: int) -> list[int]:
    """Order of the `half` diameters of a circle: few of them by the even step of a star, many by
    halving gaps."""
    if half % 2 and half <= 7:
        step = max(1, half // 2)
        return [(i * step) % half for i in range(half)]
    return _spread(half)


@lru_cache(maxsize=512)
def _circle_star(count: int) -> tuple[int, ...]:
    """Zero-based star (odd) or cross (even) order: diameters one after the other, each closed at
    once."""
    if count <= 2:
        return tuple(range(count))
    half = count // 2
    if count % 2 and count <= 9:
        return tuple((i * half) % count for i in range(count))
    squares = [axis + turn for axis in _spread(half // 2) for turn in (0, half // 2)]
    axes = squares if count % 4 == 0 else _axes(half)
    pairs = [bolt for axis in axes for bolt in (axis, axis + half)]
    return tuple(pairs + [count - 1] * (count % 2))


def cross_order(count: int) -> list[int]:
    """Cross order of bolts 1…n, the same as star for even n.

    >>> cross_order(8), cross_order(5), cross_order(6)
    ([1, 5, 3, 7, 2, 6, 4, 8], [1, 3, 5, 2, 4], [1, 4, 2, 5, 3, 6])
    """
    return [i + 1 for i in _circle_star(check_count(count))]


def circle_order(count: int) -> list[int]:
    """Round the circle: 1, 2, … n."""
    return list(range(1, check_count(count) + 1))


def grouped_cross_order(count: int, group: int) -> list[int]:
    """Cross order over groups of neighbouring bolts; within a group one after the other.

    Raises Impossible unless the group is 1 to 4 bolts and divides the count.

    >>> grouped_cross_order(8, 2)
    [1, 2, 5, 6, 3, 4, 7, 8]
    """
    check_count(count)
    if not 1 <= group <= 4 or count % group:
        raise Impossible(
            Message.ORDER_IMPOSSIBLE,
            what=f"Groups of {group} in {count} bolts",
            expected="groups of 1 to 4 bolts that divide the count",
        )
    return [block * group + i + 1 for block in _circle_star(count // group) for i in range(group)]


def turned(order: list[int], start: int, sense: str, count: int) -> list[int]:
    """The same order begun at another bolt, or run the other way round.

    >>> turned([1, 3, 5, 2, 4], 2, "cw", 5), turned([1, 2, 3, 4], 1, "ccw", 4)
    ([2, 4, 1, 3, 5], [1, 4, 3, 2])
    """
    if not 1 <= start <= count:
        raise Impossible(
            Message.ORDER_IMPOSSIBLE,
            what=f"Start at bolt {start}",
            expected=f"a bolt from 1 to {count}",
        )
    sign = 1 if sense == "cw" else -1
    return [(start - 1 + sign * (bolt - 1)) % count + 1 for bolt in order]


def tool_moves(count: int, tools: int, order: list[int]) -> list[list[int]]:
    """Moves in which k equally spaced bolts are tightened together, in the order of their first
    bolts.

    Raises Impossible unless k divides the count.

    >>> tool_moves(8, 2, cross_order(8))
    [[1, 5], [3, 7], [2, 6], [4, 8]]
    """
    if tools < 1 or count % tools:
        raise Impossible(
            Message.ORDER_IMPOSSIBLE,
            what=f"{tools} tools on {count} bolts",
            expected="a number of tools that divides the number of bolts",
        )
    step, done, moves = count // tools, set[int](), []
    for bolt in order:
        if bolt not in done:
            move = [(bolt - 1 + i * step) % count + 1 for i in range(tools)]
            done.update(move)
            moves.append(move)
    return moves


def balance(order: list[int], count: int) -> list[float]:
    """Length of the sum of unit vectors of the tightened bolts after each bolt (0 = centred)."""
    x = y = 0.0
    out = []
    for bolt in order:
        angle = 2 * math.pi * (bolt - 1) / count
        x, y = x + math.cos(angle), y + math.sin(angle)
        out.append(math.hypot(x, y))
    return out


def untouched_arc(tightened: list[int], count: int) -> int:
    """Largest arc without a tightened bolt, in pitches between neighbouring tightened ones.

    >>> untouched_arc([1, 5], 8), untouched_arc([1, 5, 3], 8)
    (4, 4)
    """
    done = sorted(tightened)
    return max((b - a) % count or count for a, b in zip(done, [*done[1:], done[0]], strict=True))


def largest_gap(order: list[int], count: int) -> list[int]:
    """The untouched arc after each bolt."""
    return [untouched_arc(order[:i], count) for i in range(1, count + 1)]


def measures(order: list[int], count: int) -> tuple[float, int]:
    """What two orders are compared by: (how far from the centre, in bolts, the sum of unit vectors
    strays after a pair at the most; the largest untouched arc, in pitches, when half of the bolts
    are tight). Source: mechanics, orders.

    >>> [round(m, 6) for m in measures([1, 5, 3, 7, 2, 6, 4, 8], 8)]
    [0.0, 2]
    >>> measures(circle_order(8), 8)[1]
    5
    """
    return max(balance(order, count)[1::2], default=0.0), untouched_arc(
        order[: max(1, count // 2)], count
    )
