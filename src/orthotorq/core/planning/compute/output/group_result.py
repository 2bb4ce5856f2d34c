"""One group under its figure, as the result shows it and as its findings read it."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import lru_cache

from ....documents.joint import Group
from ....documents.places import angle_of, points_of, span_of
from ....documents.plan import Plan
from ....documents.tightening_moves import numbers_of
from ....forms.group import (
    FrictionOut,
    GroupOut,
    LossOut,
    PlacePoint,
    PreloadOut,
    SourceOut,
    SplitOut,
    StiffnessOut,
    StrengthOut,
    TargetOut,
    TeethOut,
    ThreadOut,
)
from ....forms.stage import PassLoadOut, StageOut
from ....mechanics.angle import preload_gain
from ....mechanics.preload import torque_split
from ....mechanics.window import PreloadBand
from ....units import show
from ...layouts import Point
from ...numbering import prefixes
from ..findings.joint_findings import joint_findings
from ..findings.load_findings import Load, load_findings, share_of_yield
from ..findings.service_findings import service_findings
from ..inputs.facts import Facts, socket_of
from ..inputs.finding_builder import Found
from ..inputs.target import Chosen
from ..load.bolt_load import Seen, Setting, decisive, pulls_of, turned_to
from ..load.context import Context
from ..load.limit import Bound
from ..load.limit_check import held, limit_outs, window_of
from ..load.limits import bounds_of
from ..load.losses import loss_of
from ..load.remedy import World
from ..load.thread_engagement import Teeth, teeth_of


def place_points(group: Group, letter: str = "") -> list[PlacePoint]:
    """Places in mm, x to the right and y up, 0° at the top, seen from the turning side; numbers
    carry the group's letter."""
    layout = group.layout
    points = points_of(layout)
    ox, oy = layout.origin[0].quantity.base, layout.origin[1].quantity.base
    labels = tuple(f"{letter}{number}" for number in numbers_of(group))
    return list(_place_points(group.id, tuple(points), (ox, oy), labels))


@lru_cache(maxsize=64)
def _place_points(
    group: str, points: tuple[Point, ...], origin: Point, labels: tuple[str, ...]
) -> tuple[PlacePoint, ...]:
    """The same geometry is asked for at every key stroke: what is once made is kept, and is
    frozen."""
    ox, oy = origin
    return tuple(
        PlacePoint.model_construct(
            id=f"{group}.{i + 1}",
            number=i + 1,
            label=labels[i],
            x_mm=round(x, 4),
            y_mm=round(y, 4),
            angle_deg=round(angle_of(round(x - ox, 6), round(y - oy, 6)), 4),
        )
        for i, (x, y) in enumerate(points)
    )


def _thread(facts: Facts) -> ThreadOut:
    thread, hexa, fastener = facts.thread, facts.hexagon, facts.group.fastener
    flats = (
        fastener.across_flats.base if fastener.across_flats else hexa.across_flats if hexa else None
    )
    socket = fastener.head == "socket head"
    head = (hexa.face_diameter if hexa and socket else flats) or 1.5 * thread.diameter
    return ThreadOut(
        designation=thread.designation,
        diameter_mm=thread.diameter,
        pitch_mm=thread.pitch,
        stress_area_mm2=thread.stress_area,
        across_flats_mm=flats,
        head_mm=head,
        head=fastener.head,
        effective_diameter_mm=facts.joint.bearing_diameter,
        socket=socket_of(facts),
    )


def _split(facts: Facts) -> SplitOut | None:
    joint, thread = facts.joint, facts.thread
    if joint.nut_factor is not None:
        return None
    shares = torque_split(
        thread.pitch,
        thread.pitch_diameter,
        joint.mu_thread.typical,
        joint.mu_bearing.typical / joint.cone,
        joint.bearing_diameter,
    )
    return SplitOut(pitch=shares.pitch, thread=shares.thread, bearing=shares.bearing)


def _sources(chosen: Chosen | None) -> list[SourceOut]:
    if chosen is None:
        return []
    out = []
    for reading in chosen.sources.readings:
        source = reading.source
        bound = source.says.at_most is not None or source.says.at_least is not None
        verdict = (
            "struck"
            if reading.struck
            else "taken"
            if source.id == chosen.source
            else "bound"
            if reading.torque is None and bound
            else "silent"
            if reading.torque is None
            else "valid"
        )
        limits = [
            f"at most {source.says.at_most}" if source.says.at_most else "",
            f"at least {source.says.at_least}" if source.says.at_least else "",
        ]
        angle = (
            f" + {show(math.degrees(reading.angle), 3)}°" if reading.angle and reading.how else ""
        )
        says = "; ".join(x for x in (reading.how + angle, *limits) if x) or "no figure"
        least, most = source.says.range or (source.says.at_least, source.says.at_most)
        out.append(
            SourceOut(
                id=source.id,
                by=source.by,
                reference=source.reference,
                says=says,
                least_Nm=least.base / 1e3 if least else None,
                torque_Nm=reading.torque / 1e3 if reading.torque is not None else None,
                most_Nm=most.base / 1e3 if most else None,
                verdict=verdict,
                why=reading.struck or "",
            )
        )
    return out


@dataclass(frozen=True, slots=True)
class Loaded:
    """A group under its figure: what a bolt can see, every bound held against it, teeth and losses;
    one place for all."""

    load: Load
    bounds: list[Bound]
    losses: LossOut

    @property
    def chosen(self) -> Chosen:
        """Its figure."""
        return self.load.chosen

    @property
    def seen(self) -> Seen:
        """What a bolt can see."""
        return self.load.seen

    @property
    def setting(self) -> Setting:
        """What the last full pass sets with the preferred chain."""
        return self.load.seen.setting

    def findings(self, plan: Plan) -> Iterator[Found]:
        """What is found about load, work and condition."""
        yield from load_findings(plan, self.load)
        yield from service_findings(self.load.world.context, self.load)
        yield from joint_findings(plan, self.chosen, self.seen)


def loaded(context: Context, chosen: Chosen, stages: list[StageOut]) -> Loaded:
    """A group under its figure. Raises Impossible where the low end of the torque gives nothing."""
    losses, pulls = loss_of(chosen.facts), pulls_of(context, chosen.facts.group.id, stages)
    if chosen.angle:
        pulls = turned_to(pulls, chosen.angle)
    world = World(context, chosen, pulls, losses, decisive=decisive(pulls))
    seen = world.seen()
    bounds = bounds_of(
        context.plan,
        chosen,
        seen.setting.most,
        context.hot.get(chosen.facts.group.id),
        seen.stretched,
    )
    for stage in stages:
        for one in stage.passes:
            if (
                one.group == chosen.facts.group.id
                and (ends := seen.passes.get((stage.id, one.id))) is not None
            ):
                one.load = PassLoadOut(low_N=ends.low, typical_N=ends.typical, high_N=ends.high)
    world = replace(world, bounds=tuple(bounds))
    return Loaded(
        Load(world, seen, [held(b, seen) for b in bounds], teeth_of(context.plan, chosen.facts)),
        bounds,
        losses,
    )


def _friction(facts: Facts) -> FrictionOut:
    friction = facts.friction
    return FrictionOut(
        lubricant=friction.lubricant,
        name=friction.name,
        mu_thread=list(friction.mu_thread) if friction.mu_thread else None,
        mu_bearing=list(friction.mu_bearing) if friction.mu_bearing else None,
        nut_factor=[k / facts.thread.diameter for k in facts.joint.band_per_preload()],
        form="short" if friction.nut_factor else "long",
        origin=friction.origin.value,
        source=friction.source,
    )


def _stiffness(facts: Facts, band: PreloadBand | None) -> StiffnessOut | None:
    stiff = facts.stiffness
    if stiff is None:
        return None
    return StiffnessOut(
        fastener_mm_per_N=stiff.fastener,
        parts_mm_per_N=stiff.parts,
        gain_N_per_deg=preload_gain(facts.thread.pitch, math.radians(1), stiff.both),
        elongation_mm=(band.typical if band else 0.0) * stiff.fastener,
        grip_mm=stiff.grip,
    )


def _teeth(teeth: Teeth | None) -> TeethOut | None:
    if teeth is None:
        return None
    return TeethOut(
        turns=teeth.turns,
        engaged_mm=teeth.engaged,
        required_mm=teeth.required,
        carries_N=teeth.carries,
        weaker=teeth.weaker,
    )


def group_out(plan: Plan, facts: Facts, load: Loaded | None) -> GroupOut:
    """The group with target, band, limits and window."""
    group, strength = facts.group, facts.strength
    chosen, band = (load.chosen, load.seen.band) if load else (None, None)
    teeth, losses = (
        (load.load.teeth, load.losses) if load else (teeth_of(plan, facts), loss_of(facts))
    )
    return GroupOut(
        id=group.id,
        name=group.name,
        variants=list(group.variants),
        layout=group.layout.kind,
        places=place_points(group, prefixes(plan.groups)[group.id]),
        span_mm=span_of(group.layout),
        thread=_thread(facts),
        strength=StrengthOut(
            grade=strength.name,
            proof_MPa=strength.proof,
            yield_MPa=strength.yield_,
            tensile_MPa=strength.tensile,
            certainty=strength.certainty,
            assumed=list(strength.assumed),
        ),
        friction=_friction(facts),
        target=_target(load) if load else None,
        preload=_preload(load) if load else None,
        share_of_yield=share_of_yield(facts, band) if band else None,
        losses=losses,
        stiffness=_stiffness(facts, band),
        teeth=_teeth(teeth),
        split=_split(facts),
        limits=limit_outs(load.load.held, plan, facts) if load else [],
        window=window_of(load.load.held, load.seen) if load else None,
        sources=_sources(chosen),
        history=group.fastener.history,
        socket=socket_of(facts),
        note=group.note,
    )


def _target(load: Loaded) -> TargetOut:
    chosen = load.chosen
    return TargetOut(
        kind="calculated" if chosen.calculated else "given",
        torque_Nm=chosen.torque / 1e3,
        set_torque_Nm=load.setting.torque / 1e3,
        angle_deg=math.degrees(chosen.angle) if chosen.angle else None,
        calculated=chosen.calculated,
        source=chosen.source,
        why=chosen.why,
        force_N=chosen.force if load.seen.stretched else None,
    )


def _preload(load: Loaded) -> PreloadOut:
    seen = load.seen
    band, after = seen.band, seen.after
    return PreloadOut(
        typical_N=band.typical,
        low_N=band.low,
        high_N=band.high,
        low_rss_N=band.low_rss,
        high_rss_N=band.high_rss,
        peak_N=seen.peak.typical,
        after_low_N=after.low,
        after_typical_N=after.typical,
        after_high_N=after.high,
        hot_low_N=seen.hot.low if seen.hot else None,
        hot_typical_N=seen.hot.typical if seen.hot else None,
        hot_high_N=seen.hot.high if seen.hot else None,
        beyond_yield=bool(load.chosen.angle) and seen.beyond_yield,
    )
