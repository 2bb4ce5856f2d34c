"""Acts on a plan's own grades, materials and friction conditions, which its file carries along."""

from __future__ import annotations

import re

from ...errors import Impossible
from ...messages import Message
from .base import Raw, an_act, in_table

#: kind -> (where they stand, what one begins with)
_KINDS: dict[str, tuple[str, Raw]] = {
    "grade": ("grades", {"yield_strength": "", "tensile": ""}),
    "material": ("materials", {"modulus": "", "tensile": ""}),
    "lubricant": ("lubricants", {"name": "", "mu_thread": ""}),
}


@an_act
def add_own(doc: Raw, kind: str, name: str, group: str = "") -> str:
    """An own entry under a name, to be filled in; the group takes it where it has one of its kind.
    Raises Impossible."""
    where, begins = in_table(_KINDS, kind, "kind of entry")
    name = name.strip()
    key = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-") if kind == "lubricant" else name
    entries = doc.setdefault("definitions", {}).setdefault(where, {})
    if not 1 <= len(key) <= 60 or key in entries:
        raise Impossible(
            Message.BAD_VALUE,
            ("params",),
            reason="An own entry has a short name that no other one has",
        )
    entries[key] = {**begins, **({"name": name} if kind == "lubricant" else {})}
    found = next((g for g in doc["groups"] if g.get("id") == group), None)
    if found is not None and kind == "grade":
        found.setdefault("fastener", {})["grade"] = key
    if found is not None and kind == "lubricant":
        found["friction"] = {"lubricant": key}
    return f"figure-{group}" if group else ""


@an_act
def drop_own(doc: Raw, kind: str, name: str) -> str:
    """An own entry out of the plan; what names it is then named wrong at its field."""
    where, _ = in_table(_KINDS, kind, "kind of entry")
    doc.get("definitions", {}).get(where, {}).pop(name, None)
    return ""
