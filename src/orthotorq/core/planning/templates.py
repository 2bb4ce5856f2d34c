"""Plans to begin from: a complete, computable document per kind of joint (beginnings/*.json), to be
changed by the planner.

Each holds the work as it is done: made safe, taken apart, inspected, fitted, tightened, proved,
marked, handed back, looked at again. A plan made of it can be released and run with its own figures
put in.
"""

from __future__ import annotations

import json
from functools import lru_cache
from importlib.resources import files
from typing import Any

from .methods import passes_of_method
from .unconfirmed_defaults import emptied, examples_of

Doc = dict[str, Any]


@lru_cache(maxsize=32)
def _text(kind: str) -> str:
    return (files(__package__) / "beginnings" / f"{kind}.json").read_text(encoding="utf-8")


def begun_plan(kind: str, title: str, joint: str, empty: bool = False) -> Doc:
    """A plan as a planner begins it: the example, its values marked as not yet his own; or without
    any of them."""
    document = blank_plan(kind, title, joint)
    return emptied(document) if empty else {**document, "examples": examples_of(document)}


def blank_plan(kind: str, title: str, joint: str) -> Doc:
    """A computable plan document to begin from; passes of a method stand in it, ready to be
    edited."""
    body: Doc = json.loads(_text(kind))
    for stage in body["stages"]:
        if "method" in stage:
            stage["passes"] = passes_of_method(stage.pop("method"))
    return {
        "format": "orthotorq.plan",
        "version": 3,
        "title": title,
        "joint_kind": kind,
        "joint": joint,
        "chains": {"main": ["w"]},
        **body,
    }
