"""Snug without a figure: set screws, locating parts pushed to their stop."""

from __future__ import annotations

from typing import Literal

from ...forms.order import CIRCLE, Order
from ..pass_kind import At, Look, PassForm, PassKind
from ..prompts import DONE, HANDLED, NOT_SURE, REFUSES, Ask


class SnugPass(PassForm):
    """Snug without a figure: set screws, locating parts pushed to their stop."""

    do: Literal["snug"]
    order: Order = CIRCLE


class Snug(PassKind):
    """Snug without a figure."""

    do, form, word, place = "snug", SnugPass, "Snug", 20
    listed = {"snug": {"do": "snug", "order": {"kind": "circle"}}}
    snug = True
    seconds_each = 10.0
    ask = Ask(
        "snug",
        (DONE.saying("Snug"), NOT_SURE),
        (REFUSES, *HANDLED),
        instruction="Snug, without a figure: to its stop, no more.",
    )

    def state(self, look: Look, word: str, at: At) -> str:
        """Drawn as by hand: it has no share of a figure."""
        return "hand"
