"""Acts of a planner on a plan as typed: what is added begins complete, what is taken out is taken
out of all that names it.

The Bench asks for an act by name; the document comes back changed, with the section that should be
open. A document may be wrong in places: an act changes what it is about and leaves the rest for
`compute` to name.
"""

from __future__ import annotations

import copy
import inspect
from typing import Any

from ...errors import BadDocument, OrthotorqError, UnknownName
from ...messages import Message
from ..unconfirmed_defaults import began, pruned
from . import (
    group_parts,
    groups,
    manual,
    more_fields,
    own,
    sequences,
    sources,
    stages,
    tools,
    variants,
)
from .base import ACTS, Raw

__all__ = [
    "ACTS",
    "edit",
    "group_parts",
    "groups",
    "manual",
    "more_fields",
    "own",
    "sequences",
    "sources",
    "stages",
    "tools",
    "variants",
]


#: acts after which something stands in the plan as it begins, with values that nobody has given yet
BEGIN = (
    "add_group",
    "vary_group",
    "add_tool",
    "add_recheck",
    "add_stage",
    "add_pass",
    "add_layer",
    "set_part",
    "set_face",
    "add_link",
)


def edit(document: Any, act: str, params: Raw) -> tuple[Raw, str]:
    """(the document after an act, the key of the section to open). Raises BadDocument,
    UnknownName."""
    if (
        not isinstance(document, dict)
        or not isinstance(document.get("groups"), list)
        or not isinstance(document.get("stages"), list)
    ):
        raise BadDocument(Message.NOT_A_PLAN)
    found = ACTS.get(act)
    if found is None:
        raise UnknownName(
            Message.UNKNOWN_REFERENCE, ("act",), id=act[:40], kind="act", known=", ".join(ACTS)
        )
    wanted = list(inspect.signature(found).parameters)[1:]
    if set(params) - set(wanted) or not all(isinstance(v, str) for v in params.values()):
        takes = ", ".join(wanted) or "nothing"
        raise BadDocument(
            Message.BAD_VALUE, ("params",), reason=f"The act “{act}” takes texts for {takes}"
        )
    out = copy.deepcopy(document)
    try:
        opens = found(out, **params)
        if act in BEGIN:
            began(document, out)
        pruned(out)
        return out, opens
    except OrthotorqError:
        raise
    except (TypeError, AttributeError, LookupError, ValueError):
        raise BadDocument(
            Message.BAD_VALUE, ("params",), reason=f"“{act}” does not fit this document"
        ) from None
