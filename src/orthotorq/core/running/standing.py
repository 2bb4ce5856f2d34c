"""What is known of a joint: from its record, never from a preset; a fitter can only make it less known."""
from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Word = Literal["unknown", "known", "provisional", "moved", "opened", "apart"]


@dataclass(frozen=True, slots=True)
class Known:
    """How a joint stands: in words, whether its bolts are known, whether somebody has to go there at once."""

    words: str
    known: bool = False
    due: bool = False


STANDING: dict[str, Known] = {
    "unknown": Known("no run of it is on record: its bolts count as of unknown history"),
    "known": Known("tightened as the record says", known=True),
    "provisional": Known("provisional: a recheck with the right tool is due now", due=True),
    "moved": Known("bolts had moved at the last recheck: the next comes at half the interval", known=True),
    "opened": Known("opened by others, without a record: a recheck is due now", due=True),
    "apart": Known("taken apart, not yet closed again"),
}


def standing_after(occasion: str, status: str, why: list[str], moved: bool = False) -> Word | None:
    """How a joint stands after a run; None where the run is not far enough to say so. `moved`: a recheck found movement.

    >>> standing_after("install", "signed", []), standing_after("install", "finished", ["by feel"])
    ('known', 'provisional')
    >>> standing_after("dismantle", "finished", []), standing_after("dismantle", "abandoned", ["cut short"])
    ('apart', 'provisional')
    """
    if status == "running":
        return None
    if why:
        return "provisional"
    if occasion == "dismantle":
        # what is apart is apart, signed or not
        return "apart" if status != "abandoned" else None
    if status not in ("signed", "closed"):
        return None
    return "moved" if moved else "known"


def history_of(standing: str, chosen: str, occasion: str) -> str:
    """The history that a run begins with: the less known of what the record says and what the fitter says.

    >>> history_of("provisional", "known", "recheck"), history_of("known", "unknown", "recheck")
    ('unknown', 'unknown')
    """
    if occasion == "recheck" and not STANDING[standing].known:
        return "unknown"
    return chosen
