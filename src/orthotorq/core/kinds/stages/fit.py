"""Something is fitted; what is fitted for the work alone must come out again."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Literal

from ...forms.order import Text
from ...forms.stage import ItemOut, StageOut
from ..fields import field
from ..stage_kind import ASKS, Kit, Raw, StageForm, StageKind, StagePlanning, done


class FitStage(StageForm):
    """Something is fitted; `temporary` must come out again by a remove stage."""

    kind: Literal["fit"]
    what: Text
    temporary: bool = False


class Fit(StageKind):
    """Fitted."""

    kind, form, word, listed, place = "fit", FitStage, "Fit", "Fit a part or a tool", 100
    fields = (
        field("what", "What"),
        field("temporary", "Only for the work: must come out again", "tick"),
        ASKS,
    )

    def beginning(self, doc: Raw) -> Raw:
        """A part."""
        return {"what": "the part"}

    def items(self, stage: Any, planning: StagePlanning) -> list[ItemOut]:
        """Fitted."""
        return done("fit", f"Fit: {stage.what}")

    def more(self, stage: Any, planning: StagePlanning) -> dict[str, Any]:
        """Whether it comes out again."""
        return {"temporary": stage.temporary, "what": stage.what}

    def kit(self, stage: Any, out: StageOut, planning: StagePlanning) -> Iterator[Kit]:
        """The tool that is fitted for the work."""
        if stage.temporary:
            yield Kit("tool", stage.what)

    def brings(self, stage: Any) -> list[str]:
        """What is fitted for the work alone is in until it is taken out."""
        return [*stage.brings, *([stage.what] if stage.temporary else [])]
