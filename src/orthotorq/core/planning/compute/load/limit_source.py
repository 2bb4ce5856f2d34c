"""What sets a bound, in a few words with its figure: “gasket, 34 MPa”."""

from __future__ import annotations

from ....documents.joint import Group
from ....documents.plan import Plan
from ....units import show
from ..inputs.facts import Facts
from .limit import Bound

#: the part of a group that a bound's field belongs to, in words
_PARTS = {
    "gasket": "gasket",
    "component": "flange component",
    "at_work": "temperatures in service",
    "work": "load in service",
    "stack": "clamped parts",
    "into": "thread engagement",
    "required_clamp": "entered in Torque target",
}


def set_by(plan: Plan, facts: Facts, bound: Bound) -> str:
    """Where a bound comes from, as the Bench names it, with the figure that was entered there."""
    if bound.code == "pumped":
        return f"{show(100 * facts.group.limits.nu, 3)} % of yield, in tension"
    kind, _, rest = bound.input.partition("/")
    if kind == "sources":
        source = next((s for s in plan.sources if s.id == rest), None)
        if source is None:
            return ""
        says = source.says.at_most if bound.upper else source.says.at_least
        return ", ".join(part for part in (source.reference or source.by, str(says or "")) if part)
    if kind == "tools":
        return _tool(plan, rest)
    group, (part, *inner) = facts.group, rest.partition("/")[2].split("/")
    if part == "limits":
        return _entered(group, inner[0])
    if part == "fastener":
        return f"grade {facts.strength.name}"
    figure = _figure(group, part, inner)
    words = _PARTS.get(part, part.replace("_", " "))
    return f"{words}, {figure}" if figure and inner else words


def _entered(group: Group, name: str) -> str:
    """A limit that the planner sets."""
    value = getattr(group.limits, name, None)
    if name == "soft_part":
        return f"soft part, {value}"
    if name == "nu":
        return f"{show(100 * float(value or 0.9), 3)} % of yield, with torsion"
    return "entered in Torque target"


def _tool(plan: Plan, name: str) -> str:
    """A tool by its name; a bound of wrench or drive names only its kind."""
    tool = plan.tools.get(name)
    if tool is None and len(plan.tools) == 1:
        tool = next(iter(plan.tools.values()))
    return f"{tool.name or tool.kind}, up to {tool.range[1]}" if tool is not None else "tools"


def _figure(group: Group, part: str, inner: list[str]) -> str:
    """The figure as typed, where the field has one."""
    value: object = getattr(group, part, None)
    for name in inner:
        value = getattr(value, name, None)
    text = "" if value is None else str(value)
    return text if any(letter.isdecimal() for letter in text) and len(text) <= 24 else ""
