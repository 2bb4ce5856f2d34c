"""Nothing is turned for a while."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field

from ...forms.order import Text
from ...forms.quantities import Duration
from ...forms.stage import ItemOut
from ..fields import field
from ..stage_kind import Raw, StageForm, StageKind, StagePlanning


class WaitStage(StageForm):
    """Nothing is turned for a while."""

    kind: Literal["wait"]
    lasts: Duration = Field(alias="for")
    what: Text | None = None


class Wait(StageKind):
    """Waited."""

    kind, form, word, listed, place = "wait", WaitStage, "Wait", "Wait", 120
    fields = (field("for", "How long", "quantity"), field("what", "Why", example="Not specified"))

    def beginning(self, doc: Raw) -> Raw:
        """Ten minutes."""
        return {"for": "10 min"}

    def items(self, stage: Any, planning: StagePlanning) -> list[ItemOut]:
        """The wait."""
        return [
            ItemOut(
                id="wait",
                text=stage.what or f"Wait {stage.lasts}",
                answer="wait",
                wait_s=stage.lasts.base,
            )
        ]
