"""Walking passes: rounds, repeated pulls, angles, back-off, loosening, jacking screws."""
from __future__ import annotations

from ..documents.result import PassOut
from ..documents.run import TapeBand
from .fold import Given
from .items import reading_base
from .program import Segment, Unit, step_id
from .setup import in_hand
from .walk import Bolt, Fail, Pending, Walk, group_of

KINDS = {"hand": "hand", "snug": "snug", "feel": "feel", "torque": "pull", "angle": "angle", "back_off": "back_off",
         "gap_round": "gap", "loosen": "loosen", "jack": "jack", "wait": "wait"}


def band_of(walk: Walk, segment: Segment, one: PassOut, round_: int, total: int, answers: list[str]) -> TapeBand:
    """One band of the tape."""
    label = one.name if round_ == 1 else f"{one.name}, round {round_}"
    percent = one.percent if one.percent is not None else {"angle": 100.0, "gap_round": 70.0, "feel": 60.0}.get(one.do, 0.0)
    name = f"{segment.base()}/r{round_}"
    if len(segment.stage.groups) > 1:
        name = f"{name}/{one.group}"
    return TapeBand(id=name, label=label, position=segment.position, percent=percent, total=total, done=len(answers),
                    check=one.check, answers=answers)


def sketch(walk: Walk, unit: Unit, segment: Segment) -> None:
    """A pass that is still to come, for the tape."""
    one = segment.one
    if one is not None and one.order:
        walk.tape.append(band_of(walk, segment, one, 1, len(one.order), []))


def walk_wait(walk: Walk, unit: Unit, segment: Segment, one: PassOut) -> Pending | None:
    """A pause inside a stage."""
    found = walk.settle(segment.base(), None, None, None, lambda given: None)
    if found.given is None:
        return Pending(unit, segment, "wait", None, [], found.attempt, ready_at=walk.last_at + (one.wait_s or 0.0))
    walk.step_done(found.given, segment.position)
    if found.given.word == "skip":
        walk.deviate(step_id(segment.base(), None, None, found.attempt), "skipped", text=one.name,
                     reason=(found.given.answer or {}).get("reason", ""))
    return None


def walk_pass(walk: Walk, unit: Unit, segment: Segment) -> Pending | None:
    """One pass with all its rounds; later rounds exist once they are needed or have begun."""
    one = segment.one
    assert one is not None
    if one.do == "wait":
        return walk_wait(walk, unit, segment, one)
    if one.do == "feel":
        walk.provisional = True
    for round_ in range(1, one.rounds_max + 1):
        pending, moved = _walk_round(walk, unit, segment, one, round_)
        if pending is not None or one.until == "once":
            return pending
        begun = any(step_id(segment.base(), round_ + 1, None if m[0] == "-" else m[0], 1) in walk.log.answers for m in one.order)
        if not moved and not begun:
            return None
        if round_ == one.rounds_max and moved:
            code = "not_free" if one.do == "jack" else "rounds_exhausted"
            walk.deviate(f"{segment.base()}/r{round_}/-", code, name=one.name, max=one.rounds_max)
    return None


def _walk_round(walk: Walk, unit: Unit, segment: Segment, one: PassOut, round_: int) -> tuple[Pending | None, bool]:
    """(the open step of a round, if there is one; whether anything moved in it)."""
    answers: list[str] = []
    moved = False
    pending: Pending | None = None
    for number, move in enumerate(one.order, 1):
        pending, word = _walk_place(walk, unit, segment, one, round_, move, number)
        if pending is not None:
            break
        answers.append(word)
        moved |= word in ("turned", "not_yet")
    walk.tape.append(band_of(walk, segment, one, round_, len(one.order), answers))
    return pending, moved


def _walk_place(walk: Walk, unit: Unit, segment: Segment, one: PassOut, round_: int, move: list[str],
                number: int) -> tuple[Pending | None, str]:
    """One bolt (or bolts moved together) of a round: its pulls until it is done."""
    place = None if move[0] == "-" else move[0]
    most, still_wanted = one.repeat_max or 1, one.repeat_still or 0
    still, word = 0, ""
    for pull in range(1, most + 1):
        counted = pull if still_wanted else None
        found = walk.settle(segment.base(), round_, place, counted, lambda given: _judge(walk, one, move, given))
        if found.given is None:
            kind = "decision" if found.decision else KINDS[one.do]
            return Pending(unit, segment, kind, round_, move, found.attempt, number, counted, one.order, found.fail,
                           found.decision), ""
        word = found.given.word
        walk.step_done(found.given, segment.position)
        if one.settings:
            walk.in_hand = in_hand(walk.log.setup.settings_of(unit.stage, one)[0])
        step = step_id(segment.base(), round_, place, found.attempt, counted)
        _late(walk, unit, one, move, found.given, step)
        if found.fail is not None:
            walk.deviate(step, found.fail.code, reason=found.reason, **found.fail.params)
        elif word == "skip":
            walk.deviate(step, "skipped", text=f"bolt {walk.label(move[0])}, {one.name}",
                         reason=(found.given.answer or {}).get("reason", ""))
        _mark(walk, segment, one, round_, move, word, step, found.fail is not None or word == "skip")
        still = still + 1 if word == "did_not_turn" else 0
        if not still_wanted or still >= still_wanted or found.fail is not None or word == "skip":
            return None, word
    walk.deviate(step_id(segment.base(), round_, place, 1), "pulls_exhausted", label=walk.label(move[0]), max=most, name=one.name)
    return None, word


def _judge(walk: Walk, one: PassOut, move: list[str], given: Given) -> Fail | None:
    """Whether an answer at a bolt is a stop condition."""
    label = walk.label(move[0])
    if given.word == "refuses":
        return Fail("refuses", {"label": label, "name": one.name})
    if given.word == "turns_on":
        return Fail("turns_on", {"label": label, "name": one.name}, ("replace", "accept"))
    if given.word == "stopped_early":
        return Fail("stopped_early", {"label": label, "name": one.name})
    angle = ((given.answer or {}).get("reading") or {}).get("angle")
    if one.do == "angle" and one.window_deg is not None and isinstance(angle, str):
        turned = reading_base(angle, "angle")
        low, high = one.window_deg
        if turned is not None and not low <= round(turned * 57.29577951308232, 3) <= high:
            return Fail("out_of_window", {"label": label, "name": one.name, "value": angle,
                                          "window": f"{low:g}° to {high:g}°"}, ("replace", "accept"))
    return None


def _late(walk: Walk, unit: Unit, one: PassOut, move: list[str], given: Given, step: str) -> None:
    """A pull after the compound has set breaks the bond."""
    clock = walk.clock_for(unit)
    if clock is not None and one.do in ("torque", "angle") and given.fact.happened > clock[1] and given.word != "skip":
        walk.deviate(step, "set_too_late", label=walk.label(move[0]), name=one.name, what=clock[0])


def _mark(walk: Walk, segment: Segment, one: PassOut, round_: int, move: list[str], word: str, step: str, failed: bool) -> None:
    """What an answer means for the bolts of a move."""
    for place in move:
        if place == "-":
            continue
        bolt = walk.bolt(segment.position, place)
        before = bolt.percent
        _load(walk, bolt, one, place)
        if failed:
            bolt.state = "deviating"
        elif one.do == "torque" and word == "did_not_turn" and round_ == 1 and not one.check and not one.repeat_still \
                and bolt.percent > before > 0:
            bolt.state = "deviating"
            walk.deviate(step, "did_not_turn", label=walk.label(place), name=one.name)
        elif bolt.state == "deviating" and one.do not in ("loosen", "hand"):
            continue
        elif one.check and one.do == "torque":
            bolt.state = "moved" if word == "turned" else "checked"
        else:
            bolt.state = _state(one, bolt)


def _load(walk: Walk, bolt: Bolt, one: PassOut, place: str) -> None:
    """Share of the target a bolt has after a pass, for the fill of its hexagon."""
    if one.do == "torque":
        group = group_of(walk.result, place)
        angled = group is not None and group.target is not None and group.target.angle_deg is not None
        bolt.percent = max(bolt.percent, (one.percent or 0.0) * (0.5 if angled else 1.0))
    elif one.do == "angle":
        bolt.percent = 100.0
    elif one.do == "feel":
        bolt.percent = max(bolt.percent, 60.0)
    elif one.do == "back_off":
        bolt.percent = 8.0
    elif one.do == "loosen":
        bolt.percent /= 2


def _state(one: PassOut, bolt: Bolt) -> str:
    if one.do == "loosen":
        return "loose"
    if one.do in ("hand", "snug", "back_off"):
        return "hand"
    return "full" if bolt.percent >= 100 else "part"
