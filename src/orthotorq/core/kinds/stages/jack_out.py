"""A part pressed off by jacking screws in small equal turns."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Annotated, Any, Literal

from pydantic import Field

from ...forms.order import Text
from ...forms.quantities import Turn
from ...forms.stage import PassOut, StageOut
from ...planning.findings import Finding
from ..fields import field
from ..pass_kind import turn_words
from ..stage_kind import Found, Kit, Raw, StageForm, StageKind, StagePlanning, usual_condition


class JackOutStage(StageForm):
    """A part pressed off by jacking screws in small equal turns."""

    kind: Literal["jack_out"]
    what: Text
    screws: Annotated[int, Field(ge=1, le=60)]
    turn: Turn = Field(default="90 deg", validate_default=True)
    max: Annotated[int, Field(ge=1, le=50)] = 12


class JackOut(StageKind):
    """Pressed off."""

    kind, form, word, listed, place = "jack_out", JackOutStage, "Press off", "Press off", 30
    fields = (
        field("what", "What"),
        field("screws", "Screws", "count"),
        field("turn", "Turn each", "quantity", "90 deg"),
    )
    turns = True

    def beginning(self, doc: Raw) -> Raw:
        """Two screws, a quarter turn each."""
        return {
            "in": ["dismantle"],
            "condition": usual_condition(doc),
            "what": "the part",
            "screws": 2,
            "turn": "90 deg",
        }

    def title(self, stage: Any) -> str:
        """With what is pressed off."""
        return stage.title or f"{self.word}: {stage.what}"

    def passes(self, stage: Any, planning: StagePlanning, index: int) -> list[PassOut]:
        """Small equal turns until the part is free."""
        return [
            PassOut(
                id="jack",
                name=f"{stage.screws} jacking screws, {turn_words(stage.turn)} each",
                group="",
                do="jack",
                order=[["-"]],
                rounds_max=stage.max,
                until="free",
                note=f"Until it is free: {stage.what}.",
                turn_deg=round(math.degrees(stage.turn.base), 3),
            )
        ]

    def kit(self, stage: Any, out: StageOut, planning: StagePlanning) -> Iterator[Kit]:
        """The screws, and what helps without leaving marks."""
        yield Kit("tool", f"{stage.screws} jacking screws, ends rounded and greased")
        yield Kit("tool", "soft pry bar that leaves no marks")

    def findings(self, stage: Any, planning: StagePlanning) -> Iterator[Found]:
        """The condition is named."""
        if not stage.condition:
            yield Finding.CONDITION_NOT_NAMED, stage.id, {"stage": stage.words}
