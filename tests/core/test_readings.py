"""Every demo plan as a fitter hears it, on every occasion and in every way, as it was read and
signed; and walked at random."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import Phase, given, settings
from hypothesis import strategies as st

from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.work_order import ways
from orthotorq.demo.load import plan_document
from tests.core.play import Play, recorded, within
from tests.golden.readings import HERE, heard, reading

HEARD = list(heard())
CASES = list(dict.fromkeys((name, occasion) for _, name, occasion, _ in HEARD))


@pytest.mark.parametrize(
    ("title", "name", "occasion", "variants"), HEARD, ids=[h[0] for h in HEARD]
)
def test_a_plan_is_heard_as_it_was_read(
    title: str, name: str, occasion: str, variants: tuple[str, ...]
) -> None:
    path = HERE / title
    assert path.exists(), "a new way: python -m tests.golden.readings, and read it aloud"
    text = reading(name, occasion, variants)
    assert text == path.read_text(encoding="utf-8"), (
        "changed: write the readings anew, and read them aloud"
    )
    assert "-- still in: nothing" in text and "-- deviation" not in text


def test_no_reading_is_left_over() -> None:
    assert {p.name for p in HERE.glob("*.txt")} == {title for title, *_ in HEARD}


class Wanderer:
    """Answers what is offered, by chance; every answer that wants one gets a reason, readings are
    in or out of limits."""

    def __init__(self, play: Play, draw: Any) -> None:
        self.play, self.draw = play, draw

    def step(self) -> None:
        """One event: mostly an answer, now and then a correction or a stage done again."""
        step = self.play.step
        if step.kind == "wait" and step.ready_at is not None:
            self.play.now = max(self.play.now, step.ready_at)
        kind = self.draw(st.integers(0, 40))
        if kind == 0 and self.play.state.recent:
            last = self.play.state.recent[0]
            self.play.send(
                "correct", "-", {"voids": last.event, "answer": None, "reason": "mistyped"}
            )
            return
        if kind == 1:
            self.play.send("redo", step.step, {"stage": step.stage_id, "reason": "once more"})
            return
        choices = [*step.buttons, *step.wrong]
        chosen = choices[0] if kind > 12 else self.draw(st.sampled_from(choices))
        more: dict[str, Any] = {
            **recorded(step, chosen.answer),
            **({"reason": "because"} if chosen.reason else {}),
        }
        if chosen.answer in ("value", "cap"):
            more["sure"] = True
        if chosen.answer == "value":
            more["value"] = (
                within(step)
                if kind > 4
                else self.draw(st.sampled_from(["0.01 mm", "9 mm", "400 mm"]))
            )
            if step.quantity not in (None, "length") and kind <= 4:
                more["value"] = within(step)
            if step.kind == "gap":
                more["value"] = f"{max(1.0, 10.0 - 2 * (step.round or 1)):g} mm"
        verdict, text = self.play.send("answer", step.step, {"answer": chosen.answer, **more})
        assert verdict == "accepted", (step.step, chosen.answer, text)


#: a walk takes seconds: what fails is told as it was found
WITHOUT_SHRINKING = (Phase.explicit, Phase.reuse, Phase.generate)


@pytest.mark.parametrize(("name", "occasion"), CASES)
@settings(max_examples=2, deadline=None, phases=WITHOUT_SHRINKING)
@given(data=st.data())
def test_whatever_is_answered_there_is_a_next_step_or_an_end(
    name: str, occasion: str, data: st.DataObject
) -> None:
    document = plan_document(name)
    result = compute(document)
    variants = data.draw(st.sampled_from(ways(result.variants)))
    play = Play(
        document,
        occasion=occasion,
        variants=list(variants),
        history=data.draw(st.sampled_from(["known", "unknown"])),
    )
    wanderer = Wanderer(play, data.draw)
    for _ in range(60):
        if play.state.instruction is None:
            break
        wanderer.step()
    for _ in range(2500):
        if play.state.instruction is None:
            break
        play.usual()
    state = play.state
    assert state.instruction is None and state.status == "finished", "no dead end"
    assert state.fitted == [] or state.left_locked, "what was put in for the work is out"
    assert not state.left_locked or state.failed, "locks stay on only where something failed"
    if state.provisional:
        assert (
            play.send("sign_off", "-", {"role": "fitter"})[0] == "accepted"
            and play.state.provisional
        )
