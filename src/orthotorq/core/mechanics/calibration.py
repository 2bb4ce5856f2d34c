"""Checks of a wrench against a reference: the error of each reading and what it says (ISO 6789-2,
by its definitions)."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal

from ..errors import Impossible, UnknownName
from ..messages import Message

Verdict = Literal["pass", "fail", "undecided"]
#: permissible deviation by type and class (ISO 6789-1): up to 10 N·m, above
_CLASSES: dict[str, tuple[float, float]] = {
    "I A": (0.06, 0.06),
    "I B": (0.06, 0.04),
    "I C": (0.06, 0.04),
    "I D": (0.06, 0.06),
    "I E": (0.06, 0.04),
    "II A": (0.06, 0.04),
    "II B": (0.06, 0.04),
    "II C": (0.06, 0.04),
    "II D": (0.06, 0.06),
    "II E": (0.06, 0.06),
    "II F": (0.06, 0.06),
    "II G": (0.06, 0.06),
}
_SMALL = 10e3


@dataclass(frozen=True, slots=True)
class Check:
    """Errors [-] of the readings in their order, their mean, the one farthest from zero, and the
    verdict."""

    errors: tuple[float, ...]
    mean: float
    worst: float
    verdict: Verdict


def class_limit(name: str, setting: float) -> float:
    """Permissible deviation [-] of a type and class of ISO 6789-1 at a setting [N·mm].

    Raises UnknownName.

    >>> class_limit("II A", 200e3), class_limit("type II class A", 8e3), class_limit("2a", 200e3)
    (0.04, 0.06, 0.04)
    """
    text = re.sub(r"iso|6789(-\d)?|type|class|[^a-z0-9]", "", name.lower())
    text = re.sub(r"^(1|2)", lambda m: "i" * int(m[0]), text)
    found = re.fullmatch(r"(ii|i)([a-g])", text)
    key = f"{found[1].upper()} {found[2].upper()}" if found else ""
    if key not in _CLASSES:
        raise UnknownName(Message.CHOICE, ("class",), value=name[:40], choices=", ".join(_CLASSES))
    small, large = _CLASSES[key]
    return small if setting <= _SMALL else large


def error_of(setting: float, reference: float) -> float:
    """Error [-] of one reading: (what was set - what the reference showed) / what the reference
    showed (ISO 6789-2).

    >>> round(error_of(200.0, 196.0), 6)
    0.020408
    """
    return (setting - reference) / reference


def delivered_of(error: float) -> float:
    """What a wrench delivers, as a share of its setting, from its error by ISO 6789-1.

    >>> round(delivered_of(0.14), 3), round(delivered_of(-0.02), 3)
    (0.877, 1.02)
    """
    return 1.0 / (1.0 + error)


def check_of(
    setting: float, readings: tuple[float, ...], limit: float, uncertainty: float = 0.0
) -> Check:
    """What readings of a reference at one setting say; every reading has to lie inside the limit.

    `setting` and `readings` in one unit, `limit` and `uncertainty` (of the reference, expanded) as
    shares. A verdict that the uncertainty of the reference could turn is undecided. Raises
    Impossible.

    >>> check_of(200.0, (198.0, 203.0), 0.04).verdict, check_of(200.0, (190.0, 203.0), 0.04).verdict
    ('pass', 'fail')
    >>> check_of(200.0, (193.0,), 0.04, 0.01).verdict
    'undecided'
    """
    if not readings:
        raise Impossible(Message.MISSING_FIELD, ("readings",))
    errors = tuple(error_of(setting, one) for one in readings)
    worst = max(errors, key=abs)
    if any(abs(one) - uncertainty > limit + 1e-12 for one in errors):
        verdict: Verdict = "fail"
    elif all(abs(one) + uncertainty <= limit + 1e-12 for one in errors):
        verdict = "pass"
    else:
        verdict = "undecided"
    return Check(errors, sum(errors) / len(errors), worst, verdict)
