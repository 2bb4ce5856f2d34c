"""Older plan files brought up to the current version, one step a version, before they are read."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from typing import Any

from ..forms.condition import STATES
from ..planning.states import SAFEGUARDS
from .old_conditions import read_condition

Raw = dict[str, Any]


def _by_id(where: object, document: Raw) -> object:
    """A place in a plan by id instead of by its number in a list."""
    found = re.fullmatch(r"(stages|rechecks)/(\d+)", where) if isinstance(where, str) else None
    if found is None:
        return where
    listed, number = document.get(found[1]), int(found[2])
    one = listed[number] if isinstance(listed, list) and number < len(listed) else None
    name = one.get("id") if isinstance(one, dict) else None
    return f"{found[1]}/{name}" if name else where


def _second(document: Raw) -> Raw:
    """Version 1 named the place of a waiver by its number in a list, and the edition of the tables,
    which nothing read.

    >>> old = {"version": 1, "stages": [{"id": "a"}, {"id": "b"}], "waivers": [{"finding": "x",
    ...     "where": "stages/1"}]}
    >>> _second(old)["waivers"]
    [{'finding': 'x', 'where': 'stages/b'}]
    """
    out = {k: v for k, v in document.items() if k != "tables"}
    if isinstance(waivers := document.get("waivers"), list):
        out["waivers"] = [
            {**w, "where": _by_id(w["where"], document)}
            if isinstance(w, dict) and "where" in w
            else w
            for w in waivers
        ]
    return out


def _listed(order: object) -> object:
    """A listed order as a custom sequence of the same places."""
    if not isinstance(order, dict) or order.get("kind") != "listed":
        return order
    places = order.get("places")
    rest = {k: v for k, v in order.items() if k != "places"}
    if isinstance(places, list):
        rest["sequence"] = [str(one) if type(one) is int else one for one in places]
    return {**rest, "kind": "custom"}


def _ordered(one: object) -> object:
    """A stage, a pass or a method whose orders, and those of its passes, are of the third
    version."""
    if not isinstance(one, dict):
        return one
    out = dict(one)
    if "order" in out:
        out["order"] = _listed(out["order"])
    if isinstance(passes := out.get("passes"), list):
        out["passes"] = [_ordered(p) for p in passes]
    return out


def _texts(value: object) -> list[str]:
    return [one for one in value if isinstance(one, str)] if isinstance(value, list) else []


#: states of version 2 -> as they are called now
_RENAMED = {"in service": "pressure on", "hot in service": "hot"}
_STATE_WORDS = {word for states in STATES.values() for word in states.values()} | set(_RENAMED)


def _chosen(one: object, placed: set[str]) -> object:
    """A stage or a pass whose conditions are choices, and whose states have their names of
    today."""
    if not isinstance(one, dict):
        return one
    out = dict(one)
    if "condition" in out:
        out["condition"] = read_condition(out["condition"], placed)
    for field in ("brings", "undoes", "hands_over"):
        if isinstance(words := out.get(field), list):
            out[field] = [_RENAMED.get(w, w) if isinstance(w, str) else w for w in words]
    if isinstance(passes := out.get("passes"), list):
        out["passes"] = [_chosen(p, placed) for p in passes]
    return out


def _third(document: Raw) -> Raw:
    """Version 2 had orders that listed places, and conditions in words.

    >>> old = {"version": 2, "stages": [{"order": {"kind": "listed", "places": [2, 1]},
    ...     "condition": ["load off"]}]}
    >>> _third(old)["stages"]
    [{'order': {'kind': 'custom', 'sequence': ['2', '1']}, 'condition': {'load': 'off'}}]
    """
    out = dict(document)
    if isinstance(stages := document.get("stages"), list):
        placed = {word for s in stages if isinstance(s, dict) for word in _texts(s.get("brings"))}
        placed = (placed | set(SAFEGUARDS)) - _STATE_WORDS
        out["stages"] = [_chosen(_ordered(one), placed) for one in stages]
    definitions = document.get("definitions")
    methods = definitions.get("methods") if isinstance(definitions, dict) else None
    if isinstance(definitions, dict) and isinstance(methods, dict):
        own = {key: _ordered(one) for key, one in methods.items()}
        out["definitions"] = {**definitions, "methods": own}
    return out


#: version -> what makes the next version of a document of it
UPGRADES: dict[int, Callable[[Raw], Raw]] = {1: _second, 2: _third}


def upgraded(
    document: Raw, version: int, upgrades: Mapping[int, Callable[[Raw], Raw]] = UPGRADES
) -> Raw:
    """The document in the wanted version; unchanged where no step leads there, so that reading
    names the version.

    >>> upgraded({"version": 1, "a": 1}, 2, {1: lambda d: {**d, "b": 2}})
    {'version': 2, 'a': 1, 'b': 2}
    """
    while type(have := document.get("version")) is int and have < version and have in upgrades:
        document = {**upgrades[have](document), "version": have + 1}
    return document
