"""Two documents of a plan held against each other, field by field, in words; a part of one taken
over into the other."""

from __future__ import annotations

import copy
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from ..kinds.registry import PASS_KINDS
from ..kinds.stage_registry import STAGE_KINDS

Doc = dict[str, Any]
_GONE = object()
#: what says nothing of the work
_QUIET = ("format", "version", "examples", "id")
_WORDS = {
    "layout": "",
    "fastener": "",
    "into": "",
    "says": "",
    "limits": "bounds",
    "percent": "share",
    "for": "how long",
    "in": "occasions",
    "rechecks": "recheck",
    "targets": "figure",
    "joint_kind": "kind",
    "at": "first at",
    "every": "then every",
    "first_at": "place of the first",
    "first_label": "first number",
    "labels": "numbers painted",
    "sense": "sense of the numbers",
}
#: places that are called otherwise than by their parts
_WHOLE = {
    "layout": "layout",
    "layout.kind": "layout",
    "into": "what the thread goes into",
    "into.kind": "what the thread goes into",
    "fastener": "bolt",
    "says": "what it says",
    "order.kind": "order",
}


@dataclass(frozen=True, slots=True)
class Difference:
    """One field: its place by ids, in words, what it was and what it is; None where it is not
    there."""

    path: str
    what: str
    before: str | None
    after: str | None


def _key(one: Any, at: int) -> str:
    return str(one["id"]) if isinstance(one, dict) and "id" in one else str(at)


def _named(value: Any) -> dict[str, Any]:
    """A part by its keys: lists by the ids of what stands in them."""
    if isinstance(value, list):
        return {_key(one, i): one for i, one in enumerate(value)}
    return value if isinstance(value, dict) else {}


def _shown(value: Any) -> str | None:
    """A value as one reads it."""
    if value is _GONE:
        return None
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, int | float):
        return f"{value:g}"
    if isinstance(value, list):
        return ", ".join(_shown(v) or "" for v in value) or "nothing"
    if isinstance(value, dict) and "id" not in value:
        return (
            ", ".join(f"{k.replace('_', ' ')} {_shown(v)}" for k, v in value.items()) or "nothing"
        )
    if isinstance(value, dict):
        return str(
            value.get("title")
            or value.get("name")
            or value.get("what")
            or value.get("text")
            or value.get("kind")
            or value.get("do")
            or value["id"]
        )
    return str(value) or "not specified"


def _differing(
    before: Any, after: Any, path: tuple[str, ...]
) -> Iterator[tuple[tuple[str, ...], Any, Any]]:
    if before == after:
        return
    lists = isinstance(before, list) and isinstance(after, list)
    parts = lists and all(isinstance(v, dict) for v in [*before, *after])
    by_id = parts and all("id" in v for v in [*before, *after])
    if (
        by_id
        or (parts and len(before) == len(after))
        or (isinstance(before, dict) and isinstance(after, dict))
    ):
        ours, theirs = _named(before), _named(after)
        for key in dict.fromkeys([*ours, *theirs]):
            if key not in _QUIET:
                yield from _differing(ours.get(key, _GONE), theirs.get(key, _GONE), (*path, key))
        # what is new stands last until it is put in its place
        now = [*(k for k in ours if k in theirs), *(k for k in theirs if k not in ours)]
        if by_id and now != list(theirs):
            yield (*path, ""), now, list(theirs)
        return
    yield path, before, after


def _parts(value: Any) -> list[Doc]:
    """The parts of a list, as typed: what is none is left out."""
    return [one for one in value if isinstance(one, dict)] if isinstance(value, list) else []


def _label(fields: Any, name: str) -> str:
    """What the Bench calls a field."""
    return next(
        (spec.label for spec in fields if spec.name == name),
        _WORDS.get(name, name.replace("_", " ")),
    ).lower()


def _inner(parts: list[str]) -> list[str]:
    """The way to a field inside of a part, in words."""
    named = [r for r in parts if not r.isdecimal()]
    whole = _WHOLE.get(".".join(named))
    return [whole] if whole else [_WORDS.get(r, r.replace("_", " ")) for r in named]


def _of_stage(parts: list[str], then: dict[str, Any], now: dict[str, Any]) -> list[str]:
    name, *rest = parts
    # what has gone is named as it was called
    stage, gone = (
        one if isinstance(one, dict) else {}
        for one in (now.get(name) or then.get(name), then.get(name))
    )
    kind = STAGE_KINDS.get(str(stage.get("kind")))
    words = [f"stage “{stage.get('title') or (kind.word if kind else name)}”"]
    if rest[:1] == ["passes"] and len(rest) > 1:
        at, one = next(
            (
                found
                for of in (stage, gone)
                for found in enumerate(_parts(of.get("passes")), 1)
                if found[1].get("id") == rest[1]
            ),
            (0, {}),
        )
        form = PASS_KINDS.get(str(one.get("do")))
        words.append(f"pass {at or rest[1]}")
        inner = ".".join(rest[2:])
        return words + (
            [_WHOLE.get(inner) or _label(form.all_fields if form else (), inner)] if inner else []
        )
    if rest[:1] in (["items"], ["checks"]) and len(rest) > 1:
        one = next(
            (x for of in (stage, gone) for x in _parts(of.get(rest[0])) if x.get("id") == rest[1]),
            {},
        )
        words.append(f"“{one.get('text') or one.get('what') or rest[1]}”")
        rest = rest[2:]
    return words + [_label(kind.fields if kind else (), r) for r in rest if not r.isdecimal()]


def _words(path: tuple[str, ...], docs: tuple[Doc, Doc]) -> str:
    """A place in words, the inner part first: `share of pass 2 of stage “Full torque”`."""
    field, *rest = path
    both = {field: {**_named(docs[0].get(field)), **_named(docs[1].get(field))}}[field]
    if not rest:
        words = [_WORDS.get(field, field.replace("_", " "))]
    elif rest == [""]:
        words = [field, "order"]
    elif field == "stages":
        words = _of_stage(rest, _named(docs[0].get(field)), _named(docs[1].get(field)))
    else:
        groups = {**_named(docs[0].get("groups")), **_named(docs[1].get("groups"))}
        own = both.get(rest[0]) if field not in ("targets",) else groups.get(rest[0])
        name = (
            str(
                (own or {}).get("name")
                or (own or {}).get("reference")
                or (own or {}).get("title")
                or rest[0]
            )
            if isinstance(own, dict)
            else rest[0]
        )
        of = (own or {}).get("groups") if isinstance(own, dict) and field == "sources" else None
        if isinstance(of, list) and of and isinstance(groups.get(str(of[0])), dict):
            name = f"{name}, {groups[str(of[0])].get('name')}"
        head = {
            "groups": f"“{name}”",
            "targets": f"figure of “{name}”",
            "tools": f"tool “{name}”",
            "sources": f"source “{name}”",
            "chains": f"chain {rest[0]}",
            "rechecks": "recheck",
            "definitions": f"own {name}",
        }.get(field, f"{field.replace('_', ' ')} {name}")
        words = [head, *_inner(rest[1:])]
    return " of ".join(word for word in reversed(words) if word)


def differences(before: Doc, after: Doc) -> list[Difference]:
    """What has changed from one document to another, in the order of the documents."""
    out = []
    for path, old, new in _differing(before, after, ()):
        if path[-1] == "":
            order = [_words((*path[:-1], key), (before, after)) for key in new]
            was = [_words((*path[:-1], key), (before, after)) for key in old]
            out.append(
                Difference(
                    "/".join(path), f"order of the {path[-2]}", ", ".join(was), ", ".join(order)
                )
            )
            continue
        unit = " %" if path[-1] == "percent" else ""
        shown = [None if text is None else text + unit for text in (_shown(old), _shown(new))]
        out.append(Difference("/".join(path), _words(path, (before, after)), shown[0], shown[1]))
    return out


def taken_over(document: Doc, other: Doc, path: str) -> Doc:
    """The document with one part as the other has it; a place that neither has leaves it as it
    is."""
    out, parts = copy.deepcopy(document), path.split("/")
    holder: Any = out
    source: Any = other
    for part in parts[:-1]:
        source = _named(source).get(part)
        inner = _named(holder).get(part, _GONE)
        if inner is _GONE or not isinstance(inner, dict | list):
            if not isinstance(holder, dict) or not isinstance(source, dict | list):
                return out
            inner = holder[part] = [] if isinstance(source, list) else {}
        holder = inner
    wanted = _named(source).get(parts[-1], _GONE)
    if parts[-1] == "" and isinstance(holder, list) and isinstance(source, list):
        places = {_key(one, i): i for i, one in enumerate(source)}
        holder.sort(key=lambda one: places.get(_key(one, -1), len(places)))
    elif isinstance(holder, list):
        at = next((i for i, one in enumerate(holder) if _key(one, i) == parts[-1]), None)
        if wanted is _GONE:
            holder[:] = [one for i, one in enumerate(holder) if i != at]
        elif at is None:
            holder.append(copy.deepcopy(wanted))
        else:
            holder[at] = copy.deepcopy(wanted)
    elif wanted is _GONE:
        holder.pop(parts[-1], None)
    else:
        holder[parts[-1]] = copy.deepcopy(wanted)
    return out
