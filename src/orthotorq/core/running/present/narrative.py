"""The record told in order, in words: what was done, by whom, what went wrong and what was done
about it."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from ...forms.record import StoryLine
from ...forms.result import Result
from ...kinds.registry import PASS_KINDS
from ...kinds.stage_kind import OCCASIONS
from ...thresholds import HAND_SECONDS, SENT_LATE
from ..log.event_log import Fact, Log
from ..walk.instruction import answer_text, failure_words, what_of
from ..walk.pending import Pending
from ..walk.step_walker import Walk

WHOLE, FAST = "whole round confirmed at once", "faster than a hand can pull"
_SAID = {"note": "Note", "suggest": "Wish to the planner", "problem": "Problem", "photo": "Photo"}


def too_fast(walk: Walk, log: Log) -> set[str]:
    """Events of pulls that followed the pull before by less than a hand needs; those of a round
    confirmed as a whole are marked as such and not counted."""
    out: set[str] = set()
    last = float("-inf")
    for given in log.order:
        asked = walk.step_of(given.fact.id)
        one = asked.segment.one if asked else None
        if one is None or not PASS_KINDS[one.do].pulls or given.fact.payload.get("whole"):
            continue
        if 0 <= given.fact.happened - last < HAND_SECONDS.value:
            out.add(given.fact.id)
        last = given.fact.happened
    return out


def story_of(
    result: Result, walk: Walk, log: Log, facts: Iterable[Fact], fast: set[str]
) -> list[StoryLine]:
    """Every event of a run in words and in order; the same answer at one bolt after the other is
    one line. `fast` are the events of pulls that no hand makes."""
    out, last = list[StoryLine](), None
    for fact in facts:
        late = _late(fact)
        if (
            fact.kind == "answer"
            and fact.accepted
            and (asked := walk.step_of(fact.id)) is not None
            and asked.decision is None
        ):
            line, key = (
                _answered(walk, log, fact, asked, fast),
                (
                    late,
                    asked.segment.base(),
                    asked.round,
                    fact.person,
                    answer_text(fact.payload, asked),
                    fact.payload.get("whole"),
                ),
            )
            line.marks += late
            if last == key and asked.place and out:
                _join(out[-1], line)
            else:
                out.append(line)
            last = key
            continue
        last = None
        found = _told(result, walk, log, fact)
        if found is not None:
            found.marks += late
            out.append(found)
    return out


def _late(fact: Fact) -> list[str]:
    """When the server had an entry, where that is long after it happened by the clock of its
    device."""
    if fact.received - fact.happened <= SENT_LATE.value * 60 or not fact.received:
        return []
    return [f"received {fact.received_at[:10]} {fact.received_at[11:16]} UTC"]


def _join(line: StoryLine, more: StoryLine) -> None:
    """One more bolt with the same answer."""
    line.bolts.extend(more.bolts)
    line.until = more.at
    line.marks = list(dict.fromkeys([*line.marks, *more.marks]))


def _answered(walk: Walk, log: Log, fact: Fact, asked: Pending, fast: set[str]) -> StoryLine:
    given = log.by_event.get(fact.id)
    one = asked.segment.one
    round_ = f", round {asked.round}" if (asked.round or 1) > 1 else ""
    pull = f", pull {asked.pull}" if (asked.pull or 1) > 1 else ""
    what = f"{one.name}{round_}{pull}" if one else what_of(walk, asked)
    marks = [
        words
        for words, holds in (
            (WHOLE, fact.payload.get("whole")),
            (FAST, fact.id in fast),
            ("asked again, and confirmed", fact.payload.get("sure")),
            ("corrected later", given is not None and given.corrected),
        )
        if holds
    ]
    text = answer_text(fact.payload, asked)
    note = f" ({fact.payload['note']})" if fact.payload.get("note") else ""
    reading = ", ".join(str(v) for v in (fact.payload.get("reading") or {}).values())
    bolts = [walk.label(p) for p in asked.move if p != "-"] if asked.place else []
    # the same answer at several bolts is one line: what was read stands at its bolt
    if reading and bolts:
        bolts, reading = [f"{bolt} ({reading})" for bolt in bolts], ""
    return StoryLine(
        kind="work",
        at=fact.at,
        person=fact.person,
        stage=asked.unit.title,
        position=asked.segment.position,
        what=what,
        bolts=bolts,
        text=text + (f", {reading}" if reading else "") + note,
        marks=marks,
    )


def _started(result: Result, log: Log) -> str:
    setup, names = log.setup, {v.id: v.name for v in result.variants}
    chosen = "".join(f", {names.get(v, v)}" for v in setup.variants)
    return f"Started: {OCCASIONS.get(setup.occasion, setup.occasion).lower()}{chosen}"


def _decided(walk: Walk, asked: Pending, payload: dict[str, Any]) -> str:
    reason = payload.get("reason") if payload.get("answer") not in ("skip", "accept") else None
    why = f": {reason}" if reason else ""
    return f"{failure_words(walk, asked)}. {answer_text(payload, asked)}{why}"


def _told(result: Result, walk: Walk, log: Log, fact: Fact) -> StoryLine | None:
    """What is no plain answer, in words."""
    titles, payload = {s.id: s.title for s in result.stages}, fact.payload
    asked = walk.step_of(fact.id)
    stage, position = (asked.unit.title, asked.segment.position) if asked else ("", None)
    kind, text = fact.kind, str(payload.get("text", ""))
    if not fact.accepted:
        kind, text = "aside", f"not accepted yet; a supervisor decides: {answer_text(payload)}"
    elif kind == "start":
        text = _started(result, log)
    elif kind == "answer":
        if asked is None:
            return None
        kind, text = "decision", _decided(walk, asked, payload)
    elif kind == "correct":
        text = _corrected(walk, log, fact)
    elif kind == "redo":
        text = (
            f"“{titles.get(str(payload.get('stage')), '')}” is done again: "
            f"{payload.get('reason', '')}"
        )
    elif kind == "tool":
        text = _changed(log, fact)
    elif kind == "resume":
        text = f"Settled, work continued: {payload.get('reason', '')}"
    elif kind in ("accept", "settle"):
        words = next((d.text for d in walk.deviations if d.id == payload.get("deviation")), "")
        about = f" “{words}”" if words else ""
        done = "Deviation accepted" if kind == "accept" else "Settled a conflict"
        text = f"{done}{about}: {payload.get('reason', '')}"
    elif kind == "sign_off":
        text = f"Signed as {payload.get('role')}"
    elif kind == "abandon":
        text = f"Ended before the last step: {payload.get('reason', '')}"
    elif kind == "continue":
        text = f"Continued: {payload.get('reason', '')}"
    elif kind in _SAID:
        where = _where(walk, log, fact.step)
        text = f"{_SAID[kind]}{f' at {where}' if where else ''}{f': {text}' if text else ''}"
    return StoryLine(
        kind=kind,
        at=fact.at,
        person=fact.person,
        stage=stage,
        position=position,
        what="",
        text=text,
        photo=str(payload["photo"]) if kind == "photo" and "photo" in payload else None,
    )


def _where(walk: Walk, log: Log, step: str) -> str:
    """The step that something was said about, in words; nothing where it was never answered."""
    given = log.answers.get(step)
    asked = walk.step_of(given.fact.id) if given else None
    return what_of(walk, asked) if asked else ""


def _corrected(walk: Walk, log: Log, fact: Fact) -> str:
    given = log.by_event.get(str(fact.payload.get("voids")))
    asked = walk.step_of(given.fact.id) if given else None
    what = what_of(walk, asked) if asked else "an answer"
    became = answer_text(fact.payload.get("answer"), asked)
    reason = f" ({fact.payload['reason']})" if fact.payload.get("reason") else ""
    return f"Corrected: {what}, now {became[:1].lower() + became[1:]}{reason}"


def _changed(log: Log, fact: Fact) -> str:
    """A wrench for another: which, why, how it was checked."""
    new = next(tool for tool, change in log.hands if change is fact)
    before = [
        tool
        for tool, _ in log.hands[: next(i for i, (_, c) in enumerate(log.hands) if c is fact)]
        if tool.tool == new.tool
    ]
    checked = (
        f"; checked before use: {fact.payload['checked']}"
        if fact.payload.get("checked")
        else "; not checked before use"
    )
    was = f" for {before[-1].serial}" if before else ""
    return f"Wrench {new.serial} taken{was}: {fact.payload.get('reason', '')}{checked}"
