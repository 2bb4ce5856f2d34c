"""Something is fitted; what is fitted for the work alone must come out again."""
from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Literal

from ...forms.order import Text
from ...forms.stage import ItemOut, StageOut
from ...planning.findings import Finding
from ..fields import field
from ..stage_kind import Effect, Found, Raw, StageForm, StageKind, StagePlanning, done


class FitStage(StageForm):
    """Something is fitted; `temporary` must come out again by a remove stage."""

    kind: Literal["fit"]
    what: Text
    temporary: bool = False


class Fit(StageKind):
    """Fitted."""

    kind, form, word, listed, place = "fit", FitStage, "Fit", "Fit a part or a tool", 100
    fields = (field("what", "What"), field("temporary", "Only for the work: must come out again", "tick"))

    def beginning(self, doc: Raw) -> Raw:
        """A part."""
        return {"what": "the part"}

    def items(self, stage: Any, planning: StagePlanning) -> list[ItemOut]:
        """Fitted."""
        return done("fit", f"Fit: {stage.what}")

    def more(self, stage: Any, planning: StagePlanning) -> dict[str, Any]:
        """Whether it comes out again."""
        return {"temporary": stage.temporary, "what": stage.what}

    def findings(self, stage: Any, planning: StagePlanning) -> Iterator[Found]:
        """What is fitted for the work is taken out, on every occasion, and not before it is in."""
        stages = list(planning.plan.stages)
        out = next((s for s in reversed(stages) if getattr(s, "fit", None) == stage.id), None)
        if stage.temporary and (out is None or not set(stage.in_) <= set(out.in_)):
            yield Finding.TEMPORARY_STAYS, stage.id, {"what": stage.what}
        elif out is not None and stages.index(out) < stages.index(stage):
            yield Finding.REMOVED_BEFORE_FITTED, out.id, {"stage": out.words, "what": stage.what}

    def effect(self, stage: StageOut, word: str) -> Effect | None:
        """In, until it is taken out."""
        what = stage.what or stage.items[0].text.removeprefix("Fit: ")
        return Effect(fits=what) if stage.temporary and word == "done" else None
