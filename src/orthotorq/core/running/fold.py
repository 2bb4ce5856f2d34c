"""Events folded into answers by step, with corrections applied: nothing is edited, a later event voids an earlier one."""
from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Any


@dataclass(frozen=True, slots=True)
class Fact:
    """One event of the log as the core sees it; `accepted` is false for conflicts, which move no state."""

    sequence: int
    id: str
    step: str
    kind: str
    payload: dict[str, Any]
    person: str
    at: str
    hash: str = ""
    accepted: bool = True


@dataclass(slots=True)
class Given:
    """The answer of one step as it stands now: None when a correction voided it without a new one."""

    fact: Fact
    answer: dict[str, Any] | None
    corrected: bool = False


@dataclass(slots=True)
class Log:
    """Folded events: answers by step id, everything else in order."""

    answers: dict[str, Given] = field(default_factory=dict)
    by_event: dict[str, Given] = field(default_factory=dict)
    order: list[Given] = field(default_factory=list)
    others: list[Fact] = field(default_factory=list)
    accepted: dict[str, Fact] = field(default_factory=dict)
    sign_offs: list[Fact] = field(default_factory=list)
    abandoned: Fact | None = None
    start: Fact | None = None
    sequence: int = 0


def fold(facts: Iterable[Fact]) -> Log:
    """Fold accepted events in sequence order."""
    log = Log()
    for fact in facts:
        log.sequence = fact.sequence
        if not fact.accepted:
            continue
        if fact.kind == "answer":
            given = Given(fact, fact.payload)
            log.answers[fact.step] = log.by_event[fact.id] = given
            log.order.append(given)
        elif fact.kind == "correct":
            voided = log.by_event.get(str(fact.payload.get("voids")))
            if voided is not None:
                voided.answer, voided.corrected = fact.payload.get("answer"), True
                log.by_event[fact.id] = voided
            log.others.append(fact)
        elif fact.kind == "accept":
            log.accepted[str(fact.payload.get("deviation"))] = fact
        elif fact.kind == "sign_off":
            log.sign_offs.append(fact)
        elif fact.kind == "abandon":
            log.abandoned = fact
        elif fact.kind == "start":
            log.start = fact
        else:
            log.others.append(fact)
    return log
