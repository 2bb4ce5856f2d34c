"""Somebody or something holds a part, or the far side of the bolts."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Literal

from ...forms.order import Text
from ...forms.stage import ItemOut, StageOut
from ..fields import field
from ..stage_kind import Kit, Raw, StageForm, StageKind, StagePlanning, done


class HoldStage(StageForm):
    """Somebody or something holds a part, or the far side of the bolts."""

    kind: Literal["hold", "counter_hold"]
    what: Text
    tool: Text | None = None


class Hold(StageKind):
    """A part is held."""

    kind, form, word, listed, place = "hold", HoldStage, "Hold", "Hold a part", 80
    fields = (field("what", "What"), field("tool", "With", example="Not specified"))
    held, usual = "the part that is held", ""

    def beginning(self, doc: Raw) -> Raw:
        """Something to hold."""
        return {"what": self.held}

    def items(self, stage: Any, planning: StagePlanning) -> list[ItemOut]:
        """Held, and with what."""
        return done("hold", stage.what + (f", with {stage.tool}" if stage.tool else ""))

    def kit(self, stage: Any, out: StageOut, planning: StagePlanning) -> Iterator[Kit]:
        """The tool that holds."""
        if stage.tool or self.usual:
            yield Kit("tool", stage.tool or self.usual)


class CounterHold(Hold):
    """The far side of the bolts is held."""

    kind, word, listed, place = "counter_hold", "Hold the far side", "Hold the far side", 90
    held, usual = "far side held", "spanner to hold the far side"
