"""Values of the example that a plan began from: named until the planner has changed or confirmed
them.

A document keeps them under `examples`: the place of a value by ids, and the value. One that stands
there as it was is not yet the planner's own, and the plan cannot be released.
"""

from __future__ import annotations

import copy
import re
from collections.abc import Iterator
from typing import Any

Doc = dict[str, Any]
#: what of a plan is figures and choices about this one joint
_WHOLE = ("groups", "targets", "tools", "chains", "rechecks", "sources")
#: ids, names and the form of a part are no figures of the joint; what counts as moved is the same
#: everywhere
_FORM = ("id", "name", "kind", "head", "meter", "occasion", "by", "as", "moved_above")
#: figures of a tool that no unit gives away
_VOUCHED = ("transfer", "efficiency")
_QUANTITY = re.compile(r"\d[\d.,/-]*\s?[^\s\d]{1,6}")
_JOINT = ("layout", "into", "stack")


def _leaves(value: Any, path: tuple[str, ...], everything: bool) -> Iterator[tuple[str, Any]]:
    """Every figure and choice of a part, by its place."""
    if isinstance(value, dict):
        for key, one in value.items():
            if key not in _FORM:
                yield from _leaves(one, (*path, key), everything or key in _VOUCHED)
    elif isinstance(value, list):
        for i, one in enumerate(value):
            yield from _leaves(
                one,
                (*path, str(one["id"]) if isinstance(one, dict) and "id" in one else str(i)),
                everything,
            )
    elif (
        isinstance(value, str | int | float)
        and not isinstance(value, bool)
        and (everything or (isinstance(value, str) and _QUANTITY.fullmatch(value)))
    ):
        yield "/".join(path), value


def examples_of(document: Doc) -> dict[str, Any]:
    """Every value of a document that somebody has to vouch for, by its place:
    `groups/bolts/fastener/thread`."""
    out = dict[str, Any]()
    for field in _WHOLE:
        out |= dict(_leaves(document.get(field), (field,), True))
    # the wrench at the head of a chain is a name
    out = {
        path: value
        for path, value in out.items()
        if not (path.startswith("chains/") and value in document.get("tools", {}))
    }
    return out | dict(_leaves(document.get("stages"), ("stages",), False))


def _step(value: Any, part: str) -> tuple[Any, Any]:
    """(what a part of a place leads to, the key or number it has there); (None, None) where there
    is none."""
    if isinstance(value, dict):
        return (value[part], part) if part in value else (None, None)
    if isinstance(value, list):
        at = next(
            (
                i
                for i, one in enumerate(value)
                if isinstance(one, dict) and str(one.get("id")) == part
            ),
            int(part) if part.isdecimal() and int(part) < len(value) else None,
        )
        return (value[at], at) if at is not None else (None, None)
    return None, None


def left_of(document: Doc) -> dict[str, tuple[tuple[str | int, ...], Any]]:
    """The examples that stand as they were: place -> (the same place by number, value)."""
    out = {}
    given = document.get("examples")
    for path, example in given.items() if isinstance(given, dict) else ():
        value: Any = document
        place = list[str | int]()
        for part in str(path).split("/"):
            value, at = _step(value, part)
            if at is None:
                break
            place.append(at)
        else:
            if value == example and type(value) is not bool:
                out[path] = (tuple(place), value)
    return out


def where_of(path: str) -> str:
    """What a place is about: a group's joint or figure, a tool, a stage, the rechecks.

    >>> (where_of("groups/bolts/layout/count"), where_of("groups/bolts/friction/lubricant"),
    ...  where_of("tools/w/range/1"))
    ('joint/bolts', 'figure/bolts', 'tools/w')
    """
    field, name, *rest = [*path.split("/"), ""]
    if field == "groups":
        joint = rest[0] in _JOINT or rest[:2] in (
            ["fastener", "thread"],
            ["fastener", "face"],
            ["fastener", "head"],
        )
        return f"{'joint' if joint else 'figure'}/{name}"
    return {
        "targets": f"figure/{name}",
        "tools": f"tools/{name}",
        "chains": f"chains/{name}",
        "stages": f"stages/{name}",
        "rechecks": "rechecks/",
    }.get(field, "figure/")


def _words(path: str, value: Any) -> str:
    """A value as one reads it: a bare number with the name of its field."""
    field = next((part for part in reversed(path.split("/")) if not part.isdecimal()), "")
    return value if isinstance(value, str) else f"{field.replace('_', ' ')} {value:g}"


def by_part(document: Doc) -> dict[str, list[str]]:
    """The values that stand as the example has them, in words, part by part."""
    out: dict[str, list[str]] = {}
    for path, (_, value) in left_of(document).items():
        out.setdefault(where_of(path), []).append(_words(path, value))
    return out


def by_place(document: Doc, where: str) -> str:
    """The place of the first value of a part that stands as the example has it, by number."""
    return next(
        (
            "/".join(map(str, place))
            for path, (place, _) in left_of(document).items()
            if where_of(path) == where
        ),
        "",
    )


def _stands(document: Doc, path: str) -> bool:
    value: Any = document
    for part in path.split("/"):
        value, at = _step(value, part)
        if at is None:
            return False
    return True


def pruned(document: Doc) -> None:
    """What is no longer in the plan is no example in it."""
    kept = {
        path: value
        for path, value in (document.get("examples") or {}).items()
        if _stands(document, path)
    }
    if kept:
        document["examples"] = kept
    else:
        document.pop("examples", None)


def began(before: Doc, after: Doc) -> None:
    """What stands in a plan since an act, as it begins, is not yet the planner's own."""
    known = examples_of(before)
    new = {
        path: value
        for path, value in examples_of(after).items()
        if path not in known and value != ""
    }
    if new:
        after["examples"] = {**(after.get("examples") or {}), **new}


def emptied(document: Doc) -> Doc:
    """The same plan without any value that somebody has to vouch for: its fields wait to be filled
    in."""
    out = copy.deepcopy(document)
    out["examples"] = examples_of(out)
    for place, _ in left_of(out).values():
        holder: Any = out
        for part in place[:-1]:
            holder = holder[part]
        holder[place[-1]] = ""
    del out["examples"]
    return out


def confirmed(document: Doc, where: str) -> None:
    """The values of a part are the planner's own from now on."""
    document["examples"] = {
        path: value
        for path, value in (document.get("examples") or {}).items()
        if where_of(path) != where
    }
    pruned(document)
