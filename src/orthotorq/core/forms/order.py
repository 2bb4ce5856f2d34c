"""The order of a pass."""
from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..errors import Impossible
from ..messages import Message
from .base import Model

Text = Annotated[str, Field(min_length=1, max_length=300)]
ORDERS = ("cross", "star", "circle", "middle_out", "centre_out", "listed")


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


CROSS, CIRCLE = Order(kind="cross"), Order(kind="circle")
