"""Older plan files brought up to the current version, one step a version, before they are read."""
from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from typing import Any

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
    """Version 1 named the place of a waiver by its number in a list, and the edition of the tables, which nothing read.

    >>> old = {"version": 1, "stages": [{"id": "a"}, {"id": "b"}], "waivers": [{"finding": "x", "where": "stages/1"}]}
    >>> _second(old)["waivers"]
    [{'finding': 'x', 'where': 'stages/b'}]
    """
    out = {k: v for k, v in document.items() if k != "tables"}
    if isinstance(waivers := document.get("waivers"), list):
        out["waivers"] = [{**w, "where": _by_id(w["where"], document)} if isinstance(w, dict) and "where" in w else w
                          for w in waivers]
    return out


#: version -> what makes the next version of a document of it
UPGRADES: dict[int, Callable[[Raw], Raw]] = {1: _second}


def upgraded(document: Raw, version: int, upgrades: Mapping[int, Callable[[Raw], Raw]] = UPGRADES) -> Raw:
    """The document in the wanted version; unchanged where no step leads there, so that reading names the version.

    >>> upgraded({"version": 1, "a": 1}, 2, {1: lambda d: {**d, "b": 2}})
    {'version': 2, 'a': 1, 'b': 2}
    """
    while type(have := document.get("version")) is int and have < version and have in upgrades:
        document = {**upgrades[have](document), "version": have + 1}
    return document
