"""Watched, usually at start-up; when it moved the named stage and all since are done again."""

from __future__ import annotations

from typing import Any, Literal

from ...forms.base import Id, Model
from ...forms.errors import FieldError, unknown
from ...forms.order import Text
from ...forms.stage import ItemOut
from ..fields import field
from ..stage_kind import PlanView, Raw, StageForm, StageKind, StagePlanning


class IfMoved(Model):
    """What to do again."""

    redo: Id


class WatchStage(StageForm):
    """Watched, usually at start-up; when it moved the named stage and all since are done again.
    `good` and `bad` say what is seen, where that is no movement."""

    kind: Literal["watch"]
    what: Text
    good: Text | None = None
    bad: Text | None = None
    if_moved: IfMoved | None = None


class Watch(StageKind):
    """Watched."""

    kind, form, word, listed, place = "watch", WatchStage, "Watch", "Watch at start-up", 160
    fields = (
        field("what", "What"),
        field("bad", "What would be bad", example="It moved", main=False),
        field("good", "What is good", example="Nothing moved", main=False),
        field(
            "if_moved.redo",
            "When it moved, done again from",
            "stage",
            "nothing is done again",
            main=False,
        ),
    )

    def beginning(self, doc: Raw) -> Raw:
        """The marks."""
        return {"what": "the marks at start-up"}

    def errors(self, plan: PlanView, stage: Any, path: tuple[str | int, ...]) -> list[FieldError]:
        """The stage to do again is there."""
        stages = [s.id for s in plan.stages]
        if stage.if_moved is None or stage.if_moved.redo in stages:
            return []
        return [unknown("stage", stage.if_moved.redo, stages, *path, "if_moved", "redo")]

    def items(self, stage: Any, planning: StagePlanning) -> list[ItemOut]:
        """Moved or not."""
        return [
            ItemOut(id="watch", text=stage.what, answer="moved", good=stage.good, bad=stage.bad)
        ]

    def more(self, stage: Any, planning: StagePlanning) -> dict[str, Any]:
        """What is done again."""
        return {"redo": stage.if_moved.redo if stage.if_moved else None}
