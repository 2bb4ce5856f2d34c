"""The registry of stage kinds, built from their files; the union of their forms is what a plan's
stages are read by."""

from __future__ import annotations

from typing import TYPE_CHECKING

from pydantic import Discriminator

from ..forms.base import kind
from . import stages
from .registry import found_in, union_of
from .stage_kind import StageForm, StageKind

STAGE_KINDS: dict[str, StageKind] = {
    k.kind: k for k in sorted(found_in(stages, StageKind), key=lambda k: (k.place, k.kind))
}
#: kinds that share a form are read under the kind that comes first
_FIRST = {
    k.kind: next(o.kind for o in STAGE_KINDS.values() if o.form is k.form)
    for k in STAGE_KINDS.values()
}


def kind_of_stage(value: object) -> str | None:
    """Discriminator of stages; some kinds share a form."""
    tag = kind(value)
    return f"~{_FIRST.get(tag[1:], tag[1:])}" if tag else None


if TYPE_CHECKING:
    Stage = StageForm
else:
    Stage = union_of(
        {k.kind: k.form for k in STAGE_KINDS.values() if _FIRST[k.kind] == k.kind},
        Discriminator(kind_of_stage),
    )
