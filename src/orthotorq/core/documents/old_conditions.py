"""Conditions of older plans, which were words, read into choices; what cannot be read stays in
words."""

from __future__ import annotations

import re
from collections.abc import Collection
from typing import Any

from ..forms.condition import STATES

#: axis, choice, how it was said; a denial stands before what it denies, so the denied form goes
#: first
_SAID: tuple[tuple[str, str, str], ...] = (
    (
        "pressure",
        "off",
        r"de-?pressuri[sz]ed|un-?pressuri[sz]ed|not (?:be )?(?:under pressure|pressuri[sz]ed)|"
        r"no pressure",
    ),
    ("pressure", "off", r"pressure(?: is)? off|without pressure|pressure ?less|vented"),
    ("pressure", "on", r"under (?:pressure|steam)|pressure(?: is)? on|pressuri[sz]ed|in service"),
    ("pressure", "on", r"at \d+(?:[.,]\d+)? ?(?:bar|psi|mpa|kpa)"),
    ("temperature", "cold", r"not hot|cold|cooled(?: down)?|at (?:room|ambient) temperature"),
    (
        "temperature",
        "hot",
        r"hot(?: in service)?|(?:at )?(?:operating|working|running) temperature|under steam",
    ),
    ("load", "off", r"load(?: is)? off|unloaded|not loaded|no load|not under load|without load"),
    ("load", "on", r"load(?: is)? on|under load|loaded"),
    ("held", "still", r"held still"),
)
_AT = re.compile(r"\bat (?P<t>-?\d+(?:[.,]\d+)?) ?°? ?c\b")
_WORD_OF = {
    word: (axis, value) for axis, states in STATES.items() for value, word in states.items()
}
_WORD_OF |= {"in service": ("pressure", "on"), "hot in service": ("temperature", "hot")}


def _read(phrase: str, out: dict[str, Any]) -> None:
    """What a phrase says of the axes that nothing was said of yet."""
    said, taken = phrase.lower(), list[tuple[int, int]]()
    for axis, value, pattern in _SAID:
        for found in re.finditer(rf"(?<![\w-])(?:{pattern})(?![\w])", said):
            if any(start < found.end() and found.start() < end for start, end in taken):
                continue
            # steam is pressure and heat at once
            if "steam" not in found[0]:
                taken.append(found.span())
            out.setdefault(axis, value)
    if (at := _AT.search(said)) and "temperature" not in out:
        out["temperature"] = f"{at['t'].replace(',', '.')} °C"


def read_condition(texts: Any, placed: Collection[str]) -> Any:
    """A condition of choices from a list of words; anything else is given back, to be named where
    it is wrong. `placed` is what the plan puts in for the work.

    >>> read_condition(["pressure off and cold", "locked out"], ["locked out"])
    {'pressure': 'off', 'temperature': 'cold', 'in_place': ['locked out']}
    >>> read_condition(["depressurised and drained"], [])
    {'pressure': 'off', 'says': 'depressurised and drained'}
    """
    if not isinstance(texts, list) or not all(isinstance(text, str) for text in texts):
        return texts
    out, in_place, says = dict[str, Any](), list[str](), list[str]()
    for text in texts:
        parts = text.split(" and ")
        whole = [part for part in parts if part in _WORD_OF or part in placed]
        for phrase in parts if len(whole) == len(parts) else [text]:
            if phrase in placed:
                in_place.append(phrase)
            elif phrase in _WORD_OF:
                out.setdefault(*_WORD_OF[phrase])
            else:
                _read(phrase, out)
                says.append(phrase)
    out |= {"in_place": in_place} if in_place else {}
    return out | ({"says": ", ".join(says)} if says else {})
