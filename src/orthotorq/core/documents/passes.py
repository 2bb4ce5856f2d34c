"""Passes of a tighten stage, one form per way of turning; methods are named lists of them."""
from __future__ import annotations

from typing import Annotated, Literal

from pydantic import AfterValidator, Field, Tag, model_validator

from ..errors import Impossible
from ..messages import Message
from .base import DO, Duration, Id, Length, Model, Name, Torque, Turn, Words

Text = Annotated[str, Field(min_length=1, max_length=300)]


class Order(Model):
    """Order of the bolts of a pass.

    Cross and star are one family (star is the word on few or odd bolts); on rows and grids cross means from the middle
    out, opposite sides alternately. `listed` gives place numbers.
    """

    kind: Literal["cross", "star", "circle", "middle_out", "centre_out", "listed"]
    start: Annotated[int, Field(ge=1, le=400)] = 1
    sense: Literal["cw", "ccw"] = "cw"
    group: Annotated[int, Field(ge=1, le=4)] = 1
    tools: Annotated[int, Field(ge=1, le=8)] = 1
    places: Annotated[list[Annotated[int, Field(ge=1, le=400)]], Field(max_length=400)] | None = None

    @model_validator(mode="after")
    def _listed(self) -> Order:
        if (self.kind == "listed") != (self.places is not None):
            raise Impossible(Message.BAD_VALUE, ("places",), reason="A listed order has its places; no other order has")
        return self


class Rounds(Model):
    """A round repeated until none moves; a round is always finished, reaching `max` is never success."""

    until: Literal["none_moves"]
    moved_above: Turn = Field(default="5 deg", validate_default=True)
    max: Annotated[int, Field(ge=1, le=50)] = 3


class Repeat(Model):
    """Pulls on one bolt until so many in a row show no turn."""

    still: Annotated[int, Field(ge=1, le=10)] = 3
    max: Annotated[int, Field(ge=1, le=50)] = 10

    @model_validator(mode="after")
    def _enough(self) -> Repeat:
        if self.max < self.still:
            raise Impossible(Message.RANGE_REVERSED, ("max",), low=f"still {self.still}", high=f"max {self.max}")
        return self


class _Pass(Model):
    id: Id
    name: Name | None = None
    note: Words = ""


class HandPass(_Pass):
    """Run on by hand until it seats."""

    do: Literal["hand"]
    order: Order = Order(kind="circle")


class SnugPass(_Pass):
    """Snug without a figure: set screws, locating parts pushed to their stop."""

    do: Literal["snug"]
    order: Order = Order(kind="circle")


class FeelPass(_Pass):
    """As tight as one can without the right tool: provisional, and the recheck is due at once."""

    do: Literal["feel"]
    order: Order = Order(kind="cross")


def _percent(value: float) -> float:
    if value > 110:
        raise Impossible(Message.OVER_110_PERCENT, percent=f"{value:g}")
    return value


class TorquePass(_Pass):
    """A share of the chosen torque at every bolt; `check` marks a round that proves rather than tightens.

    `before_each` is done at one bolt before it is pulled, while the others hold (take out, clean, lubricate);
    `slacken_first` is the same for bolts of unknown history.
    """

    do: Literal["torque"]
    percent: Annotated[float, Field(gt=0), AfterValidator(_percent)]
    order: Order = Order(kind="cross")
    check: bool = False
    rounds: Rounds | None = None
    repeat: Repeat | None = None
    before_each: Text | None = None
    slacken_first: bool = False
    falls: Text | None = None

    @model_validator(mode="after")
    def _one_rule(self) -> TorquePass:
        if self.rounds is not None and self.repeat is not None:
            raise Impossible(Message.PASS_FORM, ("repeat",), what="A pass has rounds or repeated pulls, not both")
        return self


class AnglePass(_Pass):
    """An angle after snug, in one or more steps, each in order; `window` is what is accepted, `read_by` how it is seen."""

    do: Literal["angle"]
    turn: Turn
    window: Annotated[list[Turn], Field(min_length=2, max_length=2)] | None = None
    read_by: Literal["electronic wrench", "angle disc", "marks", "flats"] = "angle disc"
    order: Order = Order(kind="cross")

    @model_validator(mode="after")
    def _around(self) -> AnglePass:
        if self.window is not None and not self.window[0].base <= self.turn.base <= self.window[1].base:
            raise Impossible(Message.RANGE_REVERSED, ("window",), low=str(self.window[0]), high=str(self.window[1]))
        return self


class BackOffPass(_Pass):
    """Turned back by flats or degrees, as for a bearing nut."""

    do: Literal["back_off"]
    turn: Turn
    order: Order = Order(kind="circle")


class GapPass(_Pass):
    """Even draw: rounds of small turns, the gap measured at each bolt; torque is a cap."""

    do: Literal["gap_round"]
    turn: Turn
    max_spread: Length
    stop_at: Length
    cap: Torque | None = None
    max: Annotated[int, Field(ge=1, le=50)] = 20
    order: Order = Order(kind="circle")


class WaitPass(_Pass):
    """Settle and look again: nothing is turned for a while."""

    do: Literal["wait"]
    lasts: Duration = Field(alias="for")


Pass = Annotated[Annotated[HandPass, Tag("~hand")] | Annotated[SnugPass, Tag("~snug")] | Annotated[FeelPass, Tag("~feel")]
                 | Annotated[TorquePass, Tag("~torque")] | Annotated[AnglePass, Tag("~angle")]
                 | Annotated[BackOffPass, Tag("~back_off")] | Annotated[GapPass, Tag("~gap_round")]
                 | Annotated[WaitPass, Tag("~wait")], DO]
Passes = Annotated[list[Pass], Field(min_length=1, max_length=40)]


class OwnMethod(Model):
    """A method of the planner's own, embedded in the plan."""

    name: Name
    passes: Passes
