"""The one table of findings: code, severity, who may waive it, sentence, remedy; a file for each
family."""

from __future__ import annotations

from . import condition, joint_condition, load, service, sources, stages, tools
from .codes import Finding
from .rule import Rule, Severity

__all__ = ["FAMILIES", "RULES", "Finding", "Rule", "Severity", "family_of"]

FAMILIES: dict[str, dict[Finding, Rule]] = {
    "load": load.RULES,
    "service": service.RULES,
    "condition": condition.RULES,
    "sources": sources.RULES,
    "tools": tools.RULES,
    "stages": stages.RULES,
    "standing": joint_condition.RULES,
}
_RULES = {code: rule for family in FAMILIES.values() for code, rule in family.items()}
#: in the order of the codes, which is that of the handbook
RULES: dict[Finding, Rule] = {code: _RULES[code] for code in Finding if code in _RULES}


def family_of(code: str) -> str:
    """The family of a finding.

    >>> family_of("hand_force"), family_of("yields")
    ('tools', 'load')
    """
    return next((name for name, rules in FAMILIES.items() if code in rules), "")
