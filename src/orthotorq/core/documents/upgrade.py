"""Older plan files brought up to the current version, one step a version, before they are read."""
from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

#: version -> what makes the next version of a document of it. Version 1 is the first that was ever written.
UPGRADES: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {}


def upgraded(document: dict[str, Any], version: int,
             upgrades: Mapping[int, Callable[[dict[str, Any]], dict[str, Any]]] = UPGRADES) -> dict[str, Any]:
    """The document in the wanted version; unchanged where no step leads there, so that reading names the version.

    >>> upgraded({"version": 1, "a": 1}, 2, {1: lambda d: {**d, "b": 2}})
    {'version': 2, 'a': 1, 'b': 2}
    """
    while type(have := document.get("version")) is int and have < version and have in upgrades:
        document = {**upgrades[have](document), "version": have + 1}
    return document
