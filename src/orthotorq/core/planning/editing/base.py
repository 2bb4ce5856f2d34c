"""Acts by name, and what they share."""

from __future__ import annotations

import copy
from collections.abc import Callable, Mapping
from typing import Any

from ...errors import UnknownName
from ...messages import Message

Raw = dict[str, Any]
Act = Callable[..., str]
ACTS: dict[str, Act] = {}


def an_act(function: Act) -> Act:
    """Make a function an act, under its own name."""
    ACTS[function.__name__] = function
    return function


def fresh(taken: Any, stem: str) -> str:
    """An id that nothing has yet."""
    number = len(taken) + 1
    while f"{stem}{number}" in taken:
        number += 1
    return f"{stem}{number}"


def ids(listed: list[Raw]) -> list[str]:
    """Ids of a list."""
    return [str(one.get("id")) for one in listed]


def the_one(listed: list[Raw], identifier: str, kind: str) -> Raw:
    """The one of an id. Raises UnknownName."""
    for one in listed:
        if one.get("id") == identifier:
            return one
    raise UnknownName(
        Message.UNKNOWN_REFERENCE,
        ("params",),
        id=identifier[:60],
        kind=kind,
        known=", ".join(ids(listed)) or "none",
    )


def the_group(doc: Raw, identifier: str) -> Raw:
    """A group of bolts."""
    return the_one(doc["groups"], identifier, "group")


def the_stage(doc: Raw, identifier: str) -> Raw:
    """A stage."""
    return the_one(doc["stages"], identifier, "stage")


def in_table(table: Mapping[str, Any], key: str, kind: str) -> Any:
    """An entry of a table. Raises UnknownName with what there is."""
    if key not in table:
        raise UnknownName(
            Message.UNKNOWN_REFERENCE,
            ("params",),
            id=key[:60],
            kind=kind,
            known=", ".join(table) or "none",
        )
    return table[key]


def begins(table: Mapping[str, Any], key: str, kind: str) -> Any:
    """A copy of what something of a kind begins with. Raises UnknownName."""
    return copy.deepcopy(in_table(table, key, kind))
