"""Jacking screws in small equal turns until the part is free; made by the stage that presses
off."""

from __future__ import annotations

from typing import ClassVar

from ..pass_kind import PassKind, Sayings
from ..prompts import AGAIN, Ask, Choice


class Jack(PassKind):
    """A round of the jacking screws."""

    do, word = "jack", "Press off"
    seconds_each = 60.0
    moving = ("not_yet",)
    exhausted = "not_free"
    ask = Ask(
        "jack",
        (Choice("not_yet", "Not yet free", "space"), Choice("free", "It is free", "f")),
        skippable=False,
        shows="turn",
        instruction="Turn every jacking screw by {turn}, one after the other.",
        hint="Small equal turns, so that the part comes off straight.",
    )
    halts: ClassVar[Sayings] = {
        "not_free": (
            "it is not free after {max} rounds",
            "Stop: something still holds it. Look for a bolt, a dowel or a key that is still "
            "in. Never remove a "
            "retaining bolt before it is free.",
        )
    }
    #: nothing leads past it: what is taken out next would let go of a part that is still held
    stops: ClassVar[dict[str, tuple[str | Choice, ...]]] = {
        "not_free": (
            Choice("free", "It is free now", "f"),
            AGAIN.saying("Found and cleared: more rounds"),
        )
    }
