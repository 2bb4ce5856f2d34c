"""Words to be read and confirmed."""

from __future__ import annotations

from typing import Any, Literal

from ...forms.order import Text
from ...forms.stage import ItemOut
from ..fields import field
from ..stage_kind import Raw, StageForm, StageKind, StagePlanning, done


class NoteStage(StageForm):
    """Words to be read and confirmed."""

    kind: Literal["note"]
    text: Text


class Note(StageKind):
    """Read."""

    kind, form, word, listed, place = "note", NoteStage, "Note", "Note to read", 170
    fields = (field("text", "Text"),)

    def beginning(self, doc: Raw) -> Raw:
        """Some words."""
        return {"text": "Words to be read"}

    def items(self, stage: Any, planning: StagePlanning) -> list[ItemOut]:
        """The words."""
        return done("note", stage.text)

    def line(self, raw: Raw) -> str:
        """The words."""
        return str(raw.get("text") or "")
