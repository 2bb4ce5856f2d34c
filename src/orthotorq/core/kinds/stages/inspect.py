"""Looked at or measured; what fails is repaired, replaced, or accepted by name."""
from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from ...errors import Impossible
from ...forms.base import Id, Model
from ...forms.errors import FieldError, unknown
from ...forms.order import Text
from ...forms.quantities import Reading
from ...forms.stage import ItemOut, StageOut
from ...messages import Message
from ..asks_for import AskedFor
from ..stage_kind import Kit, PlanView, Raw, StageForm, StageKind, StagePlanning, usual_condition

OnFail = Literal["repair", "replace", "accept"]
_GAUGES = {"length": "measuring tool for {text} ({limit})", "angle": "angle gauge for {text} ({limit})",
           "torque": "indicating torque wrench for {text} ({limit})", "temperature": "thermometer for {text} ({limit})"}


class Limit(Model):
    """A range a reading must lie in: gap, depth, angle, torque, force."""

    min: Reading | None = None
    max: Reading | None = None

    @model_validator(mode="after")
    def _order(self) -> Limit:
        if self.min is None and self.max is None:
            raise Impossible(Message.BAD_VALUE, reason="A limit needs a min or a max")
        if self.min is not None and self.max is not None:
            if self.min.quantity.kind != self.max.quantity.kind:
                raise Impossible(Message.BAD_VALUE, ("max",), reason="Both ends of a limit must be of one kind")
            if self.min.base > self.max.base:
                raise Impossible(Message.RANGE_REVERSED, low=str(self.min), high=str(self.max))
        return self

    @property
    def words(self) -> str:
        """At least, at most."""
        parts = [f"at least {self.min}" if self.min else "", f"at most {self.max}" if self.max else ""]
        return ", ".join(p for p in parts if p)


class Check(Model):
    """Something looked at (good or not) or, with a limit, measured. `per` is once a position, once a run, or a group's bolts;
    `back` is the stage before it that can mend what fails, done again with everything since."""

    id: Id
    what: Text | None = None
    per: Id = "position"
    limit: Limit | None = None
    gauge: Text | None = None
    on_fail: Annotated[list[OnFail], Field(min_length=1, max_length=3)] = ["repair", "replace", "accept"]
    back: Id | None = None
    asks: Annotated[list[AskedFor], Field(max_length=3)] = []

    @property
    def words(self) -> str:
        """What is looked at; the id in words where the plan says nothing more."""
        return self.what or self.id.replace("_", " ").replace("-", " ")


class InspectStage(StageForm):
    """Looked at or measured; what fails is repaired, replaced, or accepted by name."""

    kind: Literal["inspect", "measure"]
    checks: Annotated[list[Check], Field(min_length=1, max_length=60)]


class Inspect(StageKind):
    """Looked at."""

    kind, form, word, listed, place = "inspect", InspectStage, "Inspect", "Inspect", 60
    needs_condition = proves = True

    def beginning(self, doc: Raw) -> Raw:
        """One look."""
        return {"condition": usual_condition(doc), "checks": [{"id": "c1", "what": "Faces clean and whole"}]}

    def errors(self, plan: PlanView, stage: Any, path: tuple[str | int, ...]) -> list[FieldError]:
        """What a check is done per is known."""
        known = [*(g.id for g in plan.groups), "position", "run"]
        names = [s.id for s in plan.stages]
        before = names[:names.index(stage.id)]
        return [*(unknown("group", c.per, known, *path, "checks", j, "per")
                  for j, c in enumerate(stage.checks) if c.per not in known),
                *(unknown("stage before it", c.back, before, *path, "checks", j, "back")
                  for j, c in enumerate(stage.checks) if c.back is not None and c.back not in before)]

    def items(self, stage: Any, planning: StagePlanning) -> list[ItemOut]:
        """Each check, at each bolt where it is asked for."""
        return [self._item(c, planning.count(c.per)) for c in stage.checks]

    @staticmethod
    def _item(check: Check, count: int) -> ItemOut:
        limit, places = check.limit, [f"{check.per}.{i + 1}" for i in range(count)]
        shared = {"id": check.id, "text": check.words, "gauge": check.gauge, "places": places, "on_fail": list(check.on_fail),
                  "back": check.back, "asks": list(check.asks)}
        if limit is None:
            return ItemOut(answer="good", **shared)
        end = limit.max or limit.min
        assert end is not None
        return ItemOut(answer="value", quantity=end.quantity.kind, min=limit.min.base if limit.min else None,
                       max=limit.max.base if limit.max else None, limit_text=limit.words, unit=end.quantity.unit, **shared)

    def kit(self, stage: Any, out: StageOut, planning: StagePlanning) -> Iterator[Kit]:
        """A gauge for every measurement."""
        for check in stage.checks:
            if check.gauge:
                yield Kit("gauge", check.gauge)
            elif check.limit is not None:
                end = check.limit.max or check.limit.min
                words = _GAUGES.get(end.quantity.kind, "gauge for {text} ({limit})")
                yield Kit("gauge", words.format(text=check.words[:1].lower() + check.words[1:],
                                                limit=f"{check.limit.min or '…'} to {check.limit.max or '…'}"))

    def line(self, raw: Raw) -> str:
        """What is looked at."""
        return "; ".join(str(c.get("what") or c.get("id")) for c in raw.get("checks") or [])


class Measure(Inspect):
    """Measured."""

    kind, word, listed, place = "measure", "Measure", "Measure", 130

    def beginning(self, doc: Raw) -> Raw:
        """One measurement."""
        return {"condition": usual_condition(doc), "checks": [{"id": "c1", "what": "Gap", "limit": {"max": "0.5 mm"}}]}
