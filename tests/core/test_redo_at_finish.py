"""A stage is done again when everything was done: it and all that comes after it, and the run is
under way again."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from orthotorq.core.running.walk.program import first_variants
from tests.core.play import Play
from tests.plans import small

PLANS = Path(__file__).parents[2] / "src/orthotorq/demo/plans"


def finished(name: str = "") -> Play:
    document = json.loads((PLANS / f"{name}.json").read_text(encoding="utf-8")) if name else small()
    play = Play(document)
    play = Play(document, occasion="install", variants=first_variants(play.result))
    play.finish()
    assert (
        play.state.status == "finished" and "redo" in play.state_for(frozenset({"fitter"})).actions
    )
    return play


def test_from_the_finish_a_stage_is_done_again_with_what_follows() -> None:
    play = finished()
    done, stages = play.state.done, [s.id for s in play.result.stages]
    assert (
        play.send("redo", "-", {"stage": stages[-1], "reason": "one nut was forgotten"})[0]
        == "accepted"
    )
    assert play.state.status == "running" and play.step.stage_id == stages[-1]
    play.finish()
    assert play.state.status == "finished" and play.state.done > done
    # and once more
    assert play.send("redo", "-", {"stage": stages[0], "reason": "again"})[0] == "accepted"
    assert play.step.stage_id == stages[0]
    play.finish()
    assert play.state.status == "finished"


def test_at_every_position_where_there_are_several() -> None:
    play = finished("twin-drive-wheel")
    stage = next(
        s
        for s in play.result.stages
        if s.kind == "tighten" and s.across != "once" and not s.variants
    )
    assert (
        play.send("redo", "-", {"stage": stage.id, "reason": "the wrench was wrong"})[0]
        == "accepted"
    )
    seen = set()
    while play.state.instruction is not None:
        if play.step.stage_id == stage.id:
            seen.add(play.step.position)
        play.usual()
    assert len(seen) == len(play.result.positions) > 1


@pytest.mark.parametrize(
    "payload", [{"stage": "nowhere", "reason": "x"}, {"stage": "b"}, {}, {"reason": "x"}]
)
def test_what_is_no_stage_is_not_done_again(payload: dict[str, str]) -> None:
    play = finished()
    assert play.send("redo", "-", payload)[0] == "refused" and play.state.status == "finished"


def test_nothing_is_done_again_once_it_is_signed() -> None:
    play = finished()
    play._keep("-", "sign_off", {"role": "fitter", "head_hash": "h"}, True)
    assert (
        play.send("redo", "-", {"stage": play.result.stages[0].id, "reason": "x"})[0] != "accepted"
    )
    assert "redo" not in play.state_for(frozenset({"fitter"})).actions
