"""What may be said of a pull by its curve: the words stand here, so that run and record have them
without the arithmetic."""

from __future__ import annotations

from typing import Literal

Code = Literal[
    "good", "cross_thread", "too_little_turn", "too_much_turn", "no_rise", "yields", "stick_slip"
]
#: code -> (what is wrong, what it may be and what to do)
SAYS: dict[str, tuple[str, str]] = {
    "good": ("good", ""),
    "cross_thread": (
        "the torque rises while it runs down",
        "Crossed or damaged thread: turn it off again, look at both threads, run it on by hand.",
    ),
    "too_little_turn": (
        "too little turn for this torque",
        "Already tight, seized or bottomed: the bolt has not its load. Slacken it and look.",
    ),
    "too_much_turn": (
        "too much turn for this torque",
        (
            "A soft part, a missing washer or a bolt too long in the wrong place: look before "
            "pulling on."
        ),
    ),
    "no_rise": (
        "the torque falls while it turns",
        "A thread strips or something breaks: stop, take it out.",
    ),
    "yields": (
        "it turns on while the torque hardly rises",
        "The bolt yields, or is of a lower grade than planned: take it out, it is not used again.",
    ),
    "stick_slip": (
        "the torque jumps",
        "Stick-slip: what the wrench read is not the bolt's load. Slacken, clean, lubricate.",
    ),
}
#: code of the stop that a verdict brings
FAIL = "pull_{code}"


def fail_code(answer: dict[str, object] | None) -> str | None:
    """Code of the stop that a judged pull brings, or None for a good one and for an answer without
    a curve."""
    judged = (answer or {}).get("judged")
    code = judged.get("code") if isinstance(judged, dict) else None
    return FAIL.format(code=code) if code in SAYS and code != "good" else None


def measured_words(answer: dict[str, object] | None) -> str:
    """What a device said of an answer, in words; empty where none did.

    >>> measured_words({"judged": {"code": "good", "seen": "81° from snug"}})
    'good, 81° from snug'
    """
    judged = (answer or {}).get("judged")
    if not isinstance(judged, dict):
        return ""
    return ", ".join(
        str(x) for x in (SAYS[str(judged.get("code"))][0], judged.get("seen", "")) if x
    )
