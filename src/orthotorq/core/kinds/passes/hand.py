"""Run on by hand: until it seats, or so far that parts can still be aligned."""

from __future__ import annotations

from dataclasses import replace
from typing import Any, Literal

from ...forms.order import CIRCLE, Order
from ...forms.stage import PassOut
from ..fields import field
from ..pass_kind import At, Look, PassForm, PassKind, Planned
from ..prompts import DONE, DROPPED, NOT_SURE, REFUSES, Ask

UNTIL = {"seated": "until it seats", "loose": "but loose, to align"}


class HandPass(PassForm):
    """Run on by hand until it seats; `loose` where the parts are aligned afterwards."""

    do: Literal["hand"]
    until: Literal["seated", "loose"] = "seated"
    order: Order = CIRCLE


_SEATED = Ask(
    "hand",
    (DONE.saying("Runs by hand, seated"), REFUSES.saying("Does not run by hand"), NOT_SURE),
    (DROPPED,),
    exception="refuses",
    instruction="Run it up by hand until it seats.",
    hint=(
        "Fingers only. Where they are not enough, the thread is dirty, damaged or crossed: back "
        "off and look."
    ),
)
_LOOSE = replace(
    _SEATED,
    choices=(DONE.saying("Runs by hand, left loose"), *_SEATED.choices[1:]),
    instruction="Run it on by hand, and leave it loose: the parts must still move.",
)


#: a nut that locks by itself does not run by fingers beyond its lock: nobody has to say that it
#: does
_LOCKING = replace(
    _SEATED,
    choices=(
        DONE.saying("Runs as it should, seated"),
        REFUSES.saying("Does not run so far"),
        NOT_SURE,
    ),
    instruction="Run it on by hand up to its lock, then down with a spanner until it seats.",
    hint="Fingers only up to its lock; where they are not enough there, the thread is dirty, "
    "damaged or crossed. "
    "Beyond it the lock makes it hard all the way, evenly.",
)


class Hand(PassKind):
    """Run on by hand."""

    do, form, word, place = "hand", HandPass, "By hand", 10
    listed = {"by hand": {"do": "hand", "order": {"kind": "circle"}}}
    fields = (field("until", "How far", "choice", choices=UNTIL, main=False),)
    frees = by_fingers = True
    seconds_each = 12.0
    ask = _SEATED

    def planned(self, form: Any, group: Planned) -> dict[str, Any]:
        """Whether it is left loose, and whether it locks by itself."""
        return {"left_loose": form.until == "loose", "self_locking": group.self_locking}

    def asked(self, at: At) -> Ask:
        """Until it seats, or loose; past its lock where it has one."""
        return _LOOSE if at.one.left_loose else _LOCKING if at.one.self_locking else self.ask

    def height(self, one: PassOut) -> float:
        """Nothing yet."""
        return 0.0

    def state(self, look: Look, word: str, at: At) -> str:
        """By hand, whatever came before."""
        return "hand"
