"""The sum about engaged threads: what strips first, and how much engagement is needed."""

from __future__ import annotations

from typing import Any

from ..errors import UnknownName
from ..mechanics import engagement as eng
from ..mechanics.formula import explain
from ..messages import Message
from ..tables import materials
from ..tables.threads import Thread
from .bolts import strength_in
from .fields import Answer


def engagement_sum(v: dict[str, Any]) -> Answer:
    """Whether an engaged length carries the bolt (or a stated preload)."""
    thread: Thread = v["thread"]
    strength = strength_in(v["grade"], thread.diameter)
    material = materials.table().get(v["into"])
    if material is None:
        known = ", ".join(materials.table())
        raise UnknownName(Message.MATERIAL_UNKNOWN, ("into",), text=v["into"][:40], known=known)
    shear = v["shear"] if v["shear"] is not None else material.shear
    own_shear = 0.6 * strength.tensile
    load = v["preload"] if v["preload"] is not None else strength.tensile * thread.stress_area
    inside, outside = eng.shear_areas(thread, v["length"])
    needs = [
        explain(eng.required_engagement, load=load, shear=s, area_per_length=a.value / v["length"])
        for s, a in ((shear, inside), (own_shear, outside))
    ]
    required = max(n.value for n in needs)
    weaker = "internal" if shear * inside.value < own_shear * outside.value else "external"
    what = (
        "the stated preload"
        if v["preload"] is not None
        else "the bolt's tensile strength, so that the bolt breaks first"
    )
    return Answer(
        {
            "turns": v["length"] / thread.pitch,
            "internal_area_mm2": inside.value,
            "external_area_mm2": outside.value,
            "required_mm": required,
            "ok": v["length"] >= required,
            "strips": weaker,
        },
        (inside, outside, *needs),
        (
            f"Load: {what}. Add one pitch ({thread.pitch:g} mm) for incomplete threads.",
            "strips names the thread that would give way first.",
            f"Plain rule: {_plain_rule(v['into'], thread.diameter)}.",
        ),
    )


def _plain_rule(material: str, diameter: float) -> str:
    times = 2.0 if "aluminium" in material else 1.5 if "iron" in material else 1.0
    return f"{times:g} d is {times * diameter:g} mm in {material}"
