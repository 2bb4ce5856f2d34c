"""The order of a pass over a group, as moves: places that are tightened together."""
from __future__ import annotations

from functools import lru_cache

from ...documents.joint import Group
from ...documents.layouts import Circle, Grid, Layout, Row
from ...documents.places import points_of
from ...errors import Impossible
from ...forms.order import Order
from ...messages import Message
from .. import layouts, orders


@lru_cache(maxsize=1024)
def _circle(count: int, kind: str, start: int, sense: str, group: int, tools: int) -> tuple[tuple[int, ...], ...]:
    if kind == "circle":
        plain = orders.circle_order(count)
    elif group > 1:
        plain = orders.grouped_cross_order(count, group)
    else:
        plain = orders.cross_order(count)
    begun = orders.turned(plain, start, sense, count)
    moves = orders.tool_moves(count, tools, begun) if tools > 1 else [[bolt] for bolt in begun]
    return tuple(tuple(move) for move in moves)


def _plain_order(layout: Layout, order: Order) -> list[int]:
    """Place numbers of a layout that is no circle, one after the other."""
    if order.kind == "listed":
        places = order.places or []
        if sorted(places) != list(range(1, layout.count + 1)):
            raise Impossible(Message.ORDER_IMPOSSIBLE, ("places",), what="A listed order",
                             expected=f"every place from 1 to {layout.count} once")
        return list(places)
    if order.kind == "circle":
        return orders.turned(orders.circle_order(layout.count), order.start, order.sense, layout.count)
    if order.start != 1 or order.sense != "cw" or order.group != 1:
        raise Impossible(Message.ORDER_IMPOSSIBLE, ("start",), what="Start, sense and groups belong to a circle",
                         expected="an order from the middle out without them")
    if isinstance(layout, Row):
        return layouts.row_order(layout.count)
    if isinstance(layout, Grid) and not layout.perimeter:
        return layouts.grid_order(layout.rows, layout.columns)
    return list(layouts.centre_out_order(tuple((round(x, 6), round(y, 6)) for x, y in points_of(layout))))


@lru_cache(maxsize=64)
def _named(group: str, moves: tuple[tuple[int, ...], ...]) -> tuple[tuple[str, ...], ...]:
    """Moves as ids of places; the passes of a stage mostly share one order."""
    return tuple(tuple(f"{group}.{bolt}" for bolt in move) for move in moves)


def order_of(group: Group, order: Order) -> list[list[str]]:
    """Moves of a pass as lists of places that are tightened together. Raises Impossible for an order that cannot be."""
    layout = group.layout
    if isinstance(layout, Circle) and order.kind in ("cross", "star", "circle"):
        moves = _circle(layout.count, order.kind, order.start, order.sense, order.group, order.tools)
        return [list(move) for move in _named(group.id, moves)]
    plain = _plain_order(layout, order)
    if layout.count % order.tools:
        raise Impossible(Message.ORDER_IMPOSSIBLE, ("tools",), what=f"{order.tools} tools on {layout.count} bolts",
                         expected="a number of tools that divides the number of bolts")
    return [[f"{group.id}.{b}" for b in plain[i : i + order.tools]] for i in range(0, len(plain), order.tools)]
