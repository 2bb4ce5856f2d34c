"""What the run says: instructions, answers and deviations, used on screen, on paper and in tests."""
from __future__ import annotations

ANSWERS: dict[str, str] = {
    "done": "Done", "good": "Good", "not_good": "Not good", "turned": "Clicked, it turned",
    "did_not_turn": "Clicked, did not turn", "not_sure": "Not sure", "value": "Reading",
}
CHECK_ANSWERS = {"turned": "It moved", "did_not_turn": "Did not move"}
KEYS: dict[str, str] = {"done": "space", "good": "space", "not_good": "g", "turned": "space", "did_not_turn": "d",
                        "not_sure": "n", "value": "enter"}

INSTRUCTIONS: dict[str, str] = {
    "condition": "Is the joint in this condition now?",
    "item": "Do this, then confirm.",
    "check": "Look, then say what you see.",
    "reading": "Measure and enter the reading.",
    "hand": "Run the nut on by hand until it seats.",
    "pull": "Pull steadily, stop at the click.",
    "pull_check": "Pull steadily to the click. Did the nut move before it?",
}
HINTS: dict[str, str] = {
    "condition": "If not, bring it there first: the work is valid in this condition only.",
    "hand": "It must run freely. If it resists, take it off and look at both threads.",
    "pull": "One click. Do not pull on after it.",
    "again": "Do not change the setting.",
    "repeat": "Repeated because the last answer was not sure or was taken back.",
}
DEVIATIONS: dict[str, str] = {
    "did_not_turn": "Bolt {label} did not turn at {name}, though the torque rose: seized, cross-threaded, bottomed or "
                    "already tight?",
    "rounds_exhausted": "{name}: after {max} rounds bolts still moved. The joint has not settled.",
    "not_good": "“{text}” was answered with not good{note}.",
    "out_of_limit": "“{text}”: {value} is outside {limit}.",
    "problem": "{text}",
}
