"""In which condition bolts are turned: shared by the stages that turn them."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from ...planning.findings import Finding
from ...planning.states import not_chosen
from ..stage_kind import Found, StagePlanning

_SAYS = {"forbidden": "forbids it", "not said": "has not allowed it"}


def condition_findings(
    stage: Any, planning: StagePlanning, tightens: bool = False
) -> Iterator[Found]:
    """The condition is chosen, and no joint is turned under pressure or, without its maker's word,
    hot.

    Rules read choices alone; own words beside them are for the people who work.
    """
    said = [stage.condition, *(p.condition for p in getattr(stage, "passes", None) or ())]
    if not stage.condition:
        yield Finding.CONDITION_NOT_NAMED, stage.id, {"stage": stage.words}
        return
    if any(one.pressure == "on" for one in said):
        words = ", ".join(word for one in said for word in one.words)
        yield Finding.UNDER_PRESSURE, stage.id, {"stage": stage.words, "condition": words}
        return
    if open_ := not_chosen(planning.plan.joint_kind, stage.condition):
        own = stage.condition.says or ", ".join(stage.condition.words)
        yield (
            Finding.CONDITION_NOT_CHOSEN,
            stage.id,
            {"stage": stage.words, "says": own, "what": " and ".join(open_)},
        )
    gasketed = [g for g in planning.plan.groups if g.id in stage.groups and g.gasket is not None]
    if not tightens or not gasketed:
        return
    group = gasketed[0]
    if any(one.hot for one in said):
        if word := _SAYS.get(group.gasket.hot_retighten):
            yield (
                Finding.HOT_RETIGHTENING,
                stage.id,
                {"stage": stage.words, "group": group.name, "word": word},
            )
    elif "install" not in stage.in_ and group.gasket.hot_retighten != "allowed by the maker":
        yield Finding.RETIGHTENING_NOT_SAID, stage.id, {"stage": stage.words, "group": group.name}
