"""Figures that close a finding: found by putting them back through what a bolt sees, never by a
rule of three."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field, replace

from ....errors import Impossible
from ....forms.group import LossOut
from ....units import show
from ..inputs.figure_text import newton_metre
from ..inputs.target import Chosen
from .bolt_load import Pull, Seen, seen_of, turned_to
from .context import Context
from .limit import Bound
from .limit_check import OF_TORQUE, held

#: steps of the scale that are tried on the safe side of the exact figure before it is given up
_TRIES = 40


@dataclass(frozen=True, slots=True)
class World:
    """A group as far as its load goes: what would be seen under another figure is asked here, of
    the passes that decide."""

    context: Context
    chosen: Chosen
    pulls: list[Pull]
    losses: LossOut
    bounds: tuple[Bound, ...] = ()
    decisive: list[Pull] = field(default_factory=list)
    asked: dict[tuple[float | None, float | None, bool], Seen] = field(
        default_factory=dict, compare=False
    )

    def seen(
        self, torque: float | None = None, angle: float | None = None, exact: bool = False
    ) -> Seen:
        """What a bolt sees under the figure, or under another torque [N·mm] or angle [rad]. Raises
        Impossible."""
        key = (torque, angle, exact)
        if key not in self.asked:
            self.asked[key] = self._seen(torque, angle, exact)
        return self.asked[key]

    def _seen(self, torque: float | None, angle: float | None, exact: bool) -> Seen:
        chosen = replace(
            self.chosen,
            torque=self.chosen.torque if torque is None else torque,
            angle=self.chosen.angle if angle is None else angle,
        )
        pulls = self.pulls if torque is None and angle is None else self.decisive
        if angle is not None:
            pulls = turned_to(pulls, angle)
        if torque is not None:
            # a cap that is the figure goes with it
            pulls = [
                replace(p, cap=torque)
                if p.cap and abs(p.cap / self.chosen.torque - 1) < 1e-6
                else p.pressed(torque / self.chosen.torque)
                for p in pulls
            ]
        return seen_of(self.context, chosen, pulls, self.losses, exact)


@dataclass(frozen=True, slots=True)
class Remedy:
    """A figure that closes a finding: in words, with what else it would do, and as numbers for the
    one who takes it over."""

    words: str
    but: str = ""
    torque: float | None = None
    angle: float | None = None
    #: whether it is a pressure, of which the act knows nothing
    pressed: bool = False

    def sets(self, chosen: Chosen) -> dict[str, str]:
        """What the act `take_remedy` is given to take it over; nothing where it is no figure."""
        if self.pressed or (self.torque is None and self.angle is None):
            return {}
        torque = self.torque if self.torque is not None else chosen.torque
        out = {"group": chosen.facts.group.id, "torque": f"{torque / 1e3:.9g} N·m"}
        return out | (
            {"angle": f"{math.degrees(self.angle):.9g} deg"} if self.angle is not None else {}
        )


def remedy_for(world: World, bound: Bound, whole: bool) -> Remedy:
    """The figure nearest to the one taken under which a bound holds: at every end, or at typical
    friction."""
    return remedy(world, lambda seen: held(bound, seen).margin(whole), bound.upper, whole)


def remedy(world: World, margin: Callable[[Seen], float], upper: bool, whole: bool) -> Remedy:
    """The figure nearest to the one taken under which a margin is no longer negative; an angle
    where the figure has one.

    What it would break on the other side is said: at every end where `whole`, else at typical
    friction.
    """
    if world.chosen.angle and (angle := _angle(world, margin, upper)) is not None:
        return _with_but(
            world, Remedy(f"an angle of {show(math.degrees(angle), 3)}°", angle=angle), upper, whole
        )
    torque = _torque(world, margin, upper)
    pressures = [p.pressure for p in world.pulls if p.pressure is not None]
    pressed = world.seen().stretched and bool(pressures)
    if torque is None:
        what = "pressure" if pressed else "torque"
        return Remedy(
            f"a lower {what}" if upper else f"a higher {what}",
            " (with this friction, these tools and these losses none closes it)",
        )
    words = newton_metre(torque)
    if pressed:
        bar = max(pressures) * torque / world.chosen.torque * 10
        words = f"{math.floor(bar) if upper else math.ceil(bar)} bar"
    return _with_but(world, Remedy(words, torque=torque, pressed=pressed), upper, whole)


def _with_but(world: World, found: Remedy, upper: bool, whole: bool) -> Remedy:
    """What the figure would break on the other side."""
    seen = world.seen(found.torque, found.angle)
    against = [
        held(b, seen) for b in world.bounds if b.upper is not upper and b.code not in OF_TORQUE
    ]
    hard, soft = [h for h in against if not h.typical], [h for h in against if not h.whole]
    broken, load = (hard, "the typical load") if hard else (soft, "the far end of the scatter")
    if not broken or not (hard or whole):
        return found
    strictest = (min if broken[0].bound.upper else max)(broken, key=lambda h: h.bound.clamp)
    then = (
        f"{'leaves' if upper else 'takes'} {load} {'short of' if upper else 'past'} "
        f"“{strictest.bound.name}”"
    )
    cure = "other bolts or another need" if hard else "less scatter"
    return replace(found, but=f" (but that {then}: {cure}, not another torque)")


def _angle(world: World, margin: Callable[[Seen], float], upper: bool) -> float | None:
    """Whole degrees [rad] on the safe side, by putting them back; None where no angle does it."""
    degrees = math.degrees(world.chosen.angle)
    start = math.ceil(degrees) - 1 if upper else math.floor(degrees) + 1
    for candidate in range(start, 0, -1) if upper else range(start, 3 * start + 181):
        if margin(world.seen(angle=math.radians(candidate))) >= -1e-9:
            return math.radians(candidate)
    return None


def _torque(world: World, margin: Callable[[Seen], float], upper: bool) -> float | None:
    """A torque [N·mm] on a mark of the scale, or of three digits, on the safe side; verified by
    putting it back."""

    def off(torque: float, exact: bool = False) -> float:
        try:
            return margin(world.seen(torque, exact=exact))
        except Impossible:  # prevailing torque eats it: nothing is clamped
            return 1.0 if upper else -1.0

    exact = _crossing(lambda t: off(t, exact=True), world.chosen.torque)
    if exact is None:
        return None
    step = _step(world, exact)
    marks = exact / step
    mark = math.floor(marks + 1e-6) if upper else math.ceil(marks - 1e-6)
    for _ in range(_TRIES):
        if mark <= 0:
            return None
        if off(mark * step) >= -1e-9:
            return mark * step
        mark += -1 if upper else 1
    return None


def _step(world: World, torque: float) -> float:
    """The mark of the wrench where nothing stands between it and the bolt, else three digits."""
    chain = world.seen().setting.chain
    if (
        chain is not None
        and chain.tool.increment is not None
        and chain.adapter is None
        and not chain.multipliers
    ):
        return float(chain.tool.increment.base)
    return float(10 ** (math.floor(math.log10(torque)) - 2))


def _crossing(off: Callable[[float], float], torque: float) -> float | None:
    """The torque at which a margin is zero: loads are straight lines of the torque, so that secants
    end soon."""
    one, two = torque, torque * 1.02
    first, second = off(one), off(two)
    for _ in range(20):
        if abs(second - first) < 1e-15:
            # nothing changes here, as where losses take everything
            return _halved(off, torque)
        three = two - second * (two - one) / (second - first)
        if not 0 < three < 1e11:
            return _halved(off, torque)
        one, first, two, second = two, second, three, off(three)
        if abs(second) < 1e-10:
            return two
    return _halved(off, torque)


def _halved(off: Callable[[float], float], torque: float) -> float | None:
    """The same by halving, where a knee turns the secants away."""
    low, high = torque / 1e3, torque * 1e3
    if (off(low) < 0) == (off(high) < 0):
        return None
    rising = off(high) > off(low)
    for _ in range(80):
        middle = math.sqrt(low * high)
        if (off(middle) < 0) == rising:
            low = middle
        else:
            high = middle
    return high if rising else low
