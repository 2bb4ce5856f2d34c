"""What the Bench shows of a form: one description a field, made where the form is, drawn by one
component."""

from __future__ import annotations

from typing import Literal

from ..forms.base import Out

#: how a field is typed: words, a quantity with its unit, a whole number, several of them, percent,
#: a share, one of a few, a
#: tick, several of a few, words separated by commas, a band of three, names out of the plan itself,
#: tests on a rig
FieldKind = Literal[
    "text",
    "quantity",
    "count",
    "condition",
    "percent",
    "share",
    "choice",
    "tick",
    "boxes",
    "list",
    "band",
    "compound",
    "fitted",
    "groups",
    "chains",
    "stages",
    "stage",
    "check",
    "variants",
    "tests",
]


class FieldChoice(Out):
    """One of a few: as it stands in the document, and in words."""

    value: str
    words: str


class FieldSpec(Out):
    """One field of a form: its name in the document, the label, an example where it may be left
    out."""

    name: str
    label: str
    kind: FieldKind = "text"
    example: str = ""
    note: str = ""
    choices: list[FieldChoice] = []
    #: always shown; the others stand behind “more” while they are empty
    main: bool = True


def field(
    name: str,
    label: str,
    kind: FieldKind = "text",
    example: str = "",
    choices: dict[str, str] | None = None,
    note: str = "",
    main: bool = True,
) -> FieldSpec:
    """A field, with its choices as document value -> words."""
    return FieldSpec(
        name=name,
        label=label,
        kind=kind,
        example=example,
        note=note,
        main=main,
        choices=[FieldChoice(value=k, words=v) for k, v in (choices or {}).items()],
    )
