"""Loosened a little at a time; made by the stage that loosens."""

from __future__ import annotations

from dataclasses import replace

from ...thresholds import LOOSENED_SHARE
from ..pass_kind import At, Look, PassKind
from ..prompts import DONE, HANDLED, REFUSES, Ask


class Loosen(PassKind):
    """Loosened by a part of a turn."""

    do, word = "loosen", "Loosen"
    frees = back = True
    ask = Ask(
        "loosen",
        (DONE.saying("Loosened"), REFUSES.saying("It does not come loose")),
        HANDLED,
        exception="refuses",
        shows="turn",
        instruction="Loosen by {turn}, no more.",
        hint="A little at a time, in this order; never with the torque wrench.",
    )

    def asked(self, at: At) -> Ask:
        """An order is spoken of where there is one."""
        return (
            self.ask
            if len(at.one.order) > 1
            else replace(self.ask, hint="Never with the torque wrench.")
        )

    def load(self, before: float, at: At) -> float:
        """Half of what it had, for the drawing."""
        return before * LOOSENED_SHARE.value

    def state(self, look: Look, word: str, at: At) -> str:
        """Loose."""
        return "loose"
