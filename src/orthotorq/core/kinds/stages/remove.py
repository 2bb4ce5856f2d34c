"""Takes out what a fit stage put in, or something that was there."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import model_validator

from ...errors import Impossible
from ...forms.base import Id
from ...forms.errors import FieldError, unknown
from ...forms.order import Text
from ...forms.stage import ItemOut
from ...messages import Message
from ..fields import field
from ..stage_kind import PlanView, Raw, StageForm, StageKind, StagePlanning, done
from .fit import FitStage


class RemoveStage(StageForm):
    """Takes out what a fit stage put in, or something that was there."""

    kind: Literal["remove"]
    fit: Id | None = None
    what: Text | None = None

    @model_validator(mode="after")
    def _something(self) -> RemoveStage:
        if self.fit is None and self.what is None:
            raise Impossible(
                Message.BAD_VALUE,
                ("fit",),
                reason="Name the stage that fitted it, or enter what is removed",
            )
        return self


class Remove(StageKind):
    """Taken out."""

    kind, form, word, listed, place = "remove", RemoveStage, "Remove", "Remove", 40
    fields = (
        field("fit", "Comes out", "fitted", "something that was there"),
        field("what", "What comes off", example="what was fitted"),
    )
    may_refuse = True

    def beginning(self, doc: Raw) -> Raw:
        """What was fitted and nothing takes out yet, else something that was there."""
        stages = doc.get("stages", [])
        out = {s.get("fit") for s in stages}
        fitted = next(
            (s for s in stages if s.get("kind") == "fit" and s.get("id") not in out), None
        )
        return {"fit": fitted["id"]} if fitted else {"what": "what comes off"}

    def errors(self, plan: PlanView, stage: Any, path: tuple[str | int, ...]) -> list[FieldError]:
        """The stage that fitted it is there."""
        fits = [s.id for s in plan.stages if isinstance(s, FitStage)]
        return (
            []
            if stage.fit is None or stage.fit in fits
            else [unknown("fit stage", stage.fit, fits, *path, "fit")]
        )

    def items(self, stage: Any, planning: StagePlanning) -> list[ItemOut]:
        """Taken out."""
        fitted = next(
            (s for s in planning.plan.stages if isinstance(s, FitStage) and s.id == stage.fit), None
        )
        return done(
            "remove",
            f"Take off: {stage.what}" if stage.what else f"Remove: {fitted.what if fitted else ''}",
        )

    def more(self, stage: Any, planning: StagePlanning) -> dict[str, Any]:
        """Which stage put it in."""
        return {"fit": stage.fit}

    def line(self, raw: Raw) -> str:
        """What comes off, or what put it in."""
        return str(raw.get("what") or (f"what “{raw['fit']}” put in" if raw.get("fit") else ""))

    def undoes(self, stage: Any, plan: PlanView) -> list[str]:
        """What the named stage fitted."""
        fitted = next(
            (s for s in plan.stages if isinstance(s, FitStage) and s.id == stage.fit), None
        )
        return [*stage.undoes, *([fitted.what] if fitted is not None else [])]
