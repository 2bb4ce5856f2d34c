"""Nuts loosened a little at a time, in the order of tightening unless said otherwise."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Annotated, Any, Literal

from pydantic import Field

from ...forms.base import Id
from ...forms.order import CROSS, Order
from ...forms.quantities import Turn
from ...forms.stage import PassOut, StageOut
from ..fields import field
from ..pass_kind import turn_words
from ..stage_kind import (
    Found,
    Kit,
    Raw,
    StageForm,
    StageKind,
    StagePlanning,
    all_groups,
    usual_condition,
)
from .under_load import condition_findings

NEVER = {"heat": "heat", "cut": "cutting", "drill": "drilling"}


class LoosenStage(StageForm):
    """Nuts loosened a little at a time, in the order of tightening unless said otherwise; `never`
    is what must not be done here to a nut that refuses."""

    kind: Literal["loosen"]
    groups: Annotated[list[Id], Field(min_length=1, max_length=60)]
    turn: Turn = Field(default="1 flat", validate_default=True)
    rounds: Annotated[int, Field(ge=1, le=20)] = 2
    order: Order = CROSS
    never: Annotated[list[Literal["heat", "cut", "drill"]], Field(max_length=3)] = []


class Loosen(StageKind):
    """Loosened."""

    kind, form, word, listed, place = "loosen", LoosenStage, "Loosen", "Loosen", 20
    fields = (
        field("turn", "Turn each", "quantity", "1 flat"),
        field("rounds", "Rounds", "count", "2"),
        field("never", "Never here, where a nut refuses", "boxes", choices=NEVER, main=False),
    )
    turns = True

    def beginning(self, doc: Raw) -> Raw:
        """All bolts, when the joint is taken apart."""
        return {
            "in": ["dismantle"],
            "condition": usual_condition(doc),
            "groups": all_groups(doc),
            "turn": "1 flat",
            "rounds": 2,
        }

    def more(self, stage: Any, planning: StagePlanning) -> dict[str, Any]:
        """Which bolts."""
        return {"groups": list(stage.groups)}

    def passes(self, stage: Any, planning: StagePlanning, index: int) -> list[PassOut]:
        """A little at a time: every bolt in every round, in the order given."""
        rounds = range(1, stage.rounds + 1)
        moves = {
            g: planning.moves(g, stage.order, "stages", index, "order")
            for g in stage.groups
            if planning.count(g)
        }
        of = f", round {{}} of {stage.rounds}" if stage.rounds > 1 else ""
        return [
            PassOut(
                id=f"round{n}",
                name=f"Loosen {turn_words(stage.turn)}{of.format(n)}",
                group=group,
                do="loosen",
                order_kind=stage.order.kind,
                order=moves[group],
                never=list(stage.never),
                turn_deg=round(math.degrees(stage.turn.base), 3),
            )
            for n in rounds
            for group in moves
        ]

    def kit(self, stage: Any, out: StageOut, planning: StagePlanning) -> Iterator[Kit]:
        """Never the torque wrench."""
        yield Kit("tool", "breaker bar (never the torque wrench)")

    def findings(self, stage: Any, planning: StagePlanning) -> Iterator[Found]:
        """The condition it is done in."""
        return condition_findings(stage, planning)

    def line(self, raw: Raw) -> str:
        """By how much, how often."""
        rounds = raw.get("rounds", 2)
        return f"{raw.get('turn', '1 flat')}, {rounds} round{'' if rounds == 1 else 's'}"
