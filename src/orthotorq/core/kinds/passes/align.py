"""Turned on until a slot stands in line with a hole or a tongue, within what the maker allows."""

from __future__ import annotations

import math
from typing import Any, ClassVar, Literal

from ...forms.order import CIRCLE, Order
from ...forms.quantities import Turn
from ..fields import field
from ..pass_kind import At, PassForm, PassKind, Planned, Sayings, turn_words
from ..prompts import HANDLED, NOT_SURE, REFUSES, Ask, Choice


class AlignPass(PassForm):
    """On to the next slot, never back; `turn` is the most that is allowed."""

    do: Literal["align"]
    turn: Turn
    order: Order = CIRCLE


class Align(PassKind):
    """On to the next slot."""

    do, form, word, place = "align", AlignPass, "On to the next slot", 45
    listed = {"on to the next slot": {"do": "align", "turn": "30 deg", "order": {"kind": "circle"}}}
    fields = (field("turn", "At most", "quantity"),)
    pulls = True
    ask = Ask(
        "align",
        (
            Choice("in_line", "In line", "space", True),
            Choice("not_in_line", "Not in line by then", "l"),
            NOT_SURE,
        ),
        (REFUSES, *HANDLED),
        skippable=False,
        shows="turn",
        turns=True,
        exception="not_in_line",
        instruction="Turn on, never back, until the slot is in line: at most {turn}.",
        hint="A nut is never turned back to meet its hole: what it clamps would be lost.",
    )
    sayings: ClassVar[Sayings] = {
        "not_in_line": (
            (
                "Bolt {label}: at {name} the slot was not in line within what is allowed; left "
                "as it is: {reason}."
            ),
            "Another washer or another nut brings the slot elsewhere.",
        )
    }
    failures: ClassVar[Sayings] = {
        "not_in_line": (
            "the slot is not in line within what is allowed",
            (
                "Never further, never back: take a new washer or a new nut, and pull again from "
                "the start."
            ),
        )
    }

    def name(self, form: Any) -> str:
        """With the most it may turn."""
        return form.name or f"{self.word}, at most {turn_words(form.turn)}"

    def planned(self, form: Any, group: Planned) -> dict[str, Any]:
        """The most it may turn, in degrees."""
        return {"turn_deg": round(math.degrees(form.turn.base), 3)}

    def load(self, before: float, at: At) -> float:
        """At least what it had."""
        return before
