"""Runs of the demo's plans in which much goes wrong, and the whole record of each; `python -m
tests.golden.troubles` writes them anew: to be read before they are committed."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path
from random import Random
from typing import Any

from orthotorq.core.forms.run import Instruction
from orthotorq.core.running import fold, record_of
from orthotorq.core.running.log.tool_history import touch_of
from orthotorq.core.running.present.compare import compare
from orthotorq.demo.load import plan_document, plan_names
from tests.core.play import SUPERVISOR, Play, recorded, within
from tests.golden import STARTS
from tests.golden.benches import leaves

HERE = Path(__file__).parent / "troubles"
EVENTS = 90
READINGS = ("0.01 mm", "9 mm", "400 mm")


def _answer(step: Instruction, chance: Random, rough: bool) -> dict[str, Any]:
    choices = [*step.buttons, *step.wrong, *([step.exception] if step.exception else [])]
    chosen = chance.choice(choices) if rough else choices[0]
    payload: dict[str, Any] = {"answer": chosen.answer, **recorded(step, chosen.answer)}
    if chosen.reason:
        payload["reason"] = "because"
    if chosen.answer in ("value", "cap"):
        payload["sure"] = True
    if chosen.answer == "value":
        payload["value"] = (
            chance.choice(READINGS) if rough and step.quantity in (None, "length") else within(step)
        )
        if step.kind == "gap":
            payload["value"] = f"{max(1.0, 10.0 - 2 * (step.round or 1)):g} mm"
    if step.shows == "setting" and step.settings and chance.random() < 0.2:
        payload["reading"] = {"torque": step.settings[0].text}
    if chance.random() < 0.05:
        payload["note"] = "salt on it"
    return payload


def _event(play: Play, chance: Random) -> tuple[str, str, dict[str, Any], frozenset[str]]:
    """What is sent next: mostly an answer, now and then anything else that a run can be sent."""
    step, state = play.step, play.state
    here, fitter = step.step, frozenset({"fitter"})
    kind = chance.random()
    if kind < 0.03 and state.recent:
        return (
            "correct",
            "-",
            {"voids": chance.choice(state.recent).event, "answer": None, "reason": "mistyped"},
            fitter,
        )
    if kind < 0.05:
        return "redo", here, {"stage": step.stage_id, "reason": "once more"}, fitter
    if kind < 0.07:
        return (
            "problem",
            here,
            {"text": "the wrench slipped", "about": chance.choice(["unsafe", "wrench", "other"])},
            fitter,
        )
    if kind < 0.09:
        return chance.choice(["note", "suggest"]), here, {"text": "wind from the quay"}, fitter
    if kind < 0.11 and state.deviations:
        return (
            "accept",
            "-",
            {"deviation": chance.choice(state.deviations).id, "reason": "looked at"},
            SUPERVISOR,
        )
    if kind < 0.14 and (used := [one.id for one in play.result.tools]):
        return (
            "tool",
            "-",
            {"tool": chance.choice(used), "serial": "TW-77", "reason": "the other slips"},
            fitter,
        )
    return "answer", here, _answer(step, chance, chance.random() < 0.3), fitter


def played(
    document: dict[str, Any], start: dict[str, Any], seed: str, events: int
) -> tuple[Play, list[str]]:
    """A run to its end, and what was said on the way; the first events may go wrong."""
    chance, said = Random(seed), list[str]()
    tools = [
        {"tool": one, "serial": f"TW-{number}", "name": tool.get("name") or tool["kind"]}
        for number, (one, tool) in enumerate(document.get("tools", {}).items(), 1)
    ]
    play = Play(document, tools=tools, **start)
    words = ""
    for _ in range(events):
        if play.state.instruction is None:
            break
        step = play.step
        if step.ready_at is not None and chance.random() < 0.8:
            play.now = max(play.now, step.ready_at)
        kind, where, payload, roles = _event(play, chance)
        verdict, text = play.send(kind, where, payload, roles)
        before, words = words, f"{step.text} {step.hint}"
        said.append(
            (
                f"{step.step}: {words if words != before else 'the same'} -> {kind} {payload}: "
                f"{verdict} {text}"
            ).rstrip()
        )
        if verdict == "accepted" and chance.random() < 0.05:
            # sent twenty minutes later than it was tapped
            play.facts[-1] = replace(play.facts[-1], happened=play.now - 1200)
            play._seen = None
        for held in play.state.stopped:
            play.send("resume", "-", {"problem": held.event, "reason": "seen to"})
    while play.state.instruction is not None:
        play.usual()
    return play, said


def told(
    document: dict[str, Any],
    start: dict[str, Any],
    seed: str,
    events: int = EVENTS,
    beside: bool = True,
) -> Iterator[str]:
    """What was said on the way, what it came to, its record, and that beside a run in which all
    went well."""
    play, said = played(document, start, seed, events)
    record = record_of(play.result, play.facts, play.now)
    yield from said
    shown = {"status", "deviations", "bolts", "fitted", "signs", "tape"}
    yield from leaves(play.state.model_dump(mode="json", include=shown), "state")
    yield from leaves(record.model_dump(mode="json"), "record")
    log = fold(play.facts)
    yield from (
        f"touched: {touch}"
        for fact in play.facts
        if fact.accepted and (touch := touch_of(play.result, log, fact))
    )
    if beside:
        plain, _ = played(document, start, seed, 0)
        other = record_of(plain.result, plain.facts, plain.now)
        yield from leaves(compare(record, other, 1).model_dump(mode="json"), "compared")


def trouble(name: str) -> Iterator[str]:
    """Such a run of a demo plan."""
    return told(plan_document(name), STARTS.get(name, {"occasion": "install"}), name)


def main() -> None:
    """Write all of them."""
    HERE.mkdir(exist_ok=True)
    for name in plan_names():
        (HERE / f"{name}.txt").write_text("\n".join(trouble(name)) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
