"""The door of planning: a plan document in, a result out.

`compute` validates, computes every group and stage, and returns a Result; a plan that cannot be computed raises
DocumentErrors with the path of every field that is wrong. Steps are not enumerated here (see core/running).
"""
from __future__ import annotations

from typing import Any

from ... import CORE_VERSION
from ...documents.base import DocumentErrors
from ...documents.plan import Plan, YieldTarget
from ...documents.read import document_hash, read_plan
from ...documents.result import (
    FrictionOut,
    GroupOut,
    ItemOut,
    LimitOut,
    PositionOut,
    PreloadOut,
    Result,
    SplitOut,
    StageOut,
    StrengthOut,
    TargetOut,
    ThreadOut,
)
from ...documents.stages import ApplyStage, Check, InspectStage, MarkStage, PrepareStage, Stage, TightenStage
from ...mechanics.preload import torque_from_preload, torque_split
from ...mechanics.window import PreloadBand
from ...tables import EDITION
from .collect import Collector
from .groups import Facts, band_of, gather, limits_of, place_points, window_of
from .limits import load_findings
from .passes import passes_of, sequence_findings
from .settings import chain_of

TITLES = {"prepare": "Prepare", "apply": "Apply", "mark": "Mark", "inspect": "Inspect", "measure": "Measure",
          "tighten": "Tighten"}
_SEVERITY = {"stop": 0, "caution": 1, "note": 2}


def compute(document: Any) -> Result:
    """The result of a plan document given as JSON values. Raises DocumentErrors when it is refused."""
    plan = read_plan(document)
    return compute_plan(plan, document_hash(document))


def compute_plan(plan: Plan, plan_hash: str) -> Result:
    """The result of a checked plan. Raises DocumentErrors when fields do not fit each other."""
    collector = Collector()
    facts = {g.id: f for i, g in enumerate(plan.groups) if (f := gather(plan, i, collector)) is not None}
    ceilings = {name: _ceiling(plan, fact) for name, fact in facts.items()}
    stages = [_stage(plan, i, stage, facts, ceilings, collector) for i, stage in enumerate(plan.stages)]
    groups = []
    for group in plan.groups:
        if group.id in facts:
            groups.append(_group(plan, facts[group.id], stages, collector))
    sequence_findings(plan, facts, collector)
    if collector.errors:
        raise DocumentErrors(collector.errors)
    findings = sorted(collector.findings.values(), key=lambda f: _SEVERITY[f.severity])
    return Result(plan_hash=plan_hash, tables=EDITION, core=CORE_VERSION, title=plan.title,
                  joint_kind=plan.joint_kind, positions=[PositionOut(id=p.id, name=p.name) for p in plan.positions],
                  groups=groups, stages=stages, findings=findings, calculated=any(f.calculated for f in facts.values()))


def _ceiling(plan: Plan, facts: Facts) -> float | None:
    """Torque [N·mm] at which the typical preload reaches the chosen share of yield: rounding may not pass it."""
    tops = [facts.torque] if isinstance(plan.targets[facts.group.id], YieldTarget) else []
    k, prevailing = facts.joint.band_per_preload().typical, facts.joint.prevailing
    tops += [torque_from_preload(x.clamp_N, k, prevailing) for x in limits_of(facts, 1.0) if x.code == "share"]
    return min(tops, default=None)


def _full_setting(group_id: str, stages: list[StageOut]) -> tuple[float | None, str | None]:
    """(torque at the bolt the wrench really gives in the last full pass, N·m; its chain)."""
    for stage in reversed(stages):
        for one in reversed(stage.passes):
            if one.group == group_id and one.percent == 100 and one.settings:
                return one.settings[0].bolt_torque_Nm, one.settings[0].chain
    return None, None


def _group(plan: Plan, facts: Facts, stages: list[StageOut], collector: Collector) -> GroupOut:
    at_bolt, chain = _full_setting(facts.group.id, stages)
    torque = at_bolt * 1e3 if at_bolt is not None else facts.torque
    accuracies = chain_of(plan, chain).accuracies if chain else ()
    band = None
    with collector.at("targets", facts.group.id):
        band = band_of(facts, torque, accuracies)
    if band is None:
        raise DocumentErrors(collector.errors)
    limits = limits_of(facts, band.typical)
    load_findings(plan, facts, limits, band, accuracies, collector)
    return _group_out(facts, torque, band, limits)


def _group_out(facts: Facts, torque: float, band: PreloadBand, limits: list[LimitOut]) -> GroupOut:
    group, thread, strength, friction = facts.group, facts.thread, facts.strength, facts.friction
    joint = facts.joint
    split = None
    if friction.nut_factor is None:
        shares = torque_split(thread.pitch, thread.pitch_diameter, joint.mu_thread.typical,
                              joint.mu_bearing.typical / joint.cone, joint.bearing_diameter)
        split = SplitOut(pitch=shares.pitch, thread=shares.thread, bearing=shares.bearing)
    factors = [k / thread.diameter for k in joint.band_per_preload()]
    return GroupOut(
        id=group.id, name=group.name, places=place_points(group), layout_diameter_mm=group.layout.diameter.base,
        thread=ThreadOut(designation=thread.designation, diameter_mm=thread.diameter, pitch_mm=thread.pitch,
                         stress_area_mm2=thread.stress_area,
                         across_flats_mm=facts.hexagon.across_flats if facts.hexagon else None,
                         effective_diameter_mm=joint.bearing_diameter),
        strength=StrengthOut(grade=strength.name, proof_MPa=strength.proof, yield_MPa=strength.yield_,
                             tensile_MPa=strength.tensile, certainty=strength.certainty,
                             assumed=list(strength.assumed)),
        friction=FrictionOut(lubricant=friction.lubricant, name=friction.name,
                             mu_thread=list(friction.mu_thread) if friction.mu_thread else None,
                             mu_bearing=list(friction.mu_bearing) if friction.mu_bearing else None,
                             nut_factor=factors, form="short" if friction.nut_factor else "long",
                             source=friction.source),
        target=TargetOut(kind="calculated" if facts.calculated else "given", torque_Nm=facts.torque / 1e3,
                         set_torque_Nm=torque / 1e3, calculated=facts.calculated, why=facts.why),
        preload=PreloadOut(typical_N=band.typical, low_N=band.low, high_N=band.high, low_rss_N=band.low_rss,
                           high_rss_N=band.high_rss),
        split=split, limits=limits, window=window_of(limits, band))


def _check_item(check: Check) -> ItemOut:
    limit = check.limit
    if limit is None:
        return ItemOut(id=check.id, text=check.what, answer="good")
    parts = [f"at least {limit.min}" if limit.min else "", f"at most {limit.max}" if limit.max else ""]
    unit = (limit.max or limit.min)
    return ItemOut(id=check.id, text=check.what, answer="length", min_mm=limit.min.base if limit.min else None,
                   max_mm=limit.max.base if limit.max else None, limit_text=", ".join(p for p in parts if p),
                   unit=unit.quantity.unit if unit else None)


def _stage(plan: Plan, index: int, stage: Stage, facts: dict[str, Facts], ceilings: dict[str, float | None],
           collector: Collector) -> StageOut:
    items: list[ItemOut] = []
    passes = []
    if isinstance(stage, PrepareStage):
        items = [ItemOut(id=i.id, text=i.text, answer="done") for i in stage.items]
    elif isinstance(stage, ApplyStage):
        on = " and ".join(stage.faces)
        names = ", ".join(g.name for g in plan.groups if g.id in stage.groups)
        text = stage.what + (f" on {on}" if on else "") + (f" of {names}" if names else "")
        items = [ItemOut(id="apply", text=text, answer="done")]
    elif isinstance(stage, MarkStage):
        items = [ItemOut(id="mark", text=stage.what, answer="done")]
    elif isinstance(stage, InspectStage):
        items = [_check_item(c) for c in stage.checks]
    elif isinstance(stage, TightenStage):
        passes = passes_of(plan, index, stage, facts, ceilings, collector)
    # a plan without positions is a plan for one: everything is done once
    across = stage.across if plan.positions else "once"
    return StageOut(id=stage.id, kind=stage.kind, title=stage.title or TITLES[stage.kind], occasions=list(stage.in_),
                    across=across, condition=list(stage.condition), cautions=list(stage.cautions),
                    impact=stage.impact if isinstance(stage, TightenStage) else None, items=items, passes=passes)
