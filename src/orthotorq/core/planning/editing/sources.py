"""Acts on the sources of figures."""

from __future__ import annotations

import copy

from .base import Raw, an_act, fresh, ids, in_table, the_one


@an_act
def add_source(doc: Raw, group: str) -> str:
    """Another source beside those there are; what it says is typed."""
    sources = doc.setdefault("sources", [])
    sources.append(
        {
            "id": fresh(ids(sources), "s"),
            "groups": [group],
            "by": "part maker",
            "reference": "",
            "says": {"torque": [""]},
        }
    )
    return f"figure-{group}"


#: what a source may say, and how each begins
SAYS: dict[str, tuple[str, Raw]] = {
    "torque": ("a torque", {"torque": [""]}),
    "range": ("a torque from … to …", {"range": ["", ""]}),
    "places": (
        "torques that differ from page to page",
        {"places": [{"at": "", "torque": ""}, {"at": "", "torque": ""}]},
    ),
    "preload": ("a clamp load", {"preload": ""}),
    "yield_fraction": ("a share of yield", {"yield_fraction": ""}),
    "bound": ("only a bound", {}),
}


@an_act
def source_says(doc: Raw, source: str, form: str) -> str:
    """What kind of figure a source gives; bounds and angle that it gives besides stay."""
    in_table(SAYS, form, "kind of figure")
    one = the_one(doc.get("sources", []), source, "source")
    kept = {
        name: value
        for name, value in (one.get("says") or {}).items()
        if name in ("angle", "at_most", "at_least")
    }
    one["says"] = {**copy.deepcopy(SAYS[form][1]), **kept}
    for decided in ("holds", "because"):
        one.pop(decided, None)
    return ""


@an_act
def drop_source(doc: Raw, source: str) -> str:
    """A source out of the plan; a figure that was taken from it is that of the source that ranks
    first."""
    doc["sources"] = [one for one in doc.get("sources", []) if one.get("id") != source]
    for target in doc.get("targets", {}).values():
        if target.get("source") == source:
            target.clear()
            target["kind"] = "ranked"
    return ""


@an_act
def take_source(doc: Raw, group: str, source: str) -> str:
    """A source of the plan as the figure; the reason stays."""
    reason = doc.get("targets", {}).get(group, {}).get("reason")
    doc.setdefault("targets", {})[group] = {
        "kind": "torque",
        "source": source,
        **({"reason": reason} if reason else {}),
    }
    return f"figure-{group}"
