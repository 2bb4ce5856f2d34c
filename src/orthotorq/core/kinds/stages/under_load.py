"""In which condition bolts are turned: shared by the stages that turn them."""
from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

from ...planning.findings import Finding
from ..stage_kind import Found, StagePlanning

#: words of a joint that is hot, or may be under pressure
HOT = re.compile(r"\bhot\b|under pressure|pressuri[sz]ed|in service", re.I)
_PRESSURE = re.compile(r"under pressure|(?<!not )(?<!de)pressuri[sz]ed\b|pressure on\b", re.I)
_SAYS = {"forbidden": "forbids it", "not said": "has not allowed it"}


def condition_findings(stage: Any, planning: StagePlanning, tightens: bool = False) -> Iterator[Found]:
    """The condition is named, and no joint is turned under pressure or, without its maker's word, hot."""
    words = ", ".join([*stage.condition, *(c for p in getattr(stage, "passes", None) or () for c in p.condition)])
    if not stage.condition:
        yield Finding.CONDITION_NOT_NAMED, stage.id, {"stage": stage.words}
        return
    if _PRESSURE.search(words):
        yield Finding.UNDER_PRESSURE, stage.id, {"stage": stage.words, "condition": words}
        return
    group = next((g for g in planning.plan.groups if g.id in stage.groups and g.gasket is not None), None) if tightens else None
    if group is None:
        return
    if HOT.search(words):
        if word := _SAYS.get(group.gasket.hot_retighten):
            yield Finding.HOT_RETIGHTENING, stage.id, {"stage": stage.words, "group": group.name, "word": word}
    elif "install" not in stage.in_ and group.gasket.hot_retighten != "allowed by the maker":
        yield Finding.RETIGHTENING_NOT_SAID, stage.id, {"stage": stage.words, "group": group.name}
