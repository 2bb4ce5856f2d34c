"""Acts on the order of a pass: a custom sequence for one pass or for several at once."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from pydantic import TypeAdapter, ValidationError

from ...documents.derived_groups import with_likes
from ...documents.layouts import Layout
from ...documents.tightening_moves import numbers_of, order_of
from ...errors import BadDocument, Impossible
from ...forms.order import Order
from ...kinds.registry import PASS_KINDS
from ...messages import Message
from ...reading.sequence import SequenceRead, read_sequence
from .base import Raw, an_act, the_group, the_one, the_stage

_LAYOUTS: TypeAdapter[Layout] = TypeAdapter(Layout)
#: what a custom sequence takes over of the order that was there
_KEPT = ("tools",)


@dataclass(frozen=True, slots=True)
class Placed:
    """A group of a plan as typed, as far as an order asks."""

    id: str
    name: str
    layout: Layout


def placed(doc: Raw, group: str) -> Placed:
    """A group with its places. Raises UnknownName, BadDocument where its pattern cannot be
    drawn."""
    raw = the_group(with_likes(doc), group)
    try:
        layout = _LAYOUTS.validate_python(raw.get("layout"))
    except ValidationError:
        raise BadDocument(
            Message.BAD_VALUE, ("group",), reason="Correct the bolt pattern of this group first"
        ) from None
    return Placed(group, str(raw.get("name") or group), layout)


def read_places(bolts: Placed, text: str) -> tuple[SequenceRead, list[int], list[int]]:
    """(what was read, place numbers in their order, painted numbers that no bolt has)."""
    painted = {number: place for place, number in enumerate(numbers_of(bolts), 1)}
    found = read_sequence(text, sorted(painted))
    strange = sorted({n for n in found.numbers if n not in painted})
    return found, [painted[n] for n in found.numbers if n in painted], strange


def _entries(doc: Raw, stage: Raw, order: Any, group: str, places: list[int]) -> list[str]:
    """The sequence as a stage writes it: the other groups of the stage keep the order they have."""
    groups = [str(one) for one in stage.get("groups") or []]
    if len(groups) < 2:
        return [str(place) for place in places]
    out = list[str]()
    for one in groups:
        if one == group:
            out += [f"{one}.{place}" for place in places]
        else:
            moves = order_of(placed(doc, one), Order.model_validate(order))
            out += [place for move in moves for place in move]
    return out


def _order_now(one: Raw) -> Raw:
    """The order of a pass as typed, or what its kind does where none is given."""
    if isinstance(order := one.get("order"), dict):
        return order
    kind = PASS_KINDS.get(str(one.get("do")))
    form = kind.form if kind is not None else None
    usual = form.model_fields.get("order") if form is not None else None
    return {"kind": usual.default.kind if usual is not None else "cross"}


@an_act
def set_sequence(
    doc: Raw, stage: str, group: str, text: str, passes: str = "", repeats: str = ""
) -> str:
    """A custom sequence, as typed, for the named passes of a stage (with commas), or for the stage
    itself where it has no passes of its own."""
    one, bolts = the_stage(doc, stage), placed(doc, group)
    read, places, strange = read_places(bolts, text)
    if read.left:
        raise Impossible(Message.SEQUENCE_UNREAD, ("text",), text=" ".join(read.left)[:60])
    if strange:
        shown = ", ".join(map(str, strange[:6]))
        raise Impossible(
            Message.SEQUENCE_STRANGE,
            ("text",),
            bolts=shown,
            group=bolts.name,
            count=bolts.layout.count,
        )
    if not places:
        reason = "Enter the numbers of the bolts in their order"
        raise BadDocument(Message.BAD_VALUE, ("text",), reason=reason)
    made = Order(kind="custom", sequence=[str(p) for p in places], repeats=repeats == "yes")
    order_of(bolts, made)
    names = [name for name in passes.split(",") if name]
    if passes == "*":
        # every pass over bolts that does not prove the others
        kinds = {do: kind for do, kind in PASS_KINDS.items() if not kind.pause}
        names = [
            str(p.get("id"))
            for p in one.get("passes") or []
            if p.get("do") in kinds and not p.get("check")
        ]
    for where in [the_one(one["passes"], name, "pass") for name in names] or [one]:
        now = _order_now(where)
        where["order"] = {
            "kind": "custom",
            "sequence": _entries(doc, one, now, group, places),
            **{key: now[key] for key in _KEPT if key in now},
            **({"repeats": True} if made.repeats else {}),
        }
    return f"stage-{stage}"


def in_order(now: Raw, kind: str) -> Raw:
    """An order of another kind: only a custom one has a sequence."""
    return {**{k: v for k, v in now.items() if k not in ("sequence", "repeats")}, "kind": kind}


@an_act
def set_order(doc: Raw, stage: str, order: str, one: str = "") -> str:
    """A pattern instead of the order that a pass has, or that a stage without passes has."""
    found = the_stage(doc, stage)
    where = the_one(found["passes"], one, "pass") if one else found
    where["order"] = in_order(_order_now(where), order)
    return f"stage-{stage}"
