"""Plans of joints at work, and what is read of their results."""

from __future__ import annotations

import copy
from typing import Any

from tests.core.loaded_plans import group, plan

Raw = dict[str, Any]


STACK = [{"material": "carbon steel", "thickness": "60 mm", "outside": "60 mm"}]


def at_work(**work: Any) -> Raw:
    """The small plan with a stack and loads at work."""
    return plan(stack=copy.deepcopy(STACK), work=work)


def bound(document: Raw, code: str) -> Any:
    return next(x for x in group(document).limits if x.code == code)


def factor(document: Raw, introduction: float) -> float:
    s = group(document).stiffness
    return introduction * s.parts_mm_per_N / (s.fastener_mm_per_N + s.parts_mm_per_N)
