"""Turned back by flats or degrees, as for a bearing nut."""

from __future__ import annotations

import math
from typing import Any, Literal

from ...forms.order import CIRCLE, Order
from ...forms.quantities import Turn
from ...thresholds import BACKED_OFF_SHARE
from ..fields import field
from ..pass_kind import At, Look, PassForm, PassKind, Planned, turn_words
from ..prompts import DONE, NOT_SURE, REFUSES, TURNED_ON, Ask


class BackOffPass(PassForm):
    """Turned back by flats or degrees, as for a bearing nut."""

    do: Literal["back_off"]
    turn: Turn
    order: Order = CIRCLE


class BackOff(PassKind):
    """Turned back."""

    do, form, word, place = "back_off", BackOffPass, "Back off", 50
    listed = {"back off": {"do": "back_off", "turn": "1 flat", "order": {"kind": "circle"}}}
    fields = (field("turn", "Turn", "quantity"),)
    back = True
    ask = Ask(
        "back_off",
        (DONE.saying("Backed off"), NOT_SURE),
        (REFUSES, *TURNED_ON),
        skippable=False,
        shows="turn",
        turns=True,
        instruction="Turn back by {turn}.",
    )

    def name(self, form: Any) -> str:
        """With its turn."""
        return form.name or f"{self.word} {turn_words(form.turn)}"

    def brief(self, raw: dict[str, Any]) -> str:
        """Back, and by how much."""
        return f"back {raw.get('turn', '')}".strip()

    def planned(self, form: Any, group: Planned) -> dict[str, Any]:
        """The turn in degrees."""
        return {"turn_deg": round(math.degrees(form.turn.base), 3)}

    def load(self, before: float, at: At) -> float:
        """Hardly anything, whatever it had."""
        return BACKED_OFF_SHARE.value

    def state(self, look: Look, word: str, at: At) -> str:
        """Drawn as by hand."""
        return "hand"
