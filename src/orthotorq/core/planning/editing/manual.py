"""Acts that take over what a line of a manual says."""

from __future__ import annotations

import copy

from ...kinds.registry import PASS_KINDS
from .base import Raw, an_act, fresh, ids, the_group, the_stage
from .sequences import in_order
from .sources import take_source

#: the words of a manual -> the order of a pass
_ORDERS = {
    "cross": "cross",
    "star": "star",
    "circle": "circle",
    "row": "middle_out",
    "grid": "centre_out",
}


@an_act
def say_source(
    doc: Raw,
    group: str,
    torque: str = "",
    second: str = "",
    low: str = "",
    high: str = "",
    most: str = "",
    least: str = "",
    angle: str = "",
    of_yield: str = "",
) -> str:
    """A source with what it says: its figure is taken where none of another source is, and stands
    beside that one else; a bound stands beside what there is."""
    the_group(doc, group)
    says: Raw = (
        {"torque": [torque, *([second] if second else [])]}
        if torque
        else {"range": [low, high]}
        if low and high
        else {"yield_fraction": of_yield}
        if of_yield
        else {}
    )
    says |= {
        key: value
        for key, value in (("at_most", most), ("at_least", least), ("angle", angle))
        if value
    }
    sources = doc.setdefault("sources", [])
    made = fresh(ids(sources), "s")
    sources.append(
        {"id": made, "groups": [group], "by": "equipment maker", "reference": "", "says": says}
    )
    target = doc.setdefault("targets", {}).get(group) or {}
    if target.get("source") or target.get("kind") == "ranked":
        return f"figure-{group}"
    if torque and angle:
        doc["targets"][group] = {
            "kind": "torque+angle",
            "torque": torque,
            "angle": angle,
            "source": made,
        }
    elif torque or low or of_yield:
        return take_source(doc, group, made)
    return f"figure-{group}"


@an_act
def take_passes(
    doc: Raw, stage: str, percents: str, order: str = "", check: str = "", angles: str = ""
) -> str:
    """These shares, the angles after them, then a round that checks where one is wanted.

    What the stage does by hand before stays, and its checks where the manual speaks of none.
    """
    one, kind = the_stage(doc, stage), _ORDERS.get(order, "cross")
    before = [p for p in one.get("passes") or [] if isinstance(p, dict)]
    first = next(
        (
            s
            for s in doc["stages"]
            if s.get("kind") == "tighten" and "install" in (s.get("in") or ["install"])
        ),
        one,
    )
    by_hand = [p for p in before[:1] if p.get("do") == "hand"]
    passes: list[Raw] = by_hand or (
        [{"id": "hand", "do": "hand", "order": {"kind": kind}}] if one is first else []
    )
    passes += [
        {"id": f"p{i}", "do": "torque", "percent": float(share), "order": {"kind": kind}}
        for i, share in enumerate(percents.split(), 1)
    ]
    # no torque proves a bolt that was turned by an angle
    turns = [one.strip() for one in angles.split(",") if one.strip()]
    checks = [p for p in before if p.get("check") and not turns]
    passes += [
        {
            "id": f"turn{i}" if i > 1 else "turn",
            "do": "angle",
            "turn": turn,
            "order": {"kind": kind},
        }
        for i, turn in enumerate(turns, 1)
    ]
    passes += checks
    if check and not checks:
        passes.append({"id": "check", **copy.deepcopy(PASS_KINDS["torque"].listed["check round"])})
    one.pop("method", None)
    one["passes"] = passes
    return f"stage-{stage}"


@an_act
def take_order(doc: Raw, stage: str, order: str) -> str:
    """The order of every pass of a stage that does not prove the others."""
    for one in the_stage(doc, stage).get("passes") or []:
        if "order" in one and not one.get("check"):
            one["order"] = in_order(one["order"], _ORDERS[order])
    return f"stage-{stage}"


@an_act
def take_recheck(doc: Raw, meter: str, at: str = "", every: str = "") -> str:
    """A schedule of rechecks; one of the same meter gives way to it."""
    rechecks = [one for one in doc.get("rechecks", []) if one.get("meter") != meter]
    made: Raw = {"id": fresh(ids(rechecks), "r"), "meter": meter}
    if at:
        made["at"] = [part.strip() for part in at.split(",")]
    if every:
        made["every"] = every
    doc["rechecks"] = [*rechecks, made]
    return "back"


@an_act
def take_pause(doc: Raw, stage: str, turn: str = "", wait: str = "") -> str:
    """A pass that backs off by a turn, or that waits, as the last of a stage."""
    passes = the_stage(doc, stage).setdefault("passes", [])
    made = (
        {"do": "back_off", "turn": turn, "order": {"kind": "circle"}}
        if turn
        else {"do": "wait", "for": wait}
    )
    passes.append({"id": fresh(ids(passes), "p"), **made})
    return f"stage-{stage}"


@an_act
def take_new_fasteners(doc: Raw, group: str) -> str:
    """New fasteners each time."""
    the_group(doc, group)["fastener"].update(condition="new", single_use=True)
    return f"joint-{group}"
