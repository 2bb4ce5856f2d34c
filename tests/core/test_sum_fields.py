"""Reading the fields of a sum: kinds of text, what is left out, and the path of what is wrong."""

from __future__ import annotations

import math
from typing import Any

import pytest

from orthotorq.core.errors import OrthotorqError
from orthotorq.core.sums import SUMS, read_values
from orthotorq.core.sums.fields import Field, Sum


def asked(**more: Any) -> Sum:
    return Sum(
        "x", "X", (Field("value", more.pop("kind"), "A value", **more),), SUMS["units"].function
    )


@pytest.mark.parametrize(
    ("kind", "text", "value"),
    [
        ("force", "1 kN", 1000.0),
        ("degrees", "60", math.pi / 3),
        ("degrees", "1 flat", math.pi / 3),
        ("degrees", "90°", math.pi / 2),
        ("friction", "0.12", (0.12, 0.12, 0.12)),
        ("friction", "0.1, 0.12, 0.15", (0.1, 0.12, 0.15)),
        ("count", "8", 8),
        ("share", "0.04", 0.04),
        ("ratio", "5", 5.0),
        ("flag", "yes", True),
        ("text", "ISO 898-1 8.8", "ISO 898-1 8.8"),
    ],
)
def test_kinds_of_fields(kind: str, text: str, value: Any) -> None:
    found = read_values(asked(kind=kind), {"value": text})["value"]
    assert found == (value if isinstance(value, str | bool) else pytest.approx(value))


@pytest.mark.parametrize(
    ("kind", "text"),
    [
        ("force", "-1 kN"),
        ("force", "0 kN"),
        ("degrees", "sixty"),
        ("friction", "0.1,0.2"),
        ("friction", ""),
        ("count", "0"),
        ("count", "2.5"),
        ("share", "1.1"),
        ("ratio", "0.9"),
        ("thread", "M17"),
        ("number", "5 mm"),
    ],
)
def test_what_is_wrong_is_named_with_its_field(kind: str, text: str) -> None:
    with pytest.raises(OrthotorqError) as caught:
        read_values(asked(kind=kind, required=True), {"value": text})
    assert caught.value.path == ("value",)


def test_left_out_fields_are_none_false_or_empty() -> None:
    assert read_values(asked(kind="force"), {}) == {"value": None}
    assert read_values(asked(kind="flag"), {}) == {"value": False}
    assert read_values(asked(kind="ratio", repeat=True), {}) == {"value": ()}
    assert read_values(asked(kind="ratio", repeat=True), {"value": ["2", "3"]}) == {
        "value": (2.0, 3.0)
    }


def test_the_table_is_whole() -> None:
    for name, one in SUMS.items():
        assert one.name == name
        assert len({f.name for f in one.fields}) == len(one.fields)
        assert all(f.words and (f.choices or f.kind != "choice") for f in one.fields)
