"""As tight as one can without the right tool: provisional, and the recheck is due at once."""

from __future__ import annotations

from typing import Literal

from ...forms.order import CROSS, Order
from ...forms.stage import PassOut
from ...thresholds import FEEL_SHARE
from ..pass_kind import At, PassForm, PassKind
from ..prompts import DONE, HANDLED, NOT_SURE, REFUSES, Ask


class FeelPass(PassForm):
    """As tight as one can without the right tool: provisional, and the recheck is due at once."""

    do: Literal["feel"]
    order: Order = CROSS


class Feel(PassKind):
    """As tight as one can."""

    do, form, word, place = "feel", FeelPass, "By feel", 80
    listed = {"by feel": {"do": "feel", "order": {"kind": "cross"}}}
    sets_figure = True
    provisional = True
    ask = Ask(
        "feel",
        (DONE.saying("As tight as I can"), NOT_SURE),
        (REFUSES, *HANDLED),
        skippable=False,
        instruction="As tight as you can with what you have.",
        hint="Provisional: it forces a recheck with the right tool.",
    )

    def height(self, one: PassOut) -> float:
        """A guess, as its share."""
        return FEEL_SHARE.value

    def load(self, before: float, at: At) -> float:
        """Nobody knows; it is drawn as part of the figure."""
        return max(before, FEEL_SHARE.value)
