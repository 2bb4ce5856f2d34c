"""Stages of a plan as the result shows them: items, checks, waits; their passes come from elsewhere."""
from __future__ import annotations

import math
from dataclasses import dataclass, field
from typing import Any

from ...documents.plan import Plan
from ...documents.result import ItemOut, PassOut, StageOut
from ...documents.stages import (
    ApplyStage,
    Check,
    FitStage,
    HoldStage,
    InspectStage,
    JackOutStage,
    Limit,
    LockStage,
    LoosenStage,
    MarkStage,
    NoteStage,
    PrepareStage,
    RemoveStage,
    Stage,
    TightenStage,
    WaitStage,
    WatchStage,
)
from .facts import Facts
from .passes import turn_words

TITLES = {"prepare": "Prepare", "clean": "Clean", "hold": "Hold", "counter_hold": "Hold the far side", "fit": "Fit",
          "remove": "Take out", "loosen": "Loosen", "jack_out": "Press off", "apply": "Apply", "mark": "Mark",
          "inspect": "Inspect", "measure": "Measure", "tighten": "Tighten", "wait": "Wait", "lock": "Lock", "watch": "Watch",
          "note": "Note"}
_LOCKED = {"tab": "tab bent", "stake": "staked", "pin": "pinned", "wire": "wired", "adhesive": "adhesive",
           "lock nut": "lock nut on", "ring": "ring in"}


@dataclass(slots=True)
class Parts:
    """What one stage consists of, before it becomes a StageOut."""

    items: list[ItemOut] = field(default_factory=list)
    more: dict[str, Any] = field(default_factory=dict)


def limit_words(limit: Limit) -> str:
    """A limit in words: at least, at most."""
    parts = [f"at least {limit.min}" if limit.min else "", f"at most {limit.max}" if limit.max else ""]
    return ", ".join(p for p in parts if p)


def _check_item(check: Check, facts: dict[str, Facts]) -> ItemOut:
    limit = check.limit
    places = [f"{check.per}.{i + 1}" for i in range(facts[check.per].group.layout.count)] if check.per in facts else []
    shared = {"id": check.id, "text": check.words, "gauge": check.gauge, "places": places, "on_fail": list(check.on_fail)}
    if limit is None:
        return ItemOut(answer="good", **shared)
    end = limit.max or limit.min
    assert end is not None
    return ItemOut(answer="value", quantity=end.quantity.kind, min=limit.min.base if limit.min else None,
                   max=limit.max.base if limit.max else None, limit_text=limit_words(limit), unit=end.quantity.unit, **shared)


def _done(identifier: str, text: str) -> list[ItemOut]:
    return [ItemOut(id=identifier, text=text, answer="done")]


def _apply(plan: Plan, stage: ApplyStage) -> Parts:
    *most, final = [str(face) for face in stage.faces] or [""]
    on = f"{', '.join(most)} and {final}" if most else final
    names = ", ".join(g.name for g in plan.groups if g.id in stage.groups)
    text = stage.what + (f", {stage.amount}" if stage.amount else "") + (f" on {on}" if on else "")
    text += (f" of {names}" if names else "") + (f"; keep dry: {stage.keep_dry}" if stage.keep_dry else "")
    return Parts(_done("apply", text), {"sets_in_s": stage.sets_in.base if stage.sets_in else None,
                                        "sets_before": list(stage.before), "groups": list(stage.groups)})


def _remove(plan: Plan, stage: RemoveStage) -> Parts:
    fitted = next((s for s in plan.stages if isinstance(s, FitStage) and s.id == stage.fit), None)
    text = stage.what or (fitted.what if fitted else "")
    return Parts(_done("remove", f"Take out: {text}"), {"fit": stage.fit})


def parts_of(plan: Plan, stage: Stage, facts: dict[str, Facts]) -> Parts:
    """Items and special fields of a stage."""
    if isinstance(stage, PrepareStage):
        return Parts([ItemOut(id=i.id, text=i.text, answer="done") for i in stage.items])
    if isinstance(stage, HoldStage):
        tool = f", with {stage.tool}" if stage.tool else ""
        return Parts(_done("hold", stage.what + tool))
    if isinstance(stage, FitStage):
        return Parts(_done("fit", f"Fit: {stage.what}"), {"temporary": stage.temporary})
    if isinstance(stage, RemoveStage):
        return _remove(plan, stage)
    if isinstance(stage, ApplyStage):
        return _apply(plan, stage)
    if isinstance(stage, MarkStage):
        return Parts(_done("mark", stage.what))
    if isinstance(stage, LockStage):
        return Parts(_done("lock", f"{stage.what}: {_LOCKED[stage.by]}"))
    if isinstance(stage, WatchStage):
        return Parts([ItemOut(id="watch", text=stage.what, answer="moved")],
                     {"redo": stage.if_moved.redo if stage.if_moved else None})
    if isinstance(stage, WaitStage):
        return Parts([ItemOut(id="wait", text=stage.what or f"Wait {stage.lasts}", answer="wait", wait_s=stage.lasts.base)])
    if isinstance(stage, NoteStage):
        return Parts(_done("note", stage.text))
    if isinstance(stage, InspectStage):
        return Parts([_check_item(c, facts) for c in stage.checks])
    if isinstance(stage, TightenStage):
        return Parts([], {"impact": stage.impact, "watch_for": stage.watch_for, "groups": list(stage.groups)})
    return Parts([], {"groups": list(getattr(stage, "groups", []))})


def jack_pass(stage: JackOutStage) -> PassOut:
    """The rounds of jacking screws: small equal turns until the part is free."""
    return PassOut(id="jack", name=f"{stage.screws} jacking screws, {turn_words(stage.turn)} each", group="", do="jack",
                   order=[["-"]], rounds_max=stage.max, until="free", note=f"Until it is free: {stage.what}.",
                   turn_deg=round(math.degrees(stage.turn.base), 3))


def stage_out(plan: Plan, stage: Stage, facts: dict[str, Facts], passes: list[PassOut], after: dict[str, dict[str, list[str]]],
              seconds: float) -> StageOut:
    """A stage with its passes; `after` is by occasion and stage."""
    parts = parts_of(plan, stage, facts)
    title = stage.title or TITLES[stage.kind]
    if isinstance(stage, JackOutStage) and not stage.title:
        title = f"{title}: {stage.what}"
    return StageOut(
        id=stage.id, kind=stage.kind, title=title, note=stage.note, occasions=list(stage.in_),
        variants=list(stage.variants), after={o: a[stage.id] for o, a in after.items() if stage.id in a},
        # a plan without positions is a plan for one: everything is done once
        across=stage.across if plan.positions else "once", condition=list(stage.condition), cautions=list(stage.cautions),
        items=parts.items, passes=passes, seconds=seconds, **parts.more)


#: seconds of one step by kind of pass, by experience; a time estimate and no more
_STEP_SECONDS = {"hand": 12.0, "snug": 10.0, "feel": 15.0, "torque": 18.0, "angle": 25.0, "back_off": 15.0, "gap_round": 40.0,
                 "loosen": 15.0, "jack": 60.0}
_ITEM_SECONDS = {"done": 40.0, "good": 30.0, "value": 45.0, "moved": 120.0}


def seconds_of_passes(passes: list[PassOut]) -> float:
    """Estimated time of passes [s]: one round each, longer with a multiplier, pauses in full."""
    total = 0.0
    for one in passes:
        if one.do == "wait":
            total += one.wait_s or 0.0
            continue
        each = _STEP_SECONDS[one.do]
        if any(s.reaction_Nm is not None for s in one.settings):
            each += 30.0
        each += 120.0 if one.before_each else 15.0 if one.slacken_first else 0.0
        rounds = one.repeat_still or (3 if one.until in ("gap", "free") else 1)
        total += each * len(one.order) * rounds
    return total


def seconds_of_stage(plan: Plan, stage: Stage, facts: dict[str, Facts], passes: list[PassOut]) -> float:
    """Estimated time of a stage at one position [s]."""
    total = seconds_of_passes(passes) + (15.0 if stage.condition else 0.0)
    for item in parts_of(plan, stage, facts).items:
        each = item.wait_s if item.answer == "wait" else _ITEM_SECONDS[item.answer]
        total += (each or 0.0) * max(1, len(item.places))
    return total


def is_turning(stage: Stage) -> bool:
    """Whether a stage turns bolts."""
    return isinstance(stage, TightenStage | LoosenStage | JackOutStage)
