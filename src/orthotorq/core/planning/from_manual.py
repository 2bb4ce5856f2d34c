"""What a line of a manual would change in a plan: proposals beside the words they came from, each
an act of the Bench."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

from ..forms.as_typed import mapping, mappings, words
from ..reading import Figure, Line, read_line
from ..rechecking import Schedule
from ..tables import lubricants
from ..units import show

Doc = dict[str, Any]
#: unit of a schedule -> (meter of a plan, unit it is written in, how many of them)
_METERS = {
    "km": ("km", "km", 1.0),
    "mi": ("km", "mi", 1.0),
    "h": ("h", "h", 1.0),
    "d": ("d", "d", 1.0),
    "weeks": ("d", "d", 7.0),
    "years": ("d", "d", 365.0),
    "cycles": ("cycles", "cycles", 1.0),
    "starts": ("starts", "starts", 1.0),
}
#: percent of a figure above which a number in a draft is no share
_MOST_PERCENT = 1e6


@dataclass(frozen=True, slots=True)
class Proposal:
    """One thing a line says: the words it came from, what it would become, and the act that takes
    it over; no act where a plan has no place for it. Of those with the same `either` one is
    meant."""

    words: str
    says: str
    act: str = ""
    params: dict[str, str] = field(default_factory=dict)
    either: str = ""


@dataclass(frozen=True, slots=True)
class Marked:
    """Words of the line, where they stand, and what they were read as; nothing for what was not
    used."""

    start: int
    end: int
    about: str


@dataclass(frozen=True, slots=True)
class Proposed:
    """What a line says to a plan, the words that were not used, and every word that was, marked."""

    items: list[Proposal]
    left: list[str]
    marks: list[Marked] = field(default_factory=list)


def _words(line: Line, text: str, *about: str) -> str:
    """The words of parts, in their order."""
    found = (text[p.start : p.end].strip() for p in line.parts if p.about in about)
    return " … ".join(dict.fromkeys(found))


def _degrees(angle: float) -> str:
    return f"{show(math.degrees(angle), 6)} deg"


def _other_size(one: Figure, thread: str) -> bool:
    """Whether a figure is said for a size that these bolts do not have."""

    def plain(name: str) -> str:
        return re.sub(r"[\s.]|x\d.*$|un[a-z]*", "", name.lower())

    return one.thread is not None and bool(thread) and plain(one.thread) != plain(thread)


def _said(one: Figure) -> tuple[str, dict[str, str]]:
    """(what a figure says in words, as a source has it)."""
    if one.torque is not None:
        params = dict(zip(("torque", "second"), one.texts, strict=False))
        says = " = ".join(one.texts)
        if one.pair_agrees is False:
            says += ", which do not agree"
        if one.low is not None and one.high is not None:
            says += f", from {show(one.low / 1e3, 4)} to {show(one.high / 1e3, 4)} N·m"
        return says, params
    if len(one.ends) == 2:
        return f"from {one.ends[0]} to {one.ends[1]}", {"low": one.ends[0], "high": one.ends[1]}
    if one.ends:
        most = one.high is not None
        says = f"{'at most' if most else 'at least'} {one.ends[0]}"
        return says, {"most" if most else "least": one.ends[0]}
    if one.yields:
        return f"{one.yields[-1]:g} % of yield", {"of_yield": f"{one.yields[-1]:g} %"}
    return "", {}


def _figure(one: Figure, text: str, group: str, thread: str) -> Proposal:
    angle = "" if one.angle is None else _degrees(one.angle)
    says, params = _said(one)
    stands = text[one.start : one.end].strip()
    if not params:
        return Proposal(stands, f"turn by {angle}: give the snug torque before it")
    says += f", then {angle}" if angle else ""
    says += f", with {lubricants.table()[one.lubricant].name}" if one.lubricant else ""
    if _other_size(one, thread):
        return Proposal(stands, f"{says}: for {one.thread}, these bolts are {thread}")
    params = {"group": group, **params, "angle": angle}
    given = {k: v for k, v in params.items() if v}
    return Proposal(stands, f"a source that says {says}", "say_source", given)


def _asked(line: Line, text: str, group: str) -> Iterator[Proposal]:
    """Words with two readings, both of them: nobody chooses here."""
    for question in line.asked:
        said = text[question.start : question.end].strip()
        for reading in question.readings:
            low, _, high = reading.partition(" to ")
            params = {"low": low, "high": high} if high else {"torque": reading}
            what = f"{'a source that says '}{f'from {low} to {high}' if high else reading}"
            yield Proposal(said, what, "say_source", {"group": group, **params}, said)


def _recheck(one: Schedule, said: str) -> Iterator[Proposal]:
    every = [(value, unit) for value, unit in one.every.ways] if one.every else []
    units = list(dict.fromkeys([p.unit for p in one.at] + [unit for _, unit in every]))
    for unit in units:
        at = [p for p in one.at if p.unit == unit]
        again = next(((value, u) for value, u in every if u == unit), None)
        says = ", ".join(p.words() for p in at) + (", then " if at and again else "")
        says += f"every {again[0]:g} {unit}" if again else ""
        if unit not in _METERS:
            yield Proposal(said, f"recheck {says}: no meter counts {unit}; write it in days")
            continue
        meter, written, times = _METERS[unit]
        params = {
            "meter": meter,
            "at": ", ".join(f"{p.value * times:g} {written}" for p in at),
            "every": f"{again[0] * times:g} {written}" if again else "",
        }
        yield Proposal(
            said, f"recheck {says}", "take_recheck", {k: v for k, v in params.items() if v}
        )


def _stage_of(document: Doc, group: str) -> str:
    """The stage in which a group comes to its full torque when it is fitted; a wheel is first
    seated while it hangs."""
    stages = [
        s
        for s in mappings(document.get("stages"))
        if s.get("kind") == "tighten"
        and group in words(s.get("groups"))
        and "install" in (words(s.get("in")) or ["install"])
    ]
    return str(max(stages, key=_highest).get("id")) if stages else ""


def _highest(stage: Doc) -> float:
    """The highest share of a stage as typed; a method goes to the full torque."""
    shares = [p.get("percent") for p in mappings(stage.get("passes"))]
    # what is no share of anything says nothing; figures too large to hold are none
    return (
        max(
            (float(s) for s in shares if isinstance(s, int | float) and abs(s) < _MOST_PERCENT),
            default=0.0,
        )
        if stage.get("passes")
        else 100.0
    )


def _passes(
    line: Line, text: str, stage: str, percents: tuple[float, ...], turns: tuple[float, ...]
) -> Proposal:
    """The passes that a line names; angles make the last of them after the torque, whether steps
    are named or not."""
    shares = ", ".join(f"{p:.3g} %" for p in percents)
    equal = " (their shares are not given: taken as equal)" if line.equal_steps else ""
    angles = ", ".join(_degrees(one) for one in turns)
    said = (
        _words(line, text, "shares") or _words(line, text, "figure", "yield") or text.strip()[:60]
    )
    params = {
        "stage": stage,
        "percents": " ".join(f"{p:.4g}" for p in percents),
        "order": line.order or "",
        "check": "yes" if line.check_round else "",
        "angles": angles,
    }
    says = f"passes of {shares}{equal}{f', then {angles} at every bolt' if angles else ''}"
    return Proposal(said, says, "take_passes", {k: v for k, v in params.items() if v})


def _work(line: Line, text: str, stage: str, group: str) -> Iterator[Proposal]:
    """What a line says of the passes of a stage."""
    turns = next((f.angles for f in line.figures if f.angles and f.torque is not None), ())
    shares = line.percents
    if yields := next(
        (f.yields for f in line.figures if len(f.yields) > 1 and f.torque is None), ()
    ):
        shares = shares or tuple(100 * y / yields[-1] for y in yields)
    if shares or turns:
        yield _passes(line, text, stage, shares or (100.0,), turns)
    elif line.order:
        params = {"stage": stage, "order": line.order}
        yield Proposal(
            _words(line, text, "order"), f"all passes in {line.order} order", "take_order", params
        )
    if line.check_round and not (shares or turns):
        params = {"stage": stage, "listed": "check round"}
        yield Proposal(
            _words(line, text, "check round"), "a round that checks, at the end", "add_pass", params
        )
    if line.sequence:
        numbers = " ".join(map(str, line.sequence))
        params = {"stage": stage, "group": group, "text": numbers, "passes": "*"}
        yield Proposal(
            _words(line, text, "sequence"), f"a custom sequence: {numbers}", "set_sequence", params
        )
    if line.back_off is not None:
        turn = _degrees(line.back_off)
        says = f"a pass that backs off by {turn}, put last: move it to where it belongs"
        yield Proposal(
            _words(line, text, "back off"), says, "take_pause", {"stage": stage, "turn": turn}
        )
    if line.wait is not None:
        minutes = f"{line.wait:g} min"
        says = f"a wait of {minutes}, put last: move it to where it belongs"
        yield Proposal(
            _words(line, text, "wait"), says, "take_pause", {"stage": stage, "wait": minutes}
        )


def _thread_of(document: Doc, group: str) -> str:
    found = next((g for g in mappings(document.get("groups")) if g.get("id") == group), {})
    return str(mapping(found.get("fastener")).get("thread") or "")


def propose(document: Doc, group: str, text: str) -> Proposed:
    """What a line says to a group of bolts of a plan."""
    line, thread = read_line(text), _thread_of(document, group)
    out = [_figure(one, text, group, thread) for one in line.figures]
    out += _asked(line, text, group)
    stage = _stage_of(document, group)
    if stage:
        out += _work(line, text, stage, group)
    for one in line.rechecks:
        out += _recheck(one, _words(line, text, "recheck"))
    mine = [f for f in line.figures if not _other_size(f, thread)]
    named = list(dict.fromkeys(f.lubricant for f in mine if f.lubricant is not None))
    for name in named if len(named) > 1 else [line.lubricant] if line.lubricant else []:
        says = f"friction of “{lubricants.table()[name].name}”"
        params = {"group": group, "lubricant": name}
        either = "friction" if len(named) > 1 else ""
        out.append(
            Proposal(_words(line, text, "lubricant"), says, "take_lubricant", params, either)
        )
    if line.new_fasteners:
        says = "new fasteners each time, used once"
        out.append(
            Proposal(
                _words(line, text, "new fasteners"), says, "take_new_fasteners", {"group": group}
            )
        )
    parts = sorted((*line.parts, *line.unused), key=lambda p: p.start)
    marks = [Marked(p.start, p.end, p.about) for p in parts if p.end > p.start]
    return Proposed(out, list(line.left), marks)
