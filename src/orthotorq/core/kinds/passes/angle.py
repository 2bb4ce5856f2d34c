"""Turned on by an angle after snug, in one or more steps, each in order."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field, model_validator

from ...errors import Impossible
from ...forms.order import CROSS, Order
from ...forms.quantities import Turn
from ...forms.stage import PassOut
from ...messages import Message
from ...thresholds import COMES_TO
from ..fields import field
from ..pass_kind import (
    Act,
    Answered,
    At,
    Fail,
    PassForm,
    PassKind,
    Planned,
    Sayings,
    reading_base,
    turn_words,
)
from ..prompts import NOT_SURE, REFUSES, TURNED, TURNED_ON, TURNS_ON, Ask, Choice

READ_BY = {
    "angle disc": "angle disc",
    "electronic wrench": "electronic wrench",
    "marks": "marks",
    "flats": "flats",
}


class AnglePass(PassForm):
    """An angle after snug, in one or more steps, each in order; `read_by` is how it is seen. What
    is accepted is a `window`, or `within` so much of the turn, which follows the turn when that is
    changed.

    `zero` says from where a disc or a wrench counts: from where the bolt stands, or on from the
    step before.
    """

    do: Literal["angle"]
    turn: Turn
    window: Annotated[list[Turn], Field(min_length=2, max_length=2)] | None = None
    within: Turn | None = None
    read_by: Literal["electronic wrench", "angle disc", "marks", "flats"] = "angle disc"
    zero: Literal["here", "before"] = "here"
    order: Order = CROSS

    @property
    def ends(self) -> tuple[float, float] | None:
        """The window [rad], or None where the turn is not judged."""
        if self.window is not None:
            return self.window[0].base, self.window[1].base
        return (
            None
            if self.within is None
            else (self.turn.base - self.within.base, self.turn.base + self.within.base)
        )

    @model_validator(mode="after")
    def _around(self) -> AnglePass:
        if (
            self.window is not None
            and not self.window[0].base <= self.turn.base <= self.window[1].base
        ):
            raise Impossible(
                Message.RANGE_REVERSED,
                ("window",),
                low=str(self.window[0]),
                high=str(self.window[1]),
            )
        if self.within is not None and (
            self.window is not None or self.within.base >= self.turn.base
        ):
            raise Impossible(
                Message.BAD_VALUE,
                ("within",),
                reason="Tolerance less than the turn, or a window instead",
            )
        return self


ZERO = {"here": "from where the bolt is now", "before": "on from the step before"}
_ON = "Do not set it to zero again: it counts on from the step before."
_HINTS = {
    "angle disc": (
        "Set the disc to zero where the bolt is now; fix its arm to a part that does not turn."
    ),
    "marks": "Mark socket and part before you turn; the marks must meet.",
    "flats": "One flat of a hexagon is 60°.",
    "electronic wrench": "The wrench counts the angle; start from a standing nut.",
}


class Angle(PassKind):
    """An angle after snug."""

    do, form, word, place = "angle", AnglePass, "Angle", 40
    listed = {
        "angle": {
            "do": "angle",
            "turn": "50 deg",
            "within": "5 deg",
            "read_by": "angle disc",
            "order": {"kind": "cross"},
        }
    }
    fields = (
        field("turn", "Turn", "quantity"),
        field("within", "Tolerance", "quantity", "not judged"),
        field("window", "Window", "list", "as tolerance", note="from, to", main=False),
        field("read_by", "Measured with", "choice", choices=READ_BY, main=False),
        field("zero", "Counted", "choice", choices=ZERO, main=False),
    )
    needs_target = pulls = adds_angle = traced = True
    seconds_each = 25.0
    ask = Ask(
        "angle",
        (
            TURNED.saying("Turned to the mark"),
            Choice("stopped_early", "Stopped before the angle", "e"),
            NOT_SURE,
        ),
        (TURNS_ON, REFUSES, *TURNED_ON),
        reads=True,
        shows="turn",
        turns=True,
        instruction="Turn on by {turn}, in one pull if you can.",
    )
    sayings: ClassVar[Sayings] = {
        "out_of_window": (
            "Bolt {label} turned {value} at {name}, outside {window}; left as it is: {reason}.",
            "Too little: seized or bottomed; too much: yield or a soft part.",
        ),
        "stopped_early": (
            "Bolt {label} stopped before the angle at {name}; left as it is: {reason}.",
            "Already tight, seized or bottomed.",
        ),
    }
    failures: ClassVar[Sayings] = {
        "stopped_early": (
            "it stopped before the angle",
            "Do not force it: slacken, look for a seized or bottomed thread.",
        ),
        "out_of_window": (
            "{value} is outside {window}",
            (
                "Too little: seized or bottomed. Too much: beyond yield, or a soft part; then "
                "the bolt is replaced."
            ),
        ),
    }

    def name(self, form: Any) -> str:
        """The angle with its turn."""
        return form.name or f"{self.word} {turn_words(form.turn)}"

    def planned(self, form: Any, group: Planned) -> dict[str, Any]:
        """The turn and its window, in degrees."""
        window = [round(math.degrees(end), 3) for end in form.ends] if form.ends else None
        return {
            "turn_deg": round(math.degrees(form.turn.base), 3),
            "window_deg": window,
            "read_by": form.read_by,
            "counts_on": form.zero == "before",
        }

    def acts(self, one: PassOut) -> Act:
        """Its turn, at the ends of its window."""
        if one.turn_deg is None:
            return Act()
        low, high = one.window_deg or (one.turn_deg, one.turn_deg)
        return Act(
            turn=(math.radians(low), math.radians(one.turn_deg), math.radians(high)),
        )

    def turned(self, form: Any) -> float:
        """Its turn."""
        return float(form.turn.base)

    def kit(self, one: PassOut) -> tuple[tuple[str, str], ...]:
        """A disc, where that is how it is seen."""
        return (("gauge", "angle disc with a fixed arm"),) if one.read_by == "angle disc" else ()

    def height(self, one: PassOut) -> float:
        """To the end."""
        return 100.0

    def load(self, before: float, at: At) -> float:
        """The whole figure."""
        return 100.0

    def asked(self, at: At) -> Ask:
        """With a hint for the way it is seen."""
        return replace(
            self.ask, hint=_ON if at.one.counts_on else _HINTS[at.one.read_by or "angle disc"]
        )

    def answered(self, one: PassOut, turn_deg: float) -> str:
        """Turned when it has come into the window; without one, nearly to its angle."""
        least = (
            one.window_deg[0] if one.window_deg else COMES_TO.value / 100 * (one.turn_deg or 0.0)
        )
        return "turned" if turn_deg >= least else "stopped_early"

    def judge(self, one: PassOut, given: Answered, label: str) -> Fail | None:
        """An angle read outside its window is a stop condition."""
        if given.word == "turns_on":
            return Fail("turns_on", {"label": label, "name": one.name}, ("replace", "accept"))
        if (found := super().judge(one, given, label)) is not None or one.window_deg is None:
            return found
        typed = ((given.answer or {}).get("reading") or {}).get("angle")
        turned, (low, high) = reading_base(typed, "angle"), one.window_deg
        if turned is None or low <= round(math.degrees(turned), 3) <= high:
            return None
        return Fail(
            "out_of_window",
            {"label": label, "name": one.name, "value": typed, "window": f"{low:g}° to {high:g}°"},
            ("replace", "accept"),
        )
