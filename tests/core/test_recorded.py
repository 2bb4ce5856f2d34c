"""What the plan asks to be recorded with an answer: batch, photo, a second person's initials."""

from __future__ import annotations

from typing import Any

import pytest

from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.planning.compute import compute
from orthotorq.core.running import record_of
from tests.core.play import Play
from tests.plans import small


def asking(*asks: str) -> dict[str, Any]:
    """The small plan with a gasket to fit first."""
    document = small()
    document["stages"].insert(
        0, {"id": "gasket", "kind": "fit", "what": "new gasket", "asks": list(asks)}
    )
    return document


@pytest.mark.parametrize(
    ("asks", "given", "verdict"),
    [
        (("batch",), {}, "refused"),
        (("batch",), {"batch": "  "}, "refused"),
        (("batch",), {"batch": "G-311"}, "accepted"),
        (("batch", "second"), {"batch": "G-311"}, "refused"),
        (("batch", "second"), {"batch": "G-311", "second": "JK"}, "accepted"),
        (("second",), {"second": 7}, "refused"),
        (("batch",), {"batch": "x" * 61}, "refused"),
        (("photo",), {}, "refused"),
        ((), {}, "accepted"),
        ((), {"batch": "G-311"}, "accepted"),
    ],
)
def test_an_answer_brings_what_the_plan_asks_for(
    asks: tuple[str, ...], given: dict[str, Any], verdict: str
) -> None:
    play = Play(asking(*asks))
    assert play.step.asks == list(asks)
    found, text = play.send("answer", play.step.step, {"answer": "done", **given})
    assert found == verdict and (verdict == "accepted" or text)


def test_a_photo_that_was_taken_at_the_step_is_there() -> None:
    play = Play(asking("photo"))
    step = play.step.step
    play._keep("-", "photo", {"photo": "elsewhere"}, True)
    assert play.step.asks == ["photo"]
    play._keep(step, "photo", {"photo": "id"}, True)
    assert play.step.asks == []
    assert play.send("answer", step, {"answer": "done"})[0] == "accepted"


def test_what_was_recorded_stands_in_the_record_and_outlives_a_correction() -> None:
    play = Play(asking("batch", "second"))
    play.answer("done", batch="G-311", second="JK")
    event = play.facts[-1].id
    assert (
        play.send("correct", "-", {"voids": event, "answer": {"answer": "done"}})[0] == "accepted"
    )
    record = record_of(play.result, play.facts, play.now)
    assert [line.answer for line in record.lines if "gasket" in line.text] == [
        "Done, batch G-311, second person JK"
    ]
    assert any("batch G-311" in line.text for line in record.story)


def test_a_skip_and_a_bad_look_need_no_batch() -> None:
    document = small()
    document["stages"].insert(
        0,
        {
            "id": "look",
            "kind": "inspect",
            "condition": {"load": "off"},
            "checks": [{"id": "c", "what": "Faces clean", "asks": ["second"]}],
        },
    )
    play = Play(document)
    play.answer("done")
    assert play.step.asks == ["second"]
    assert play.send("answer", play.step.step, {"answer": "not_good"})[0] == "accepted"
    assert play.step.entry == "decision" and play.step.asks == []


@pytest.mark.parametrize("asks", [["mood"], ["batch"] * 4, "batch"])
def test_only_what_can_be_recorded_is_asked_for(asks: Any) -> None:
    document = asking()
    document["stages"][0]["asks"] = asks
    with pytest.raises(DocumentErrors):
        compute(document)
