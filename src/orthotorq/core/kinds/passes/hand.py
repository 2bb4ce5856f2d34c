"""Run on by hand: until it seats, or so far that parts can still be aligned."""
from __future__ import annotations

from dataclasses import replace
from typing import Any, Literal

from ...forms.order import CIRCLE, Order
from ...forms.stage import PassOut
from ..asks import DONE, NOT_SURE, REFUSES, Ask
from ..fields import field
from ..pass_kind import At, Look, PassForm, PassKind, Planned

UNTIL = {"seated": "until it seats", "loose": "but loose, to align"}


class HandPass(PassForm):
    """Run on by hand until it seats; `loose` where the parts are aligned afterwards."""

    do: Literal["hand"]
    until: Literal["seated", "loose"] = "seated"
    order: Order = CIRCLE


_SEATED = Ask("hand", (DONE.saying("Runs by hand, seated"), REFUSES.saying("Does not run by hand"), NOT_SURE),
              exception="refuses", instruction="Run it up by hand until it seats.",
              hint="Fingers only. Where they are not enough, the thread is dirty, damaged or crossed: back off and look.")
_LOOSE = replace(_SEATED, choices=(DONE.saying("Runs by hand, left loose"), *_SEATED.choices[1:]),
                 instruction="Run it on by hand, and leave it loose: the parts must still move.")


class Hand(PassKind):
    """Run on by hand."""

    do, form, word, place = "hand", HandPass, "By hand", 10
    listed = {"by hand": {"do": "hand", "order": {"kind": "circle"}}}
    fields = (field("until", "How far", "choice", choices=UNTIL, main=False),)
    frees = by_fingers = True
    seconds_each = 12.0
    ask = _SEATED

    def planned(self, form: Any, group: Planned) -> dict[str, Any]:
        """Whether it is left loose."""
        return {"left_loose": form.until == "loose"}

    def asked(self, at: At) -> Ask:
        """Until it seats, or loose."""
        return _LOOSE if at.one.left_loose else self.ask

    def height(self, one: PassOut) -> float:
        """Nothing yet."""
        return 0.0

    def state(self, look: Look, word: str, at: At) -> str:
        """By hand, whatever came before."""
        return "hand"
