"""Conditions as choices: older words read into them, rules that read choices alone."""

from __future__ import annotations

from typing import Any

import pytest

from orthotorq.core.documents.old_conditions import read_condition
from orthotorq.core.documents.plan import VERSION
from orthotorq.core.documents.upgrade import upgraded
from orthotorq.core.forms.condition import STATES, Condition
from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.planning.compute import compute
from orthotorq.demo.load import plan_document
from tests.plans import small

#: how older plans said it -> the choices
OLD: list[tuple[str, dict[str, str]]] = [
    ("pressure off and cold", {"pressure": "off", "temperature": "cold"}),
    ("depressurised and drained", {"pressure": "off"}),
    ("depressurized", {"pressure": "off"}),
    ("not pressurised", {"pressure": "off"}),
    ("not under pressure", {"pressure": "off"}),
    ("without pressure, vented", {"pressure": "off"}),
    ("not hot", {"temperature": "cold"}),
    ("cooled down", {"temperature": "cold"}),
    ("under pressure", {"pressure": "on"}),
    ("line pressurised", {"pressure": "on"}),
    ("at 3 bar", {"pressure": "on"}),
    ("at 250 kPa", {"pressure": "on"}),
    ("under steam", {"pressure": "on", "temperature": "hot"}),
    ("in service", {"pressure": "on"}),
    ("operating temperature", {"temperature": "hot"}),
    ("hot, after the first run", {"temperature": "hot"}),
    ("at 80 °C", {"temperature": "80 °C"}),
    ("load off", {"load": "off"}),
    ("not loaded", {"load": "off"}),
    ("under load", {"load": "on"}),
    ("wheel hanging", {"wheel": "hanging"}),
    ("parts at their stops", {"parts": "at_stops"}),
    ("on the hoist", {"weight": "on_hoist"}),
    ("held still", {"held": "still"}),
    ("drained and proved so", {}),
    ("hotel side closed", {}),
    ("power off", {}),
]
#: words that stopped plans, or passed unseen, when rules read them
WORDS = [
    "depressurised and drained",
    "not pressurised",
    "not hot",
    "not under pressure",
    "at 3 bar",
    "under steam",
    "operating temperature",
    "hot",
    "under pressure",
    "in service",
]


@pytest.mark.parametrize(("text", "chosen"), OLD, ids=[text for text, _ in OLD])
def test_words_of_older_plans_are_read_into_choices(text: str, chosen: dict[str, str]) -> None:
    found = read_condition([text], [])
    assert {k: v for k, v in found.items() if k in STATES} == chosen
    read = Condition.model_validate(found)
    # what was not wholly a choice stays in its own words
    assert read.says == text or not read.says
    assert read.words


def test_what_a_plan_puts_in_is_in_place() -> None:
    found = read_condition(["shaft held", "locked out and load off"], ["shaft held", "locked out"])
    assert found == {"load": "off", "in_place": ["shaft held", "locked out"]}


@pytest.mark.parametrize("odd", ["cold", [7], [{}], None, {"pressure": "off"}])
def test_what_is_no_list_of_words_is_left_for_reading_to_name(odd: object) -> None:
    assert read_condition(odd, []) == odd


def with_condition(condition: dict[str, Any], **more: Any) -> dict[str, Any]:
    document = small()
    document["stages"][0]["condition"] = condition
    return document | more


@pytest.mark.parametrize("words", WORDS)
def test_no_stop_comes_from_own_words(words: str) -> None:
    bare = with_condition({"pressure": "off", "temperature": "cold"})
    said = with_condition({"pressure": "off", "temperature": "cold", "says": words})
    assert {f.code for f in compute(said).findings} == {f.code for f in compute(bare).findings}
    alone = with_condition({"says": words})
    assert "condition_not_chosen" in {f.code for f in compute(alone).findings}
    assert [f.code for f in compute(alone).findings if f.severity == "stop"] == [
        f.code for f in compute(bare).findings if f.severity == "stop"
    ]


@pytest.mark.parametrize(
    ("words", "stops"),
    [
        ("at 3 bar", True),
        ("under steam", True),
        ("under pressure", True),
        ("depressurised and drained", False),
        ("not pressurised", False),
        ("not under pressure", False),
        ("not hot", False),
    ],
)
def test_an_older_plan_is_stopped_for_what_it_means(words: str, stops: bool) -> None:
    old = with_condition([words], version=2)  # type: ignore[arg-type]
    assert ("under_pressure" in {f.code for f in compute(old).findings}) == stops


def test_a_temperature_above_what_burns_is_hot() -> None:
    assert Condition(temperature="80 °C").hot and Condition(temperature="hot").hot
    assert (
        not Condition(temperature="40 °C").hot
        and not Condition(temperature="cold").hot
        and not Condition().hot
    )


@pytest.mark.parametrize(
    ("condition", "path"),
    [
        ({"temperature": "warm"}, "temperature"),
        ({"temperature": "at"}, "temperature"),
        ({"wheel": "hanging"}, "wheel"),
        ({"pressure": "low"}, "pressure"),
        ({"says": 7}, "says"),
        ({}, ""),
        ({"says": "  "}, ""),
    ],
)
def test_what_is_no_condition_is_named_at_its_field(condition: dict[str, Any], path: str) -> None:
    with pytest.raises(DocumentErrors) as caught:
        compute(with_condition(condition))
    assert caught.value.errors[0].pointer() == f"stages/0/condition{f'/{path}' if path else ''}"


@pytest.mark.parametrize(
    "name", ["evaporator-cover", "trolley-wheel", "gearbox-foot", "drum-locking-hub"]
)
def test_a_plan_written_in_words_comes_to_the_same_as_in_choices(name: str) -> None:
    document = plan_document(name)
    old = plan_document(name) | {"version": 2}
    for stage in old["stages"]:
        for one in (stage, *stage.get("passes", [])):
            if "condition" in one:
                one["condition"] = Condition.model_validate(one["condition"]).words
    new = upgraded(old, VERSION)
    assert [s.get("condition") for s in new["stages"]] == [
        s.get("condition") for s in document["stages"]
    ]
    assert [f.code for f in compute(old).findings] == [f.code for f in compute(document).findings]
