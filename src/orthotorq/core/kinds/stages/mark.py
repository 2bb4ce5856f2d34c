"""A paint line or another mark."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Literal

from ...forms.order import Text
from ...forms.stage import ItemOut, StageOut
from ..fields import field
from ..stage_kind import ASKS, Kit, Raw, StageForm, StageKind, StagePlanning, done


class MarkStage(StageForm):
    """A paint line or another mark."""

    kind: Literal["mark"]
    what: Text


class Mark(StageKind):
    """Marked."""

    kind, form, word, listed, place = "mark", MarkStage, "Mark", "Mark", 150
    fields = (field("what", "What"), ASKS)

    def beginning(self, doc: Raw) -> Raw:
        """A paint line."""
        return {"what": "paint line over bolt and part"}

    def items(self, stage: Any, planning: StagePlanning) -> list[ItemOut]:
        """Marked."""
        return done("mark", stage.what)

    def kit(self, stage: Any, out: StageOut, planning: StagePlanning) -> Iterator[Kit]:
        """What marks."""
        yield Kit("sundry", "paint marker")
