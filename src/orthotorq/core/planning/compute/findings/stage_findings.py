"""Findings about the order of the stages, what is put on the sliding faces, and the rechecks."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from itertools import pairwise

from ....forms.stage import StageOut
from ....kinds.passes.torque import TorquePass
from ....kinds.stage_kind import OCCASIONS
from ....kinds.stage_registry import STAGE_KINDS
from ....kinds.stages.apply import ApplyStage
from ....tables import lubricants
from ...findings import Finding
from ..inputs.facts import Facts
from ..inputs.finding_builder import Found, find
from ..load.context import Context

_BOLT = re.compile(r"\b(?:bolt|stud) (\d+)\b(?!\s*(?:mm|in|N|°|flat|turn))", re.I)
_SLIDING = {"thread", "under head", "nut face", "washer", "seat"}
#: kinds of joint with a far side that turns unless it is held, and kinds that settle early


def order_findings(context: Context) -> Iterator[Found]:
    """Stages that stand before what they come after."""
    place = {s.id: i for i, s in enumerate(context.plan.stages)}
    for occasion in OCCASIONS:
        for name, after in context.after[occasion].items():
            for other in after:
                if place[other] > place[name]:
                    yield find(
                        Finding.STAGE_ORDER,
                        f"stages/{name}",
                        stage=context.plan.stages[place[name]].words,
                        other=context.plan.stages[place[other]].words,
                    )


def far_side_findings(context: Context) -> Iterator[Found]:
    """Bolts with a nut whose far side nobody holds."""
    plan = context.plan
    if not plan.traits.far_side or any(s.kind == "counter_hold" for s in plan.stages):
        return
    for group in plan.groups:
        if group.into is not None and group.into.kind == "nut":
            yield find(Finding.NO_COUNTER_HOLD, f"groups/{group.id}", group=group.name)


def compound_findings(context: Context) -> Iterator[Found]:
    """Whether what is put on the faces that slide is what the figure was computed for."""
    for fact in context.facts.values():
        yield from _sliding(context, fact)


def _sliding(context: Context, fact: Facts) -> Iterator[Found]:
    group, lubricant = fact.group, fact.friction.lubricant
    tightens = list(context.tighten_stages(group.id, "install"))
    if lubricant is None or not tightens:
        return
    applied = [
        s
        for s in context.plan.stages
        if isinstance(s, ApplyStage)
        and "install" in s.in_
        and group.id in s.groups
        and (not s.faces or _SLIDING & set(s.faces))
    ]
    compounds = {s.compound for s in applied if s.compound}
    table = lubricants.table()
    known = table.get(lubricant)
    # a surface that comes with oil on it may be oiled again
    oiled = fact.friction.group == "oiled" and all(
        c in table and table[c].group == "oil" for c in compounds
    )
    if compounds and lubricant not in compounds and not oiled:
        stage = next(s for s in applied if s.compound)
        yield find(
            Finding.COMPOUND_DIFFERS,
            f"stages/{stage.id}",
            group=group.name,
            stage=stage.words,
            applied=stage.what,
            lubricant=fact.friction.name,
        )
    elif (
        not applied
        and known is not None
        and not known.dry
        and not known.supplied
        and not any(
            isinstance(p, TorquePass) and p.before_each for s in tightens for p in s.passes or []
        )
    ):
        yield find(
            Finding.COMPOUND_NOT_APPLIED,
            f"groups/{group.id}",
            group=group.name,
            lubricant=fact.friction.name,
        )


def recheck_findings(context: Context) -> Iterator[Found]:
    """Schedules that are odd, that nothing answers, or that come too late."""
    plan = context.plan
    for one in plan.rechecks:
        where, values = f"rechecks/{one.id}", [a.base for a in one.at]
        reason = None
        if any(b <= a for a, b in pairwise(values)):
            reason = "the readings do not rise: " + ", ".join(map(str, one.at))
        elif one.every is not None and values and one.every.base < values[-1]:
            reason = (
                f"the interval {one.every} is shorter than the last single reading {one.at[-1]}"
            )
        if reason:
            yield find(Finding.RECHECK_ODD, where, recheck=one.id, reason=reason)
        if not any(one.occasion in s.in_ and STAGE_KINDS[s.kind].proves for s in plan.stages):
            yield find(Finding.RECHECK_WITHOUT_STAGES, where, recheck=one.id, occasion=one.occasion)
    if plan.traits.settles_early and not any(r.at for r in plan.rechecks):
        yield find(Finding.NO_EARLY_RECHECK, "rechecks")


def bolt_findings(context: Context, stages: Sequence[StageOut]) -> Iterator[Found]:
    """Words that name a bolt by a number that none has, as when there are fewer bolts than there
    were."""
    there = {str(number) for fact in context.facts.values() for number in fact.group.numbers}
    for stage in stages:
        for text in (i.text for i in stage.items):
            for number in _BOLT.findall(text):
                if there and number not in there:
                    yield find(
                        Finding.BOLT_NOT_THERE,
                        f"stages/{stage.id}",
                        stage=stage.title,
                        number=number,
                        text=text,
                    )
