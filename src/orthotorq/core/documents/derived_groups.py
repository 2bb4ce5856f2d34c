"""Groups that are another group in a variant: six bolts instead of eight, studs instead of bolts.
Written as what differs."""

from __future__ import annotations

from typing import Any

Raw = dict[str, Any]
#: parts of a group that are taken over piece by piece; everything else is taken over or replaced
#: whole
_PIECES = ("fastener", "friction", "limits", "into")


def _merged(base: Raw, own: Raw) -> Raw:
    out = {**base, **{k: v for k, v in own.items() if k != "like"}}
    for name in _PIECES:
        if isinstance(base.get(name), dict) and isinstance(own.get(name), dict):
            out[name] = {**base[name], **own[name]}
    return out


def _beside(names: Any, base: str, own: str) -> Any:
    """A list of groups in which the variant stands behind the group that it is like."""
    if not isinstance(names, list) or base not in names or own in names:
        return names
    at = names.index(base) + 1
    return [*names[:at], own, *names[at:]]


def _source(source: Any, base: str, own: str) -> Any:
    if not isinstance(source, dict) or "groups" not in source:
        return source
    return {**source, "groups": _beside(source["groups"], base, own)}


def _stage(stage: Any, base: str, own: str) -> Any:
    if not isinstance(stage, dict):
        return stage
    out = {
        **stage,
        **({"groups": _beside(stage["groups"], base, own)} if "groups" in stage else {}),
    }
    chains = stage.get("chain_for")
    if isinstance(chains, dict) and base in chains:
        out["chain_for"] = {own: chains[base], **chains}
    checks = stage.get("checks")
    if isinstance(checks, list):
        more = [
            {**c, "id": f"{c.get('id')}-{own}", "per": own}
            for c in checks
            if isinstance(c, dict) and c.get("per") == base
        ]
        out["checks"] = [*checks, *more]
    return out


def with_likes(document: Raw) -> Raw:
    """A document in which every group stands whole: a group that is like another takes its target,
    sources and stages too.

    One that is like no group, or like one that is itself like another, is left as it is, so that
    reading names what it lacks.
    """
    groups = document.get("groups")
    listed = [g for g in groups if isinstance(g, dict)] if isinstance(groups, list) else []
    named = [g for g in listed if isinstance(g.get("id"), str)]
    whole = {g["id"]: g for g in named if "like" not in g}
    pairs = [(g["like"], g) for g in named if isinstance(g.get("like"), str) and g["like"] in whole]
    if not pairs:
        return document
    merged = {own["id"]: _merged(whole[base], own) for base, own in pairs}
    out = {
        **document,
        "groups": [
            merged.get(g["id"], g) if isinstance(g, dict) and isinstance(g.get("id"), str) else g
            for g in document["groups"]
        ],
    }
    for base, own in pairs:
        name = own["id"]
        if isinstance(targets := out.get("targets"), dict) and base in targets:
            out["targets"] = {name: targets[base], **targets}
        if isinstance(out.get("sources"), list):
            out["sources"] = [_source(s, base, name) for s in out["sources"]]
        if isinstance(out.get("stages"), list):
            out["stages"] = [_stage(s, base, name) for s in out["stages"]]
    return out
