"""The orders a group may be gone over in, each with the measures by which orders are compared."""

from __future__ import annotations

import math
from typing import Any

from ....documents.layouts import Circle, Layout
from ....documents.places import points_of
from ....documents.read import read_plan
from ....documents.tightening_moves import order_of
from ....errors import UnknownName
from ....forms.base import Out
from ....forms.order import ORDER_WORDS, Order
from ....messages import Message
from ... import orders
from ...layouts import Point, nearest_spacing

#: orders by kind of layout, the usual one first
OFFERED: dict[str, list[str]] = {
    "circle": ["cross", "star", "circle", "custom"],
    "row": ["cross", "middle_out", "circle", "custom"],
    "grid": ["cross", "centre_out", "circle", "custom"],
    "points": ["cross", "centre_out", "circle", "custom"],
}
_PAIRS = 2


class OrderChoice(Out):
    """One order: as a pass writes it, in words, the moves as places.

    `stray` is how far the middle of what is tight strays from the middle of the joint, at the most,
    after two moves, in bolts; `gap` how much is untouched in one piece when half of the moves are
    done, in distances between neighbours.
    """

    order: dict[str, Any]
    words: str
    moves: list[list[str]]
    stray: float
    gap: float


def _stray(points: list[Point], moves: list[list[int]]) -> float:
    """The most by which the tightened places pull to one side, after every second move, in places
    at the usual distance."""
    cx, cy = (sum(p[axis] for p in points) / len(points) for axis in (0, 1))
    reach = math.sqrt(sum((x - cx) ** 2 + (y - cy) ** 2 for x, y in points) / len(points)) or 1.0
    x = y = most = 0.0
    for number, move in enumerate(moves, 1):
        for place in move:
            x, y = x + points[place - 1][0] - cx, y + points[place - 1][1] - cy
        if number % _PAIRS == 0 or number == len(moves):
            most = max(most, math.hypot(x, y) / reach)
    return most


def _gap(points: list[Point], moves: list[list[int]], circle: bool) -> float:
    """What is untouched in one piece after half of the moves: pitches of the arc on a circle,
    elsewhere the way to the next bolt that is tight."""
    done = [place for move in moves[: max(1, len(moves) // 2)] for place in move]
    if circle:
        return float(orders.untouched_arc(done, len(points)))
    pitch = nearest_spacing(tuple(points)) or 1.0
    return (
        max(
            (
                min(math.dist(points[i], points[d - 1]) for d in done)
                for i in range(len(points))
                if i + 1 not in done
            ),
            default=0.0,
        )
        / pitch
    )


def measures_of(layout: Layout, moves: list[list[int]]) -> tuple[float, float]:
    """(stray, gap) of moves as place numbers: the measures of an OrderChoice."""
    points = points_of(layout)
    return round(_stray(points, moves), 3), round(
        _gap(points, moves, isinstance(layout, Circle)), 3
    )


def order_choices(document: Any, group_id: str) -> list[OrderChoice]:
    """Every different order that a group offers. Raises DocumentErrors for a bad plan, UnknownName
    for no such group."""
    plan = read_plan(document)
    group = next((g for g in plan.groups if g.id == group_id), None)
    if group is None:
        raise UnknownName(
            Message.UNKNOWN_REFERENCE,
            ("group",),
            id=group_id[:60],
            kind="group",
            known=", ".join(g.id for g in plan.groups),
        )
    layout = group.layout
    patterns = [kind for kind in OFFERED[layout.kind] if kind != "custom"]
    asked: list[tuple[dict[str, Any], str]] = [
        ({"kind": kind}, ORDER_WORDS[kind]) for kind in patterns
    ]
    if isinstance(layout, Circle) and layout.count % _PAIRS == 0 and layout.count >= 4 * _PAIRS:
        asked.insert(1, ({"kind": "cross", "group": 2}, "cross, neighbouring bolts in pairs"))
    out: list[OrderChoice] = []
    for order, words in asked:
        moves = order_of(group, Order.model_validate(order))
        if any(one.moves == moves for one in out):
            continue
        numbers = [[int(place.rpartition(".")[2]) for place in move] for move in moves]
        stray, gap = measures_of(layout, numbers)
        out.append(OrderChoice(order=order, words=words, moves=moves, stray=stray, gap=gap))
    return out
