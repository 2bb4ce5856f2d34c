"""The instruction for a pending step: what to do, on which bolt, with what set, and which answers are offered."""
from __future__ import annotations

from ..documents.result import PassOut
from ..documents.run import Ahead, Button, Instruction
from ..planning.cautions import CAUTIONS
from .program import step_id
from .setup import in_hand
from .texts import ANSWERS, FAILS, HINTS, INSTRUCTIONS, KEYS, WORDS
from .walk import Pending, Walk

#: answers a kind of step takes; the first is the usual one
_OFFERED: dict[str, tuple[str, ...]] = {
    "condition": ("done", "not_good"), "item": ("done",), "check": ("good", "not_good"), "reading": ("value",),
    "wait": ("done",), "watch": ("still", "moved"), "hand": ("done", "refuses", "not_sure"), "snug": ("done", "not_sure"),
    "feel": ("done", "not_sure"), "pull": ("turned", "did_not_turn", "not_sure"),
    "angle": ("turned", "stopped_early", "not_sure"),
    "back_off": ("done", "not_sure"), "gap": ("value", "cap"), "loosen": ("done", "refuses"), "jack": ("not_yet", "free"),
    "decision": ("repair", "replace", "accept"),
}
#: answers that say what is wrong with a bolt, behind “something is wrong”
_WRONG: dict[str, tuple[str, ...]] = {
    "pull": ("turns_on", "refuses"), "angle": ("turns_on", "refuses"), "gap": ("refuses",), "snug": ("refuses",),
    "feel": ("refuses",), "back_off": ("refuses",)}
#: kinds of step that may be skipped with a reason; taking out what was fitted may not
_SKIPPED = ("item", "check", "reading", "wait", "watch", "hand", "snug", "pull", "angle", "gap", "loosen")


def is_check(pending: Pending) -> bool:
    """Whether a pull proves rather than tightens: in a check round, and in repeated pulls after the first."""
    one = pending.segment.one
    return bool(one and one.do == "torque" and (one.check or (pending.pull or 1) > 1))


def offered(pending: Pending) -> tuple[str, ...]:
    """Answers a step takes; any other is refused."""
    if pending.kind == "decision" and pending.fail is not None:
        return pending.fail.choices
    out = _OFFERED[pending.kind] + _WRONG.get(pending.kind, ())
    return (*out, "skip") if can_skip(pending) else out


def can_skip(pending: Pending) -> bool:
    """Whether a step may be skipped with a reason."""
    return pending.kind in _SKIPPED and pending.unit.stage.kind != "remove"


def words_kind(pending: Pending) -> str:
    """The kind whose words an answer has."""
    return "check_pull" if is_check(pending) else pending.kind


def _button(word: str, kind: str) -> Button:
    keys = {**KEYS, "did_not_turn": "space", "turned": "m"} if kind == "check_pull" else KEYS
    return Button(answer=word, label=WORDS.get(kind, {}).get(word) or ANSWERS[word], key=keys[word])


def _buttons(pending: Pending) -> list[Button]:
    kind = words_kind(pending)
    if pending.kind == "decision" and pending.fail is not None:
        return [_button(w, "decision") for w in pending.fail.choices]
    # in a check the usual answer is that nothing moved: it gets the large button and the space bar
    words = ("did_not_turn", "turned", "not_sure") if kind == "check_pull" else _OFFERED[pending.kind]
    return [_button(w, kind) for w in words]


def _turn(one: PassOut | None) -> str:
    """A turn in words: whole turns as turns, everything else in degrees."""
    if one is None or one.turn_deg is None:
        return ""
    turns, rest = divmod(one.turn_deg, 360.0)
    return f"{one.turn_deg:g}°" if rest or not turns else f"{turns:g} turn{'' if turns == 1 else 's'}"


def _text(walk: Walk, pending: Pending) -> str:
    segment, one = pending.segment, pending.segment.one
    if pending.kind == "decision" and pending.fail is not None:
        label = f"Bolt {' + '.join(walk.label(p) for p in pending.move)}, " if pending.move and pending.move[0] != "-" else ""
        what = segment.item.text if segment.item else one.name if one else ""
        wrong = FAILS[pending.fail.code][0].format(**pending.fail.params)
        return f"{label}{what}: {wrong}. {INSTRUCTIONS['decision']}"
    if segment.item is not None:
        return segment.item.text
    if one is None:
        return ", ".join(segment.stage.condition)
    kind = "pull_repeat" if (pending.pull or 1) > 1 else "pull_check" if is_check(pending) else pending.kind
    return INSTRUCTIONS[kind].format(turn=_turn(one))


def slackens(walk: Walk, pending: Pending) -> bool:
    """Whether a bolt is slackened before it is pulled: by the plan, or because this run's history is unknown."""
    one = pending.segment.one
    if one is None or one.do != "torque" or (pending.pull or 1) > 1 or (pending.round or 1) > 1:
        return False
    return one.slacken_first or (walk.log.setup.history == "unknown" and one.check and walk.log.setup.occasion == "recheck")


def _hint(walk: Walk, pending: Pending) -> str:
    one, kind = pending.segment.one, pending.kind
    if kind == "decision" and pending.fail is not None:
        return FAILS[pending.fail.code][1]
    if pending.unit.cycle > 1 and pending.number == 1 and kind not in ("condition", "item"):
        return HINTS["redo"]
    if pending.attempt > 1 and pending.unit.cycle == 1 and one is not None:
        return HINTS["repeat"]
    if kind == "pull":
        if slackens(walk, pending):
            return HINTS["slacken"]
        return HINTS["pull_check"] if is_check(pending) else HINTS["pull"]
    if kind == "angle" and one is not None:
        return HINTS[f"angle_{(one.read_by or 'angle disc').split()[-1] if one.read_by != 'electronic wrench' else 'electronic'}"]
    return HINTS.get(kind, INSTRUCTIONS.get(kind, "").format(turn=_turn(one)) if kind not in ("item", "check", "reading") else "")


def _ahead(walk: Walk, pending: Pending) -> list[Ahead]:
    """The later bolts of the same round, for walking on without network: only first attempts without an answer."""
    one = pending.segment.one
    if one is None or pending.kind in ("decision", "gap", "jack", "wait") or one.repeat_still:
        return []
    out = []
    base = pending.segment.base()
    for move in pending.order[pending.number :]:
        used = walk.used.get(step_id(base, pending.round, move[0], 1), 0)
        step = step_id(base, pending.round, move[0], used + 1)
        if step in walk.log.answers:
            break
        out.append(Ahead.model_construct(step=step, places=move, label=" + ".join(walk.label(p) for p in move)))
    return out


def instruction_for(walk: Walk, pending: Pending) -> Instruction:
    """Everything the Run screen shows for one step."""
    segment, one, stage = pending.segment, pending.segment.one, pending.unit.stage
    item = segment.item
    settings = walk.log.setup.settings_of(stage, one) if one else []
    changed = bool(settings and in_hand(settings[0]) != walk.in_hand)
    order = pending.order
    clock = walk.clock_for(pending.unit)
    labels = [walk.label(p) for p in pending.move if p != "-"]
    following = [" + ".join(walk.label(p) for p in m) for m in order[pending.number : pending.number + 2]]
    text, hint = _text(walk, pending), _hint(walk, pending)
    if clock is not None and walk.now > clock[1] and pending.kind in ("pull", "angle"):
        hint = HINTS["set"]
    return Instruction.model_construct(
        step=pending.step, kind=pending.kind,  # type: ignore[arg-type]
        position=next((p.name for p in walk.result.positions if p.id == segment.position), None), stage=stage.title,
        stage_id=stage.id, pass_name=one.name if one else None, do=one.do if one else None, round=pending.round,
        pull=pending.pull, attempt=pending.attempt, label=" + ".join(labels), places=[p for p in pending.move if p != "-"],
        text=text, hint=hint if hint != text else "", before_each=one.before_each if one and (pending.pull or 1) == 1 else None,
        watch_for=stage.watch_for, note=" ".join(n for n in (one.note if one else "", stage.note) if n), settings=settings,
        buttons=_buttons(pending), cautions=[CAUTIONS[c] for c in stage.cautions], condition=stage.condition,
        index=pending.number, total=len(order) or 1, upcoming=following, limit_text=item.limit_text if item else _gap_words(one),
        unit=item.unit if item else "mm" if pending.kind == "gap" else None,
        quantity=item.quantity if item else "length" if pending.kind == "gap" else None, gauge=item.gauge if item else None,
        turn_deg=one.turn_deg if one else None, window_deg=one.window_deg if one else None, read_by=one.read_by if one else None,
        ready_at=pending.ready_at, deadline=clock[1] if clock else None, check_round=is_check(pending), changed_setting=changed,
        can_skip=can_skip(pending), can_redo=pending.kind not in ("condition", "decision"),
        wrong=[_button(w, pending.kind) for w in _WRONG.get(pending.kind, ())], ahead=_ahead(walk, pending))


def _gap_words(one: PassOut | None) -> str | None:
    if one is None or one.do != "gap_round":
        return None
    return f"stop at {one.stop_at_mm:g} mm; gaps at most {one.max_spread_mm:g} mm apart"
