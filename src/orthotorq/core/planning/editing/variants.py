"""Acts on the ways in which a plan may be worked: of those with the same choice one is taken when a
run starts."""

from __future__ import annotations

from .base import Raw, an_act, fresh, ids, the_one


@an_act
def add_way(doc: Raw, choice: str = "") -> str:
    """Another way of a choice; the first of a choice comes with its counterpart, since one alone is
    no choice."""
    ways = doc.setdefault("variants", [])
    alone = not any(way.get("choice", "") == choice for way in ways)
    for name in ("one way", "another way") if alone else ("another way",):
        ways.append(
            {"id": fresh(ids(ways), "way"), "name": name, **({"choice": choice} if choice else {})}
        )
    return ""


@an_act
def drop_way(doc: Raw, way: str) -> str:
    """A way out of the plan; what belonged to it alone is then done in every way."""
    doc["variants"].remove(the_one(doc.get("variants", []), way, "way"))
    for part in (*doc["groups"], *doc["stages"]):
        left = [name for name in part.get("variants") or [] if name != way]
        part.pop("variants", None)
        if left:
            part["variants"] = left
    return ""
