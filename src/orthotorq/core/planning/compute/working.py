"""Working: the derivation of any figure of a result, made when it is opened and never stored.

Figures are named `GROUP/torque`, `GROUP/preload`, `GROUP/limit/CODE` and `STAGE/PASS/GROUP/setting/CHAIN`.
"""
from __future__ import annotations

from typing import Any

from pydantic import BaseModel

from ...documents.base import DocumentErrors
from ...documents.plan import ConeFace, Plan, PreloadTarget, YieldTarget
from ...documents.read import read_plan
from ...documents.stages import TightenStage, TorquePass
from ...errors import UnknownName
from ...mechanics import preload as pre
from ...mechanics import strength as lim
from ...mechanics import tools as mech
from ...mechanics.formula import Step, explain
from ...mechanics.tools import settable
from ...messages import Message
from ...units import show, show_quantity
from ...working_text import shown_value
from . import compute_plan
from .collect import Collector
from .groups import Facts, gather
from .settings import chain_of


class InputOut(BaseModel):
    """One number put in."""

    tex: str
    words: str
    value: str


class StepOut(BaseModel):
    """One formula with numbers, result and source."""

    name: str
    tex: str
    inputs: list[InputOut]
    result_tex: str
    result_words: str
    result: str
    source: str
    approximation: str | None


class WorkingOut(BaseModel):
    """The derivation of one figure."""

    figure: str
    title: str
    steps: list[StepOut]
    notes: list[str]


def step_out(step: Step) -> StepOut:
    """A computed step in the units people read."""
    form = step.formula
    return StepOut(name=form.name.replace("_", " "), tex=form.tex,
                   inputs=[InputOut(tex=s.tex, words=s.words, value=shown_value(s, v)) for s, v in step.inputs],
                   result_tex=form.result.tex, result_words=form.result.words, result=shown_value(form.result, step.value),
                   source=form.source, approximation=form.approximation)


def _bracket(facts: Facts, end: str) -> list[Step]:
    """The steps up to k at the low, typical or high end of the friction band."""
    joint = facts.joint
    if joint.nut_factor is not None:
        return []
    steps = []
    if facts.face_diameter is not None and facts.hole is not None:
        steps.append(explain(pre.effective_diameter, face_diameter=facts.face_diameter, hole=facts.hole))
    mu_t, mu_b = getattr(joint.mu_thread, end), getattr(joint.mu_bearing, end)
    face = facts.group.fastener.face
    if isinstance(face, ConeFace):
        steps.append(explain(pre.cone_friction, mu_bearing=mu_b, half_angle=face.half_angle.base))
        mu_b = steps[-1].value
    steps.append(explain(pre.torque_per_preload, pitch=joint.pitch, pitch_diameter=joint.pitch_diameter,
                         mu_thread=mu_t, mu_bearing=mu_b, bearing_diameter=joint.bearing_diameter))
    return steps


def _k(facts: Facts, steps: list[Step], end: str) -> float:
    value: float = steps[-1].value if steps else getattr(facts.joint.band_per_preload(), end)
    return value


def _torque(plan: Plan, facts: Facts) -> tuple[list[Step], list[str]]:
    target = plan.targets[facts.group.id]
    notes = [f"Chosen because: {facts.why}."]
    if not isinstance(target, PreloadTarget | YieldTarget):
        return [], [*notes, "The figure is given, not calculated."]
    steps: list[Step] = []
    if isinstance(target, YieldTarget):
        steps.append(explain(lim.preload_at_fraction, fraction=target.fraction, yield_strength=facts.strength.yield_,
                             area=facts.thread.stress_area))
        force = steps[0].value
    else:
        force = target.preload.base
    if facts.joint.nut_factor is not None:
        return [*steps, explain(pre.torque_from_nut_factor, preload=force, nut_factor=facts.joint.nut_factor.typical,
                                diameter=facts.thread.diameter)], notes
    bracket = _bracket(facts, "typical")
    torque = explain(pre.torque_from_preload, preload=force, per_preload=_k(facts, bracket, "typical"),
                     prevailing=facts.joint.prevailing)
    return [*steps, *bracket, torque], notes


def _preload(facts: Facts, torque: float, accuracy: float) -> tuple[list[Step], list[str]]:
    steps: list[Step] = []
    for end, factor in (("typical", 1.0), ("high", 1 - accuracy), ("low", 1 + accuracy)):
        bracket = _bracket(facts, end)
        steps += bracket if end == "typical" else bracket[-1:]
        steps.append(explain(pre.preload_from_torque, torque=torque * factor,
                             per_preload=_k(facts, bracket, end), prevailing=facts.joint.prevailing))
    return steps, [f"Typical first; then the low end (high friction, wrench {accuracy * 100:g} % low) and the high end "
                   f"(low friction, wrench {accuracy * 100:g} % high): worst case.",
                   f"Friction: {facts.friction.source}."]


def _limit(facts: Facts, code: str) -> tuple[list[Step], list[str]] | None:
    group, thread, strength = facts.group, facts.thread, facts.strength
    if code == "share" and group.limits.yield_fraction is not None:
        return [explain(lim.preload_at_fraction, fraction=group.limits.yield_fraction, yield_strength=strength.yield_,
                        area=thread.stress_area)], [f"Strength: {strength.name}, {strength.certainty}."]
    if code == "proof" and strength.proof is not None:
        return [explain(lim.preload_at_fraction, fraction=1.0, yield_strength=strength.proof,
                        area=thread.stress_area)], [f"Proof strength of {strength.name} in place of yield."]
    if code == "combined" and facts.friction.mu_thread is not None:
        return [explain(lim.combined_preload, fraction=group.limits.nu, yield_strength=strength.yield_,
                        stress_area=thread.stress_area, pitch=thread.pitch, pitch_diameter=thread.pitch_diameter,
                        stress_diameter=thread.stress_diameter, mu_thread=facts.friction.mu_thread.low)], [
            "At the low end of the friction band: low friction gives the high preload."]
    if code == "required":
        return [], ["Entered by the planner: what the joint needs."]
    if code.startswith("gasket_") and group.gasket is not None:
        stress = getattr(group.gasket, code.removeprefix("gasket_"), None)
        if stress is not None:
            area = explain(lim.ring_area, outside=group.gasket.outside.base, inside=group.gasket.inside.base)
            return [area, explain(lim.clamp_at_gasket_stress, stress=stress.base, contact_area=area.value,
                                  bolts=float(group.layout.count))], ["Stress from the gasket's sheet."]
    return None


def _setting(plan: Plan, one: TorquePass, facts: Facts, name: str) -> tuple[list[Step], list[str]]:
    chain = chain_of(plan, name)
    steps: list[Step] = []
    drive = facts.torque * one.percent / 100
    whole = show_quantity(facts.torque, "torque", "N·m")
    notes = [f"{one.percent:g} % of {whole} is {show(drive / 1e3, 5)} N·m at the bolt."]
    for m in chain.multipliers:
        steps.append(explain(mech.multiplier_setting, torque=drive, ratio=m.multiplier, efficiency=m.efficiency[1]))
        drive = steps[-1].value
    if chain.adapter is not None and chain.tool.length is not None:
        steps.append(explain(mech.adapter_setting, torque=drive, length=chain.tool.length.base,
                             adapter=chain.adapter.adapter.base, angle=chain.adapter.angle.base))
        drive = steps[-1].value
    if chain.tool.increment is not None:
        notes.append(f"Rounded to the wrench's increment of {chain.tool.increment}, nearest, half upwards: "
                     f"{show_quantity(settable(drive, chain.tool.increment.base).value, 'torque', 'N·m')}.")
    if chain.tool.length is not None:
        steps.append(explain(mech.hand_force, setting=drive, length=chain.tool.length.base))
    return steps, notes


def _find(plan: Plan, figure: str, by_group: dict[str, Facts]) -> tuple[list[Step], list[str]] | None:
    parts = figure.split("/")
    facts = by_group.get(parts[0])
    if len(parts) == 2 and facts is not None and parts[1] == "torque":
        return _torque(plan, facts)
    if len(parts) == 2 and facts is not None and parts[1] == "preload":
        result = compute_plan(plan, "")
        group = next(g for g in result.groups if g.id == parts[0])
        chain = next((s.chain for st in result.stages for p in st.passes if p.group == parts[0]
                      for s in p.settings if p.percent == 100), None)
        accuracy = sum(chain_of(plan, chain).accuracies) if chain else 0.0
        return _preload(facts, group.target.set_torque_Nm * 1e3, accuracy)
    if len(parts) == 3 and facts is not None and parts[1] == "limit":
        return _limit(facts, parts[2])
    if len(parts) == 5 and parts[3] == "setting" and parts[2] in by_group and parts[4] in plan.chains:
        for stage in plan.stages:
            if isinstance(stage, TightenStage) and stage.id == parts[0]:
                for one in stage.passes:
                    if isinstance(one, TorquePass) and one.id == parts[1]:
                        return _setting(plan, one, by_group[parts[2]], parts[4])
    return None


def working(document: Any, figure: str) -> WorkingOut:
    """The derivation of one figure of a plan. Raises DocumentErrors for a bad plan, UnknownName for no such figure."""
    plan = read_plan(document)
    collector = Collector()
    by_group = {g.id: f for i, g in enumerate(plan.groups) if (f := gather(plan, i, collector)) is not None}
    if collector.errors:
        raise DocumentErrors(collector.errors)
    found = _find(plan, figure, by_group)
    if found is None:
        raise UnknownName(Message.UNKNOWN_REFERENCE, ("figure",), id=figure[:80], kind="figure", known="see the result")
    steps, notes = found
    return WorkingOut(figure=figure, title=figure.replace("/", " · "), steps=[step_out(s) for s in steps], notes=notes)
