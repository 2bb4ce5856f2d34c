"""Stages of a plan as the result shows them, and what their kinds find in them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

from ....documents.plan import Plan
from ....documents.tightening_moves import order_of
from ....forms.errors import FieldErrors
from ....forms.order import Order
from ....forms.stage import ItemOut, PassOut, StageOut
from ....kinds.pass_kind import Look
from ....kinds.registry import PASS_KINDS
from ....kinds.stage_kind import OCCASIONS
from ....kinds.stage_registry import STAGE_KINDS, Stage
from ....kinds.stages.tighten import TightenStage
from ...states import SAFEGUARDS, axis_of
from ..inputs.finding_builder import Found
from ..load.context import Context
from .passes import drawn, passes_of

#: seconds of an item by the answer it wants, and of confirming a condition, by experience; an
#: estimate and no more
_ITEM_SECONDS = {"done": 40.0, "good": 30.0, "value": 45.0, "moved": 120.0}
_CONDITION_SECONDS = 15.0


@dataclass(slots=True)
class Work:
    """What stages may ask while they are planned; orders that cannot be are named in `errors`."""

    context: Context
    errors: FieldErrors
    timed: dict[str, float] = field(default_factory=dict)

    @property
    def plan(self) -> Plan:
        """The plan."""
        return self.context.plan

    def count(self, group: str) -> int:
        """How many bolts a group has; 0 for one that cannot be computed."""
        fact = self.context.facts.get(group)
        return fact.group.layout.count if fact is not None else 0

    def moves(self, group: str, order: Order, *path: str | int) -> list[list[str]]:
        """The order of a group as moves."""
        moves: list[list[str]] = []
        with self.errors.at(*path):
            moves = order_of(self.context.facts[group].group, order)
        return moves

    def passes(self, stage: TightenStage, index: int) -> list[PassOut]:
        """The passes of a stage that tightens, the index-th of the plan."""
        return passes_of(self.context, stage, index, self.errors)

    def seconds(self, stage: str) -> float:
        """Estimated time of the passes of a stage [s]."""
        return self.timed.get(stage, 0.0)

    def follows(self, later: str, earlier: str) -> bool:
        """Whether a stage comes after another when the joint is fitted."""
        return self.context.follows(later, earlier)


def _seconds(items: list[ItemOut], passes: float, condition: bool) -> float:
    """Estimated time of a stage at one position [s]."""
    total = passes + (_CONDITION_SECONDS if condition else 0.0)
    for item in items:
        each = item.wait_s if item.answer == "wait" else _ITEM_SECONDS[item.answer]
        total += (each or 0.0) * max(1, len(item.places))
    return total


def stages_of(work: Work) -> list[StageOut]:
    """Every stage in the order of the document."""
    context, out = work.context, []
    looks: dict[str, Look] = {}
    for index, stage in enumerate(context.plan.stages):
        kind = STAGE_KINDS[stage.kind]
        passes, items = kind.passes(stage, work, index), kind.items(stage, work)
        if items and stage.asks:
            items[-1] = items[-1].model_copy(update={"asks": list(stage.asks)})
        _varied(context, passes, items)
        work.timed[stage.id] = sum(PASS_KINDS[p.do].seconds(p) for p in passes)
        if "install" in stage.in_:
            drawn(context, passes, looks)
        out.append(
            StageOut(
                id=stage.id,
                kind=stage.kind,
                title=kind.title(stage),
                note=stage.note,
                occasions=list(stage.in_),
                variants=list(stage.variants),
                after={
                    o: context.after[o][stage.id] for o in OCCASIONS if stage.id in context.after[o]
                },
                # a plan without positions is a plan for one: everything is done once
                across=stage.across if context.plan.positions else "once",
                condition=stage.condition.words,
                **_stands(work, stage),
                only_again=stage.only_again,
                items=items,
                passes=passes,
                seconds=_seconds(items, work.timed[stage.id], bool(stage.condition)),
                **kind.more(stage, work),
            )
        )
    return out


def _varied(context: Context, passes: list[PassOut], items: list[ItemOut]) -> None:
    """Write with which variants a pass or an item belongs to the work: those of its group."""
    varied = {g.id: list(g.variants) for g in context.plan.groups if g.variants}
    if not varied:
        return
    for one in passes:
        one.variants = varied.get(one.group, [])
    for item in items:
        item.variants = varied.get(item.places[0].rpartition(".")[0], []) if item.places else []


def _stands(work: Work, stage: Stage) -> dict[str, list[str]]:
    """States it brings about, what it puts in and takes out, and its cautions with those of
    undoing."""
    kind, plan = STAGE_KINDS[stage.kind], work.plan
    brings, out = kind.brings(stage), kind.undoes(stage, plan)
    states = [word for word in brings if axis_of(plan.joint_kind, word)]
    undoing = [caution for word in out if (caution := SAFEGUARDS.get(word)) is not None]
    return {
        "brings": states,
        "puts_in": [word for word in brings if word not in states],
        "takes_out": [*out, *stage.hands_over],
        "cautions": list(dict.fromkeys([*stage.cautions, *undoing])),
    }


def kind_findings(work: Work) -> Iterator[Found]:
    """What the kinds find in their stages."""
    for stage in work.plan.stages:
        for code, where, params in STAGE_KINDS[stage.kind].findings(stage, work):
            yield Found(code, f"stages/{where}", params)
