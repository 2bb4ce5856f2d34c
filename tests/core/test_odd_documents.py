"""A document of any shape has its sections on the Bench and its errors at their fields, and
never ends in a crash."""

from __future__ import annotations

import copy
import uuid
from datetime import UTC, datetime
from typing import Any, cast

import pytest
from sqlalchemy.orm import Session

from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.planning.compute import compute
from orthotorq.demo.load import plan_document
from orthotorq.services.context import Actor, Ctx
from orthotorq.services.planning.bench import BenchView, look_at_plan
from tests.core.test_fuzz import at_work, put, shapes
from tests.plans import wheel

ODD: list[Any] = [
    None,
    True,
    5,
    2.5,
    "",
    "x",
    [],
    [None],
    [5],
    {},
    {"a": 1},
    [[]],
    ["x"],
    {"kind": "no"},
    {"id": 5},
    [{}],
    -1,
    10**30,
    "0 mm",
    "800 kN",
]
#: each place is tried with so many of them, others for each place, and without itself
AT_A_PLACE = 4


def bench(document: Any) -> BenchView:
    """The Bench's view of a document; nothing of it needs a database."""
    planner = Actor(uuid.UUID(int=1), "Mira", "mira", frozenset({"planner"}))
    return look_at_plan(
        Ctx(cast(Session, None), datetime(2026, 1, 1, tzinfo=UTC), planner), document
    )


def without(document: Any, path: tuple[Any, ...]) -> Any:
    out = copy.deepcopy(document)
    at = out
    for part in path[:-1]:
        at = at[part]
    del at[path[-1]]
    return out


def test_no_shape_of_a_document_keeps_the_bench_from_showing_it() -> None:
    tried, known = 0, set[Any]()
    for document in (
        at_work(),
        wheel(),
        *map(plan_document, ("twin-drive-wheel", "elevator-bearing-nut", "bellows-clamp")),
    ):
        for number, (shape, path) in enumerate(shapes(document).items()):
            if shape in known:
                continue
            known.add(shape)
            some = [ODD[(number * AT_A_PLACE + i) % len(ODD)] for i in range(AT_A_PLACE)]
            for odd in (*(put(document, path, value) for value in some), without(document, path)):
                tried += 1
                view = bench(odd)
                assert view.result is not None or view.errors
                assert all(one.text and one.code for one in view.errors)
    assert tried > 1500


@pytest.mark.parametrize(
    ("path", "value"),
    [
        (("tools", "w", "range"), ["40 N·m"]),
        (("tools", "w", "range"), []),
        (("stages", 0, "in"), 5),
        (("stages", 0, "in"), [5]),
        (("stages", 0, "cautions"), True),
        (("groups", 0, "fastener"), 5),
        (("groups", 0, "layout"), "round"),
        (("groups",), [None]),
        (("groups",), 5),
        (("tools",), [1]),
        (("chains",), {"main": 5}),
        (("stages",), {"a": {}}),
    ],
)
def test_the_field_of_the_wrong_shape_is_named(path: tuple[Any, ...], value: Any) -> None:
    view = bench(put(wheel(), path, value))
    assert view.result is None
    assert any(error.pointer().startswith("/".join(map(str, path))) for error in view.errors), (
        view.errors
    )
    assert view.sections or path[0] in ("groups", "stages")


def test_a_check_that_is_none_is_named() -> None:
    document = plan_document("twin-drive-wheel")
    number = next(i for i, stage in enumerate(document["stages"]) if stage["kind"] == "inspect")
    for odd in ([None], 5, "x", [[]]):
        view = bench(put(document, ("stages", number, "checks"), odd))
        assert any(error.pointer().startswith(f"stages/{number}/checks") for error in view.errors)


@pytest.mark.parametrize("axial", ["800 kN", "2000 kN"])
def test_a_load_that_leaves_no_preload_is_said_at_its_field(axial: str) -> None:
    with pytest.raises(DocumentErrors) as refused:
        compute(put(at_work(), ("groups", 0, "work", "axial"), axial))
    [error] = refused.value.errors
    assert error.pointer() == "groups/0/work/axial" and "allows no preload at all" in error.text


def test_a_load_at_work_without_a_stack_is_said_at_its_field() -> None:
    document = at_work()
    document["groups"][0]["stack"] = []
    with pytest.raises(DocumentErrors) as refused:
        compute(document)
    assert {e.pointer() for e in refused.value.errors} & {
        "groups/0/work/axial",
        "groups/0/at_work/bolt",
    }


@pytest.mark.parametrize("value", ["0 N", "-1 kN", "0 MPa"])
@pytest.mark.parametrize(
    "path",
    [
        ("required_clamp",),
        ("limits", "soft_part"),
        ("gasket", "seating"),
        ("gasket", "pressure"),
        ("component", "bolt_max"),
        ("work", "transverse"),
        ("work", "pressure"),
    ],
)
def test_a_limit_of_nothing_or_less_gets_a_sentence_or_bounds_nothing(
    path: tuple[str, ...], value: str
) -> None:
    try:
        result = compute(put(at_work(), ("groups", 0, *path), value))
    except DocumentErrors as error:
        assert all(one.text for one in error.errors)
    else:
        assert all(limit.clamp_N > 0 for group in result.groups for limit in group.limits)
