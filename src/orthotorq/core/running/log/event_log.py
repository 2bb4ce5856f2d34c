"""Events folded into answers by step, with corrections applied: nothing is edited, a later event
voids an earlier one."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Any

from ...kinds.recorded_fields import TYPED
from ...thresholds import CLOCK_BACK
from .setup import Bound, Setup, changed, setup_of

#: what a problem is about that stops the run until it is settled
STOPPING = ("unsafe", "wrench")


@dataclass(frozen=True, slots=True)
class Fact:
    """One event of the log as the core sees it; `accepted` is false for conflicts, which move no
    state.

    `at` is when it happened, as text for people; `happened` the same in seconds since 1970, for
    clocks and waits.
    """

    sequence: int
    id: str
    step: str
    kind: str
    payload: dict[str, Any]
    person: str
    at: str
    hash: str = ""
    accepted: bool = True
    happened: float = 0.0
    #: when the server had it, in seconds since 1970 and as text in UTC; 0 and empty where that is
    #: not known
    received: float = 0.0
    received_at: str = ""


@dataclass(slots=True)
class Given:
    """The answer of one step as it stands now: None when a correction voided it without a new
    one."""

    fact: Fact
    answer: dict[str, Any] | None
    corrected: bool = False

    @property
    def word(self) -> str:
        """The answer's own word, empty when it was voided."""
        return str((self.answer or {}).get("answer", ""))


@dataclass(slots=True)
class Log:
    """Folded events: answers by step id, everything else in order."""

    answers: dict[str, Given] = field(default_factory=dict)
    by_event: dict[str, Given] = field(default_factory=dict)
    order: list[Given] = field(default_factory=list)
    others: list[Fact] = field(default_factory=list)
    redos: dict[str, list[Fact]] = field(default_factory=dict)
    accepted: dict[str, Fact] = field(default_factory=dict)
    settled: dict[str, Fact] = field(default_factory=dict)
    conflicts: list[Fact] = field(default_factory=list)
    sign_offs: list[Fact] = field(default_factory=list)
    #: by problem, the word that settled it
    resumed: dict[str, Fact] = field(default_factory=dict)
    #: every wrench that was in hand, in order, with the change that brought it
    hands: list[tuple[Bound, Fact | None]] = field(default_factory=list)
    abandoned: Fact | None = None
    #: when it was taken up again last, after it was ended early
    continued: Fact | None = None
    start: Fact | None = None
    setup: Setup = field(default_factory=Setup)
    sequence: int = 0
    #: who works on the run now; empty where nobody says
    holder: str = ""
    #: (up to which entry, received when) for each time that the server's clock was seen to have
    #: gone back: what lies before it
    #: cannot have happened after that
    back: list[tuple[int, float]] = field(default_factory=list)
    _latest: float = 0.0

    def when(self, fact: Fact) -> float:
        """When an entry happened, or at the latest can have: a clock that ran ahead for a while
        dates it too late."""
        return min(
            [fact.happened, *(received for before, received in self.back if fact.sequence < before)]
        )

    def add(self, fact: Fact) -> None:
        """Fold one more event in; the fold of a prefix goes on from where it was."""
        self.sequence = fact.sequence
        if fact.received and self._latest > fact.received + CLOCK_BACK.value:
            self.back.append((fact.sequence, fact.received))
            self._latest = 0.0
        self._latest = max(self._latest, fact.happened)
        if not fact.accepted:
            # only what says something of the bolts has to be settled by somebody
            if fact.kind in ("answer", "correct", "redo", "problem"):
                self.conflicts.append(fact)
        elif fact.kind == "answer":
            self._answer(fact)
        elif fact.kind == "correct":
            self._correct(fact)
        elif fact.kind == "redo":
            self.redos.setdefault(fact.step, []).append(fact)
            self.others.append(fact)
        elif fact.kind == "accept":
            self.accepted[str(fact.payload.get("deviation"))] = fact
        elif fact.kind == "settle":
            self._settle(fact)
        elif fact.kind == "sign_off":
            self.sign_offs.append(fact)
        elif fact.kind == "abandon":
            self.abandoned = fact
        elif fact.kind == "continue":
            self.abandoned, self.continued = None, fact
            self.others.append(fact)
        elif fact.kind == "start":
            self.start, self.setup = fact, setup_of(fact.payload)
            self.hands = [(tool, None) for tool in self.setup.tools]
        elif fact.kind == "resume":
            self.resumed[str(fact.payload.get("problem"))] = fact
            self.others.append(fact)
        elif fact.kind == "tool":
            self.setup = changed(self.setup, fact.payload)
            self.hands.append((self.setup.tools[-1], fact))
            self.others.append(fact)
        else:
            self.others.append(fact)

    def stopped(self) -> list[Fact]:
        """Problems that stop the run and that nobody has settled."""
        return [
            f
            for f in self.others
            if f.kind == "problem"
            and f.payload.get("about") in STOPPING
            and f.id not in self.resumed
        ]

    def _answer(self, fact: Fact) -> None:
        given = Given(fact, fact.payload)
        self.answers[fact.step] = self.by_event[fact.id] = given
        self.order.append(given)

    def _correct(self, fact: Fact) -> None:
        voided = self.by_event.get(str(fact.payload.get("voids")))
        if voided is not None:
            voided.answer, voided.corrected = (
                recorded_before(voided, fact.payload.get("answer")),
                True,
            )
            self.by_event[fact.id] = voided
        self.others.append(fact)

    def _settle(self, fact: Fact) -> None:
        """A supervisor's word on a conflict: the answer kept there is taken, or it stays aside."""
        event = str(fact.payload.get("event"))
        self.settled[event] = fact
        kept = next((c for c in self.conflicts if c.id == event), None)
        if fact.payload.get("take") and kept is not None and kept.kind == "answer":
            given = self.answers.get(kept.step)
            if given is None:
                self._answer(kept)
            else:
                given.answer, given.corrected = kept.payload, True


def recorded_before(given: Given, answer: dict[str, Any] | None) -> dict[str, Any] | None:
    """An answer that stands for another, with what was recorded with that one: a batch stays what
    it was."""
    if answer is None:
        return None
    return {**{k: v for k, v in (given.answer or {}).items() if k in TYPED}, **answer}


def fold(facts: Iterable[Fact]) -> Log:
    """Fold events in sequence order."""
    log = Log()
    for fact in facts:
        log.add(fact)
    return log
