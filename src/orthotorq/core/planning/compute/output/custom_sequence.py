"""A custom sequence while it is entered: what is read, what is missing, how it runs over the
joint."""

from __future__ import annotations

from typing import Any

from ....documents.tightening_moves import numbers_of
from ....errors import BadDocument
from ....forms.base import Out
from ....messages import Message
from ...editing.sequences import placed, read_places
from .order_choice import measures_of


class SequenceOut(Out):
    """A sequence as far as it is entered.

    `places` are ids in their order, also while bolts are missing; `missing`, `twice` and `strange`
    are painted numbers, `left` words that were not understood. `other` is the second reading of the
    text. `says` tells how far it is; it is `whole` once every bolt is in it, each once or on
    purpose again. `stray` and `gap` compare it with other orders and are there once it is whole.
    """

    places: list[str]
    text: str
    missing: list[int]
    twice: list[int]
    strange: list[int]
    left: list[str]
    other: str | None
    whole: bool
    says: str
    stray: float | None = None
    gap: float | None = None


def _says(count: int, found: SequenceOut, repeats: bool) -> str:
    """How far a sequence is, in a sentence for each thing that is wrong."""
    wrong = []
    if found.left:
        wrong.append(f"Not used: {' '.join(found.left)[:60]}.")
    if found.strange:
        wrong.append(f"No such bolt: {', '.join(map(str, found.strange))}.")
    if found.twice and not repeats:
        wrong.append(f"More than once: {', '.join(map(str, found.twice))}.")
    if found.missing and found.places:
        wrong.append(f"Missing: {', '.join(map(str, found.missing))}.")
    if wrong:
        return " ".join(wrong)
    if not found.places:
        return "Enter the bolt numbers in order, or press the bolts in the drawing."
    each = f"{len(found.places)} pulls" if found.twice else "each once"
    return f"All {count} bolts, {each}."


def sequence_out(document: Any, group: str, text: str, repeats: bool) -> SequenceOut:
    """What a typed sequence comes to. Raises UnknownName, BadDocument for a group that cannot be
    drawn."""
    if not isinstance(document, dict) or not isinstance(document.get("groups"), list):
        raise BadDocument(Message.NOT_A_PLAN)
    bolts = placed(document, group)
    read, places, strange = read_places(bolts, text)
    painted = numbers_of(bolts)
    missing = sorted(painted[n - 1] for n in range(1, bolts.layout.count + 1) if n not in places)
    twice = sorted({painted[n - 1] for n in places if places.count(n) > 1})
    out = SequenceOut(
        places=[f"{group}.{place}" for place in places],
        text=" ".join(str(painted[place - 1]) for place in places),
        missing=missing,
        twice=twice,
        strange=strange,
        left=list(read.left),
        other=" ".join(map(str, read.other)) if read.other is not None else None,
        whole=not (missing or strange or read.left) and (repeats or not twice),
        says="",
    )
    out.says = _says(bolts.layout.count, out, repeats)
    if out.whole:
        out.stray, out.gap = measures_of(bolts.layout, [[place] for place in places])
    return out
