"""Quick sums that cannot be answered: each says which field is wrong, and gives no number."""

from __future__ import annotations

from typing import Any

import pytest

from orthotorq.core.errors import OrthotorqError
from orthotorq.core.sums import answer
from orthotorq.core.working_text import step_lines

M16: dict[str, Any] = {
    "thread": "M16",
    "grade": "ISO 898-1 8.8",
    "grip": "50 mm",
    "mu-thread": "0.12",
}
ANGLE = {**M16, "snug": "30 N·m", "angle": "20"}
BACK = {**M16, "preload": "20 kN"}
GASKET = {"outside": "200 mm", "inside": "160 mm", "bolts": "8", "preload": "30 kN"}
TOOL = {"torque": "400 N·m", "length": "900 mm"}
ENGAGED = {"thread": "M16", "grade": "ISO 898-1 8.8", "into": "aluminium", "length": "24 mm"}

CASES: list[tuple[str, dict[str, Any], str, str]] = [
    ("angle", {**ANGLE, "material": "cheese"}, "material", "carbon steel"),
    ("angle", {**ANGLE, "shank-length": "60 mm"}, "shank-length", "at most the grip"),
    ("angle", {**ANGLE, "grip": "0 mm"}, "grip", "0 mm"),
    ("angle", {**ANGLE, "grip": "-5 mm"}, "grip", "-5 mm"),
    ("angle", {**ANGLE, "outer-diameter": "20 mm"}, "", "20"),
    ("angle", {**ANGLE, "angle": "-10"}, "angle", "3600°"),
    ("angle", {**ANGLE, "mu-thread": "0"}, "mu-thread", "0"),
    ("angle", {**ANGLE, "mu-thread": "1.4"}, "mu-thread", "1"),
    ("angle", {**ANGLE, "thread": "M0"}, "thread", "M0"),
    ("angle", {**ANGLE, "hole": "30 mm"}, "", "30"),
    ("angle", {k: v for k, v in ANGLE.items() if k != "grip"}, "grip", "needed"),
    ("backoff", BACK, "back", "either"),
    ("backoff", {**BACK, "back": "30", "flats": "1"}, "back", "either"),
    ("backoff", {**BACK, "back": "-30"}, "back", "0"),
    ("backoff", {**BACK, "flats": "1", "preload": "0 kN"}, "preload", "0"),
    ("gasket", {**GASKET, "bolts": "0"}, "bolts", "from 1"),
    ("gasket", {**GASKET, "inside": "220 mm"}, "inside", "less than the outside"),
    ("gasket", {**GASKET, "pressure": "-3 bar"}, "pressure", "-3"),
    ("gasket", {**GASKET, "bolts": "eight"}, "bolts", "eight"),
    ("tool", {**TOOL, "adapter": "0.1"}, "adapter", "unit"),
    ("tool", {"torque": "400 N·m", "adapter": "100 mm"}, "length", "length"),
    ("tool", {**TOOL, "ratio": ["0.5"]}, "ratio", "1 to 1000"),
    ("tool", {**TOOL, "efficiency": ["1.4"], "ratio": ["5"]}, "efficiency", "1.4"),
    ("tool", {**TOOL, "torque": "1,200 N·m"}, "torque", "1.200 or as 1200"),
    ("engagement", {**ENGAGED, "into": "wood"}, "into", "carbon steel"),
    ("engagement", {**ENGAGED, "length": "0 mm"}, "length", "0"),
    ("engagement", {**ENGAGED, "grade": "9.9"}, "grade", "9.9"),
    ("order", {"kind": "grid"}, "rows", "--rows"),
    ("order", {"kind": "grid", "rows": "2", "columns": "3", "count": "7"}, "count", "7"),
    ("order", {"kind": "cross"}, "count", "needed"),
    ("order", {"kind": "zigzag", "count": "8"}, "kind", "cross"),
    ("order", {"kind": "cross", "count": "8", "start": "9"}, "", "9"),
    ("order", {"kind": "cross", "count": "9", "tools": "2"}, "", "9"),
    ("limit", {**{k: v for k, v in M16.items() if k != "grip"}, "nu": "0"}, "nu", "0"),
    (
        "limit",
        {**{k: v for k, v in M16.items() if k != "grip"}, "yield-fraction": "1.2"},
        "yield-fraction",
        "1.2",
    ),
    ("torque", {"thread": "M16", "preload": "50 kN"}, "mu-thread", "Friction is needed"),
    ("torque", {"thread": "M16", "preload": "50 N·m", "mu-thread": "0.12"}, "preload", "N·m"),
    (
        "preload",
        {"thread": "M16", "torque": "5 N·m", "mu-thread": "0.12", "prevailing": "8 N·m"},
        "",
        "prevailing",
    ),
    (
        "preload",
        {"thread": "M16", "torque": "50 N·m", "mu-thread": "0.2,0.1,0.3"},
        "mu-thread",
        "low",
    ),
    ("grade", {"grade": "ISO 898-1 8.8", "diameter": "90 mm"}, "", "39 mm"),
    ("thread", {"thread": "M7.3q"}, "thread", "M7.3q"),
]


@pytest.mark.parametrize(("name", "texts", "field", "words"), CASES)
def test_what_cannot_be_is_said_with_its_field(
    name: str, texts: dict[str, Any], field: str, words: str
) -> None:
    with pytest.raises(OrthotorqError) as caught:
        answer(name, texts)
    said = str(caught.value)
    assert words in said
    assert said.endswith(".") and len(said) < 400
    if field:
        assert caught.value.path == (field,)


@pytest.mark.parametrize(
    ("name", "texts"),
    [
        ("angle", ANGLE),
        ("backoff", {**BACK, "flats": "1"}),
        ("gasket", GASKET),
        ("tool", TOOL),
        ("engagement", ENGAGED),
        ("torque", {"thread": "M16", "preload": "50 kN", "k": "0.16"}),
    ],
)
def test_a_sum_that_can_be_answered_has_a_working_of_plain_lines(
    name: str, texts: dict[str, Any]
) -> None:
    found = answer(name, texts)
    assert found.figures
    for step in found.steps:
        first, *rest = step_lines(step)
        assert "=" in first
        assert any(line.startswith("  source: ") for line in rest)
        assert len(rest) >= 2 + len(step.inputs)
