"""What every act of a planner changes in a plan, entry by entry; `python -m tests.golden.acts`
writes it anew."""

from __future__ import annotations

import inspect
import itertools
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from orthotorq.core.errors import OrthotorqError
from orthotorq.core.kinds.registry import PASS_KINDS
from orthotorq.core.kinds.stage_registry import STAGE_KINDS
from orthotorq.core.planning.differences import differences
from orthotorq.core.planning.editing import ACTS, edit, group_parts, groups, own, tools
from orthotorq.core.planning.methods import METHODS
from orthotorq.demo.load import plan_document

#: differences in words that are kept of each act
MOST_WORDS = 6
FILE = Path(__file__).parent / "acts.txt"
PLANS = ("twin-drive-wheel", "rail-stop-anchors")
#: what is tried for a parameter whatever the act; ids of the plan are added
TRIED: dict[str, list[str]] = {
    "torque": ["210 N·m"],
    "reason": ["as agreed"],
    "on": ["yes", ""],
    "by": ["1", "-1"],
    "angle": ["", "60 deg"],
    "second": [""],
    "low": [""],
    "high": [""],
    "most": ["", "230 N·m"],
    "least": [""],
    "percents": ["40 80 100"],
    "check": ["yes"],
    "order": ["cross", "circle"],
    "meter": ["h"],
    "at": ["50"],
    "every": ["", "500"],
    "name": ["Own one"],
    "form": ["bound", "range"],
    "part": [one.name for one in group_parts.PARTS],
    "choice": ["How it is fitted"],
    "flange": ["DN80 PN10"],
    "lubricant": ["moly-paste"],
    "compound": ["anaerobic-medium"],
    "method": list(METHODS),
    "where": ["groups/bolts"],
    "finding": ["x"],
    "fit": ["again"],
    "listed": [words for kind in PASS_KINDS.values() for words in kind.listed],
}
KINDS = {
    "set_layout": list(groups._LAYOUTS),
    "set_face": list(groups._FACES),
    "set_into": ["nut", "tapped", ""],
    "set_target": ["ranked", "source", "torque", "torque+angle", "preload", "yield_fraction"],
    "add_own": list(own._KINDS),
    "drop_own": list(own._KINDS)[:1],
    "add_link": list(tools._LINKS),
    "add_stage": list(STAGE_KINDS),
}


def _flat(value: Any, path: str = "") -> dict[str, str]:
    if isinstance(value, dict) and value:
        return {k: v for key, one in value.items() for k, v in _flat(one, f"{path}/{key}").items()}
    if isinstance(value, list) and any(isinstance(one, dict | list) for one in value):
        stand = " ".join(
            str(one.get("id", n)) if isinstance(one, dict) else str(n)
            for n, one in enumerate(value)
        )
        return {f"{path} in order": stand} | {
            k: v
            for n, one in enumerate(value)
            for k, v in _flat(
                one, f"{path}/{one.get('id', n) if isinstance(one, dict) else n}"
            ).items()
        }
    return {path: str(value)}


def _tried(document: dict[str, Any], act: str, name: str) -> list[str]:
    stages, groups = document["stages"], document["groups"]
    # a stage of a kind each
    each = [
        next(s for s in stages if s["kind"] == kind) for kind in ("tighten", "inspect", "prepare")
    ]
    if name == "kind":
        return KINDS[act]
    return {
        "group": [g["id"] for g in groups[:2]],
        "stage": [s["id"] for s in each],
        "behind": ["", stages[1]["id"]],
        "tool": list(document["tools"])[:1],
        "chain": list(document["chains"])[:1],
        "one": [p["id"] for p in each[0]["passes"][:2]],
        "source": [s["id"] for s in document.get("sources", [])[:2]],
        "way": [v["id"] for v in document.get("variants", [])[:1]],
    }.get(name) or TRIED.get(name, ["?"])


def lines() -> Iterator[str]:
    """The acts, each with what it takes out (-) and puts in (+)."""
    for plan in PLANS:
        document = plan_document(plan)
        before = _flat(document)
        for act, function in ACTS.items():
            names = list(inspect.signature(function).parameters)[1:]
            for values in itertools.product(*(_tried(document, act, name) for name in names)):
                said = f"{plan} {act} {', '.join(values)}"
                try:
                    out, opens = edit(document, act, dict(zip(names, values, strict=True)))
                except OrthotorqError as error:
                    yield f"{said}: {error}"
                    continue
                after = _flat(out)
                yield f"{said}: opens {opens or 'nothing'}"
                yield from (f"  - {key}" for key in before if key not in after)
                yield from (
                    f"  + {key} = {value}"
                    for key, value in after.items()
                    if before.get(key) != value
                )
                yield from (
                    f"  in words: {one.what}: {one.before} -> {one.after}"
                    for one in differences(document, out)[:MOST_WORDS]
                )


if __name__ == "__main__":
    FILE.write_text("\n".join(lines()) + "\n", encoding="utf-8")
