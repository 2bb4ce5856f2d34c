"""Golden runs: an event file for each demo plan, played to its end; `python -m tests.golden` writes
them anew."""

from __future__ import annotations

import json
from pathlib import Path
from random import Random
from typing import Any

from orthotorq.core.forms.run import Instruction
from orthotorq.core.running import record_of
from orthotorq.demo.load import plan_document
from orthotorq.demo.runs import sensible_answer
from tests.core.play import Play

FOLDER = Path(__file__).parent
#: what each run is started with beside its plan
STARTS: dict[str, dict[str, Any]] = {
    "trolley-wheel": {"occasion": "install", "variants": ["wrench"]},
    "twin-drive-wheel": {"occasion": "install", "variants": ["two", "both"]},
    "valve-block-fixture": {"occasion": "install", "variants": ["click"]},
    "bellows-clamp": {"occasion": "install", "variants": ["eight"]},
}


def summary(play: Play) -> dict[str, Any]:
    """What a run came to, to be compared: small enough to be read."""
    state, record = play.state, record_of(play.result, play.facts, play.now)
    return {
        "status": state.status,
        "done": state.done,
        "deviations": play.codes,
        "bolts": {b.place: [b.state, round(b.percent, 1)] for b in state.bolts},
        "tables": [[t.group, t.position, [c.title for c in t.columns]] for t in record.tables],
        "lines": [[line.position, line.text, line.answer] for line in record.lines],
    }


def _answer(step: Instruction, chance: Random) -> dict[str, Any]:
    """The demo's fitter, who is now and then not sure and once has a reading to repair."""
    if step.kind == "pull" and step.attempt == 1 and chance.random() < 0.03:
        return {"answer": "not_sure"}
    if step.kind == "decision":
        first = step.buttons[0]
        return {
            "answer": first.answer,
            **({"reason": "cleaned with the wire brush"} if first.reason else {}),
        }
    if step.kind == "check" and step.attempt == 1 and chance.random() < 0.1:
        return {"answer": "not_good", "note": "salt on it"}
    return sensible_answer(step, chance)


def record_run(name: str) -> dict[str, Any]:
    """Play a demo plan to its end and keep every event."""
    play, chance = (
        Play(plan_document(name), **STARTS.get(name, {"occasion": "install"})),
        Random(name),
    )
    while (step := play.state.instruction) is not None:
        if step.ready_at is not None:
            play.now = max(play.now, step.ready_at)
        assert play.send("answer", step.step, _answer(step, chance))[0] == "accepted"
    events = [
        {"step": f.step, "kind": f.kind, "payload": f.payload, "happened": f.happened}
        for f in play.facts
    ]
    return {"plan": name, "events": events, "comes_to": summary(play)}


def path_of(name: str) -> Path:
    """The golden file of a plan."""
    return FOLDER / f"{name}.json"


def write(name: str) -> None:
    """Write the golden file of a plan, one event a line."""
    found = record_run(name)
    events = ",\n  ".join(json.dumps(e, ensure_ascii=False) for e in found["events"])
    lines = json.dumps(found["comes_to"], ensure_ascii=False)
    path_of(name).write_text(
        f'{{"plan": "{name}", "events": [\n  {events}],\n "comes_to": {lines}}}\n', encoding="utf-8"
    )
