"""Findings while a plan is computed: a code, where it hangs, parameters; written out once, at the
door."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from ....documents.plan import Waiver
from ....forms.result import FindingOut
from ...findings import RULES, Finding

_WEIGHT = {"stop": 0, "caution": 1, "note": 2}


class Found(NamedTuple):
    """One finding: its code, the place in the plan by id, the parameters of its sentence, and what
    the act that closes it is given: the figure of its remedy, or as its rule says.

    `measured` is about an end of a band that was measured: what is a caution at the end of a
    typical or an entered band is then a stop that the planner may waive by name. What fails at the
    typical value is a stop in any case (docs/judging.md).
    """

    code: Finding
    where: str
    params: dict[str, object]
    sets: dict[str, str] | None = None
    measured: bool = False


def find(code: Finding, where: str, **params: object) -> Found:
    """A finding."""
    return Found(code, where, params)


def _set_words(sets: dict[str, str]) -> str:
    """What the button of a calculated remedy does.

    >>> (_set_words({"group": "b", "torque": "414 N·m"}), _set_words({"torque": "60 N·m",
    ...  "angle": "65 deg"}))
    ('Set 414 N·m', 'Set 65°')
    """
    figure = sets.get("angle") or sets.get("torque", "")
    return f"Set {figure.replace(' deg', '°')}"


def findings_out(found: Iterable[Found], waivers: Iterable[Waiver]) -> list[FindingOut]:
    """Every finding once per place and sentence, by weight; what the planner waived carries the
    reason, if it can be waived at all."""
    kept, out = list(waivers), dict[tuple[str, str, str], FindingOut]()
    for code, where, params, sets, measured in found:
        rule = RULES[code]
        text = rule.text.format(**params)
        waived = next(
            (
                w.reason
                for w in reversed(kept)
                if rule.waivable and w.finding == code.value and w.where in (None, where)
            ),
            None,
        )
        out.setdefault(
            (code.value, where, text),
            FindingOut(
                code=code.value,
                severity="stop" if measured else rule.severity,
                waivable=rule.waivable,
                role=rule.role,
                where=where,
                text=text,
                remedy=rule.remedy.format(**params),
                waived=waived,
                sets=sets or {},
                act=(rule.act or "take_remedy") if sets else "",
                act_words=(rule.act_words or _set_words(sets)) if sets else "",
            ),
        )
    return sorted(out.values(), key=lambda f: (f.waived is not None, _WEIGHT[f.severity]))
