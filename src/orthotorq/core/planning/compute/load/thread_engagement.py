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
    nut = into is not None and into.kind == "nut" and hexa is not None
    widening = hexa.across_flats if nut and hexa and hexa.head != "socket head" else None
    found = strip.with_dilation((own, mate), (outside, inside), widening, facts.thread.diameter)
    ends = sorted(
        zip(("external", "internal"), found.factors, found.loads, strict=True),
        key=lambda end: -end[2].value,
    )
    weaker, _, least = ends[-1]
    steps = [outside, inside, found.ratio, *([found.widens] if found.widens else [])]
    return Dilated(weaker, least.value, (*steps, *(s for _, *pair in ends for s in pair)))


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
    inside, outside = eng.shear_areas(thread, engaged)
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
