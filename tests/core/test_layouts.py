"""Layouts that are no circle, and the properties of orders on every layout."""

from __future__ import annotations

import math
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from orthotorq.core.documents.plan import Group
from orthotorq.core.documents.tightening_moves import order_of
from orthotorq.core.errors import Impossible
from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.forms.order import Order
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.layouts import (
    centre_out_order,
    grid_order,
    grid_points,
    nearest_spacing,
    row_order,
    row_points,
)
from tests.plans import small


def group(layout: dict[str, Any]) -> Group:
    document = small()
    document["groups"][0]["layout"] = layout
    return Group.model_validate(document["groups"][0])


def numbers(layout: dict[str, Any], **order: Any) -> list[int]:
    return [
        int(p.rpartition(".")[2]) for move in order_of(group(layout), Order(**order)) for p in move
    ]


@pytest.mark.parametrize("count", [*range(1, 60), 99, 100, 256, 399, 400])
def test_a_row_goes_from_the_middle_out_sides_alternately(count: int) -> None:
    order = row_order(count)
    assert sorted(order) == list(range(1, count + 1))
    middle = (count + 1) / 2
    away = [abs(i - middle) for i in order]
    assert away == sorted(away)
    for first, second in zip(order[count % 2 :: 2], order[count % 2 + 1 :: 2], strict=True):
        assert (first - middle) * (second - middle) <= 0


@pytest.mark.parametrize(
    ("rows", "columns"), [(r, c) for r in range(1, 13) for c in range(1, 13)] + [(20, 20), (4, 100)]
)
def test_a_grid_goes_from_the_centre_out_and_closes_opposites(rows: int, columns: int) -> None:
    order, points = grid_order(rows, columns), grid_points(rows, columns, 10.0, 10.0, False)
    assert sorted(order) == list(range(1, rows * columns + 1))
    away = [round(math.hypot(*points[i - 1]), 6) for i in order]
    assert away == sorted(away)
    x = y = 0.0
    for step, i in enumerate(order, 1):
        x, y = x + points[i - 1][0], y + points[i - 1][1]
        # with an odd number of bolts the very centre comes alone, and pairs follow it
        if (step - rows * columns % 2) % 2 == 0:
            assert math.hypot(x, y) < 1e-6


@settings(max_examples=80, deadline=None)
@given(
    st.lists(
        st.tuples(st.integers(-40, 40), st.integers(-40, 40)), min_size=1, max_size=80, unique=True
    )
)
def test_free_points_are_each_taken_once_the_nearest_first(raw: list[tuple[int, int]]) -> None:
    points = tuple((x * 25.0, y * 25.0) for x, y in raw)
    order = centre_out_order(points)
    assert sorted(order) == list(range(1, len(points) + 1))
    cx, cy = (sum(p[a] for p in points) / len(points) for a in (0, 1))
    reach = max(math.hypot(x - cx, y - cy) for x, y in points) or 1.0
    rings = [
        round(math.hypot(points[i - 1][0] - cx, points[i - 1][1] - cy) / reach * 10) for i in order
    ]
    assert rings == sorted(rings)


@pytest.mark.parametrize("count", [2, 3, 4, 5, 6, 7, 8, 12, 16, 24, 31, 64, 100, 255, 400])
@pytest.mark.parametrize("kind", ["cross", "star", "circle"])
@pytest.mark.parametrize("sense", ["cw", "ccw"])
def test_any_start_and_both_senses_stay_permutations(count: int, kind: str, sense: str) -> None:
    layout = {"kind": "circle", "count": count, "diameter": f"{count * 40 + 100} mm"}
    for start in (1, 2, count):
        found = numbers(layout, kind=kind, sense=sense, start=start)
        assert sorted(found) == list(range(1, count + 1))
        assert found[0] == start


def test_the_edge_of_a_grid_is_numbered_round_it() -> None:
    points = grid_points(3, 4, 50.0, 60.0, True)
    assert len(points) == 10
    assert points[0] == (-90.0, 50.0)
    assert points[3] == (90.0, 50.0)
    assert points[5] == (90.0, -50.0)
    assert nearest_spacing(tuple(points)) == 50.0


def test_rows_run_to_the_right_and_are_centred() -> None:
    found = row_points(4, 100.0, math.pi / 2)
    assert [round(x) for x, _ in found] == [-150, -50, 50, 150]
    assert all(abs(y) < 1e-9 for _, y in found)


@pytest.mark.parametrize(
    ("layout", "places"),
    [
        (
            {"kind": "row", "count": 3, "pitch": "60 mm", "origin": ["10 mm", "20 mm"]},
            [(-50, 20), (10, 20), (70, 20)],
        ),
        (
            {"kind": "points", "points": [["0 mm", "0 mm"], ["3 in", "-1 in"]]},
            [(0, 0), (76.2, -25.4)],
        ),
        (
            {"kind": "grid", "rows": 2, "columns": 1, "row_pitch": "80 mm", "column_pitch": "1 mm"},
            [(0, 40), (0, -40)],
        ),
    ],
)
def test_places_of_every_layout(layout: dict[str, Any], places: list[tuple[float, float]]) -> None:
    document = small()
    document["groups"][0]["layout"] = layout
    found = compute(document).groups[0].places
    assert [(p.x_mm, p.y_mm) for p in found] == [pytest.approx(xy) for xy in places]
    assert [p.label for p in found] == [str(i) for i in range(1, len(places) + 1)]


def test_painted_numbers_by_order_and_from_a_number_on() -> None:
    document = small(8)
    document["groups"][0]["layout"].update(diameter="400 mm", labels="order", first_label=11)
    found = compute(document).groups[0].places
    # cross order of eight is 1 5 3 7 2 6 4 8: place 5 is tightened second
    assert [p.label for p in found] == ["11", "15", "13", "17", "12", "16", "14", "18"]


@pytest.mark.parametrize(
    ("order", "path"),
    [
        ({"kind": "custom", "sequence": ["1", "2", "2", "3"]}, "sequence"),
        ({"kind": "custom", "sequence": ["1", "2"]}, "sequence"),
        ({"kind": "custom", "sequence": ["1", "2", "4"]}, "sequence"),
        ({"kind": "custom", "sequence": ["1", "2", "3"], "start": 2}, "start"),
        ({"kind": "cross", "start": 2}, "start"),
        ({"kind": "middle_out", "sense": "ccw"}, "start"),
        ({"kind": "cross", "tools": 2}, "tools"),
    ],
)
def test_orders_that_cannot_be_on_a_row_are_refused(order: dict[str, Any], path: str) -> None:
    with pytest.raises(Impossible) as caught:
        numbers({"kind": "row", "count": 3, "pitch": "60 mm"}, **order)
    assert caught.value.path == (path,)


def test_a_custom_sequence_is_taken_as_it_stands() -> None:
    row = {"kind": "row", "count": 3, "pitch": "60 mm"}
    assert numbers(row, kind="custom", sequence=["3", "1", "2"]) == [3, 1, 2]
    assert numbers(row, kind="custom", sequence=["3", "1", "2", "3"], repeats=True) == [3, 1, 2, 3]


@pytest.mark.parametrize(
    "layout",
    [
        {"kind": "points", "points": [["0 mm", "0 mm"], ["5 mm", "0 mm"]]},
        {"kind": "row", "count": 4, "pitch": "9 mm"},
        {"kind": "points", "points": [["0 mm", "0 mm"], ["0 mm", "0 mm"]]},
    ],
)
def test_two_bolts_in_one_place_are_refused(layout: dict[str, Any]) -> None:
    document = small()
    document["groups"][0]["layout"] = layout
    with pytest.raises(DocumentErrors) as caught:
        compute(document)
    assert caught.value.errors[0].pointer() == "groups/0/layout"


@pytest.mark.parametrize(
    ("layout", "expected"),
    [
        (
            {
                "kind": "grid",
                "rows": 21,
                "columns": 20,
                "row_pitch": "90 mm",
                "column_pitch": "90 mm",
            },
            "groups/0/layout",
        ),
        ({"kind": "row", "count": 401, "pitch": "90 mm"}, "groups/0/layout/count"),
        ({"kind": "hive", "count": 4}, "groups/0/layout/kind"),
    ],
)
def test_too_many_bolts_and_unknown_layouts_are_refused(
    layout: dict[str, Any], expected: str
) -> None:
    document = small()
    document["groups"][0]["layout"] = layout
    with pytest.raises(DocumentErrors) as caught:
        compute(document)
    assert expected in {e.pointer() for e in caught.value.errors}
