"""The instruction for a pending step: what to do, on which bolt, with what set, and which answers are offered."""
from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from ..documents.run import Button, Instruction
from ..planning.cautions import CAUTIONS
from .program import Segment, step_id
from .texts import ANSWERS, CHECK_ANSWERS, HINTS, INSTRUCTIONS, KEYS

if TYPE_CHECKING:
    from .passes import Walk


@dataclass(frozen=True, slots=True)
class Pending:
    """The step without an answer: its segment, round, bolts, attempt, and its number in the round."""

    segment: Segment
    round: int | None
    move: list[str]
    attempt: int
    number: int = 1


def label_of(place: str) -> str:
    """The bolt's number as painted: `inner.3` is 3."""
    return place.rpartition(".")[2]


def _kind(segment: Segment) -> str:
    if segment.one is not None:
        return "hand" if segment.one.do == "hand" else "pull"
    if segment.item is None:
        return "condition"
    return {"done": "item", "good": "check", "length": "reading"}[segment.item.answer]


_OFFERED = {"condition": ("done", "not_good"), "item": ("done",), "check": ("good", "not_good"), "reading": ("value",),
            "hand": ("done",), "pull": ("turned", "did_not_turn", "not_sure")}


def offered(segment: Segment) -> tuple[str, ...]:
    """Answers a step takes; any other is refused."""
    return _OFFERED[_kind(segment)]


def _buttons(segment: Segment, check: bool) -> list[Button]:
    answers = offered(segment)
    if check:
        # in a check the usual answer is that nothing moved: it gets the large button and the space bar
        answers = ("did_not_turn", "turned", "not_sure")
    words = {**ANSWERS, **(CHECK_ANSWERS if check else {})}
    if segment.one is None and segment.item is None:
        words = {**words, "done": "Yes, it is", "not_good": "No"}
    keys = {**KEYS, "did_not_turn": "space", "turned": "m"} if check else KEYS
    return [Button(answer=a, label=words[a], key=keys[a]) for a in answers]


def _text(segment: Segment, kind: str) -> str:
    if segment.item is not None:
        return segment.item.text
    if segment.one is None:
        return ", ".join(segment.stage.condition)
    return INSTRUCTIONS["pull_check" if segment.one.check else kind]


def _hint(kind: str, pending: Pending, changed: bool) -> str:
    if pending.attempt > 1 and kind in ("hand", "pull"):
        return HINTS["repeat"]
    if kind == "pull":
        return HINTS["pull"] if changed else f"{HINTS['pull']} {HINTS['again']}"
    return HINTS.get(kind, INSTRUCTIONS.get(kind, ""))


def instruction_for(walk: Walk, pending: Pending) -> Instruction:
    """Everything the Run screen shows for one step."""
    segment, one = pending.segment, pending.segment.one
    kind = _kind(segment)
    check = bool(one and one.check)
    order = one.order if one else []
    following = order[pending.number : pending.number + 2]
    changed = bool(one and one.settings and one.settings[0].text != walk.last_setting)
    name = next((p.name for p in walk.result.positions if p.id == segment.position), None)
    return Instruction(
        step=step_id(segment.base(), pending.round, pending.move[0] if pending.move else None, pending.attempt),
        kind=kind, position=name, stage=segment.stage.title, pass_name=one.name if one else None,
        round=pending.round, attempt=pending.attempt, label=" + ".join(label_of(p) for p in pending.move),
        places=pending.move, text=_text(segment, kind), hint=_hint(kind, pending, changed),
        settings=one.settings if one else [], buttons=_buttons(segment, check),
        cautions=[CAUTIONS[c] for c in segment.stage.cautions], condition=segment.stage.condition,
        index=pending.number, total=len(order) or 1, upcoming=[" + ".join(label_of(p) for p in m) for m in following],
        limit_text=segment.item.limit_text if segment.item else None,
        unit=segment.item.unit if segment.item else None, check_round=check, changed_setting=changed)
