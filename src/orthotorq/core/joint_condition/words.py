"""The words for the condition of a joint, from the worst to the best, with what each means."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Word = Literal["do_not_use", "apart", "unknown", "provisional", "limited", "moved", "proven"]


@dataclass(frozen=True, slots=True)
class Known:
    """One condition: its word on screens and papers, when it applies, and what clears it.

    `known`: whether a recheck may count on its bolts; `due`: what is due at once, as an occasion.
    """

    title: str
    when: str
    clears: str
    known: bool = False
    due: str = ""


CONDITIONS: dict[str, Known] = {
    "do_not_use": Known(
        "Do not use",
        "A step failed and was left as is, or it was reported not safe.",
        "Repair: a run in which the failed stage and all that depends on it hold; "
        "or use as is, accepted by a supervisor who did not tighten it.",
        due="install",
    ),
    "apart": Known(
        "Taken apart",
        "It was dismantled and is not closed again.",
        "A whole run of the procedure.",
        due="install",
    ),
    "unknown": Known(
        "Unknown",
        "No record, opened by others, parts replaced outside a run, a run that is not finished, or "
        "one that was cut short.",
        "A whole run of the procedure; or every bolt slackened and tightened again.",
        due="install",
    ),
    "provisional": Known(
        "Provisional",
        "Tightened by feel, with a wrench out of calibration or not on the register, with a "
        "makeshift part, or with steps left out.",
        "A run by the plan, or every bolt slackened and tightened again.",
        due="install",
    ),
    "limited": Known(
        "Limited use",
        "A failure was accepted by a supervisor, with conditions and an end.",
        "Repair before the acceptance ends.",
        known=True,
    ),
    "moved": Known(
        "Moved",
        "Bolts moved in the last recheck, and all of them were brought to the target.",
        "A recheck in which no bolt moves.",
        known=True,
    ),
    "proven": Known(
        "Proven",
        "Every bolt by the plan, every check held, signed by a supervisor.",
        "Nothing to clear.",
        known=True,
    ),
}
#: the place of each word, the worst first
RANK: dict[str, int] = {word: place for place, word in enumerate(CONDITIONS)}


#: what somebody may say of a joint beside its runs, as lines of its history are headed
ENTRY_TITLES: dict[str, str] = {
    "opened": "Opened by others",
    "replaced": "Parts replaced",
    "not_safe": "Reported not safe",
    "use_as_is": "Accepted with conditions",
    "happened": "Happened",
    "note": "Note",
    "tool": "Wrench",
}


def condition_says(word: str, why: str) -> str:
    """A condition in a sentence, with why."""
    known = CONDITIONS[word]
    return f"{known.title}. {why or known.when}"


def history_of(word: str, chosen: str, occasion: str) -> str:
    """The history that a run begins with: the less known of what the record says and what the
    fitter says.

    >>> history_of("provisional", "known", "recheck"), history_of("proven", "unknown", "recheck")
    ('unknown', 'unknown')
    """
    if occasion == "recheck" and not CONDITIONS[word].known:
        return "unknown"
    return chosen
