"""Each demo plan run to its end by its event file: every event accepted again, and the same end."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from orthotorq.core.running import Fact, fold, judge_in, state_from, state_of
from orthotorq.demo.load import plan_document, plan_names
from tests.core.play import FITTER, Play
from tests.golden import acts, benches, findings, manuals, orders, path_of, summary, troubles


def golden(name: str) -> dict[str, Any]:
    found: dict[str, Any] = json.loads(path_of(name).read_text(encoding="utf-8"))
    return found


def facts(found: dict[str, Any]) -> list[Fact]:
    return [
        Fact(
            i,
            f"e{i}",
            e["step"],
            e["kind"],
            e["payload"],
            "Tam",
            f"t{i:05}",
            happened=e["happened"],
        )
        for i, e in enumerate(found["events"], 1)
    ]


@pytest.mark.parametrize("name", plan_names())
def test_every_event_is_accepted_again_and_comes_to_the_same_end(name: str) -> None:
    found = golden(name)
    play = Play(plan_document(name))
    log = fold([])
    for fact in facts(found):
        if fact.kind != "start":
            verdict = judge_in(
                play.result, log, fact.kind, fact.step, fact.payload, FITTER, fact.happened
            )
            assert verdict.verdict == "accepted", (fact.step, verdict.text)
        log.add(fact)
        play.facts.append(fact)
        play.now = fact.happened
    assert json.loads(json.dumps(summary(play))) == found["comes_to"]
    assert play.state.status == "finished"
    assert play.state.fitted == []


@pytest.mark.parametrize("name", plan_names())
def test_a_run_stopped_anywhere_resumes_to_the_same_state(name: str) -> None:
    found = facts(golden(name))
    result = Play(plan_document(name)).result
    whole = fold([])
    for length, fact in enumerate(found, 1):
        whole.add(fact)
        if length % 7 == 0 or length == len(found):
            # folded on from event to event, and read anew from the beginning
            assert state_from(result, whole, fact.happened) == state_of(
                result, found[:length], fact.happened
            )


@pytest.mark.parametrize("name", plan_names())
def test_every_instruction_can_be_read_and_names_its_answers(name: str) -> None:
    found, result = facts(golden(name)), Play(plan_document(name)).result
    labels = {p.id: p.label for g in result.groups for p in g.places}
    for length in range(1, len(found)):
        step = state_of(result, found[:length], found[length].happened).instruction
        assert step is not None
        assert step.step == found[length].step
        assert len(step.text) > 3 and "{" not in step.text + step.hint
        assert found[length].payload["answer"] in {
            b.answer for b in (*step.buttons, *step.wrong)
        } | {"value"}
        assert step.label == " + ".join(labels[p] for p in step.places)
        if step.kind in ("pull",):
            assert step.settings, step.step
        if step.kind in ("angle", "back_off", "gap", "loosen"):
            assert step.turn_deg


def same(found: list[str], path: Path) -> None:
    """Line by line as it was read."""
    wanted = path.read_text(encoding="utf-8").splitlines()
    assert [pair for pair in zip(found, wanted, strict=False) if pair[0] != pair[1]][:5] == []
    assert len(found) == len(wanted)


@pytest.mark.parametrize("name", plan_names())
def test_what_the_bench_shows_is_what_was_read(name: str) -> None:
    same(benches.bench(plan_document(name)), benches.HERE / f"{name}.txt")


@pytest.mark.parametrize("name", plan_names())
def test_a_run_full_of_trouble_comes_to_the_record_that_was_read(name: str) -> None:
    same(list(troubles.trouble(name)), troubles.HERE / f"{name}.txt")


def test_orders_are_those_that_were_read() -> None:
    same(orders.lines(), orders.FILE)


def test_findings_say_what_was_read_and_figures_follow() -> None:
    same(list(findings.lines()), findings.FILE)


def test_lines_of_manuals_propose_what_was_read() -> None:
    same(list(manuals.lines()), manuals.FILE)


def test_acts_change_what_was_read_and_nothing_else() -> None:
    same(list(acts.lines()), acts.FILE)
