"""Passes over groups of bolts in a stated condition."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from ...errors import Impossible
from ...forms.as_typed import mappings
from ...forms.base import Id
from ...forms.condition import condition_words
from ...forms.errors import FieldError, unknown
from ...forms.order import Text
from ...forms.stage import PassOut, StageOut
from ...messages import Message, render
from ...planning.method_names import METHOD_NAMES
from ..fields import field
from ..registry import PASS_KINDS, Passes
from ..stage_kind import (
    Found,
    Kit,
    PlanView,
    Raw,
    StageForm,
    StageKind,
    StagePlanning,
    all_groups,
    ids_known,
    usual_condition,
)
from .under_load import condition_findings

IMPACT = {"never": "never", "run_down": "for running down only"}


class TightenStage(StageForm):
    """Passes over groups in a stated condition; a `method` by id stands for its passes.

    Every group is pulled with the stage's chains, unless `chain_for` names its own.
    """

    kind: Literal["tighten"]
    groups: Annotated[list[Id], Field(min_length=1, max_length=60)]
    chains: Annotated[list[Id], Field(max_length=6)] = []
    chain_for: dict[Id, Id] = {}
    impact: Literal["never", "run_down"] = "never"
    watch_for: Text | None = None
    passes: Passes | None = None
    method: Id | None = None

    @model_validator(mode="after")
    def _one_of(self) -> TightenStage:
        if (self.passes is None) == (self.method is None):
            raise Impossible(
                Message.BAD_VALUE,
                ("passes",),
                reason="A tighten stage has either passes or a method",
            )
        return self

    def chains_of(self, group: str, own: list[str] | None = None) -> list[str]:
        """The chains a group is pulled with, in a pass with its own ones."""
        return own or ([self.chain_for[group]] if group in self.chain_for else self.chains)


class Tighten(StageKind):
    """Tightened."""

    kind, form, word, listed, place = "tighten", TightenStage, "Tighten", "Tighten", 110
    fields = (
        field("watch_for", "Watch for", example="nothing", main=False),
        field("impact", "Impact tools", "choice", choices=IMPACT, main=False),
    )
    needs_condition = turns = proves = True

    def beginning(self, doc: Raw) -> Raw:
        """All bolts that have a figure, with the first tool, by rising passes."""
        targets = doc.get("targets") or {}
        groups = [group for group in all_groups(doc) if group in targets] or all_groups(doc)
        return {
            "condition": usual_condition(doc),
            "groups": groups,
            "chains": list(doc.get("chains") or {})[:1],
            "method": "rising_cross",
        }

    def errors(self, plan: PlanView, stage: Any, path: tuple[str | int, ...]) -> list[FieldError]:
        """Chains, own chains of groups and method are known; what is pulled to a figure has one."""
        chains, groups = list(plan.chains), [g.id for g in plan.groups]
        out = ids_known(stage.chains, chains, "chain", *path, "chains")
        out += [
            unknown("group", g, stage.groups, *path, "chain_for", g)
            for g in stage.chain_for
            if g not in stage.groups
        ]
        out += [
            unknown("chain", c, chains, *path, "chain_for", g)
            for g, c in stage.chain_for.items()
            if c not in plan.chains
        ]
        for i, one in enumerate(stage.passes or []):
            out += ids_known(one.chains, chains, "chain", *path, "passes", i, "chains")
        known = [*plan.definitions.methods, *METHOD_NAMES]
        if stage.method is not None and stage.method not in known:
            out.append(unknown("method", stage.method, known, *path, "method"))
        if stage.passes is None or any(PASS_KINDS[p.do].needs_target for p in stage.passes):
            out += [
                FieldError(
                    ("targets",), Message.NO_TARGET.value, render(Message.NO_TARGET, group=group)
                )
                for group in stage.groups
                if group in groups and group not in plan.targets
            ]
        return out

    def more(self, stage: Any, planning: StagePlanning) -> dict[str, Any]:
        """Impact tools, what to watch, which bolts."""
        return {"impact": stage.impact, "watch_for": stage.watch_for, "groups": list(stage.groups)}

    def passes(self, stage: Any, planning: StagePlanning, index: int) -> list[PassOut]:
        """Every pass over each of its groups, in work order."""
        return planning.passes(stage, index)

    def kit(self, stage: Any, out: StageOut, planning: StagePlanning) -> Iterator[Kit]:
        """What the passes take beside the wrench, and what runs down."""
        for one in out.passes:
            for kind, text in PASS_KINDS[one.do].kit(one):
                yield Kit(kind, text)
        if stage.impact == "run_down":
            yield Kit("tool", "impact driver, for running down only")

    def findings(self, stage: Any, planning: StagePlanning) -> Iterator[Found]:
        """The condition it is done in."""
        return condition_findings(stage, planning, tightens=True)

    def line(self, raw: Raw) -> str:
        """Its method, or its passes; then the condition."""
        method, passes = raw.get("method"), mappings(raw.get("passes"))
        what = (
            f"method {str(method).replace('_', ' ')}"
            if method
            else ", ".join(
                PASS_KINDS[p["do"]].brief(p) if str(p.get("do")) in PASS_KINDS else "?"
                for p in passes
            )
        )
        return f"{what} · {', '.join(condition_words(raw.get('condition')))}"
