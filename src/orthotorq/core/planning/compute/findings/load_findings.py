"""Findings about the load of the bolts: what the band does to every limit, and what figure would
keep it inside."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ....documents.plan import Plan
from ....mechanics.window import PreloadBand
from ....thresholds import (
    FULL,
    NUT_TURNS,
    PLAIN_ALUMINIUM,
    PLAIN_IRON,
    PLAIN_STEEL,
    SHORT_GRIP,
    SIZES_APART,
)
from ...findings import Finding
from ..inputs.facts import Facts
from ..inputs.figure_text import kilonewton, newton_metre, percent
from ..inputs.finding_builder import Found, find
from ..inputs.sources import name_of
from ..inputs.stiffness import material_of
from ..inputs.target import Chosen
from ..load.bolt_load import Seen
from ..load.context import Context
from ..load.limit_check import AT_ASSEMBLY, Held
from ..load.remedy import World, remedy, remedy_for
from ..load.thread_engagement import Teeth

#: limit code -> (typical beyond it, band beyond it); None where there is no finding of that kind
_BEYOND: dict[str, tuple[Finding | None, Finding | None]] = {
    "share": (Finding.OVER_SHARE, Finding.MAY_EXCEED_SHARE),
    "combined": (Finding.OVER_COMBINED, Finding.MAY_EXCEED_COMBINED),
    "pumped": (Finding.OVER_PUMPED, Finding.MAY_EXCEED_PUMPED),
    "proof": (Finding.OVER_PROOF, Finding.MAY_EXCEED_PROOF),
    "stripping": (Finding.STRIPS, Finding.MAY_STRIP),
    "bearing": (Finding.PRESSES_IN, Finding.MAY_PRESS_IN),
    "stripping_dilated": (Finding.STRIPS, Finding.MAY_STRIP),
    "separation": (Finding.SEPARATES, Finding.MAY_SEPARATE),
    "slip": (Finding.SLIPS, Finding.MAY_SLIP),
    "seal": (Finding.LEAKS, Finding.MAY_LEAK),
    "at_work": (Finding.YIELDS_AT_WORK, Finding.MAY_YIELD_AT_WORK),
    "bearing_at_work": (Finding.PRESSES_IN, Finding.MAY_PRESS_IN),
    "hot_yield": (Finding.YIELDS_HOT, Finding.MAY_YIELD_HOT),
    **dict.fromkeys(
        ("component_seating", "component_operating", "component_bolt_min"),
        (Finding.COMPONENT_TOO_LITTLE, Finding.COMPONENT_MAY_GET_TOO_LITTLE),
    ),
    **dict.fromkeys(
        ("component_bolt_max", "component_flange", "component_rotation", "component_crush"),
        (Finding.COMPONENT_TOO_MUCH, Finding.COMPONENT_MAY_GET_TOO_MUCH),
    ),
    "soft_part": (Finding.SOFT_PART_OVER, Finding.MAY_EXCEED_SOFT_PART),
    "required": (Finding.BELOW_REQUIRED, Finding.MAY_FALL_BELOW_REQUIRED),
    "gasket_seating": (Finding.GASKET_TOO_LITTLE, Finding.GASKET_MAY_GET_TOO_LITTLE),
    "gasket_service": (Finding.GASKET_TOO_LITTLE, Finding.GASKET_MAY_GET_TOO_LITTLE),
    "gasket_y": (Finding.GASKET_TOO_LITTLE, Finding.GASKET_MAY_GET_TOO_LITTLE),
    "gasket_m": (Finding.GASKET_TOO_LITTLE, Finding.GASKET_MAY_GET_TOO_LITTLE),
    "gasket_damage": (Finding.GASKET_TOO_MUCH, Finding.GASKET_MAY_GET_TOO_MUCH),
}
_YIELDING = (
    Finding.MAY_EXCEED_COMBINED,
    Finding.MAY_EXCEED_PUMPED,
    Finding.MAY_EXCEED_PROOF,
    Finding.MAY_EXCEED_SHARE,
)
_PAST_YIELD = (
    *_YIELDING,
    Finding.OVER_SHARE,
    Finding.OVER_COMBINED,
    Finding.OVER_PUMPED,
    Finding.OVER_PROOF,
)
_CODE = {"code_at_most": Finding.BOUND_EXCEEDED, "code_at_least": Finding.BELOW_BOUND}


@dataclass(frozen=True, slots=True)
class Load:
    """A group under its figure, as its findings read it: what could be seen under others, what is
    seen, every bound held against it, teeth."""

    world: World
    seen: Seen
    held: list[Held]
    teeth: Teeth | None

    @property
    def chosen(self) -> Chosen:
        """Its figure."""
        return self.world.chosen

    def typical(self, one: Held) -> str:
        """The typical load that a bound is held against, with the pass or the losses it belongs
        to."""
        words = kilonewton(one.loads.typical)
        if self.seen.stretched and one.bound.upper and one.loads == self.seen.peak:
            return f"{words} while pumped"
        over = (
            one.bound.upper
            and one.bound.code != "hot_yield"
            and self.seen.most_percent > FULL.value
        )
        if over and one.loads.typical > self.seen.band.typical * (1 + 1e-9):
            return f"{words} in the rounds at {self.seen.most_percent:g} %"
        if one.bound.upper:
            return f"{words} hot" if one.bound.code == "hot_yield" else words
        late = "after losses" if self.seen.hot is None else "after losses, cold or hot"
        return words if one.bound.code in AT_ASSEMBLY else f"{words} {late}"


def _weaker(teeth: Teeth, code: str) -> str:
    return teeth.dilated.weaker if code == "stripping_dilated" and teeth.dilated else teeth.weaker


def _words(load: Load, one: Held, hard: bool) -> tuple[dict[str, object], dict[str, str]]:
    """Parameters of a finding about a bound, and the figure that closes it."""
    group, bound, fix = (
        load.chosen.facts.group,
        one.bound,
        remedy_for(load.world, one.bound, whole=not hard),
    )
    teeth = load.teeth if bound.code.startswith("stripping") else None
    limit = bound.clamps.typical if hard else one.worst_limit
    words: dict[str, object] = {
        "group": group.name,
        "typical": load.typical(one),
        "high": kilonewton(one.worst),
        "low": kilonewton(one.worst),
        "limit": kilonewton(limit),
        "share": percent(group.limits.yield_fraction or 0),
        "nu": percent(group.limits.nu),
        "torque": fix.words,
        "but": fix.but,
        "which": _weaker(teeth, bound.code) if teeth else "",
        "engaged": f"{teeth.engaged:.3g} mm" if teeth else "",
        "part": bound.name.removeprefix("pressure on ").removesuffix(", at work"),
        "bound": bound.name.removeprefix("component: "),
    }
    return words, fix.sets(load.chosen)


def _beyond(load: Load, one: Held, yields: bool, said: set[Finding]) -> Iterator[Found]:
    if one.bound.torque is not None:
        yield from _code_bound(load, one)
        return
    hard, soft = _BEYOND.get(one.bound.code, (None, None))
    if hard is Finding.PRESSES_IN and one.bound.typical:
        hard = Finding.PRESSES_IN_BY_TABLE
    code = hard if not one.typical and hard else soft if not one.whole else None
    # yield is the finding, and the first gasket bound is: that milder ones are passed too says
    # nothing more
    if (
        code is None
        or (yields and code in (_PAST_YIELD if load.chosen.angle else _YIELDING))
        or {code, hard} & said
    ):
        return
    said.add(code)
    params, sets = _words(load, one, code is hard)
    facts = load.chosen.facts
    yield Found(
        code, f"groups/{facts.group.id}", params, sets, code is soft and facts.friction.measured
    )


def _code_bound(load: Load, one: Held) -> Iterator[Found]:
    """A code's bound of the torque, held against what is set."""
    if one.typical:
        return
    upper, group = one.bound.upper, load.chosen.facts.group
    reading = next(
        r for r in load.chosen.sources.readings if one.bound.id.endswith(f":{r.source.id}")
    )
    says = reading.source.says
    yield find(
        _CODE[one.bound.code],
        f"targets/{group.id}",
        group=group.name,
        source=name_of(reading.source),
        torque=newton_metre(load.seen.torques[1 if upper else 0]),
        limit=str(says.at_most if upper else says.at_least),
    )


def _yield_finding(load: Load) -> Found | None:
    """Yield under tension with torsion, at every end of the load with its own friction."""
    seen, chosen = load.seen, load.chosen
    facts, where = chosen.facts, f"groups/{chosen.facts.group.id}"
    beyond = 1 - 1e-9 if chosen.angle else 1 + 1e-9
    shares = {
        end: getattr(seen.peak, end) / getattr(seen.yields, end)
        for end in ("typical", "high", "low")
    }
    worst = max(shares, key=lambda end: shares[end])
    if shares[worst] < beyond:
        return None
    fix = remedy(
        load.world,
        lambda s: min(1 - (getattr(s.peak, e) / getattr(s.yields, e)) / beyond for e in shares),
        True,
        True,
    )
    end = "typical" if shares["typical"] >= beyond else worst
    words: dict[str, object] = {
        "group": facts.group.name,
        "limit": kilonewton(getattr(seen.yields, end)),
        "torque": fix.words,
        "but": fix.but,
    }
    if not chosen.angle:
        words |= {"high": kilonewton(getattr(seen.peak, end))}
        if end == "typical":
            return Found(Finding.YIELDS, where, words, fix.sets(chosen))
        at = {"high": "at low friction", "low": "at high friction"}[end]
        return Found(
            Finding.MAY_YIELD, where, {**words, "at": at}, fix.sets(chosen), facts.friction.measured
        )
    if shares["typical"] < beyond:
        return Found(Finding.ANGLE_MAY_YIELD, where, words, fix.sets(chosen))
    typical = remedy(
        load.world, lambda s: 1 - s.peak.typical / s.yields.typical / beyond, True, False
    )
    return Found(
        Finding.ANGLE_YIELDS,
        where,
        {
            **words,
            "limit": kilonewton(seen.yields.typical),
            "torque": typical.words,
            "but": typical.but,
        },
        typical.sets(chosen),
    )


def load_findings(plan: Plan, load: Load) -> Iterator[Found]:
    """Findings of one group about load and strength."""
    facts, chosen = load.chosen.facts, load.chosen
    group, strength = facts.group, facts.strength
    where = f"groups/{group.id}"
    yields = None if load.seen.stretched else _yield_finding(load)
    if yields is not None:
        yield yields
    said: set[Finding] = set()
    # the strictest bound first, so that it is the one that speaks
    for one in sorted(load.held, key=lambda h: h.bound.clamp if h.bound.upper else -h.bound.clamp):
        yield from _beyond(load, one, yields is not None, said)
    yield from _teeth_findings(chosen, load.teeth, said, _family(plan, facts))
    if strength.certainty in ("unsure", "medium"):
        yield find(
            Finding.STRENGTH_UNSURE,
            where,
            group=group.name,
            grade=strength.name,
            certainty=strength.certainty,
            note=strength.note,
        )
    if strength.assumed:
        yield find(
            Finding.STRENGTH_ASSUMED,
            where,
            group=group.name,
            grade=strength.name,
            assumed=" or ".join(strength.assumed),
            value=f"yield {strength.yield_:g} MPa",
        )
    if chosen.calculated and not load.seen.stretched:
        yield find(Finding.CALCULATED, where, group=group.name, torque=newton_metre(chosen.torque))
    if (
        not plan.traits.set_loose
        and facts.stiffness is not None
        and facts.stiffness.grip / facts.thread.diameter < SHORT_GRIP.value
    ):
        share = (load.world.losses.embedding_N or 0.0) / load.seen.band.typical
        yield find(
            Finding.SHORT_GRIP,
            where,
            group=group.name,
            share=percent(share, 2),
            ratio=f"{facts.stiffness.grip / facts.thread.diameter:.2g}",
        )


_PLAIN_RULE = {"aluminium": PLAIN_ALUMINIUM, "iron": PLAIN_IRON}


def _family(plan: Plan, facts: Facts) -> str:
    """What the internal thread is cut in; a nut without a named material matches its bolt."""
    into = facts.group.into
    return (
        material_of(plan, into.material).family if into is not None and into.material else "steel"
    )


def plain_rule(family: str, diameter: float) -> float:
    """Engaged length of the plain rule [mm]: 1 d in steel, 1.5 d in cast iron, 2 d in aluminium.

    >>> plain_rule("aluminium", 10.0)
    20.0
    """
    return diameter * _PLAIN_RULE.get(family, PLAIN_STEEL).value


def _teeth_findings(
    chosen: Chosen, teeth: Teeth | None, said: set[Finding], family: str
) -> Iterator[Found]:
    facts, into = chosen.facts, chosen.facts.group.into
    where, group = f"groups/{facts.group.id}", facts.group.name
    if into is None:
        return
    reach = into.reach or into.engaged
    if into.depth is not None and reach is not None and reach.base > into.depth.base:
        yield find(Finding.BOTTOMS, where, group=group, reach=str(reach), depth=str(into.depth))
    if teeth is None:
        return
    if teeth.engaged <= 0:
        yield find(Finding.NO_THREAD, where, group=group)
        return
    rule = plain_rule(family, facts.thread.diameter)
    # a nut is made to match its bolt, thin ones on purpose; a handful of turns is the least
    short = (
        teeth.turns < NUT_TURNS.value if into.kind == "nut" else teeth.engaged < rule * (1 - 1e-9)
    )
    if short:
        yield find(
            Finding.FEW_TURNS,
            where,
            group=group,
            turns=f"{teeth.turns:.3g}",
            material=into.material or "carbon steel",
            rule=f"{rule:.3g} mm ({rule / facts.thread.pitch:.3g} turns)",
        )
    if (
        into.kind == "tapped"
        and teeth.required > teeth.engaged
        and not said & {Finding.STRIPS, Finding.MAY_STRIP}
    ):
        yield find(
            Finding.STRIPS_FIRST,
            where,
            group=group,
            which=teeth.weaker,
            engaged=f"{teeth.engaged:.3g} mm",
            required=f"{teeth.required:.3g} mm",
            pitch=f"{facts.thread.pitch:g} mm",
        )


def share_of_yield(facts: Facts, band: PreloadBand) -> float:
    """Typical preload as a share of yield on the tensile stress area."""
    return band.typical / (facts.strength.yield_ * facts.thread.stress_area)


def compare_sizes(context: Context, bands: dict[str, PreloadBand]) -> Iterator[Found]:
    """Sizes that are tightened together compared by stress: one far from the others is a
    finding."""
    for stage in context.tighten_stages():
        if len(stage.groups) > 1:
            yield from _compare(
                [(context.facts[g], b) for g, b in bands.items() if g in stage.groups]
            )


def _compare(pairs: list[tuple[Facts, PreloadBand]]) -> Iterator[Found]:
    plain = [(f, share_of_yield(f, b)) for f, b in pairs]
    if len(plain) < 2:
        return
    middle = sorted(s for _, s in plain)[len(plain) // 2]
    low, high = min(plain, key=lambda x: x[1]), max(plain, key=lambda x: x[1])
    if high[1] / low[1] <= SIZES_APART.value:
        return
    odd, other = (high, low) if high[1] / middle >= middle / low[1] else (low, high)
    yield find(
        Finding.SIZES_OUT_OF_LINE,
        f"groups/{odd[0].group.id}",
        group=odd[0].group.name,
        share=percent(odd[1], 2),
        other=other[0].group.name,
        other_share=percent(other[1], 2),
    )
