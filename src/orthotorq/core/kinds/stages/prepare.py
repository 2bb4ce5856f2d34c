"""Things to be ticked before work goes on; cleaning has the same form."""
from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Any, Literal

from pydantic import Field

from ...forms.base import Id, Model
from ...forms.order import Text
from ...forms.stage import ItemOut, StageOut
from ..stage_kind import Across, Kit, Raw, StageForm, StageKind, StagePlanning


class Item(Model):
    """One thing to do and tick."""

    id: Id
    text: Text


class PrepareStage(StageForm):
    """Things to be ticked before work goes on; once for the run unless said otherwise. Clean has the same form."""

    kind: Literal["prepare", "clean"]
    across: Across = "once"
    items: Annotated[list[Item], Field(min_length=1, max_length=60)]


def _plural(count: int, one: str) -> str:
    return f"{count} {one}{'' if count == 1 else 's'}"


class Prepare(StageKind):
    """Made safe and ready."""

    kind, form, word, listed, place = "prepare", PrepareStage, "Prepare", "Prepare: things to tick", 10
    makes_safe = True
    text = "What has to be done"

    def beginning(self, doc: Raw) -> Raw:
        """One thing to tick."""
        return {"items": [{"id": "i1", "text": self.text}]}

    def items(self, stage: Any, planning: StagePlanning) -> list[ItemOut]:
        """Each thing."""
        return [ItemOut(id=i.id, text=i.text, answer="done") for i in stage.items]

    def line(self, raw: Raw) -> str:
        """How many things and cautions."""
        return f"{_plural(len(raw.get('items') or []), 'item')}, {_plural(len(raw.get('cautions') or []), 'caution')}"


class Clean(Prepare):
    """Threads, seats and faces cleaned."""

    kind, word, listed, place = "clean", "Clean", "Clean", 50
    makes_safe = False
    text = "Threads and faces clean"

    def kit(self, stage: Any, out: StageOut, planning: StagePlanning) -> Iterator[Kit]:
        """What cleans."""
        yield Kit("sundry", "wire brush, cleaner, lint-free cloth")
