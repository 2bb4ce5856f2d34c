"""Run on by hand until it seats."""
from __future__ import annotations

from typing import Literal

from ...forms.order import CIRCLE, Order
from ..asks import DONE, NOT_SURE, REFUSES, Ask
from ..pass_kind import At, Look, PassForm, PassKind


class HandPass(PassForm):
    """Run on by hand until it seats."""

    do: Literal["hand"]
    order: Order = CIRCLE


class Hand(PassKind):
    """Run on by hand until it seats."""

    do, form, word, place = "hand", HandPass, "By hand", 10
    listed = {"by hand": {"do": "hand", "order": {"kind": "circle"}}}
    frees = True
    seconds_each = 12.0
    ask = Ask("hand", (DONE.saying("Runs by hand, seated"), REFUSES.saying("Does not run by hand"), NOT_SURE),
              exception="refuses", instruction="Run it up by hand until it seats.",
              hint="It must run freely. If it resists, take it off and look at both threads.")

    def state(self, look: Look, word: str, at: At) -> str:
        """By hand, whatever came before."""
        return "hand"
