"""The order of a pass."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..errors import Impossible
from ..messages import Message
from .base import Model

Text = Annotated[str, Field(min_length=1, max_length=300)]
#: a place of a sequence: its number, or `group.number` where a stage has several groups
SEQUENCE_PLACE = r"^([A-Za-z0-9][A-Za-z0-9_-]{0,39}\.)?[1-9][0-9]{0,2}$"
#: orders in words
ORDER_WORDS = {
    "cross": "cross (opposite bolts)",
    "star": "star",
    "circle": "circular (one after the other)",
    "middle_out": "from the middle out",
    "centre_out": "from the centre out",
    "custom": "custom sequence",
}


class Order(Model):
    """Order of the bolts of a pass.

    Cross and star are one family (star is the word on few or odd bolts); on rows and grids cross
    means from the middle out, opposite sides alternately. `custom` gives a `sequence` of place
    numbers, each once; with `repeats` a place may come again, where the maker wants it pulled
    again.
    """

    kind: Literal["cross", "star", "circle", "middle_out", "centre_out", "custom"]
    start: Annotated[int, Field(ge=1, le=400)] = 1
    sense: Literal["cw", "ccw"] = "cw"
    group: Annotated[int, Field(ge=1, le=4)] = 1
    tools: Annotated[int, Field(ge=1, le=8)] = 1
    sequence: (
        Annotated[
            list[Annotated[str, Field(pattern=SEQUENCE_PLACE)]],
            Field(min_length=1, max_length=2000),
        ]
        | None
    ) = None
    repeats: bool = False

    @model_validator(mode="after")
    def _custom(self) -> Order:
        if (self.kind == "custom") != (self.sequence is not None):
            raise Impossible(
                Message.BAD_VALUE,
                ("sequence",),
                reason="A custom sequence has its bolts; no other order has",
            )
        return self

    def of_group(self, group: str) -> list[int]:
        """Place numbers of the sequence that belong to a group: those without a group belong to
        each."""
        named = [one.rpartition(".") for one in self.sequence or []]
        return [int(number) for of, _, number in named if of in ("", group)]


CROSS, CIRCLE = Order(kind="cross"), Order(kind="circle")
