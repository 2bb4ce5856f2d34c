"""Plays a run in memory, asking the judge before every event, with a clock of its own."""

from __future__ import annotations

import re
from typing import Any

from orthotorq.core.forms.result import Result
from orthotorq.core.forms.run import Instruction, RunState
from orthotorq.core.planning.compute import compute
from orthotorq.core.running import Fact, judge, state_of

FITTER, SUPERVISOR = frozenset({"fitter"}), frozenset({"supervisor"})
BEGIN = 1_700_000_000.0


def within(step: Instruction) -> str:
    """A reading at the edge of a step's limit, which is inside."""
    own = (step.limit_text or "").split(";")[0]
    if not own:
        return f"0 {step.unit or 'mm'}"
    figure = re.split(",| to ", own)[0].removeprefix("changed by ")
    figure = figure.removeprefix("at least ").removeprefix("at most ").removeprefix("±")
    if own.startswith("changed by"):
        before = re.search(r"Before: (-?[0-9.]+)", step.hint)
        return f"{float(figure.split(' ')[0]) + float(before[1] if before else 0):g} {step.unit}"
    return figure


def recorded(step: Instruction, answer: str) -> dict[str, str]:
    """What the plan asks to be recorded with an answer."""
    known = (
        {"batch": "B-17", "second": "JK"} if answer in ("done", "good", "value", "still") else {}
    )
    return {k: v for k, v in known.items() if k in step.asks}


class Play:
    """A run under way; every event takes `pace` seconds."""

    def __init__(self, document: dict[str, Any], pace: float = 20.0, **start: Any) -> None:
        self.result: Result = compute(document)
        self.now, self.pace = BEGIN, pace
        self.facts: list[Fact] = []
        self._seen: tuple[int, float, RunState] | None = None
        if start:
            self._keep("-", "start", start, True)

    def _keep(self, step: str, kind: str, payload: dict[str, Any], accepted: bool) -> None:
        number = len(self.facts) + 1
        self.facts.append(
            Fact(
                number,
                f"e{number}",
                step,
                kind,
                payload,
                "Tam",
                f"t{number:05}",
                accepted=accepted,
                happened=self.now,
                received=self.now,
            )
        )

    @property
    def state(self) -> RunState:
        """The state now; walked once as long as nothing happens."""
        if self._seen is None or self._seen[:2] != (len(self.facts), self.now):
            self._seen = len(self.facts), self.now, state_of(self.result, self.facts, self.now)
        return self._seen[2]

    def state_for(self, roles: frozenset[str]) -> RunState:
        """The state as somebody in these roles sees it."""
        return state_of(self.result, self.facts, self.now, roles)

    @property
    def step(self) -> Instruction:
        found = self.state.instruction
        assert found is not None
        return found

    @property
    def codes(self) -> list[str]:
        return [d.code for d in self.state.deviations]

    def send(
        self, kind: str, step: str, payload: dict[str, Any], roles: frozenset[str] = FITTER
    ) -> tuple[str, str]:
        self.now += self.pace
        judgement = judge(self.result, self.facts, kind, step, payload, roles, self.now)
        if judgement.verdict != "refused":
            self._keep(step, kind, payload, judgement.verdict == "accepted")
        return judgement.verdict, judgement.text

    def answer(self, answer: str, **more: Any) -> str:
        step = self.step
        if answer in ("value", "cap"):
            # a figure far from what is usual is asked back; here it is meant
            more = {"sure": True, **more}
        more = {**recorded(step, answer), **more}
        if any(b.answer == answer and b.reason for b in step.buttons):
            more = {"reason": "as agreed", **more}
        assert self.send("answer", step.step, {"answer": answer, **more}) == ("accepted", "")
        return step.step

    def usual(self) -> str:
        """What a fitter answers when all goes well."""
        step = self.step
        if step.kind == "wait" and step.ready_at is not None:
            self.now = max(self.now, step.ready_at)
        if step.kind == "reading":
            return self.answer("value", value=within(step))
        if step.kind == "gap":
            return self.answer("value", value=f"{max(1.0, 10.0 - 2 * (step.round or 1)):g} mm")
        if step.kind == "jack":
            return self.answer("free" if (step.round or 1) > 2 else "not_yet")
        if step.kind == "pull" and not step.check_round and (step.round or 1) > 1:
            return self.answer("did_not_turn")
        if step.entry == "decision":
            # what is decided when nothing can be mended: it is left, and a supervisor decides
            return self.answer(
                next(
                    (b.answer for b in step.buttons if b.answer == "accept"), step.buttons[0].answer
                )
            )
        return self.answer(step.buttons[0].answer)

    def until(self, text: str) -> None:
        while text not in self.step.step:
            self.usual()

    def finish(self) -> list[str]:
        done = []
        while self.state.instruction is not None:
            done.append(self.usual())
        return done
