"""Findings about the condition of a joint: lubricant, seat, hub, gasket, galling, reuse, history,
room for a socket."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from ....documents.places import points_of
from ....documents.plan import Plan
from ....mechanics.preload import preload_from_torque, torque_from_preload
from ....mechanics.window import Joint, PreloadBand
from ....messages import Origin
from ....number_formats import band_text
from ....tables import lubricants
from ....thresholds import GUESSED_BAND, SOCKET_ROOM
from ...findings import Finding
from ...layouts import nearest_spacing
from ..inputs.facts import Facts
from ..inputs.figure_text import kilonewton, newton_metre
from ..inputs.finding_builder import Found, find
from ..inputs.stiffness import material_of
from ..inputs.target import Chosen
from ..load.bolt_load import Seen

#: what the screws of a friction hub are given
_OILED_HUB = "light-oil"
#: what does not keep stainless from galling: nothing, a guess, oil; of own compounds those without
#: solid lubricant
_GALLS = ("dry", "guess", "oil", "oiled", "own")
#: what stainless galls in: itself and steel; not bronze, not the graphite of cast iron
_GALLS_IN = ("stainless", "steel", "other")


def with_lubricant(facts: Facts, identifier: str) -> Joint:
    """The same joint with a lubricant of the table."""
    other = lubricants.table()[identifier]
    return replace(
        facts.joint, mu_thread=other.mu_thread, mu_bearing=other.mu_bearing, nut_factor=None
    )


def must_be(plan: Plan, facts: Facts) -> str | None:
    """The condition the seat asks for: as the plan says, else dry for wheel nuts and lightly oiled
    for hub screws."""
    if facts.group.must_be is not None:
        return facts.group.must_be
    return plan.traits.seat if facts.group.layout.count > 1 else None


def joint_findings(plan: Plan, chosen: Chosen, seen: Seen) -> Iterator[Found]:
    """Every finding of one group that is about its condition."""
    yield from _condition(plan, chosen, seen)
    yield from _galling(plan, chosen.facts)
    yield from _reuse(chosen.facts)
    facts = chosen.facts
    if (
        facts.hexagon is not None
        and facts.hexagon.head != "socket head"
        and facts.group.layout.count > 1
    ):
        spacing = nearest_spacing(tuple(points_of(facts.group.layout)))
        # a socket's wall adds about a third of the width across flats around the head
        if spacing < SOCKET_ROOM.value * facts.hexagon.across_flats:
            yield find(
                Finding.SOCKET_ROOM,
                f"groups/{facts.group.id}",
                group=facts.group.name,
                count=facts.group.layout.count,
                spacing=f"{spacing:.1f}",
                flats=f"{facts.hexagon.across_flats:g}",
            )


def _condition(plan: Plan, chosen: Chosen, seen: Seen) -> Iterator[Found]:
    facts = chosen.facts
    group, friction = facts.group, facts.friction
    where, must = f"groups/{group.id}", must_be(plan, facts)
    hub = plan.traits.hub and group.layout.count > 1
    if hub and friction.solid:
        yield find(Finding.PASTE_ON_HUB, where, group=group.name, lubricant=friction.name)
    elif must == "lightly oiled" and friction.lubricant not in (_OILED_HUB, None):
        code = Finding.HUB_NOT_OILED if hub else Finding.WRONG_CONDITION
        yield find(code, where, group=group.name, lubricant=friction.name, must=must)
    elif must == "dry" and friction.dry is False:
        prevailing, joint = facts.joint.prevailing, with_lubricant(facts, "dry-steel")
        dry, now = (
            preload_from_torque(chosen.torque, j.band_per_preload().typical, prevailing)
            for j in (joint, facts.joint)
        )
        same = torque_from_preload(dry, facts.joint.band_per_preload().typical, prevailing)
        yield Found(
            Finding.DRY_SEAT_LUBRICATED,
            where,
            {
                "group": group.name,
                "lubricant": friction.name,
                "typical": kilonewton(now),
                "dry": kilonewton(dry),
                "rise": f"{(now / dry - 1) * 100:+.0f}",
                "torque": newton_metre(same, 3),
            },
        )
    elif must == "lubricated" and friction.dry:
        yield find(
            Finding.WRONG_CONDITION, where, group=group.name, lubricant=friction.name, must=must
        )
    # how a bolt slides decides nothing where it is stretched
    if not seen.stretched:
        yield from _band_findings(chosen, seen.band)


def _band_findings(chosen: Chosen, band: PreloadBand) -> Iterator[Found]:
    group, friction = chosen.facts.group, chosen.facts.friction
    where = f"groups/{group.id}"
    shown = friction.nut_factor or friction.mu_thread
    if shown is None:
        return
    if friction.group == "guess" or shown.high / shown.low > GUESSED_BAND.value:
        yield find(
            Finding.FRICTION_UNKNOWN,
            where,
            group=group.name,
            lubricant=friction.name,
            spread=f"{band.high / max(band.low, 1.0):.1f}",
        )
    elif friction.origin is Origin.TYPICAL:
        yield find(
            Finding.FRICTION_TYPICAL,
            where,
            group=group.name,
            lubricant=friction.name,
            band=band_text(shown),
        )
    if friction.origin is Origin.TESTED and friction.nut_factor is not None:
        threads = dict(friction.origin_params)["threads"]
        if chosen.facts.thread.designation not in threads.split(", "):
            yield find(
                Finding.TESTED_ELSEWHERE,
                where,
                group=group.name,
                lubricant=friction.name,
                threads=threads,
                thread=chosen.facts.thread.designation,
            )
    if group.fastener.history == "unknown":
        yield find(Finding.HISTORY_UNKNOWN, where, group=group.name)


def _galling(plan: Plan, facts: Facts) -> Iterator[Found]:
    group, where, friction = facts.group, f"groups/{facts.group.id}", facts.friction
    mate = group.into.material if group.into else None
    galls = mate is None or material_of(plan, mate).family in _GALLS_IN
    if (
        facts.strength.family == "stainless"
        and friction.group in _GALLS
        and not friction.solid
        and galls
    ):
        into = mate or ("a nut" if group.into is None or group.into.kind == "nut" else "the part")
        yield find(Finding.GALLING, where, group=group.name, mate=into, lubricant=friction.name)
    if friction.dry is None:
        yield find(Finding.COMPOUND_UNNAMED, where, group=group.name)
    under = group.stack[0] if group.stack else None
    if (
        under is not None
        and material_of(plan, under.material).family == "aluminium"
        and facts.friction.dry
    ):
        yield find(
            Finding.ALUMINIUM_DRY, where, group=group.name, part=under.name or under.material
        )


def _reuse(facts: Facts) -> Iterator[Found]:
    fastener, where, name = facts.group.fastener, f"groups/{facts.group.id}", facts.group.name
    if fastener.single_use and (fastener.condition == "used" or fastener.uses > 0):
        yield find(Finding.SINGLE_USE_REUSED, where, group=name)
    elif fastener.max_uses is not None and fastener.uses >= fastener.max_uses:
        yield find(
            Finding.REUSED_TOO_OFTEN, where, group=name, uses=fastener.uses, most=fastener.max_uses
        )
    elif fastener.max_uses is not None and fastener.uses == fastener.max_uses - 1:
        yield find(Finding.LAST_USE, where, group=name, most=fastener.max_uses)
