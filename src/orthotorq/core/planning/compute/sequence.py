"""What the passes of a group over all its stages leave out or get wrong, and whether they do what its figure says."""
from __future__ import annotations

import math
from itertools import pairwise

from ...documents.passes import AnglePass, BackOffPass, Pass, TorquePass
from ...documents.plan import Plan
from ...documents.stages import ApplyStage, TightenStage
from ...units import show
from ..findings import Finding
from .chosen import Chosen
from .collect import Collector, newton_metre
from .facts import Facts
from .passes import pass_name, turn_words


def _falls(before: TorquePass, after: TorquePass) -> bool:
    """Whether the percentages fall without a reason: coming back from over-torque rounds is one."""
    over = before.percent > 100 and before.rounds is not None and after.percent >= 100
    return after.percent < before.percent and not after.falls and not over


def sequence_findings(plan: Plan, stage_passes: dict[str, list[Pass]], chosen: dict[str, Chosen], facts: dict[str, Facts],
                      collector: Collector) -> None:
    """What the passes of one group over all install stages leave out or get wrong."""
    tightened = {g for s in plan.stages if isinstance(s, TightenStage) for g in s.groups}
    for group_id, fact in facts.items():
        if group_id not in tightened:
            collector.add(Finding.NEVER_TIGHTENED, f"groups/{group_id}", group=fact.group.name)
        mine = [s for s in plan.stages if isinstance(s, TightenStage) and group_id in s.groups and "install" in s.in_]
        variants: list[str | None] = [*sorted({v for s in mine for v in s.variants})] or [None]
        for variant in variants:
            taken = [s for s in mine if not s.variants or variant in s.variants]
            every = [(s, p) for s in taken for p in stage_passes[s.id]]
            _sequence(plan, every, group_id, fact, collector)
            if every and group_id in chosen:
                _figure(plan, [p for _, p in every], chosen[group_id], collector)


def _figure(plan: Plan, every: list[Pass], chosen: Chosen, collector: Collector) -> None:
    """Whether the passes do what the figure was computed for."""
    group, kinds = chosen.facts.group, {p.do for p in every}
    where = f"groups/{group.id}"
    if not kinds & {"torque", "feel", "gap_round"}:
        collector.add(Finding.FIGURE_NOT_SET, where, group=group.name, torque=newton_metre(chosen.torque))
    last = every[-1]
    if isinstance(last, BackOffPass) and plan.joint_kind != "bearing_nut":
        collector.add(Finding.ENDS_BACKED_OFF, where, group=group.name, turn=turn_words(str(last.turn)))
    turned = sum(p.turn.base for p in every if isinstance(p, AnglePass))
    if abs(turned - chosen.angle) > math.radians(0.5):
        said, done = (f"{show(math.degrees(angle), 3)}°" for angle in (chosen.angle, turned))
        collector.add(Finding.ANGLE_DIFFERS, where, group=group.name, said=said, turned=done)


def _sequence(plan: Plan, every: list[tuple[TightenStage, Pass]], group_id: str, fact: Facts, collector: Collector) -> None:
    """The passes of one group in one variant."""
    seen = [p for _, p in every if isinstance(p, TorquePass)]
    where, name = f"groups/{group_id}", fact.group.name
    if any(p.do == "feel" for _, p in every):
        collector.add(Finding.PROVISIONAL, where, group=name)
    _angle_findings(plan, every, collector)
    if not seen:
        return
    for before, after in pairwise(seen):
        if _falls(before, after):
            collector.add(Finding.PERCENT_FALLS, where, group=name, percent=f"{after.percent:g}",
                          before=f"{before.percent:g}")
    if max(p.percent for p in seen) < 100:
        collector.add(Finding.ENDS_BELOW_FULL, where, group=name, percent=f"{seen[-1].percent:g}")
    turned = any(p.do in ("angle", "back_off") for _, p in every)
    # what a threadlocker holds is not pulled again: the bond would break
    locked = any(isinstance(s, ApplyStage) and s.sets_in is not None and group_id in s.groups for s in plan.stages)
    if fact.group.layout.count > 1 and not turned and not locked and not any(p.check or p.repeat for p in seen) \
            and plan.joint_kind != "fixture":
        collector.add(Finding.NO_CHECK_ROUND, where, group=name)
    if plan.joint_kind == "gasketed_cover" and fact.group.gasket is not None and seen[0].percent > 50:
        collector.add(Finding.NO_RISING_PASSES, where, group=name, percent=f"{seen[0].percent:g}")


def _angle_findings(plan: Plan, every: list[tuple[TightenStage, Pass]], collector: Collector) -> None:
    snug = False
    for stage, one in every:
        if one.do in ("torque", "snug"):
            snug = True
        elif one.do == "angle" and not snug:
            collector.add(Finding.ANGLE_WITHOUT_SNUG, f"stages/{plan.stages.index(stage)}", stage=stage.title or stage.id,
                          name=pass_name(one))
