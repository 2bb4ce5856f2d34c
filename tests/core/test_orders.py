"""Properties that make a tightening order good, for every number of bolts."""

from __future__ import annotations

import math
from itertools import pairwise
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from orthotorq.core.errors import Impossible, UnknownName
from orthotorq.core.planning import orders
from orthotorq.core.planning.compute.output.order_choice import OrderChoice, order_choices
from tests.plans import small

ALL = range(2, 401)

CROSS, ROUND = "cross (opposite bolts)", "circular (one after the other)"


@pytest.mark.parametrize(
    ("count", "order"),
    [
        (8, [1, 5, 3, 7, 2, 6, 4, 8]),
        (5, [1, 3, 5, 2, 4]),
        (6, [1, 4, 2, 5, 3, 6]),
        (16, [1, 9, 5, 13, 3, 11, 7, 15, 2, 10, 6, 14, 4, 12, 8, 16]),
    ],
)
def test_known_orders(count: int, order: list[int]) -> None:
    assert orders.cross_order(count) == order


def test_every_order_is_a_permutation() -> None:
    for count in ALL:
        assert sorted(orders.cross_order(count)) == list(range(1, count + 1))


def test_the_second_bolt_is_opposite_the_first() -> None:
    for count in ALL:
        assert abs(orders.cross_order(count)[1] - 1 - count / 2) <= 0.5


def test_groups_of_four_close_opposite_pairs_at_right_angles() -> None:
    for count in range(4, 401, 4):
        order = orders.cross_order(count)
        for i in range(0, count, 4):
            a, b, c, d = order[i : i + 4]
            assert (b - a) % count == count // 2
            assert (d - c) % count == count // 2
            assert (c - a) % count in (count // 4, 3 * count // 4)


def test_the_load_is_back_near_the_centre_after_every_pair() -> None:
    for count in ALL:
        after_pairs = orders.balance(orders.cross_order(count), count)[1::2]
        assert max(after_pairs) <= (1e-9 if count % 2 == 0 else 1.0 + 1e-9)


def test_the_largest_untouched_arc_shrinks_evenly() -> None:
    """After k bolts no arc is wider than a little over three times the even share."""
    for count in ALL:
        gaps = orders.largest_gap(orders.cross_order(count), count)
        assert all(gap * k <= 3.2 * count for k, gap in enumerate(gaps, 1))
        assert gaps == sorted(gaps, reverse=True)


def test_start_and_sense_keep_the_pattern() -> None:
    order = orders.cross_order(12)
    for start in range(1, 13):
        for sense in ("cw", "ccw"):
            turned = orders.turned(order, start, sense, 12)
            assert turned[0] == start
            assert sorted(turned) == list(range(1, 13))
            assert orders.balance(turned, 12)[1::2] == pytest.approx([0] * 6, abs=1e-9)


@pytest.mark.parametrize("tools", [1, 2, 4])
def test_several_tools_stand_equally_spaced(tools: int) -> None:
    moves = orders.tool_moves(16, tools, orders.cross_order(16))
    assert sorted(b for move in moves for b in move) == list(range(1, 17))
    assert all((b - a) % 16 == 16 // tools for move in moves for a, b in pairwise(move))


def test_groups_of_neighbours() -> None:
    assert sorted(orders.grouped_cross_order(24, 3)) == list(range(1, 25))
    assert orders.grouped_cross_order(24, 3)[:6] == [1, 2, 3, 13, 14, 15]


@pytest.mark.parametrize(
    "call",
    [
        lambda: orders.cross_order(0),
        lambda: orders.cross_order(401),
        lambda: orders.turned([1, 2], 3, "cw", 2),
        lambda: orders.tool_moves(10, 4, orders.cross_order(10)),
        lambda: orders.grouped_cross_order(10, 4),
        lambda: orders.grouped_cross_order(10, 5),
    ],
)
def test_impossible_orders_are_refused_by_name(call) -> None:
    with pytest.raises(Impossible, match="expected"):
        call()


@pytest.mark.parametrize("count", [4, 6, 8, 12, 16, 20, 32, 64, 100, 400])
def test_a_cross_order_beats_going_round_by_both_measures(count: int) -> None:
    cross, circle = (
        orders.measures(o, count) for o in (orders.cross_order(count), orders.circle_order(count))
    )
    assert cross[0] < 1e-6 < circle[0]
    assert cross[1] < circle[1]


@settings(max_examples=60, deadline=None)
@given(st.integers(2, 200), st.randoms(use_true_random=False))
def test_measures_are_bounded_and_do_not_depend_on_where_one_starts(count: int, random) -> None:
    order = list(range(1, count + 1))
    random.shuffle(order)
    stray, arc = orders.measures(order, count)
    assert 0 <= stray <= count / 2 + 1e-9
    assert math.ceil(count / max(1, count // 2)) <= arc <= count
    shift = random.randrange(count)
    moved = [(b - 1 + shift) % count + 1 for b in order]
    assert orders.measures(moved, count) == pytest.approx((stray, arc), abs=1e-9)


def _choices(layout: dict[str, Any]) -> dict[str, OrderChoice]:
    document = small()
    document["groups"][0]["layout"] = layout
    return {one.words: one for one in order_choices(document, "b")}


def test_orders_of_a_circle_stand_side_by_side_with_their_measures() -> None:
    found = _choices({"kind": "circle", "count": 8, "diameter": "200 mm"})
    assert list(found) == [CROSS, "cross, neighbouring bolts in pairs", ROUND]
    cross, round_ = found[CROSS], found[ROUND]
    # pairs of a cross lie opposite; half a circle pulls to one side by the sum of its four unit
    # vectors
    assert (cross.stray, cross.gap) == (0.0, 2.0)
    assert round_.stray == pytest.approx(1 / math.sin(math.pi / 8), abs=1e-3)
    assert round_.gap == 5.0
    assert all(
        sorted(p for m in one.moves for p in m) == sorted(p for m in cross.moves for p in m)
        for one in found.values()
    )


def test_orders_of_rows_and_grids_have_measures_too() -> None:
    row = _choices({"kind": "row", "count": 5, "pitch": "100 mm"})
    assert row[CROSS].stray < row[ROUND].stray and row[CROSS].gap <= row[ROUND].gap
    assert row[ROUND].gap == pytest.approx(3.0)
    assert len(_choices({"kind": "row", "count": 1, "pitch": "100 mm"})) == 1
    with pytest.raises(UnknownName):
        order_choices(small(), "nobody")
