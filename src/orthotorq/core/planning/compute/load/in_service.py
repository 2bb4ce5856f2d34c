"""A group at work: what working loads, temperature and a flange judged by component ask of its
preload.

Everything becomes a bound like any other, or a share of the load that is lost when hot; what a bolt
sees is decided in one place (bolt_load.py), and held against these in one place (limit_check.py).
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace

from ....documents.joint import Group, Work
from ....documents.plan import Plan
from ....errors import Impossible
from ....mechanics import flange as fla
from ....mechanics import strength as lim
from ....mechanics import thermal as the
from ....mechanics import working_loads as work
from ....mechanics.formula import Step, explain
from ....mechanics.window import Ends
from ....messages import Message
from ....tables import thermal
from ....thresholds import SLIP_ALTERNATING, SLIP_STEADY, TORSION_KEPT
from ..inputs.facts import Facts
from ..inputs.stiffness import material_of
from .limit import Bound, bound_from

_COS_FLANK = math.cos(math.radians(30))


@dataclass(frozen=True, slots=True)
class Shared:
    """How an axial load is shared: load factor with its steps, what the bolt gets [N], the axial
    load [N]."""

    factor: float
    extra: float
    axial: float
    low: float
    steps: tuple[Step, ...]


def shared_load(facts: Facts) -> Shared:
    """How the axial load of a group is shared. Raises Impossible where the clamped stack is not
    known."""
    given = facts.group.work
    if given is None or given.axial is None:
        return Shared(0.0, 0.0, 0.0, 0.0, ())
    if facts.stiffness is None:
        raise Impossible(Message.WORK_NEEDS_STACK, ("work", "axial"), group=facts.group.name)
    factor = explain(
        work.load_factor,
        introduction=given.introduction,
        fastener=facts.stiffness.fastener,
        parts=facts.stiffness.parts,
    )
    extra = explain(work.bolt_extra, factor=factor.value, axial=given.axial.base)
    low = given.axial_low.base if given.axial_low is not None else 0.0
    return Shared(factor.value, extra.value, given.axial.base, low, (factor, extra))


def work_bounds(plan: Plan, facts: Facts) -> list[Bound]:
    """What working loads ask of the preload: no gap, no slip, no leak; no yield and no pressing in
    while they act."""
    group = facts.group
    given = group.work
    if given is None:
        return []
    share = shared_load(facts)
    least = list(_least_at_work(facts, given, share))
    return [*least, *_upper_at_work(plan, facts, share)] if given.axial is not None else least


def _least_at_work(facts: Facts, given: Work, share: Shared) -> Iterator[Bound]:
    base = f"groups/{facts.group.id}/work"

    def needed(
        names: tuple[str, str], field: str, clamp: Step | None, safety: float, *notes: str
    ) -> Bound:
        last = explain(
            work.preload_needed,
            clamp=clamp.value if clamp else 0.0,
            safety=safety,
            factor=share.factor,
            axial=share.axial,
        )
        steps = [*([clamp] if clamp else []), *share.steps, last]
        return bound_from(*names, False, f"{base}/{field}", steps, *notes)

    if given.axial is not None:
        yield needed(
            ("separation", "work: the parts stay together"),
            "axial",
            None,
            1.0,
            "At or below this the parts separate and the bolt carries all of the axial load.",
        )
    if given.transverse is not None and given.slip_friction is not None:
        wanted = SLIP_ALTERNATING if given.alternates else SLIP_STEADY
        clamp = explain(
            work.clamp_against_slip,
            transverse=given.transverse.base,
            faces=float(given.faces),
            friction=given.slip_friction,
        )
        yield needed(
            ("slip", "work: no slip"),
            "transverse",
            clamp,
            wanted.value,
            (
                f"Safety {wanted.value:g}, as for "
                f"{'an alternating' if given.alternates else 'a steady'} load."
            ),
        )
    if given.pressure is not None and given.sealed_diameter is not None:
        clamp = explain(
            work.clamp_that_seals,
            pressure=given.pressure.base,
            sealed=given.sealed_diameter.base,
            bolts=float(facts.group.layout.count),
        )
        yield needed(("seal", "work: the pressure is held"), "pressure", clamp, 1.0)


def _upper_at_work(plan: Plan, facts: Facts, share: Shared) -> list[Bound]:
    """Yield with the additional force, at each end of the friction; pressure under the head with
    it."""
    area, diameter = facts.carrying
    base = f"groups/{facts.group.id}/work/axial"
    steps = [
        explain(
            work.preload_at_work,
            yield_strength=facts.strength.yield_,
            extra=share.extra,
            stress_area=area,
            thread_arm=_thread_arm(facts, mu),
            stress_diameter=diameter,
            kept=TORSION_KEPT.value,
        )
        for mu in reversed(facts.joint.thread_friction())
    ]
    out = [
        replace(
            bound_from(
                "at_work",
                "yield at work",
                True,
                base,
                [*share.steps, steps[1], steps[2]],
                "At typical friction, then at its low end; half of the tightening's torsion stays.",
            ),
            ends=Ends(*(s.value for s in steps)),
        )
    ]
    pressed = _pressed(plan, facts)
    if pressed is not None:
        name, rest, typical = pressed
        out.append(
            replace(
                bound_from(
                    "bearing_at_work",
                    f"pressure on {name}, at work",
                    True,
                    base,
                    [
                        rest,
                        *share.steps,
                        explain(work.preload_under_the_head, at_rest=rest.value, extra=share.extra),
                    ],
                ),
                typical=typical,
            )
        )
    return out


def _thread_arm(facts: Facts, mu: float) -> float:
    """Torque in the thread per preload [mm]."""
    return facts.thread.pitch / (2 * math.pi) + mu * facts.thread.pitch_diameter / (2 * _COS_FLANK)


def _pressed(plan: Plan, facts: Facts) -> tuple[str, Step, bool] | None:
    """(what the head presses on, clamp at its limit, whether that is the table's), where the
    stack and a flat face are known."""
    if not facts.group.stack or facts.face_diameter is None or facts.hole is None:
        return None
    layer = facts.group.stack[0]
    limit = layer.limit.base if layer.limit else material_of(plan, layer.material).bearing
    step = explain(
        lim.clamp_at_bearing_pressure,
        pressure=limit,
        face_diameter=facts.face_diameter,
        hole=facts.hole,
    )
    return layer.name or layer.material, step, layer.limit is None


@dataclass(frozen=True, slots=True)
class Swing:
    """The alternating stress in the bolt against its endurance limit [MPa], with the load factor's
    steps."""

    amplitude: float
    limit: float
    steps: tuple[Step, ...]


def swing_of(facts: Facts, preload: float) -> Swing | None:
    """The alternating stress of a group whose axial load goes up and down; None where it does
    not."""
    given = facts.group.work
    if given is None or given.axial is None or given.axial_low is None:
        return None
    share, (area, _) = shared_load(facts), facts.carrying
    amplitude = explain(
        work.alternating_stress,
        factor=share.factor,
        high=share.axial,
        low=share.low,
        stress_area=area,
    )
    limit = explain(work.endurance_limit, diameter=facts.thread.diameter)
    bears = limit.value
    if given.thread == "rolled after heat treatment":
        bears = work.rolled_after(bears, preload, facts.strength.yield_ * area)
    return Swing(amplitude.value, bears, (*share.steps, amplitude, limit))


# temperature


@dataclass(frozen=True, slots=True)
class Hot:
    """A group at its working temperature: growths, modulus and yield ratios of bolt and parts [-],
    and how sure they are."""

    facts: Facts
    bolt_growth: float
    parts_growth: float
    bolt_ratio: float
    parts_ratio: float
    yield_ratio: float
    unsure: bool

    def lost(self, load: float) -> float:
        """What temperature takes from a load [N]; negative where it adds."""
        return the.preload_lost(load, **self._inputs())

    def step(self, load: float) -> Step:
        """The same with its numbers."""
        return explain(the.preload_lost, preload=load, **self._inputs())

    def _inputs(self) -> dict[str, float]:
        s = self.facts.stiffness
        assert s is not None
        return {
            "grip": s.grip,
            "fastener": s.fastener,
            "parts": s.parts,
            "bolt_growth": self.bolt_growth,
            "parts_growth": self.parts_growth,
            "bolt_ratio": self.bolt_ratio,
            "parts_ratio": self.parts_ratio,
        }


def hot_of(plan: Plan, facts: Facts) -> Hot | None:
    """A group at its working temperature; None where none is given. Raises Impossible above the
    table or without a stack."""
    given = facts.group.at_work
    if given is None:
        return None
    if facts.stiffness is None:
        raise Impossible(Message.WORK_NEEDS_STACK, ("at_work", "bolt"), group=facts.group.name)
    families = [
        (material_of(plan, layer.material).family, layer.thickness.base)
        for layer in facts.group.stack
    ]
    bolt = thermal.at_temperature(facts.strength.family, given.bolt.base)
    parts = [
        (thermal.at_temperature(family, given.parts.base), thick) for family, thick in families
    ]
    if bolt is None or any(row is None for row, _ in parts):
        field = "bolt" if bolt is None else "parts"
        raise Impossible(
            Message.TOO_HOT_FOR_TABLE, ("at_work", field), temperature=str(getattr(given, field))
        )
    known = [(row, thick) for row, thick in parts if row is not None]
    whole = sum(thick for _, thick in known)
    return Hot(
        facts,
        bolt.expansion * (given.bolt.base - thermal.ROOM),
        sum(row.expansion * thick for row, thick in known)
        / whole
        * (given.parts.base - thermal.ROOM),
        bolt.modulus,
        whole / sum(thick / row.modulus for row, thick in known),
        bolt.yield_,
        "unsure" in (bolt.certainty, *(row.certainty for row, _ in known)),
    )


def hot_bounds(facts: Facts, hot: Hot | None) -> list[Bound]:
    """Yield of the bolt when hot: less strength, held against the load when hot."""
    if hot is None:
        return []
    area, _ = facts.carrying
    step = explain(
        lim.preload_at_fraction,
        fraction=hot.yield_ratio,
        yield_strength=facts.strength.yield_,
        area=area,
    )
    return [
        bound_from(
            "hot_yield",
            "yield when hot",
            True,
            f"groups/{facts.group.id}/at_work/bolt",
            [step],
            (
                f"{hot.yield_ratio * 100:.3g} % of the yield at 20 °C is left; typical figures "
                "of a table."
            ),
        )
    ]


# flange by component


def component_target(group: Group, root_area: float) -> Step | None:
    """The bolt stress that the gasket's target stress asks for; None where no component figures are
    given."""
    if group.component is None or group.gasket is None:
        return None
    return explain(
        fla.bolt_stress_for,
        gasket_stress=group.component.target_stress.base,
        gasket_area=lim.ring_area(group.gasket.outside.base, group.gasket.inside.base),
        bolts=float(group.layout.count),
        root_area=root_area,
    )
