"""The instruction for a pending step: what to do, on which bolt, with what set, and which answers
are offered."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from ...forms.run import Ahead, Button, Instruction
from ...forms.stage import LookOut, PassOut
from ...kinds.pass_kind import At
from ...kinds.prompts import RESUME, Choice
from ...kinds.recorded_fields import AskedFor, recorded_words
from ...kinds.registry import ANSWERS, PASS_KINDS
from ...planning.cautions import CAUTIONS
from ..log.setup import in_hand
from ..log.step_id import step_id
from .measured import devices_for
from .pending import Pending
from .program import again_by
from .reading_relations import reading_hint
from .reasons import reason_of
from .step_walker import Walk
from .texts import FINISHES, GO_TO, NO_IMPACT, REDO, REPEAT, SET, UNTIMED, fail_texts

#: steps that a stage is not done again from: what is not met is not met there either
_NOT_FROM = ("condition",)


@dataclass(frozen=True, slots=True)
class _Would:
    """An answer that may be given."""

    word: str
    answer: dict[str, Any] | None = None


def can_redo(pending: Pending) -> bool:
    """Whether a stage may be done again from a step."""
    return pending.kind not in _NOT_FROM


def button(choice: Choice, leaves: LookOut | None = None) -> Button:
    """An answer as a button."""
    return Button(
        answer=choice.word,
        label=choice.label,
        key=choice.key,
        follows=choice.follows,
        reason=choice.reason,
        back=choice.back,
        leaves=leaves,
    )


def choices_of(pending: Pending) -> list[Button]:
    """Answers that an earlier one may become in a correction: those without a reason or a reading
    of their own."""
    return [
        button(c)
        for c in (*pending.ask.choices, *pending.ask.wrong)
        if c.word not in ("accept", "value", "cap")
    ]


def _leaves(walk: Walk, pending: Pending, choice: Choice) -> LookOut | None:
    """How the bolts of a step look after an answer."""
    one, place = pending.segment.one, pending.place
    if one is None or place is None or pending.fail is not None or not choice.follows:
        return None
    group = walk.group(place)
    angled = group is not None and group.target is not None and group.target.angle_deg is not None
    look = PASS_KINDS[one.do].after(
        walk.bolt(pending.segment.position, place),
        _Would(choice.word),
        At(one, pending.round or 1, pending.pull, angled),
        False,
    )
    return LookOut(state=look.state, percent=look.percent)


def what_of(walk: Walk, pending: Pending) -> str:
    """A step in words: the bolt, or the item."""
    if pending.ask is RESUME:
        return "all as it was left"
    segment, places = pending.segment, [p for p in pending.move if p != "-"]
    if places:
        return f"bolt {walk.named(segment.position, *places)}"
    return (
        segment.item.text
        if segment.item
        else segment.one.name
        if segment.one
        else ", ".join(segment.condition)
    )


def failure_words(walk: Walk, pending: Pending) -> str:
    """What failed, and how."""
    assert pending.fail is not None
    segment = pending.segment
    label = f"Bolt {walk.named(segment.position, *pending.move)}, " if pending.place else ""
    what = (
        segment.item.text
        if segment.item
        else segment.one.name
        if segment.one
        else ", ".join(segment.condition)
    )
    return f"{label}{what}: {fail_texts()[pending.fail.code][0].format(**pending.fail.params)}"


def _text(walk: Walk, pending: Pending) -> str:
    segment, one = pending.segment, pending.segment.one
    if pending.ask is RESUME:
        left = [
            *segment.condition,
            *walk.fitted.values(),
            *dict.fromkeys(t.serial for t in walk.log.setup.tools),
        ]
        return RESUME.instruction.format(left=", ".join([*dict.fromkeys(left), "all bolts"]))
    if pending.fail is not None:
        return f"{failure_words(walk, pending)}. {pending.ask.instruction}"
    if segment.item is not None:
        return segment.item.text
    if one is None:
        return ", ".join(segment.condition)
    turn = PASS_KINDS[one.do].short_turn(one)
    return (
        f"Finish the turn: {turn} in all."
        if pending.finishes
        else pending.ask.instruction.format(turn=turn)
    )


def _hint(walk: Walk, pending: Pending, clock: tuple[str, float, str] | None) -> str:
    one = pending.segment.one
    if (
        clock is not None
        and walk.now > clock[1]
        and one is not None
        and PASS_KINDS[one.do].pulls
        and pending.fail is None
    ):
        return SET
    if pending.fail is not None:
        return fail_texts()[pending.fail.code][1]
    if pending.ask.timed and pending.ready_at is None:
        return UNTIMED
    if pending.finishes:
        return FINISHES
    if (beside := reading_hint(walk, pending.unit, pending.segment)) and pending.decision is None:
        return beside
    if pending.out_of_turn:
        return pending.out_of_turn
    if pending.unit.cycle > 1 and pending.number == 1 and pending.kind not in ("condition", "item"):
        return REDO
    if pending.attempt > 1 and pending.unit.cycle == 1 and one is not None:
        return REPEAT
    return pending.ask.hint


def _ahead(walk: Walk, pending: Pending) -> list[Ahead]:
    """The later bolts of the same round, for walking on without network: only first attempts
    without an answer."""
    one = pending.segment.one
    plain = pending.fail is None and any(c.follows for c in pending.ask.choices)
    if one is None or not plain or one.repeat_still or pending.slackens or not pending.place:
        return []
    out = []
    base, again = pending.segment.base(), again_by(pending.order)
    first = (pending.round or 1) - again[pending.number - 1]
    for number, move in enumerate(pending.order[pending.number :], pending.number):
        used = walk.used.get(step_id(base, first + again[number], move[0]), 0)
        step = step_id(base, first + again[number], move[0], used + 1)
        if step in walk.log.answers:
            break
        out.append(
            Ahead.model_construct(
                step=step, places=list(move), label=" + ".join(walk.label(p) for p in move)
            )
        )
    return out


def _entry(pending: Pending) -> Literal["buttons", "reading", "decision"]:
    if pending.decision is not None and pending.ask is not RESUME:
        return "decision"
    return "reading" if any(c.word == "value" for c in pending.ask.choices) else "buttons"


_NO_PASS: Mapping[str, Any] = {
    "pass_name": None,
    "do": None,
    "turn_deg": None,
    "window_deg": None,
    "turn_text": "",
    "turn_back": False,
    "turn_note": "",
    "settings": [],
    "changed_setting": False,
    "before_each": None,
}


def _new_in_hand(walk: Walk) -> bool:
    """Whether a wrench was changed since the last answer."""
    last = walk.log.order[-1].fact.sequence if walk.log.order else 0
    return any(change is not None and change.sequence > last for _, change in walk.log.hands)


def _about_pass(walk: Walk, pending: Pending, one: PassOut | None) -> Mapping[str, Any]:
    """What only a pass has: name, turn, setting."""
    if one is None:
        return _NO_PASS
    kind = PASS_KINDS[one.do]
    settings = walk.log.setup.settings_of(pending.unit.stage, one)
    return {
        "pass_name": one.name,
        "do": one.do,
        "turn_deg": one.turn_deg,
        "window_deg": one.window_deg,
        "turn_text": kind.short_turn(one),
        "turn_back": kind.back,
        "turn_note": kind.turn_note(one),
        "settings": settings,
        "changed_setting": bool(
            settings and (in_hand(settings[0]) != walk.in_hand or _new_in_hand(walk))
        ),
        "before_each": one.before_each if (pending.pull or 1) == 1 else None,
    }


def _wanted(pending: Pending) -> Mapping[str, Any]:
    """What a reading must be."""
    item, one = pending.segment.item, pending.segment.one
    if item is not None:
        return {
            "limit_text": item.limits or None,
            "unit": item.unit,
            "quantity": item.quantity,
            "gauge": item.gauge,
        }
    limit = PASS_KINDS[one.do].limit_words(one) if one is not None else None
    gap = pending.ask.wanted == "length"
    return {
        "limit_text": limit,
        "unit": "mm" if gap else None,
        "quantity": pending.ask.wanted,
        "gauge": None,
    }


def still_asked(walk: Walk, pending: Pending) -> list[AskedFor]:
    """What is recorded with the answer of a step; a photo that was taken there is there."""
    item = pending.segment.item
    if item is None or pending.decision is not None:
        return []
    taken = any(f.kind == "photo" and f.step == pending.step for f in walk.log.others)
    return [what for what in item.asks if what != "photo" or not taken]


def _socket(walk: Walk, pending: Pending) -> str:
    """What goes on the head, where something is turned with a tool."""
    group = walk.group(pending.place) if pending.place else None
    one = pending.segment.one
    turned = one is not None and pending.decision is None and not PASS_KINDS[one.do].by_fingers
    return group.socket if group is not None and turned else ""


def _last_gap(walk: Walk, pending: Pending) -> str:
    """The gap measured last at this bolt, where gaps are drawn."""
    gap = walk.bolt(pending.segment.position, pending.place).gap if pending.place else None
    return f"last here {gap:g} mm" if gap is not None and pending.ask.wanted == "length" else ""


def _go_to(walk: Walk, position: str | None) -> str:
    """The position to go to first, where the last answer was given at another one: no second tap
    answers there unseen."""
    names = {p.id: p.name for p in walk.result.positions}
    moved = (
        len(names) > 1 and position is not None and walk.last_at_position not in (None, position)
    )
    return GO_TO.format(position=names[position].upper()) if moved and position in names else ""


def _no_impact(pending: Pending) -> str:
    """Said at the first bolt of a pass that no impact tool may touch."""
    stage, one = pending.unit.stage, pending.segment.one
    first = (
        one is not None
        and pending.number == 1
        and PASS_KINDS[one.do].wrenched
        and pending.fail is None
    )
    return NO_IMPACT if first and stage.impact == "never" else ""


def instruction_for(walk: Walk, pending: Pending) -> Instruction:
    """Everything the Run screen shows for one step."""
    segment, one, stage, ask = pending.segment, pending.segment.one, pending.unit.stage, pending.ask
    clock = walk.clock_for(pending.unit)
    order, labels = pending.order, [walk.label(p) for p in pending.move if p != "-"]
    text, hint = _text(walk, pending), _hint(walk, pending, clock)
    buttons = [button(c, _leaves(walk, pending, c)) for c in ask.choices]
    exception = next((c for c in (*ask.choices, *ask.wrong) if c.word == ask.exception), None)
    return Instruction.model_construct(
        step=pending.step,
        kind=pending.kind,
        position=next((p.name for p in walk.result.positions if p.id == segment.position), None),
        go_to=_go_to(walk, segment.position),
        stage=stage.title,
        stage_id=stage.id,
        round=pending.round,
        pull=pending.pull,
        attempt=pending.attempt,
        label=" + ".join(labels),
        places=[p for p in pending.move if p != "-"],
        text=text,
        hint=hint if hint != text else "",
        watch_for=stage.watch_for,
        note=" ".join(n for n in (one.note if one else "", stage.note, _no_impact(pending)) if n),
        buttons=buttons,
        why=reason_of(pending),
        cautions=[CAUTIONS[c] for c in stage.cautions],
        condition=segment.condition,
        index=pending.number,
        total=len(order) or 1,
        upcoming=[
            " + ".join(walk.label(p) for p in m) for m in order[pending.number : pending.number + 2]
        ],
        shows="label" if pending.fail is not None else ask.shows,
        entry=_entry(pending),
        exception=button(exception) if exception is not None else None,
        ready_at=pending.ready_at,
        deadline=clock[1] if clock else None,
        check_round=ask.proves and pending.fail is None,
        asks=still_asked(walk, pending),
        devices=devices_for(walk, pending),
        socket=_socket(walk, pending),
        last_gap=_last_gap(walk, pending),
        wrong=[button(c) for c in ask.wrong],
        ahead=_ahead(walk, pending),
        **_about_pass(walk, pending, one),
        **_wanted(pending),
    )


def answer_text(answer: dict[str, Any] | None, pending: Pending | None = None) -> str:
    """An answer in words, as screen and record show it; in the words of its step, where that is
    known."""
    if answer is None:
        return "taken back"
    word = str(answer.get("answer"))
    more = f", {recorded}" if (recorded := recorded_words(answer)) else ""
    if word in ("value", "cap") and answer.get("value"):
        return str(answer.get("value")) + (" (cap)" if word == "cap" else "") + more
    if word in ("skip", "accept"):
        return (
            f"{ANSWERS[word]}: {answer.get('reason', '')}"
            if answer.get("reason")
            else ANSWERS[word]
        )
    said = (
        next((c.label for c in (*pending.ask.choices, *pending.ask.wrong) if c.word == word), None)
        if pending
        else None
    )
    return (said or ANSWERS.get(word, word)) + more
