"""Another lubricant in the same joint: what it does at the same torque, and which torque keeps the
clamp."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from pydantic import BaseModel

from ....documents.plan import OwnLubricant
from ....documents.read import read_plan
from ....errors import UnknownName
from ....forms.errors import FieldErrors
from ....mechanics.preload import torque_from_preload
from ....messages import Message
from ....tables import lubricants
from ..inputs.friction import bands_of
from ..load.context import context_of


class AlternativeOut(BaseModel):
    """One other lubricant: load at the same torque [N], its change, and the torque for the same
    typical clamp [N·m]."""

    lubricant: str
    name: str
    typical_N: float
    low_N: float
    high_N: float
    change: float
    same_clamp_Nm: float
    forbidden: list[str]


def alternatives(
    document: Any, group_id: str, wanted: Sequence[str], own: dict[str, OwnLubricant] | None = None
) -> list[AlternativeOut]:
    """What each wanted lubricant (of the table, the plan, or own entries given) would do in one
    group.

    Raises DocumentErrors for a bad plan, UnknownName for no such group; unknown lubricants are left
    out.
    """
    plan = read_plan(document)
    if group_id not in (g.id for g in plan.groups):
        raise UnknownName(
            Message.UNKNOWN_REFERENCE,
            ("group",),
            id=group_id[:60],
            kind="group",
            known=", ".join(g.id for g in plan.groups),
        )
    errors = FieldErrors()
    context = context_of(plan, errors)
    errors.raise_found()
    chosen = context.chosen.get(group_id)
    if chosen is None:
        return []
    facts = chosen.facts
    now = chosen.band(chosen.torque, ())
    entries = {**(own or {}), **plan.definitions.lubricants}
    out = []
    for name in wanted:
        entry, shipped = entries.get(name), lubricants.table().get(name)
        if entry is not None:
            bands = bands_of(entry)
            mu_t, factor = bands.get("mu_thread", facts.joint.mu_thread), bands.get("nut_factor")
            mu_b = bands.get("mu_bearing", mu_t)
            title, forbidden = entry.name, ["dry seat"] if not entry.dry else []
        elif shipped is not None:
            mu_t, mu_b, factor, title = shipped.mu_thread, shipped.mu_bearing, None, shipped.name
            forbidden = list(shipped.forbidden)
        else:
            continue
        joint = replace(facts.joint, mu_thread=mu_t, mu_bearing=mu_b, nut_factor=factor)
        other = replace(chosen, facts=replace(facts, joint=joint))
        band = other.band(chosen.torque, ())
        same = torque_from_preload(
            now.typical - chosen.gain(), joint.band_per_preload().typical, joint.prevailing
        )
        out.append(
            AlternativeOut(
                lubricant=name,
                name=title,
                typical_N=band.typical,
                low_N=band.low,
                high_N=band.high,
                change=band.typical / now.typical - 1,
                same_clamp_Nm=same / 1e3,
                forbidden=forbidden,
            )
        )
    return out
