"""What a line of a manual would change in a plan: proposals beside the words they came from, each an act of the Bench."""
from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

from ..reading import Figure, Line, read_line
from ..rechecking import Schedule
from ..tables import lubricants
from ..units import show

Doc = dict[str, Any]
#: unit of a schedule -> (meter of a plan, unit it is written in, how many of them)
_METERS = {"km": ("km", "km", 1.0), "mi": ("km", "mi", 1.0), "h": ("h", "h", 1.0), "d": ("d", "d", 1.0), "weeks": ("d", "d", 7.0),
           "years": ("d", "d", 365.0), "cycles": ("cycles", "cycles", 1.0), "starts": ("starts", "starts", 1.0)}


@dataclass(frozen=True, slots=True)
class Proposal:
    """One thing a line says: the words it came from, what it would become, and the act that takes it over; no act where a plan
    has no place for it."""

    words: str
    says: str
    act: str = ""
    params: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Proposed:
    """What a line says to a plan, and the words that were not understood."""

    items: list[Proposal]
    left: list[str]


def _words(line: Line, text: str, *about: str) -> str:
    """The words of parts, in their order."""
    return " … ".join(dict.fromkeys(text[p.start:p.end].strip() for p in line.parts if p.about in about))


def _figure(one: Figure, text: str, group: str) -> Proposal:
    angle = "" if one.angle is None else f"{show(math.degrees(one.angle), 6)} deg"
    params = {"group": group, "angle": angle}
    if one.torque is not None:
        params |= dict(zip(("torque", "second"), one.texts, strict=False))
        says = " = ".join(one.texts)
        if one.pair_agrees is False:
            says += ", which do not agree"
        if one.low is not None and one.high is not None:
            says += f", from {show(one.low / 1e3, 4)} to {show(one.high / 1e3, 4)} N·m"
    elif len(one.ends) == 2:
        params |= {"low": one.ends[0], "high": one.ends[1]}
        says = f"from {one.ends[0]} to {one.ends[1]}"
    elif one.ends:
        params["most" if one.high is not None else "least"] = one.ends[0]
        says = f"{'at most' if one.high is not None else 'at least'} {one.ends[0]}"
    else:
        return Proposal(text[one.start:one.end], f"turn by {angle}: give the snug torque before it")
    says += f", then {angle}" if angle else ""
    return Proposal(text[one.start:one.end].strip(), f"a source that says {says}", "say_source",
                    {k: v for k, v in params.items() if v})


def _recheck(one: Schedule, words: str) -> Iterator[Proposal]:
    every = [(value, unit) for value, unit in one.every.ways] if one.every else []
    units = list(dict.fromkeys([p.unit for p in one.at] + [unit for _, unit in every]))
    for unit in units:
        at = [p for p in one.at if p.unit == unit]
        again = next(((value, u) for value, u in every if u == unit), None)
        says = ", ".join(p.words() for p in at) + (", then " if at and again else "")
        says += f"every {again[0]:g} {unit}" if again else ""
        if unit not in _METERS:
            yield Proposal(words, f"recheck {says}: no meter counts {unit}; write it in days")
            continue
        meter, written, times = _METERS[unit]
        params = {"meter": meter, "at": ", ".join(f"{p.value * times:g} {written}" for p in at),
                  "every": f"{again[0] * times:g} {written}" if again else ""}
        yield Proposal(words, f"recheck {says}", "take_recheck", {k: v for k, v in params.items() if v})


def _stage_of(document: Doc, group: str) -> str:
    """The stage in which a group comes to its full torque when it is fitted; a wheel is first seated while it hangs."""
    stages = [s for s in document.get("stages", []) if isinstance(s, dict) and s.get("kind") == "tighten"
              and group in (s.get("groups") or []) and "install" in (s.get("in") or ["install"])]
    return str(max(stages, key=_highest).get("id")) if stages else ""


def _highest(stage: Doc) -> float:
    """The highest share of a stage as typed; a method goes to the full torque."""
    shares = [p.get("percent") for p in stage.get("passes") or [] if isinstance(p, dict)]
    return max((float(s) for s in shares if isinstance(s, int | float)), default=0.0) if stage.get("passes") else 100.0


def _passes(line: Line, text: str, stage: str, angle: float | None) -> Proposal:
    """The passes that a line names; an angle makes the last of them after the torque, whether steps are named or not."""
    percents = line.percents or (100.0,)
    shares = ", ".join(f"{p:.3g} %" for p in percents)
    equal = " (their shares are not said: taken as equal)" if line.equal_steps else ""
    turn = "" if angle is None else f"{show(math.degrees(angle), 6)} deg"
    return Proposal(_words(line, text, "shares") or _words(line, text, "figure") or text.strip()[:60],
                    f"passes of {shares}{equal}{f', then {turn} at every bolt' if turn else ''}", "take_passes", {
                        k: v for k, v in (("stage", stage), ("percents", " ".join(f"{p:.4g}" for p in percents)),
                                          ("order", line.order or ""), ("check", "yes" if line.check_round else ""),
                                          ("angle", turn)) if v})


def propose(document: Doc, group: str, text: str) -> Proposed:
    """What a line says to a group of bolts of a plan."""
    line = read_line(text)
    out = [_figure(one, text, group) for one in line.figures]
    stage = _stage_of(document, group)
    angle = next((f.angle for f in line.figures if f.angle is not None and f.torque is not None), None)
    if (line.percents or angle is not None) and stage:
        out.append(_passes(line, text, stage, angle))
    elif (line.order or line.check_round) and stage:
        if line.order:
            out.append(Proposal(_words(line, text, "order"), f"all passes in {line.order} order", "take_order",
                                {"stage": stage, "order": line.order}))
        if line.check_round:
            out.append(Proposal(_words(line, text, "check round"), "a round that checks, at the end", "add_pass",
                                {"stage": stage, "listed": "check round"}))
    for one in line.rechecks:
        out += _recheck(one, _words(line, text, "recheck"))
    if line.lubricant is not None:
        name = lubricants.table()[line.lubricant].name
        out.append(Proposal(_words(line, text, "lubricant"), f"friction of “{name}”", "take_lubricant",
                            {"group": group, "lubricant": line.lubricant}))
    return Proposed(out, list(line.left))
