"""The door of planning: a plan document in, a result out.

`compute` validates, computes every group and stage, and returns a Result; a plan that cannot be computed raises
DocumentErrors with the path of every field that is wrong. Steps are not enumerated here (see core/running).
"""
from __future__ import annotations

from functools import lru_cache
from typing import Any

from pydantic import TypeAdapter

from ... import CORE_VERSION
from ...documents.base import DocumentErrors
from ...documents.passes import Pass
from ...documents.plan import Plan
from ...documents.read import document_hash, read_plan
from ...documents.references import resolved_after
from ...documents.result import (
    FindingOut,
    PassOut,
    PositionOut,
    RecheckOut,
    Result,
    StageOut,
    ToolOut,
    VariantOut,
)
from ...documents.stages import JackOutStage, LoosenStage, TightenStage
from ...mechanics.preload import torque_from_preload
from ...mechanics.window import PreloadBand
from ...tables import EDITION
from ..methods import passes_of_method
from .chosen import Chosen, choose
from .collect import Collector
from .facts import Facts, gather
from .group_out import group_out
from .kit import kit_of
from .limits import bounds_of
from .load_findings import compare_sizes
from .passes import chains_for, loosen_passes, passes_of
from .sequence import sequence_findings
from .settings import Chain, chain_of
from .stage_findings import stage_findings
from .stages import jack_pass, seconds_of_passes, seconds_of_stage, stage_out

_SEVERITY = {"stop": 0, "caution": 1, "note": 2}
_PASSES: TypeAdapter[list[Pass]] = TypeAdapter(list[Pass])


def compute(document: Any) -> Result:
    """The result of a plan document given as JSON values. Raises DocumentErrors when it is refused."""
    plan = read_plan(document)
    return compute_plan(plan, document_hash(document))


def compute_plan(plan: Plan, plan_hash: str) -> Result:
    """The result of a checked plan. Raises DocumentErrors when fields do not fit each other."""
    collector = Collector()
    facts = {g.id: f for i, g in enumerate(plan.groups) if (f := gather(plan, i, collector)) is not None}
    chosen = {name: c for name, fact in facts.items() if (c := choose(plan, fact, collector)) is not None}
    if collector.errors:
        # orders are still looked at, so that every wrong field is named at once
        _stages(plan, facts, chosen, collector)
        raise DocumentErrors(collector.errors)
    stages = _stages(plan, facts, chosen, collector)
    groups, bands = [], []
    for group in plan.groups:
        out, band = _group(plan, facts[group.id], chosen.get(group.id), stages, collector)
        groups.append(out)
        if band is not None:
            bands.append((facts[group.id], band))
    compare_sizes(plan, bands, collector)
    passes = {s.id: stage_passes(plan, s) for s in plan.stages if isinstance(s, TightenStage)}
    sequence_findings(plan, passes, chosen, facts, collector)
    stage_findings(plan, facts, {s.id: seconds_of_passes(s.passes) for s in stages}, collector)
    if collector.errors:
        raise DocumentErrors(collector.errors)
    return Result(
        plan_hash=plan_hash, tables=EDITION, core=CORE_VERSION, title=plan.title, joint_kind=plan.joint_kind, note=plan.note,
        links_before=plan.links.before, links_after=plan.links.after,
        variants=[VariantOut(id=v.id, name=v.name, choice=v.choice) for v in plan.variants],
        positions=[PositionOut(id=p.id, name=p.name) for p in plan.positions], groups=groups, tools=_tools(plan),
        stages=stages, kit=kit_of(plan, facts, stages), rechecks=_rechecks(plan), minutes=_minutes(plan, stages),
        findings=_findings(plan, collector), calculated=any(c.calculated for c in chosen.values()))


def _findings(plan: Plan, collector: Collector) -> list[FindingOut]:
    """Findings by weight; what the planner waived carries the reason, if it can be waived at all."""
    for finding in collector.findings.values():
        for waiver in plan.waivers:
            if finding.waivable and waiver.finding == finding.code and waiver.where in (None, finding.where):
                finding.waived = waiver.reason
    return sorted(collector.findings.values(), key=lambda f: (f.waived is not None, _SEVERITY[f.severity]))


@lru_cache(maxsize=32)
def _method(identifier: str) -> list[Pass]:
    return _PASSES.validate_python(passes_of_method(identifier))


def stage_passes(plan: Plan, stage: TightenStage) -> list[Pass]:
    """The passes of a tighten stage: its own, or those of its method."""
    if stage.passes is not None:
        return stage.passes
    own = plan.definitions.methods.get(stage.method or "")
    return own.passes if own is not None else _method(stage.method or "")


def _stages(plan: Plan, facts: dict[str, Facts], chosen: dict[str, Chosen], collector: Collector) -> list[StageOut]:
    ceilings = {name: _ceiling(plan, one) for name, one in chosen.items()}
    after = {o: resolved_after(plan.stages, o) for o in ("install", "dismantle", "recheck")}
    out = []
    for i, stage in enumerate(plan.stages):
        passes: list[PassOut] = []
        if isinstance(stage, TightenStage):
            passes = passes_of(plan, i, stage, stage_passes(plan, stage), facts, chosen, ceilings, collector)
        elif isinstance(stage, LoosenStage):
            passes = loosen_passes(i, stage, facts, collector)
        elif isinstance(stage, JackOutStage):
            passes = [jack_pass(stage)]
        out.append(stage_out(plan, stage, facts, passes, after, seconds_of_stage(plan, stage, facts, passes)))
    return out


def _ceiling(plan: Plan, chosen: Chosen) -> float | None:
    """Torque [N·mm] at which the typical preload reaches the chosen share of yield: rounding may not pass it."""
    facts = chosen.facts
    tops = [chosen.torque] if plan.targets[facts.group.id].kind == "yield_fraction" else []
    k, prevailing = facts.joint.band_per_preload().typical, facts.joint.prevailing
    if not chosen.angle:
        tops += [torque_from_preload(b.clamp, k, prevailing) for b in bounds_of(plan, chosen) if b.code == "share"]
    return min(tops, default=None)


def full_setting(group_id: str, stages: list[StageOut]) -> tuple[float | None, str | None]:
    """(torque at the bolt the wrench really gives in the last full pass, N·m; its chain)."""
    for stage in reversed(stages):
        for one in reversed(stage.passes):
            if one.group == group_id and one.percent == 100 and one.settings and "install" in stage.occasions:
                return one.settings[0].bolt_torque_Nm, one.settings[0].chain
    return None, None


def most_torque(chain: Chain) -> dict[str, float]:
    """Torques [N·mm] at the bolt that wrench and drive can give."""
    from ...tables.materials import drives

    top = chain.tool.range[1].base
    setting, _ = chain.input_of(1e6)
    out = {"wrench": top * 1e6 / setting}
    if chain.tool.drive:
        out["drive"] = drives()[chain.tool.drive] * 1e6 / setting
    return out


def _group(plan: Plan, facts: Facts, chosen: Chosen | None, stages: list[StageOut],
           collector: Collector) -> tuple[Any, PreloadBand | None]:
    at_bolt, chain_id = full_setting(facts.group.id, stages)
    chain = chain_of(plan, chain_id) if chain_id else None
    if chosen is None:
        return group_out(plan, facts, None, None, 0.0, {}, (), collector), None
    torque = at_bolt * 1e3 if at_bolt is not None else chosen.torque
    accuracies = chain.accuracies if chain else ()
    band = None
    with collector.at("targets", facts.group.id):
        band = chosen.band(torque, accuracies)
    if band is None:
        raise DocumentErrors(collector.errors)
    most = most_torque(chain) if chain else {}
    return group_out(plan, facts, chosen, band, torque, most, accuracies, collector), band


def _tools(plan: Plan) -> list[ToolOut]:
    out = []
    for name, tool in plan.tools.items():
        chains = {c for c, links in plan.chains.items() if links[0] == name}
        groups = [g for s in plan.stages if isinstance(s, TightenStage) for g in s.groups
                  if chains & set(chains_for(s, g))]
        out.append(ToolOut(id=name, kind=tool.kind, name=tool.name or tool.kind, low_Nm=tool.range[0].base / 1e3,
                           high_Nm=tool.range[1].base / 1e3, prefer=tool.prefer, groups=list(dict.fromkeys(groups))))
    return out


_METER_UNIT = {"km": 1e6, "h": 3600.0, "d": 86400.0, "cycles": 1.0, "starts": 1.0}


def _rechecks(plan: Plan) -> list[RecheckOut]:
    """Schedules cleaned up: readings rise, each once; in the meter's own unit."""
    return [RecheckOut(id=r.id, meter=r.meter, at=sorted({a.base / _METER_UNIT[r.meter] for a in r.at}),
                       every=r.every.base / _METER_UNIT[r.meter] if r.every else None, occasion=r.occasion, reason=r.reason)
            for r in plan.rechecks]


def _minutes(plan: Plan, stages: list[StageOut]) -> float:
    positions = max(1, len(plan.positions))
    total = sum(s.seconds * (1 if s.across == "once" else positions) for s in stages if "install" in s.occasions)
    return round(total / 60, 1)
