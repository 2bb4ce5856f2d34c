"""Looked at or measured; what fails is repaired, replaced, or accepted by name."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Any, Literal

from pydantic import Field

from ...forms.as_typed import mappings
from ...forms.errors import FieldError, unknown
from ...forms.stage import ItemOut, StageOut
from ..checks import Check, items_of
from ..stage_kind import Kit, PlanView, Raw, StageForm, StageKind, StagePlanning, usual_condition

_GAUGES = {
    "length": "measuring tool for {text}",
    "angle": "angle gauge for {text}",
    "torque": "indicating torque wrench for {text}",
    "temperature": "thermometer for {text}",
}


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
        return {
            "condition": usual_condition(doc),
            "checks": [{"id": "c1", "what": "Faces clean and whole"}],
        }

    def errors(self, plan: PlanView, stage: Any, path: tuple[str | int, ...]) -> list[FieldError]:
        """What a check is done per is known."""
        known = [*(g.id for g in plan.groups), "position", "run"]
        names = [s.id for s in plan.stages]
        before = names[: names.index(stage.id)]
        return [
            *(
                unknown("group", c.per, known, *path, "checks", j, "per")
                for j, c in enumerate(stage.checks)
                if c.per not in known
            ),
            *self._unknown_before(plan, stage, path),
            *(
                unknown("stage before it", c.back, before, *path, "checks", j, "back")
                for j, c in enumerate(stage.checks)
                if c.back is not None and c.back not in before
            ),
        ]

    def _unknown_before(
        self, plan: PlanView, stage: Any, path: tuple[str | int, ...]
    ) -> Iterator[FieldError]:
        """A change is from a reading of the same kind that comes before it."""
        known: dict[str, str] = {}
        for one in plan.stages:
            for j, check in enumerate(getattr(one, "checks", ())):
                since = check.change.since if check.change else None
                if (
                    one.id == stage.id
                    and since is not None
                    and known.get(since) != (check.measure or ("",))[0]
                ):
                    yield unknown(
                        "reading of its kind before it",
                        since,
                        sorted(known),
                        *path,
                        "checks",
                        j,
                        "change",
                        "since",
                    )
                if check.measure is not None:
                    known[f"{one.id}/{check.id}"] = check.measure[0]
            if one.id == stage.id:
                return

    def items(self, stage: Any, planning: StagePlanning) -> list[ItemOut]:
        """Each check, at each bolt where it is asked for."""
        return [item for c in stage.checks for item in items_of(c, planning.count(c.per), c.per)]

    def kit(self, stage: Any, out: StageOut, planning: StagePlanning) -> Iterator[Kit]:
        """A gauge for every measurement."""
        for check in stage.checks:
            if check.gauge:
                yield Kit("gauge", check.gauge)
            elif check.measure is not None:
                words = _GAUGES.get(check.measure[0], "gauge for {text}")
                said = (
                    f" ({check.limit.min or '…'} to {check.limit.max or '…'})"
                    if check.limit
                    else ""
                )
                yield Kit(
                    "gauge", words.format(text=check.words[:1].lower() + check.words[1:]) + said
                )

    def line(self, raw: Raw) -> str:
        """What is looked at."""
        return "; ".join(str(c.get("what") or c.get("id")) for c in mappings(raw.get("checks")))


class Measure(Inspect):
    """Measured."""

    kind, word, listed, place = "measure", "Measure", "Measure", 130

    def beginning(self, doc: Raw) -> Raw:
        """One measurement."""
        return {
            "condition": usual_condition(doc),
            "checks": [{"id": "c1", "what": "Gap", "limit": {"max": "0.5 mm"}}],
        }
