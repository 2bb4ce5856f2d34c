"""Turns in a line: after a torque or alone, one after the other, back, and in several steps."""

from __future__ import annotations

import math
import re
from dataclasses import replace

from ..errors import OrthotorqError
from ..units import read_number
from .torques import Figure
from .words import GONE, Words, any_of, english

_TIMES = {"twice": 2, "three times": 3, "four times": 4}
_MOST_TURNS = 12
_OFF = (
    r"\s*[(\[]?\s*(?:±|\+\s?/\s?-|plus or minus)\s*\d[\d.]*\s*(?:°|deg(?:rees?)?(?![\w]))?\s*[)\]]?"
)


def _pattern() -> re.Pattern[str]:
    patterns = english()
    shares, counted = patterns["turns"], "|".join(patterns["numbers"])
    unit = (
        r"(?P<unit>°(?!\s*[cf]\b)|deg(?:rees?)?\b\.?(?!\s*[cf]\b)|turns?\b"
        r"|rev(?:olution)?s?\b|flats?\b)"
    )
    number = (
        rf"(?P<n>(?:\d|{counted}) and (?:a|one) (?:half|quarter|third)|\d+[ -]\d/\d|\d/\d|\d*[½¼¾]"
        rf"|\d+(?:\.\d+)?|{counted})"
    )
    return re.compile(
        rf"(?<![\w./,])(?:(?:(?:(?P<times>\d|{counted})\s*(?:x|times|turns of|steps of|stages "
        rf"of|passes of)"
        rf"|(?P<twice>twice))\s*)?"
        rf"{number}\s*-?\s*(?:of an? |further |more |additional )?(?P<off>±\s*\d[\d.]*\s*)?{unit}"
        rf"|(?P<share>{any_of(list(shares))})\s*(?:turns?|rev(?:olution)?s?|rotations?)\b)"
    )


_PARTS_OF_ONE = {"half": 1 / 2, "quarter": 1 / 4, "third": 1 / 3}


def _value(text: str) -> float:
    """A number in figures or in words: 1½, one and a half."""
    whole, _, part = text.partition(" and ")
    number = english()["numbers"].get(whole)
    value = float(number) if number is not None else read_number(whole)[0]
    return value + (_PARTS_OF_ONE[part.rpartition(" ")[2]] if part else 0.0)


def _turn_of(found: re.Match[str]) -> float | None:
    """A turn [rad] from its words."""
    if found["n"]:
        value, unit = _value(found["n"]), found["unit"]
        if unit.startswith(("°", "deg")):
            return math.radians(value)
        return value * (math.pi / 3 if unit.startswith("flat") else 2 * math.pi)
    spelled = found["share"].strip()
    shares = english()["turns"]
    share = next((s for words, s in shares.items() if re.fullmatch(words, spelled)), None)
    return None if share is None else share * 2 * math.pi


def _equal_turns(words: Words, found: re.Match[str], end: int) -> tuple[int, int, bool]:
    """(how many turns are meant, where their words end, whether the turn is all of them
    together)."""
    if found["n"] and found["times"]:
        times = found["times"]
        return int(english()["numbers"].get(times, times)), end, False
    if found["n"] and found["twice"]:
        return 2, end, False
    behind = words.text[end:]
    if twice := re.match(rf"\s*,?\s*(?P<t>{'|'.join(_TIMES)}|(?P<n>\d) times)(?![\w])", behind):
        return int(twice["n"] or _TIMES[twice["t"]]), end + twice.end(), False
    counted = "|".join(english()["numbers"])
    steps = (
        rf"\s*,?\s*(?:in|by|over)\s+(?P<n>\d|{counted})\s+(?:equal\s+|even\s+)?"
        r"(?:steps|stages|passes|goes|turns|increments|"
        r"parts)(?![\w])(?:\s+of\s+\d+(?:\.\d+)?\s*(?:°|deg\w*))?"
    )
    if parts := re.match(steps, behind):
        return int(english()["numbers"].get(parts["n"], parts["n"])), end + parts.end(), True
    return 1, end, False


def _no_turn(words: Words, found: re.Match[str]) -> bool:
    """Whether an angle is none to turn by: back, of a cone, between two, denied, times a letter."""
    patterns = english()
    before = words.text[max(words.sentence(found.start())[0], found.start() - 40) : found.start()]
    behind = words.text[found.end() : found.end() + 24]
    return bool(
        re.search(rf"(?<![\w])(?:{any_of(patterns['back_off'])})(?![\w])[^,;{GONE}]*$", before)
        or re.search(r"\d\s*(?:°|deg(?:rees?)?)?\s*(?:-|to)\s*$|(?<![\w])[a-z]\s*x\s*$", before)
        or re.match(rf"[\s-]*(?:{any_of(patterns['no_turn_after'])})(?![\w])", behind)
        or words.negated(found.start())
    )


def angles_of(words: Words, figures: list[Figure]) -> list[Figure]:
    """The figures with the angles that are turned after them; an angle alone is a figure of its
    own."""
    pattern, out, at = _pattern(), list(figures), 0
    while (found := pattern.search(words.text, at)) is not None:
        at = found.end()
        if between := re.match(r"\s*(?:-|to)\s*\d[\d.]*\s*\S*", words.text[at : at + 24]):
            # between two angles nobody chooses here
            at += between.end()
            continue
        if _no_turn(words, found):
            continue
        try:
            angle = _turn_of(found)
        except OrthotorqError:
            continue
        if not angle:
            continue
        off = re.match(_OFF, words.text[at:])
        count, at, together = _equal_turns(words, found, at + (off.end() if off else 0))
        if not 1 <= count <= _MOST_TURNS:
            continue
        turns = (angle / count,) * count if together else (angle,) * count
        index = max((i for i, f in enumerate(out) if f.start <= found.start()), default=-1)
        if index >= 0 and out[index].end <= found.start():
            out[index] = replace(out[index], angles=out[index].angles + turns)
        else:
            out.insert(index + 1, Figure(angles=turns, start=found.start(), end=at))
        words.take("angle", found.start(), at)
    return out


def back_off_of(words: Words) -> float | None:
    """How far bolts are backed off [rad], where a line says by how much."""
    verbs, pattern = any_of(english()["back_off"]), _pattern()
    at = 0
    while (verb := words.find(verbs, at)) is not None:
        at = verb.end()
        between = re.match(
            r"(?:\s+(?:it|them|the|all|each|every|nuts?|bolts?|studs?|screws?|by|again|about|"
            r"approximately|then|a|further))*\s*",
            words.text[at:],
        )
        begins = at + (between.end() if between else 0)
        found = pattern.match(words.text, begins) or pattern.match(words.text, at + 1)
        if found is None or words.negated(verb.start()):
            continue
        if re.match(r"\s*(?:-|to)\s*\d", words.text[found.end() :]) or (
            found["n"] and found["times"]
        ):
            continue
        try:
            angle = _turn_of(found)
        except OrthotorqError:
            continue
        if angle:
            words.take("back off", verb.start(), found.end())
            return angle
    return None
