"""Acts on groups of bolts and their figures."""

from __future__ import annotations

import copy
import math

from ...tables import flanges
from ...units import parse
from .base import Raw, an_act, begins, fresh, ids, in_table, the_group

_LAYOUTS: dict[str, Raw] = {
    "circle": {"kind": "circle", "count": 8, "diameter": "300 mm"},
    "row": {"kind": "row", "count": 4, "pitch": "120 mm"},
    "grid": {
        "kind": "grid",
        "rows": 2,
        "columns": 2,
        "row_pitch": "150 mm",
        "column_pitch": "200 mm",
    },
    "points": {"kind": "points", "points": [["0 mm", "0 mm"]]},
}
_FACES: dict[str, Raw] = {
    "cone": {"kind": "cone", "half_angle": "30 deg"},
    "flat": {"kind": "flat", "face_diameter": "", "hole": ""},
}
_LAYER: Raw = {"material": "carbon steel", "thickness": "20 mm"}


@an_act
def add_group(doc: Raw) -> str:
    """A group like the first one in grade and friction; it stands apart until it is placed."""
    first = doc["groups"][0] if doc["groups"] else {}
    made = fresh(ids(doc["groups"]), "g")
    doc["groups"].append(
        {
            "id": made,
            "name": f"Bolts {len(doc['groups']) + 1}",
            "layout": {**_LAYOUTS["circle"], "count": 4, "diameter": "120 mm"},
            "fastener": {
                "thread": "M12",
                "grade": (first.get("fastener") or {}).get("grade", "ISO 898-1 8.8"),
                "head": "hex",
            },
            "friction": copy.deepcopy(first.get("friction") or {"lubricant": "dry-steel"}),
            "limits": {"yield_fraction": 0.6},
        }
    )
    doc.setdefault("targets", {})[made] = {"kind": "yield_fraction", "fraction": 0.4}
    return f"joint-{made}"


@an_act
def vary_group(doc: Raw, group: str) -> str:
    """The same bolts in another way: another number, another thread; one of the two is chosen at
    the start of a run."""
    base = the_group(doc, group)
    variants = doc.setdefault("variants", [])

    def variant(words: str) -> str:
        made = {
            "id": fresh(ids(variants), "way"),
            "name": f"{base.get('name')}, {words}",
            "choice": str(base.get("name"))[:60],
        }
        variants.append(made)
        return str(made["id"])

    if not base.get("variants"):
        base["variants"] = [variant("as first planned")]
    made = {
        "id": fresh(ids(doc["groups"]), "g"),
        "name": base.get("name"),
        "like": group,
        "variants": [variant("in another way")],
        "layout": copy.deepcopy(base.get("layout")),
    }
    doc["groups"].insert(doc["groups"].index(base) + 1, made)
    return f"joint-{made['id']}"


def _drop_ways(doc: Raw, gone: Raw) -> None:
    """What was this group in another way goes with it; a choice between one and nothing is no
    choice."""
    left = [g for g in doc["groups"] if g.get("like") != gone.get("id")]
    doc["groups"][:] = left
    base = next((g for g in left if g.get("id") == gone.get("like")), None)
    if base is None or any(g.get("like") == base["id"] for g in left):
        return
    choices = {
        v.get("choice") for v in doc.get("variants", []) if v.get("id") in base.get("variants", [])
    }
    base.pop("variants", None)
    doc["variants"] = [v for v in doc.get("variants", []) if v.get("choice") not in choices]


@an_act
def drop_group(doc: Raw, group: str) -> str:
    """A group out of the plan and out of everything that names it."""
    gone = the_group(doc, group)
    doc["groups"].remove(gone)
    _drop_ways(doc, gone)
    doc.get("targets", {}).pop(group, None)
    for holder in [*doc["stages"], *doc.get("sources", [])]:
        if isinstance(holder.get("groups"), list):
            holder["groups"] = [name for name in holder["groups"] if name != group]
        holder.get("chain_for", {}).pop(group, None)
        for check in holder.get("checks", []):
            if check.get("per") == group:
                del check["per"]
    return f"joint-{doc['groups'][0]['id']}" if doc["groups"] else ""


@an_act
def set_layout(doc: Raw, group: str, kind: str) -> str:
    """How the bolts stand; what was said of the old layout and holds for the new one stays, the
    rest is typed."""
    found = the_group(doc, group)
    old, new = found["layout"], begins(_LAYOUTS, kind, "layout")
    kept = {
        field: old.get(field, "" if field not in ("kind", "points") else value)
        for field, value in new.items()
    }
    found["layout"] = {
        **kept,
        "kind": kind,
        **({"origin": old["origin"]} if old.get("origin") else {}),
    }
    return f"joint-{group}"


@an_act
def take_flange(doc: Raw, group: str, flange: str) -> str:
    """Bolts, bolt circle and gasket as a flange of a standard has them; to be compared with the one
    that is there."""
    found, one = the_group(doc, group), in_table(flanges.table(), flange, "flange")
    layout = found["layout"] if found["layout"].get("kind") == "circle" else {}
    found["layout"] = {
        **layout,
        "kind": "circle",
        "count": one.count,
        "diameter": f"{one.circle:g} mm",
    }
    found["fastener"]["thread"] = one.thread
    filled = {
        "layout/count": one.count,
        "layout/diameter": f"{one.circle:g} mm",
        "fastener/thread": one.thread,
    }
    if found.get("gasket"):
        found["gasket"] |= {
            "outside": f"{one.gasket_outside:g} mm",
            "inside": f"{one.gasket_inside:g} mm",
        }
        filled |= {f"gasket/{name}": found["gasket"][name] for name in ("outside", "inside")}
    # the table's, until somebody has held them against the flange that is there
    doc["examples"] = {
        **doc.get("examples", {}),
        **{f"groups/{group}/{path}": value for path, value in filled.items()},
    }
    return f"joint-{group}"


@an_act
def set_face(doc: Raw, group: str, kind: str) -> str:
    """The seat: by size, an own face, a cone; what is of that kind already stays as it is."""
    fastener = the_group(doc, group)["fastener"]
    if (fastener.get("face") or {}).get("kind", "table") == kind:
        return f"joint-{group}"
    fastener.pop("face", None)
    if kind != "table":
        fastener["face"] = begins(_FACES, kind, "seat")
    return f"joint-{group}"


@an_act
def set_into(doc: Raw, group: str, kind: str) -> str:
    """What the thread goes into."""
    found = the_group(doc, group)
    if kind:
        found["into"] = {**found.get("into", {}), "kind": kind}
    else:
        found.pop("into", None)
    return f"joint-{group}"


@an_act
def add_layer(doc: Raw, group: str) -> str:
    """A clamped part."""
    the_group(doc, group).setdefault("stack", []).append(copy.deepcopy(_LAYER))
    return f"joint-{group}"


@an_act
def set_target(doc: Raw, group: str, kind: str, torque: str = "") -> str:
    """Where the figure comes from, beginning with the torque there is now; what nobody has given is
    left to be typed, and what is of that kind already stays."""
    now = doc.get("targets", {}).get(group) or {}
    if ("source" if now.get("source") else now.get("kind")) == kind:
        return f"figure-{group}"
    targets_of: dict[str, Raw] = {
        "ranked": {"kind": "ranked"},
        "torque": {"kind": "torque", "torque": torque},
        "torque+angle": {"kind": "torque+angle", "torque": torque, "angle": ""},
        "preload": {"kind": "preload", "preload": ""},
        "yield_fraction": {"kind": "yield_fraction", "fraction": ""},
    }
    targets = doc.setdefault("targets", {})
    if kind == "source":
        sources = doc.setdefault("sources", [])
        made = fresh(ids(sources), "s")
        sources.append(
            {
                "id": made,
                "groups": [group],
                "by": "equipment maker",
                "reference": "",
                "says": {"torque": [torque]},
            }
        )
        targets[group] = {"kind": "torque", "source": made}
    else:
        targets[group] = begins(targets_of, kind, "kind of target")
    return f"figure-{group}"


@an_act
def take_lubricant(doc: Raw, group: str, lubricant: str, torque: str = "", reason: str = "") -> str:
    """Another friction condition; with a torque, the one that keeps the clamp, and why."""
    the_group(doc, group)["friction"] = {"lubricant": lubricant}
    if torque:
        doc.setdefault("targets", {})[group] = {
            "kind": "torque",
            "torque": torque,
            **({"reason": reason} if reason else {}),
        }
    return f"figure-{group}"


@an_act
def carry_torque(doc: Raw, torque: str, reason: str) -> str:
    """A figure brought from the quick sums becomes the first group's torque, with where it came
    from as its reason."""
    group = doc["groups"][0]["id"]
    doc.setdefault("targets", {})[group] = {
        "kind": "torque",
        "torque": torque,
        "reason": reason or "from a quick sum",
    }
    return f"figure-{group}"


@an_act
def take_remedy(doc: Raw, group: str, torque: str = "", angle: str = "") -> str:
    """The figure of a remedy: another torque, or another angle of the figure and of the last pass
    that turns it."""
    # what is another group in another way has the figure of that group
    group = next(
        (str(g["like"]) for g in doc.get("groups", []) if g.get("id") == group and g.get("like")),
        group,
    )
    target = doc.setdefault("targets", {}).get(group, {})
    passes = [
        p
        for s in doc.get("stages", [])
        if group in s.get("groups", [])
        for p in s.get("passes") or []
    ]
    figures = [
        target.get("torque"),
        *(t for s in doc.get("sources", []) for t in s.get("says", {}).get("torque") or []),
    ]
    for one in passes:
        # a cap that is the figure goes with it
        if one.get("cap") is not None and one["cap"] in figures:
            one["cap"] = torque
    reason = {"reason": target["reason"]} if target.get("reason") else {}
    if not angle:
        extra = {"angle": target["angle"]} if "angle" in target else {}
        doc["targets"][group] = {
            "kind": "torque+angle" if extra else "torque",
            "torque": torque,
            **extra,
            **reason,
        }
        return f"figure-{group}"
    doc["targets"][group] = {
        **{k: v for k, v in target.items() if k != "source"},
        "kind": "torque+angle",
        "torque": torque,
        "angle": angle,
    }
    turns = [p for p in passes if p.get("do") == "angle"]
    # the last of several steps takes the difference; its window went with its turn
    rest = math.degrees(
        parse(angle, "angle").base - sum(parse(p["turn"], "angle").base for p in turns[:-1])
    )
    if turns and rest > 0:
        turns[-1]["turn"] = f"{rest:g} deg"
        for field in ("window", "within"):
            turns[-1].pop(field, None)
    return f"figure-{group}"


@an_act
def add_part(doc: Raw) -> str:
    """A part or consumable to bring."""
    parts = doc.setdefault("parts", [])
    parts.append({"id": fresh(ids(parts), "part"), "name": ""})
    return ""
