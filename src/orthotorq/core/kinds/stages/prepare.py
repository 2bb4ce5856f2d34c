"""Things to be ticked before work goes on; cleaning and undoing have the same form."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Any, Literal

from pydantic import Field

from ...forms.as_typed import listed
from ...forms.base import Id, Model
from ...forms.order import Text
from ...forms.stage import ItemOut, StageOut
from ...planning.states import axis_of
from ..recorded_fields import AskedFor
from ..stage_kind import Across, Kit, Raw, StageForm, StageKind, StagePlanning


class Item(Model):
    """One thing to do and tick."""

    id: Id
    text: Text
    asks: Annotated[list[AskedFor], Field(max_length=3)] = []


class PrepareStage(StageForm):
    """Things to be ticked before work goes on; once for the run unless said otherwise. Clean and
    undo have the same form."""

    kind: Literal["prepare", "clean", "undo"]
    across: Across = "once"
    items: Annotated[list[Item], Field(min_length=1, max_length=60)]


def _plural(count: int, one: str) -> str:
    return f"{count} {one}{'' if count == 1 else 's'}"


class Prepare(StageKind):
    """Made safe and ready."""

    kind, form, word, listed, place = (
        "prepare",
        PrepareStage,
        "Prepare",
        "Prepare: things to tick",
        10,
    )
    makes_safe = True
    text = "What has to be done"

    def beginning(self, doc: Raw) -> Raw:
        """One thing to tick."""
        return {"items": [{"id": "i1", "text": self.text}]}

    def items(self, stage: Any, planning: StagePlanning) -> list[ItemOut]:
        """Each thing."""
        return [
            ItemOut(id=i.id, text=i.text, answer="done", asks=list(i.asks)) for i in stage.items
        ]

    def line(self, raw: Raw) -> str:
        """How many things and cautions."""
        items, cautions = (len(listed(raw.get(field))) for field in ("items", "cautions"))
        return _plural(items, "item") + (f", {_plural(cautions, 'caution')}" if cautions else "")


class Clean(Prepare):
    """Threads, seats and faces cleaned."""

    kind, word, listed, place = "clean", "Clean", "Clean", 50
    makes_safe = False
    text = "Threads and faces clean"

    def kit(self, stage: Any, out: StageOut, planning: StagePlanning) -> Iterator[Kit]:
        """What cleans."""
        yield Kit("sundry", "wire brush, cleaner, lint-free cloth")


class Undo(Prepare):
    """What was put in for the work comes out, and the joint is handed back."""

    kind, word, listed, place = "undo", "Undo and hand back", "Undo: locks, stands, slings off", 165
    text = "Everybody clear, tools counted"

    def beginning(self, doc: Raw) -> Raw:
        """All that was put in so far and nothing takes out."""
        stages = [s for s in doc.get("stages", []) if isinstance(s, dict)]
        put = [
            w
            for s in stages
            for w in s.get("brings") or []
            if axis_of(str(doc.get("joint_kind")), w) is None
        ]
        gone = {w for s in stages for w in (*(s.get("undoes") or []), *(s.get("hands_over") or []))}
        still = [w for w in dict.fromkeys(put) if w not in gone]
        return {**super().beginning(doc), **({"undoes": still} if still else {})}
