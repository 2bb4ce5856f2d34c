"""Acts on tools, chains, rechecks and waivers."""

from __future__ import annotations

import copy

from ..unconfirmed_defaults import confirmed
from .base import Raw, an_act, begins, fresh, ids, in_table

_TOOL: Raw = {
    "kind": "click wrench",
    "range": ["40 N·m", "200 N·m"],
    "increment": "1 N·m",
    "length": "600 mm",
    "drive": "1/2 in",
}
_LINKS: dict[str, Raw] = {"adapter": {"adapter": ""}, "multiplier": {"multiplier": ""}}
_RECHECK: Raw = {"meter": "h", "at": ["24 h"]}


@an_act
def add_tool(doc: Raw) -> str:
    """A wrench and its chain, under names that nothing has yet."""
    tools, chains = doc.setdefault("tools", {}), doc.setdefault("chains", {})
    number = 2
    while f"w{number}" in tools or f"c{number}" in chains:
        number += 1
    tools[f"w{number}"], chains[f"c{number}"] = copy.deepcopy(_TOOL), [f"w{number}"]
    return f"tool-w{number}"


@an_act
def drop_tool(doc: Raw, tool: str) -> str:
    """A wrench out of the plan with its chains, and out of the stages that pulled with them."""
    gone = {name for name, links in doc.get("chains", {}).items() if links[0] == tool}
    doc["chains"] = {
        name: links for name, links in doc.get("chains", {}).items() if name not in gone
    }
    doc.get("tools", {}).pop(tool, None)
    for stage in doc["stages"]:
        if isinstance(stage.get("chains"), list):
            stage["chains"] = [name for name in stage["chains"] if name not in gone]
        for one in stage.get("passes") or []:
            if isinstance(one.get("chains"), list):
                one["chains"] = [name for name in one["chains"] if name not in gone]
        if isinstance(stage.get("chain_for"), dict):
            stage["chain_for"] = {
                group: name for group, name in stage["chain_for"].items() if name not in gone
            }
    return ""


@an_act
def add_link(doc: Raw, chain: str, kind: str) -> str:
    """An adapter at the wrench, or a multiplier behind everything."""
    links = in_table(doc.get("chains", {}), chain, "chain")
    made = begins(_LINKS, kind, "link")
    links.insert(1 if kind == "adapter" else len(links), made)
    return f"tool-{links[0]}"


@an_act
def add_recheck(doc: Raw) -> str:
    """A day to come back."""
    rechecks = doc.setdefault("rechecks", [])
    rechecks.append({"id": fresh(ids(rechecks), "r"), **copy.deepcopy(_RECHECK)})
    return "back"


@an_act
def confirm_examples(doc: Raw, where: str) -> str:
    """The values of a part stand as the example has them, and the planner takes them on as his
    own."""
    confirmed(doc, where)
    return ""


@an_act
def unwaive(doc: Raw, finding: str, where: str) -> str:
    """A waiver undone."""
    gone = ((finding, where), (finding, None))
    doc["waivers"] = [
        w for w in doc.get("waivers", []) if (w.get("finding"), w.get("where")) not in gone
    ]
    return ""


@an_act
def waive(doc: Raw, finding: str, where: str, reason: str) -> str:
    """A finding waived, with the reason."""
    kept = [
        w for w in doc.get("waivers", []) if (w.get("finding"), w.get("where")) != (finding, where)
    ]
    doc["waivers"] = [*kept, {"finding": finding, "where": where, "reason": reason}]
    return ""
