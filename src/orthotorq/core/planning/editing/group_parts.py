"""Parts that a group of bolts may have or not, as the Bench offers them: words, how one begins, its
fields."""

from __future__ import annotations

import copy
from dataclasses import dataclass
from typing import Any

from ...kinds.fields import FieldSpec, field
from ...tables import gaskets
from .base import Raw, an_act, begins, the_group


@dataclass(frozen=True, slots=True)
class GroupPart:
    """One part: its name in the document, words to add and to take it out, the section it stands
    in, how it begins, its fields; `needs` names the part without which it means nothing."""

    name: str
    add: str
    drop: str
    section: str
    beginning: Raw
    fields: tuple[FieldSpec, ...]
    needs: str = ""


def _kinds() -> dict[str, str]:
    return {"": "Not specified", **{one.id: one.name for one in gaskets.table().values()}}


PARTS: tuple[GroupPart, ...] = (
    GroupPart(
        "gasket",
        "+ gasket",
        "no gasket",
        "figure",
        {"name": "gasket", "outside": "380 mm", "inside": "350 mm", "seating": "30 MPa"},
        (
            field("outside", "Gasket outside", "quantity"),
            field("inside", "inside", "quantity"),
            field("type", "Kind", "choice", choices=_kinds()),
            field("seating", "Minimum seating stress", "quantity", "not given"),
            field("service", "Stress needed in service", "quantity", "not given"),
            field("damage", "Maximum stress", "quantity", "not given"),
            field("pressure", "Pressure", "quantity", "none", main=False),
            field("thickness", "Thickness", "quantity", "not counted", main=False),
            field("modulus", "Modulus", "quantity", "not counted", main=False),
            field("creep", "Creep", "share", "of its kind", main=False),
            field("name", "Called", main=False),
            field("m", "Factor m", "count", "of its kind", main=False),
            field("y", "Seating stress y", "quantity", "of its kind", main=False),
            field(
                "hot_retighten",
                "Retightening after heat",
                "choice",
                main=False,
                choices={
                    "not said": "Not specified",
                    "allowed by the maker": "Allowed by the maker",
                    "forbidden": "Forbidden",
                },
            ),
        ),
    ),
    GroupPart(
        "component",
        "+ flange by component",
        "not by component",
        "figure",
        {"target_stress": "60 MPa"},
        (
            field("target_stress", "Gasket stress wanted", "quantity"),
            field(
                "flange_max", "Allowable bolt stress of the flange", "quantity", "from its maker"
            ),
            field("bolt_max", "Bolt stress at most", "quantity", "no bound"),
            field("bolt_min", "at least", "quantity", "no bound", main=False),
            field("relaxation", "Share that relaxation leaves", "share", "70 %", main=False),
            field(
                "gasket_rotation",
                "Allowable rotation of the gasket",
                "quantity",
                "not known",
                main=False,
            ),
            field(
                "flange_rotation",
                "Rotation of the flange at its most",
                "quantity",
                "not known",
                main=False,
            ),
        ),
        "gasket",
    ),
    GroupPart(
        "work",
        "+ loads at work",
        "no loads",
        "figure",
        {"axial": "10 kN", "introduction": 0.5},
        (
            field("axial", "Axial load of one bolt", "quantity", "none"),
            field("axial_low", "its lowest", "quantity", "steady"),
            field("introduction", "Enters at (0 head, 1 joint)", "count", "0.5"),
            field("transverse", "Transverse load of one bolt", "quantity", "none"),
            field("slip_friction", "Friction of the parts", "count", "0.15"),
            field("faces", "Friction faces", "count", "1", main=False),
            field("alternates", "transverse load alternates", "tick", main=False),
            field("pressure", "Pressure to be held", "quantity", "none", main=False),
            field("sealed_diameter", "inside Ø", "quantity", "none", main=False),
            field(
                "thread",
                "Thread",
                "choice",
                choices={
                    x: x
                    for x in ("rolled before heat treatment", "rolled after heat treatment", "cut")
                },
                main=False,
            ),
        ),
    ),
    GroupPart(
        "at_work",
        "+ temperature at work",
        "room temperature",
        "figure",
        {"bolt": "80 °C", "parts": "80 °C"},
        (field("bolt", "Bolts at", "quantity"), field("parts", "Parts at", "quantity")),
    ),
)
#: what a bolt may have beside thread, head and seat; what a clamped part may be
BOLT_FIELDS = (
    field("stud", "stud with two nuts", "tick"),
    field("shank_length", "Shank without thread", "quantity", "none"),
    field("shank_diameter", "Shank Ø", "quantity", "as the thread"),
)
LAYER_FIELDS = (field("washer", "a washer, which spreads the load", "tick"),)


@an_act
def set_part(doc: Raw, group: str, part: str, on: str) -> str:
    """With a part, as it begins, or without it and what needs it."""
    found, known = the_group(doc, group), {one.name: one for one in PARTS}
    made: Any = begins({name: one.beginning for name, one in known.items()}, part, "part")
    found.pop(part, None)
    for other in PARTS:
        if other.needs == part:
            found.pop(other.name, None)
    if on == "yes":
        found[part] = copy.deepcopy(made)
    return f"{known[part].section}-{group}"
