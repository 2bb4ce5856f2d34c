"""Findings about the order and the kinds of stages: what is out of order, what stays in, what has set, what is hot."""
from __future__ import annotations

import re
from itertools import pairwise

from ...documents.plan import Plan
from ...documents.references import resolved_after
from ...documents.stages import ApplyStage, FitStage, JackOutStage, LoosenStage, RemoveStage, Stage, TightenStage
from ...tables import lubricants
from ..findings import Finding
from .collect import Collector
from .facts import Facts

_HOT = re.compile(r"\bhot\b|under pressure|pressuri[sz]ed|in service", re.I)
#: surfaces with oil on them: the oil that is put on is another entry of the table
_OILED, _OILS = {"zinc-oil", "phosphated-oil"}, {"light-oil", "engine-oil"}
#: these come with the bolt
_SUPPLIED = {"wax", "ptfe", *_OILED}
_SLIDING = {"thread", "under head", "washer", "seat"}
_PRESSURE = re.compile(r"under pressure|(?<!not )(?<!de)pressuri[sz]ed\b|pressure on\b", re.I)


def title_of(stage: Stage) -> str:
    """A stage in words."""
    return stage.title or stage.id


def stage_findings(plan: Plan, facts: dict[str, Facts], seconds: dict[str, float], collector: Collector) -> None:
    """Every finding about stages; `seconds` estimates each tighten stage."""
    _order(plan, collector)
    _temporary(plan, collector)
    if plan.joint_kind in ("gasketed_cover", "machine_mount") and not any(s.kind == "counter_hold" for s in plan.stages):
        for group in plan.groups:
            if group.into is not None and group.into.kind == "nut":
                collector.add(Finding.NO_COUNTER_HOLD, f"groups/{group.id}", group=group.name)
    for i, stage in enumerate(plan.stages):
        if isinstance(stage, ApplyStage):
            _compound(plan, i, stage, seconds, collector)
        if isinstance(stage, TightenStage | LoosenStage | JackOutStage):
            _condition(plan, i, stage, facts, collector)
    for fact in facts.values():
        _sliding_faces(plan, fact, collector)
    _rechecks(plan, collector)


def _order(plan: Plan, collector: Collector) -> None:
    place = {s.id: i for i, s in enumerate(plan.stages)}
    titles = {s.id: title_of(s) for s in plan.stages}
    for occasion in ("install", "dismantle", "recheck"):
        for name, after in resolved_after(plan.stages, occasion).items():
            for other in after:
                if place[other] > place[name]:
                    collector.add(Finding.STAGE_ORDER, f"stages/{place[name]}", stage=titles[name], other=titles[other])


def _temporary(plan: Plan, collector: Collector) -> None:
    removals = {s.fit: i for i, s in enumerate(plan.stages) if isinstance(s, RemoveStage) and s.fit}
    for i, stage in enumerate(plan.stages):
        if not isinstance(stage, FitStage):
            continue
        out = removals.get(stage.id)
        if out is None:
            if stage.temporary:
                collector.add(Finding.TEMPORARY_STAYS, f"stages/{i}", what=stage.what)
        elif not set(stage.in_) <= set(plan.stages[out].in_) and stage.temporary:
            collector.add(Finding.TEMPORARY_STAYS, f"stages/{i}", what=stage.what)
        elif out < i:
            collector.add(Finding.REMOVED_BEFORE_FITTED, f"stages/{out}", stage=title_of(plan.stages[out]), what=stage.what)


def _follows(plan: Plan, later: str, earlier: str) -> bool:
    """Whether a stage comes after another on the occasion install, by dependencies."""
    after = resolved_after(plan.stages, "install")
    todo, seen = list(after.get(later, [])), set[str]()
    while todo:
        one = todo.pop()
        if one == earlier:
            return True
        if one not in seen:
            seen.add(one)
            todo += after.get(one, [])
    return False


def _minutes(seconds: float) -> str:
    return f"{seconds / 60:.0f} min" if seconds >= 90 else f"{seconds:.0f} s"


def _compound(plan: Plan, i: int, stage: ApplyStage, seconds: dict[str, float], collector: Collector) -> None:
    where, title = f"stages/{i}", title_of(stage)
    name = plan.definitions.lubricants[stage.compound].name if stage.compound in plan.definitions.lubricants else stage.what
    shipped = lubricants.table().get(stage.compound or "")
    if "gasket" in stage.faces and not stage.reason:
        collector.add(Finding.COMPOUND_ON_GASKET, where, stage=title, what=stage.what)
    if shipped is not None:
        name = shipped.name
        for face in stage.faces:
            if face == "seat" and "dry seat" in shipped.forbidden and plan.joint_kind in ("wheel", "twin_wheel"):
                collector.add(Finding.COMPOUND_FORBIDDEN, where, stage=title, lubricant=name, face="a dry seat")
    if stage.sets_in is None:
        return
    tightens = [s for s in plan.stages if isinstance(s, TightenStage) and set(s.groups) & set(stage.groups)]
    needs = sum(seconds.get(s.id, 0.0) for s in tightens if "install" in s.in_ and s.id in stage.before)
    if needs > stage.sets_in.base:
        named = ", ".join(title_of(s) for s in tightens if s.id in stage.before)
        collector.add(Finding.SETS_TOO_SOON, where, stage=named, needs=_minutes(needs), what=stage.what, sets=str(stage.sets_in))
    for one in tightens:
        if one.id not in stage.before and one.id != stage.id:
            _set_or_late(plan, stage, one, collector)


def _sliding_faces(plan: Plan, fact: Facts, collector: Collector) -> None:
    """Whether what is put on the faces that slide is what the figure was computed for."""
    group, lubricant = fact.group, fact.friction.lubricant
    tightens = [s for s in plan.stages if isinstance(s, TightenStage) and group.id in s.groups and "install" in s.in_]
    if lubricant is None or not tightens:
        return
    applied = [(i, s) for i, s in enumerate(plan.stages) if isinstance(s, ApplyStage) and "install" in s.in_
               and group.id in s.groups and (not s.faces or _SLIDING & set(s.faces))]
    compounds = {s.compound for _, s in applied if s.compound}
    known = lubricants.table().get(lubricant)
    if compounds and lubricant not in compounds and not (lubricant in _OILED and compounds <= _OILS):
        i, stage = next((i, s) for i, s in applied if s.compound)
        collector.add(Finding.COMPOUND_DIFFERS, f"stages/{i}", group=group.name, stage=title_of(stage), applied=stage.what,
                      lubricant=fact.friction.name)
    elif not applied and known is not None and not known.dry and lubricant not in _SUPPLIED and not any(
            p.do == "torque" and p.before_each for s in tightens for p in s.passes or []):
        collector.add(Finding.COMPOUND_NOT_APPLIED, f"groups/{group.id}", group=group.name, lubricant=fact.friction.name)


def _set_or_late(plan: Plan, stage: ApplyStage, one: TightenStage, collector: Collector) -> None:
    """A tighten stage on the same bolts that the clock does not cover: before the compound is late, after it a check breaks
    the bond."""
    where = f"stages/{plan.stages.index(one)}"
    if "install" not in one.in_ or _follows(plan, one.id, stage.id):
        collector.add(Finding.CHECK_AFTER_SET, where, stage=title_of(one), what=stage.what)
    elif _follows(plan, stage.id, one.id) and any(p.do == "torque" for p in one.passes or []):
        collector.add(Finding.APPLIED_TOO_LATE, where, what=stage.what, stage=title_of(one))


def _condition(plan: Plan, i: int, stage: TightenStage | LoosenStage | JackOutStage, facts: dict[str, Facts],
               collector: Collector) -> None:
    where, words = f"stages/{i}", ", ".join(stage.condition)
    if not stage.condition:
        collector.add(Finding.CONDITION_NOT_NAMED, where, stage=title_of(stage))
        return
    groups = getattr(stage, "groups", [])
    gaskets = [(facts[g].group.name, facts[g].group.gasket) for g in groups if g in facts and facts[g].group.gasket]
    if _PRESSURE.search(words) and isinstance(stage, TightenStage | LoosenStage):
        collector.add(Finding.UNDER_PRESSURE, where, stage=title_of(stage), condition=words)
    elif isinstance(stage, TightenStage) and gaskets:
        name, gasket = gaskets[0]
        assert gasket is not None
        if _HOT.search(words):
            word = {"forbidden": "forbids it", "not said": "has not allowed it"}.get(gasket.hot_retighten)
            if word:
                collector.add(Finding.HOT_RETIGHTENING, where, stage=title_of(stage), group=name, word=word)
        elif "install" not in stage.in_ and gasket.hot_retighten != "allowed by the maker":
            collector.add(Finding.RETIGHTENING_NOT_SAID, where, stage=title_of(stage), group=name)


def _rechecks(plan: Plan, collector: Collector) -> None:
    for i, one in enumerate(plan.rechecks):
        where = f"rechecks/{i}"
        values = [a.base for a in one.at]
        reason = None
        if any(b <= a for a, b in pairwise(values)):
            reason = "the readings do not rise: " + ", ".join(map(str, one.at))
        elif one.every is not None and values and one.every.base < values[-1]:
            reason = f"the interval {one.every} is shorter than the last single reading {one.at[-1]}"
        if reason:
            collector.add(Finding.RECHECK_ODD, where, recheck=one.id, reason=reason)
        if not any(one.occasion in s.in_ and s.kind in ("tighten", "inspect", "measure") for s in plan.stages):
            collector.add(Finding.RECHECK_WITHOUT_STAGES, where, recheck=one.id, occasion=one.occasion)
    settles = plan.joint_kind in ("wheel", "twin_wheel", "gasketed_cover", "machine_mount")
    if settles and not any(r.at for r in plan.rechecks):
        collector.add(Finding.NO_EARLY_RECHECK, "rechecks")
