"""Engaged threads in shear: which one gives way first, what it carries, how much is needed."""

from __future__ import annotations

from dataclasses import dataclass

from ....documents.plan import Plan
from ....mechanics import engagement as eng
from ....mechanics import strip_factors as strip
from ....mechanics.formula import Step, explain
from ..inputs.facts import Facts
from ..inputs.stiffness import material_of


@dataclass(frozen=True, slots=True)
class Dilated:
    """The same with strength ratio and dilation of the nut: the weaker thread, load it carries [N],
    steps."""

    weaker: str
    carries: float
    steps: tuple[Step, ...]


def _dilated(facts: Facts, own: float, mate: float, outside: Step, inside: Step) -> Dilated:
    """Stripping by strength ratio; a nut widens by its width across flats, a part does not."""
    into, hexa = facts.group.into, facts.hexagon
    ratio = explain(
        strip.strength_ratio,
        internal_shear=mate,
        internal_area=inside.value,
        external_shear=own,
        external_area=outside.value,
    )
    steps, dilation = [outside, inside, ratio], 1.0
    if into is not None and into.kind == "nut" and hexa is not None and hexa.head != "socket head":
        steps.append(
            explain(
                strip.dilation_factor,
                across_flats=hexa.across_flats,
                diameter=facts.thread.diameter,
            )
        )
        dilation = steps[-1].value
    ends = []
    for weaker, shear, area, factor in (
        ("external", own, outside, strip.external_factor),
        ("internal", mate, inside, strip.internal_factor),
    ):
        bends = explain(factor, ratio=ratio.value)
        ends.append(
            (
                weaker,
                [
                    bends,
                    explain(
                        strip.stripping_with_dilation,
                        shear=shear,
                        area=area.value,
                        dilation=dilation,
                        factor=bends.value,
                    ),
                ],
            )
        )
    ends.sort(key=lambda end: -end[1][-1].value)
    return Dilated(
        ends[-1][0], ends[-1][1][-1].value, (*steps, *(s for _, pair in ends for s in pair))
    )


@dataclass(frozen=True, slots=True)
class Teeth:
    """Engaged threads: the weaker one, load it carries [N], length needed and engaged [mm], turns;
    the steps end at the load."""

    weaker: str
    carries: float
    required: float
    turns: float
    engaged: float
    steps: tuple[Step, ...] = ()
    dilated: Dilated | None = None


def teeth_of(plan: Plan, facts: Facts) -> Teeth | None:
    """Stripping of the engaged threads; None where no engaged length is given."""
    into, thread = facts.group.into, facts.thread
    if into is None or into.engaged is None:
        return None
    engaged = into.engaged.base - (into.spacer.base if into.spacer else 0.0)
    if engaged <= 0:
        return Teeth("internal", 0.0, 0.0, 0.0, 0.0)
    own = 0.6 * facts.strength.tensile
    # a nut without a named material is taken as matching its bolt
    mate = (
        into.shear.base
        if into.shear
        else material_of(plan, into.material).shear
        if into.material
        else own
    )
    inside = explain(
        eng.internal_shear_area,
        diameter=thread.diameter,
        engaged=engaged,
        pitch=thread.pitch,
        pitch_diameter=thread.pitch_diameter,
    )
    outside = explain(
        eng.external_shear_area,
        internal_minor=thread.internal_minor_diameter,
        engaged=engaged,
        pitch=thread.pitch,
        pitch_diameter=thread.pitch_diameter,
    )
    internal = explain(eng.stripping_load, shear=mate, area=inside.value)
    external = explain(eng.stripping_load, shear=own, area=outside.value)
    weaker = "internal" if internal.value < external.value else "external"
    # the thread that gives way first comes last: a working ends at the figure
    pairs = (
        [(outside, external), (inside, internal)]
        if weaker == "internal"
        else [(inside, internal), (outside, external)]
    )
    carries, breaks = pairs[-1][1].value, facts.strength.tensile * thread.stress_area
    return Teeth(
        weaker,
        carries,
        engaged * breaks / carries,
        engaged / thread.pitch,
        engaged,
        tuple(step for pair in pairs for step in pair),
        _dilated(facts, own, mate, outside, inside),
    )
