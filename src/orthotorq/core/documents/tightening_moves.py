"""The order of a pass over a group, as moves: places that are tightened together."""

from __future__ import annotations

from functools import lru_cache
from typing import Protocol

from ..errors import Impossible
from ..forms.order import Order
from ..messages import Message
from ..planning import layouts, orders
from .layouts import Circle, Grid, Layout, Row
from .places import points_of


class Bolts(Protocol):
    """What an order asks of a group of bolts."""

    @property
    def id(self) -> str:
        """Its id."""
        ...

    @property
    def name(self) -> str:
        """What it is called."""
        ...

    @property
    def layout(self) -> Layout:
        """Where its bolts stand."""
        ...


#: numbers of bolts that a sentence names one by one
_MOST_SHOWN = 8


@lru_cache(maxsize=1024)
def _circle(
    count: int, kind: str, start: int, sense: str, group: int, tools: int
) -> tuple[tuple[int, ...], ...]:
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
    if order.kind == "circle":
        return orders.turned(
            orders.circle_order(layout.count), order.start, order.sense, layout.count
        )
    if order.start != 1 or order.sense != "cw" or order.group != 1:
        raise Impossible(
            Message.ORDER_IMPOSSIBLE,
            ("start",),
            what="Start, sense and groups belong to a circle",
            expected="an order from the middle out without them",
        )
    if isinstance(layout, Row):
        return layouts.row_order(layout.count)
    if isinstance(layout, Grid) and not layout.perimeter:
        return layouts.grid_order(layout.rows, layout.columns)
    return list(
        layouts.centre_out_order(tuple((round(x, 6), round(y, 6)) for x, y in points_of(layout)))
    )


@lru_cache(maxsize=64)
def _named(group: str, moves: tuple[tuple[int, ...], ...]) -> tuple[tuple[str, ...], ...]:
    """Moves as ids of places; the passes of a stage mostly share one order."""
    return tuple(tuple(f"{group}.{bolt}" for bolt in move) for move in moves)


def _tightening_ranks(group: Bolts) -> list[int]:
    """Where bolts are numbered in tightening order: for each place its rank in a cross pass."""
    moves = order_of(group, Order(kind="cross"))
    places = [int(place.rpartition(".")[2]) for move in moves for place in move]
    return [places.index(number) + 1 for number in range(1, len(places) + 1)]


def numbers_of(group: Bolts) -> list[int]:
    """The painted number of each place, in the order of places, without the group's letter."""
    layout = group.layout
    ranks = _tightening_ranks(group) if layout.labels == "order" else range(1, layout.count + 1)
    return [rank + layout.first_label - 1 for rank in ranks]


def _custom(group: Bolts, order: Order) -> list[int]:
    """Place numbers of a custom sequence. Raises Impossible with the painted numbers that are
    missing, twice or of no bolt."""
    if order.start != 1 or order.sense != "cw" or order.group != 1:
        raise Impossible(
            Message.ORDER_IMPOSSIBLE,
            ("start",),
            what="Start, sense and groups belong to a pattern",
            expected="a custom sequence without them",
        )
    places, count = order.of_group(group.id), group.layout.count
    if strange := sorted({n for n in places if n > count}):
        raise Impossible(
            Message.SEQUENCE_STRANGE,
            ("sequence",),
            bolts=_listed(strange),
            count=count,
            group=group.name,
        )
    painted = numbers_of(group)
    if missing := [painted[n - 1] for n in range(1, count + 1) if n not in places]:
        raise Impossible(
            Message.SEQUENCE_MISSING,
            ("sequence",),
            bolts=_listed(sorted(missing)),
            group=group.name,
        )
    twice = sorted({painted[n - 1] for n in places if places.count(n) > 1})
    if twice and not order.repeats:
        raise Impossible(Message.SEQUENCE_TWICE, ("sequence",), bolts=_listed(twice))
    return places


def _listed(numbers: list[int]) -> str:
    """A few numbers in words.

    >>> _listed([4]), _listed([4, 9, 11]), _listed(list(range(1, 13)))
    ('4', '4, 9 and 11', '1, 2, 3, 4, 5, 6 and 6 more')
    """
    shown = [str(n) for n in numbers]
    if len(shown) > _MOST_SHOWN:
        return f"{', '.join(shown[:6])} and {len(shown) - 6} more"
    return " and ".join(filter(None, (", ".join(shown[:-1]), shown[-1])))


def order_of(group: Bolts, order: Order) -> list[list[str]]:
    """Moves of a pass as lists of places that are tightened together. Raises Impossible for an
    order that cannot be."""
    layout = group.layout
    if isinstance(layout, Circle) and order.kind in ("cross", "star", "circle"):
        moves = _circle(
            layout.count, order.kind, order.start, order.sense, order.group, order.tools
        )
        return [list(move) for move in _named(group.id, moves)]
    plain = _custom(group, order) if order.kind == "custom" else _plain_order(layout, order)
    if len(plain) % order.tools:
        raise Impossible(
            Message.ORDER_IMPOSSIBLE,
            ("tools",),
            what=f"{order.tools} tools on {len(plain)} bolts",
            expected="a number of tools that divides the number of bolts",
        )
    return [
        [f"{group.id}.{b}" for b in plain[i : i + order.tools]]
        for i in range(0, len(plain), order.tools)
    ]
