"""Custom sequences: read as typed, checked, put into passes, led bolt by bolt, printed."""

from __future__ import annotations

import json
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orthotorq.core.documents.plan import VERSION
from orthotorq.core.documents.upgrade import upgraded
from orthotorq.core.errors import OrthotorqError
from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.compute.output.custom_sequence import sequence_out
from orthotorq.core.planning.editing import edit
from orthotorq.core.reading.sequence import read_sequence
from orthotorq.core.running.walk.program import expand
from orthotorq.exchange.sheet import face_of
from orthotorq.exchange.work_page import work_page
from tests.core.play import Play
from tests.plans import plan_document, small

OWN = "1 4 7 2 5 8 3 6"
READ = [
    ("1 5 3 7 2 6 4 8", (1, 5, 3, 7, 2, 6, 4, 8)),
    ("1, 5, 3, 7; 2\n6 4 8", (1, 5, 3, 7, 2, 6, 4, 8)),
    ("1-5-3-7-2-6-4-8", (1, 5, 3, 7, 2, 6, 4, 8)),
    ("1 – 5 – 3 – 7, 2 – 6 – 4 – 8", (1, 5, 3, 7, 2, 6, 4, 8)),
    ("1 → 5 → 3", (1, 5, 3)),
    ("1>5>3", (1, 5, 3)),
    ("(1, 5) (3, 7)", (1, 5, 3, 7)),
    ("1/5 3/7", (1, 5, 3, 7)),
    ("1+5, 3+7", (1, 5, 3, 7)),
    ("A1 A5 A3", (1, 5, 3)),
    ("#1, #5, #3", (1, 5, 3)),
    ("No. 1, no. 5", (1, 5)),
    ("bolt 1, then bolt 5, and finally bolt 3", (1, 5, 3)),
    ("1st, 5th, 3rd", (1, 5, 3)),
    ("1 to 4, 8 to 5", (1, 2, 3, 4, 8, 7, 6, 5)),
    ("1..4", (1, 2, 3, 4)),
    ("1-4, 8-5", (1, 2, 3, 4, 8, 7, 6, 5)),
    # opposite pairs, as manuals write them: only so each bolt comes once
    ("1-5, 3-7, 2-6, 4-8", (1, 5, 3, 7, 2, 6, 4, 8)),
]


@pytest.mark.parametrize(("text", "numbers"), READ, ids=[text for text, _ in READ])
def test_a_sequence_is_read_as_it_is_usually_written(text: str, numbers: tuple[int, ...]) -> None:
    found = read_sequence(text, range(1, 9))
    assert (found.numbers, found.left, found.other) == (numbers, (), None)


def test_what_has_two_readings_gives_both_and_what_is_no_number_is_left() -> None:
    assert read_sequence("1-5, 3-7", range(1, 13)).numbers == (1, 2, 3, 4, 5, 3, 4, 5, 6, 7)
    assert read_sequence("1-5, 3-7", range(1, 13)).other == (1, 5, 3, 7)
    assert read_sequence("1 5 x7 gap 3").left == ("gap",)
    assert read_sequence("one two").left == ("one", "two")


@given(st.text(alphabet="0123456789 -–,;.>→()AxnoN\n", max_size=60))
def test_any_text_is_read_without_a_fault(text: str) -> None:
    found = read_sequence(text, range(1, 9))
    assert len(found.numbers) <= 2000
    assert all(word in text.lower().replace("–", "-").replace("→", ">") for word in found.left)


def eight() -> dict[str, Any]:
    document = small(8)
    document["groups"][0]["layout"]["diameter"] = "400 mm"
    return document


def passes(document: dict[str, Any]) -> list[str]:
    return [p["id"] for p in document["stages"][0]["passes"]]


def put(document: dict[str, Any], text: str, *names: str, **more: str) -> dict[str, Any]:
    params = {
        "stage": document["stages"][0]["id"],
        "group": "b",
        "text": text,
        "passes": ",".join(names),
        **more,
    }
    return edit(document, "set_sequence", params)[0]


def orders(document: dict[str, Any]) -> list[list[int]]:
    stage = compute(document).stages[0]
    return [[int(move[0].rpartition(".")[2]) for move in p.order] for p in stage.passes]


def test_one_sequence_goes_into_several_passes_at_once() -> None:
    document = eight()
    own = [int(n) for n in OWN.split()]
    names = passes(document)
    found = orders(put(document, OWN, *names[:2]))
    assert found[:2] == [own, own]
    assert found[2:] == orders(document)[2:]


def test_numbers_are_those_that_are_painted() -> None:
    document = eight()
    document["groups"][0]["layout"].update(labels="order", first_label=11)
    # painted in tightening order, so counting up is the cross order of the places
    out = put(document, "11-18", passes(document)[0])
    assert out["stages"][0]["passes"][0]["order"]["sequence"] == [
        "1",
        "5",
        "3",
        "7",
        "2",
        "6",
        "4",
        "8",
    ]


def test_painted_anew_the_sequence_goes_on_over_the_same_bolts() -> None:
    document = put(eight(), OWN, passes(eight())[0])
    before = orders(document)[0]
    document["groups"][0]["layout"]["first_label"] = 101
    assert orders(document)[0] == before


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("1 2 3", "leaves out bolt 4, 5, 6, 7 and 8"),
        (f"{OWN} 9", "names 9; Bolts has 8 bolts"),
        (f"{OWN} 1", "takes bolt 1 more than once"),
        (f"{OWN} and so on", "so on"),
        ("", "Enter the numbers"),
    ],
)
def test_what_is_no_sequence_of_these_bolts_is_refused_with_its_numbers(
    text: str, words: str
) -> None:
    document = eight()
    with pytest.raises(OrthotorqError, match=words):
        put(document, text, passes(document)[0])


def test_while_it_is_entered_it_says_what_is_missing() -> None:
    found = sequence_out(eight(), "b", "1 4 4 9", False)
    assert (found.missing, found.twice, found.strange, found.whole) == (
        [2, 3, 5, 6, 7, 8],
        [4],
        [9],
        False,
    )
    assert found.says == "No such bolt: 9. More than once: 4. Missing: 2, 3, 5, 6, 7, 8."
    whole = sequence_out(eight(), "b", OWN, False)
    assert whole.whole and whole.says == "All 8 bolts, each once." and whole.stray is not None
    assert [place.rpartition(".")[2] for place in whole.places] == OWN.split()


def test_a_pass_that_goes_round_by_itself_takes_no_bolt_twice() -> None:
    document = eight()
    stage = document["stages"][0]
    checking = edit(document, "add_pass", {"stage": stage["id"], "listed": "check round"})[0]
    name = checking["stages"][0]["passes"][-1]["id"]
    with pytest.raises(DocumentErrors) as caught:
        compute(put(checking, f"{OWN} 1", name, repeats="yes"))
    assert caught.value.errors[0].pointer().endswith("order/repeats")


def test_a_bolt_that_comes_again_is_asked_again_as_a_step_of_its_own() -> None:
    document = eight()
    torque = next(p["id"] for p in document["stages"][0]["passes"] if p["do"] == "torque")
    planned = put(document, f"{OWN} 1 4", torque, repeats="yes")
    result = compute(planned)
    steps = [s for s in expand(result) if f"/{torque}/" in s]
    assert len(steps) == len(set(steps)) == 10
    assert [s.rpartition("/")[0].rpartition("/")[2] for s in steps[-2:]] == ["r2", "r2"]
    run = Play(planned, occasion="install")
    asked = list[str]()
    while (step := run.state.instruction) is not None and len(asked) < 10:
        if f"/{torque}/" in step.step:
            asked.append(step.label)
        run.answer(step.buttons[0].answer)
    assert asked == [*OWN.split(), "1", "4"]


def test_several_groups_of_a_stage_each_keep_their_own_order() -> None:
    document = plan_document("rail-stop-anchors")
    stage = next(s for s in document["stages"] if s["id"] == "rise")
    first, second = stage["groups"][:2]
    one = next(p for p in stage["passes"] if p.get("do") == "torque")

    def moves(doc: dict[str, Any], group: str) -> list[str]:
        found = next(s for s in compute(doc).stages if s.id == stage["id"])
        return [
            m[0] for p in found.passes if p.id == one["id"] and p.group == group for m in p.order
        ]

    count = next(g for g in compute(document).groups if g.id == first).places
    text = " ".join(p.label for p in reversed(count))
    out = edit(
        document,
        "set_sequence",
        {"stage": stage["id"], "group": first, "text": text, "passes": one["id"]},
    )[0]
    assert moves(out, first) == [p.id for p in reversed(count)]
    assert moves(out, second) == moves(document, second)


def test_another_pattern_takes_the_sequence_out_again() -> None:
    document = eight()
    name = passes(document)[0]
    out = edit(
        put(document, OWN, name),
        "set_order",
        {"stage": document["stages"][0]["id"], "order": "star", "one": name},
    )[0]
    assert out["stages"][0]["passes"][0]["order"] == {"kind": "star"}


def test_a_stage_that_loosens_takes_a_sequence_too() -> None:
    document = plan_document("evaporator-cover")
    stage = next(s for s in document["stages"] if s["kind"] == "loosen")
    text = " ".join(str(n) for n in range(16, 0, -1))
    out = edit(document, "set_sequence", {"stage": stage["id"], "group": "studs", "text": text})[0]
    found = next(s for s in compute(out).stages if s.id == stage["id"])
    assert found.passes[0].order[0] == ["studs.16"]


def test_listed_places_of_an_older_plan_are_a_custom_sequence() -> None:
    old = {
        "version": 2,
        "stages": [{"passes": [{"order": {"kind": "listed", "places": [3, 1, 2], "tools": 1}}]}],
        "definitions": {
            "methods": {"own": {"passes": [{"order": {"kind": "listed", "places": [1]}}]}}
        },
    }
    new = upgraded(json.loads(json.dumps(old)), VERSION)
    assert new["stages"][0]["passes"][0]["order"] == {
        "kind": "custom",
        "sequence": ["3", "1", "2"],
        "tools": 1,
    }
    assert new["definitions"]["methods"]["own"]["passes"][0]["order"] == {
        "kind": "custom",
        "sequence": ["1"],
    }


def test_the_way_of_a_sequence_is_drawn_on_paper() -> None:
    assert "polyline" not in face_of(compute(eight()))
    assert face_of(compute(put(eight(), OWN, *passes(eight())))).count("<polyline") == 1


def test_the_first_page_of_the_sheet_prints_the_sequence_bolt_by_bolt() -> None:
    result = compute(put(eight(), OWN, *passes(eight())))
    rows = work_page(result).rows
    assert rows and all(row.boxes == OWN.split() for row in rows)
