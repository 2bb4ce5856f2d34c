"""Acts on stages and their passes."""

from __future__ import annotations

import copy

from ...kinds.registry import PASS_KINDS
from ...kinds.stage_registry import STAGE_KINDS
from ..methods import METHODS, passes_of_method
from .base import Raw, an_act, begins, fresh, ids, in_table, the_one, the_stage


@an_act
def add_stage(doc: Raw, kind: str, behind: str = "") -> str:
    """A stage of a kind, behind another or last, complete so that the plan goes on being
    computed."""
    kind_of = in_table(STAGE_KINDS, kind, "stage kind")
    made = {"id": fresh(ids(doc["stages"]), kind), "kind": kind, **kind_of.beginning(doc)}
    at = (
        ids(doc["stages"]).index(behind) + 1 if behind in ids(doc["stages"]) else len(doc["stages"])
    )
    doc["stages"].insert(at, made)
    return f"stage-{made['id']}"


@an_act
def move_stage(doc: Raw, stage: str, by: str) -> str:
    """A stage one place earlier or later; at the ends it stays."""
    stages, at = doc["stages"], doc["stages"].index(the_stage(doc, stage))
    to = at + (-1 if by == "earlier" else 1)
    if 0 <= to < len(stages):
        stages[at], stages[to] = stages[to], stages[at]
    return f"stage-{stage}"


@an_act
def drop_stage(doc: Raw, stage: str) -> str:
    """A stage out of the plan, and out of what comes after it."""
    doc["stages"].remove(the_stage(doc, stage))
    for one in doc["stages"]:
        for field in ("after", "before"):
            if isinstance(one.get(field), list):
                one[field] = [name for name in one[field] if name != stage]
    return ""


@an_act
def copy_stage(doc: Raw, stage: str) -> str:
    """The same stage once more, behind the first; its items, checks and passes keep their ids,
    which are the stage's own."""
    one = the_stage(doc, stage)
    made = {**copy.deepcopy(one), "id": fresh(ids(doc["stages"]), str(one.get("kind")))}
    if one.get("title"):
        made["title"] = f"{one['title']}, copy"
    doc["stages"].insert(doc["stages"].index(one) + 1, made)
    return f"stage-{made['id']}"


@an_act
def add_item(doc: Raw, stage: str) -> str:
    """A thing to tick."""
    items = the_stage(doc, stage)["items"]
    items.append({"id": fresh(ids(items), "i"), "text": "New item"})
    return f"stage-{stage}"


@an_act
def add_check(doc: Raw, stage: str) -> str:
    """A check."""
    checks = the_stage(doc, stage)["checks"]
    checks.append({"id": fresh(ids(checks), "c"), "what": "New check"})
    return f"stage-{stage}"


@an_act
def add_ways_back(doc: Raw, stage: str) -> str:
    """A way back for every check that has none: to the last stage before it that turns bolts, else
    to the one before."""
    one = the_stage(doc, stage)
    before = doc["stages"][: doc["stages"].index(one)]
    turns = [s for s in before if s.get("kind") in STAGE_KINDS and STAGE_KINDS[s["kind"]].turns]
    back = (turns or before)[-1:]
    for check in one["checks"] if back else []:
        check.setdefault("back", back[0]["id"])
    return f"stage-{stage}"


@an_act
def add_pass(doc: Raw, stage: str, listed: str) -> str:
    """A pass as the list names it."""
    offered = {words: first for kind in PASS_KINDS.values() for words, first in kind.listed.items()}
    passes = the_stage(doc, stage)["passes"]
    passes.append({"id": fresh(ids(passes), "p"), **begins(offered, listed, "pass")})
    return f"stage-{stage}"


@an_act
def move_pass(doc: Raw, stage: str, one: str, by: str) -> str:
    """A pass one place earlier or later; at the ends it stays."""
    passes = the_stage(doc, stage)["passes"]
    at = passes.index(the_one(passes, one, "pass"))
    to = at + (-1 if by == "earlier" else 1)
    if 0 <= to < len(passes):
        passes[at], passes[to] = passes[to], passes[at]
    return f"stage-{stage}"


@an_act
def use_method(doc: Raw, stage: str, method: str) -> str:
    """The passes of a method taken over, to be edited."""
    own = doc.get("definitions", {}).get("methods", {})
    passes = copy.deepcopy(own[method]["passes"]) if method in own else None
    if passes is None:
        in_table(METHODS, method, "method")
        passes = passes_of_method(method)
    one = the_stage(doc, stage)
    one.pop("method", None)
    one["passes"] = passes
    return f"stage-{stage}"


@an_act
def check_pass(doc: Raw, stage: str, one: str, on: str) -> str:
    """Whether a pass proves rather than tightens: then it goes round until none moves."""
    found = the_one(the_stage(doc, stage)["passes"], one, "pass")
    checking = PASS_KINDS["torque"].listed["check round"]
    for field in ("check", "rounds"):
        if on == "yes":
            found[field] = copy.deepcopy(checking[field])
        else:
            found.pop(field, None)
    return f"stage-{stage}"


@an_act
def set_compound(doc: Raw, stage: str, compound: str, name: str = "") -> str:
    """What is put on, by the table's name; nothing of the table leaves the words as they are."""
    one = the_stage(doc, stage)
    if compound:
        one.update(compound=compound, what=name or compound.replace("-", " "))
    else:
        one.pop("compound", None)
    return f"stage-{stage}"


@an_act
def comes_out(doc: Raw, stage: str, fit: str) -> str:
    """What a stage takes out: what another fitted, or something that was there."""
    one = the_stage(doc, stage)
    if fit:
        one["fit"] = fit
        one.pop("what", None)
    else:
        one.pop("fit", None)
        one.setdefault("what", "what comes off")
    return f"stage-{stage}"
