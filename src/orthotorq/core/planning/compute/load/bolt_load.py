"""What one bolt of a group can see: the one place where friction, tools, angle, yield and losses
are put together.

`low`, `typical` and `high` are ends of the *load*: high, typical and low friction. An end is taken
the same all through one case: in the snug load, under what the angle adds, and in the load at which
the bolt yields. Every pass and every chain that may be used counts; limits and needs are held
against what is found here and nowhere else (limit_check.py).
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field, replace
from functools import reduce
from itertools import product

from ....errors import Impossible
from ....forms.group import LossOut
from ....forms.stage import PassOut, StageOut
from ....kinds.registry import PASS_KINDS
from ....mechanics.angle import preload_gain
from ....mechanics.window import Ends, PreloadBand, band_after_angle, preload_band
from ....thresholds import FULL, STIFFNESS_SCATTER
from ..inputs.target import Chosen
from ..inputs.wrench_settings import Chain, set_at_bolt
from .context import Context
from .losses import after_losses

_NOTHING = PreloadBand(0.0, 0.0, 0.0, 0.0, 0.0)


@dataclass(frozen=True, slots=True)
class Pull:
    """One pass over a group: its share of the figure with the chains it may be pulled with, the
    angle it turns at the low, typical and high end of its window [rad], the torque that caps it
    [N·mm], the load that stretching leaves and the one while pumped [N] with its pressure [MPa];
    `slack` takes everything away."""

    stage: str
    name: str
    variants: tuple[str, ...]
    percent: float | None = None
    chains: tuple[Chain, ...] = ()
    turn: Ends | None = None
    cap: float | None = None
    left: Ends | None = None
    pumped: Ends | None = None
    pressure: float | None = None
    slack: bool = False

    @property
    def work(self) -> tuple[object, ...]:
        """What it does to a bolt, wherever it stands."""
        acts = (self.percent, self.turn, self.cap, self.left, self.pumped, self.slack)
        return *acts, self.variants, self.chains

    def pressed(self, share: float) -> Pull:
        """The same at a share of its pressure."""
        if self.left is None or self.pumped is None or self.pressure is None:
            return self
        left, pumped = (Ends(*(share * f for f in e)) for e in (self.left, self.pumped))
        return replace(self, left=left, pumped=pumped, pressure=share * self.pressure)


@dataclass(frozen=True, slots=True)
class Setting:
    """What the last full pass really gives: torque at the bolt [N·mm] with its preferred chain, and
    that chain."""

    torque: float
    chain: Chain | None

    @property
    def accuracies(self) -> tuple[float, ...]:
        """Accuracies in series of the chain."""
        return self.chain.accuracies if self.chain else ()

    @property
    def low(self) -> float:
        """The least torque [N·mm] that it may really give."""
        return self.torque * (1 - sum(self.accuracies))

    @property
    def high(self) -> float:
        """The most torque [N·mm] that it may really give."""
        return self.torque * (1 + sum(self.accuracies))

    @property
    def most(self) -> dict[str, float]:
        """Torques [N·mm] at the bolt that wrench and drive can give."""
        return self.chain.most() if self.chain else {}


@dataclass(frozen=True, slots=True)
class Seen:
    """What one bolt can see [N].

    `band` is what it has at the end: low and typical of the figure, high the most that any pass
    leads to. `peak` is the most at each end of the load over all passes, `after` the figure less
    all losses, `passes` the load after each pass by (stage, pass), `yields` the load at which it
    yields at each end. `torques` are the least and the most that full and higher passes set at the
    bolt [N·mm], `figure_high` the high end of the figure itself, `low_by` and `high_by` the
    settings that give the ends, `most_percent` the share of the highest pass. `hot` is what is left
    at working temperature after losses, `hot_peak` the most there before them.
    """

    setting: Setting
    band: PreloadBand
    peak: Ends
    after: Ends
    yields: Ends
    torques: tuple[float, float]
    passes: dict[tuple[str, str], Ends] = field(default_factory=dict)
    figure_high: float = 0.0
    low_by: Setting | None = None
    high_by: Setting | None = None
    most_percent: float = FULL.value
    hot: Ends | None = None
    hot_peak: Ends | None = None
    stretched: bool = False

    @property
    def beyond_yield(self) -> bool:
        """Whether the bolt is past yield at typical friction, so that no load can be given."""
        return self.peak.typical >= self.yields.typical * (1 - 1e-9)


def pulls_of(context: Context, group: str, stages: Iterable[StageOut]) -> list[Pull]:
    """The passes of a group when it is fitted, in the order of the document."""
    out = []
    plans = {s.id: s for s in context.tighten_stages(group, "install")}
    for stage in stages:
        if "install" not in stage.occasions:
            continue
        own = {one.id: one.chains for one in context.passes.get(stage.id, [])}
        for one in (p for p in stage.passes if p.group == group):
            names = plans[stage.id].chains_of(group, own.get(one.id)) if stage.id in plans else []
            out.append(_pull(stage, one, tuple(context.chains[c] for c in names)))
    return out


def _pull(stage: StageOut, one: PassOut, chains: tuple[Chain, ...]) -> Pull:
    act = PASS_KINDS[one.do].acts(one)
    return Pull(
        stage.id,
        one.id,
        tuple(stage.variants),
        percent=act.percent,
        chains=chains if act.percent is not None else (),
        turn=Ends(*act.turn) if act.turn is not None else None,
        cap=act.cap,
        left=Ends(*act.left) if act.left is not None else None,
        pumped=Ends(*act.pumped) if act.pumped is not None else None,
        pressure=one.pressure_MPa,
        slack=act.slack,
    )


def turned_to(pulls: list[Pull], angle: float) -> list[Pull]:
    """The pulls with their last angle changed so that all together turn an angle [rad]; windows
    move along.

    Where nothing turns, the angle of the figure comes last: a figure is judged as it is meant.
    """
    places = [i for i, p in enumerate(pulls) if p.turn is not None]
    if not places:
        return [*pulls, Pull("", "", (), turn=Ends(angle, angle, angle))]
    more = angle - sum(p.turn.typical for p in pulls if p.turn is not None)
    last = pulls[places[-1]]
    assert last.turn is not None
    changed = replace(last, turn=Ends(*(max(0.0, t + more) for t in last.turn)))
    return [changed if i == places[-1] else p for i, p in enumerate(pulls)]


def is_stretched(pulls: Iterable[Pull]) -> bool:
    """Whether the load comes from stretching, and no torque acts on the bolt."""
    kept = [p for p in pulls if p.left is not None or (p.percent or 0.0) >= FULL.value]
    return bool(kept) and all(p.left is not None for p in kept)


def decisive(pulls: list[Pull]) -> list[Pull]:
    """The pulls that decide the most and the end: passes below the figure and a second pull alike
    add nothing."""
    full = any(p.percent is not None and p.percent >= FULL.value for p in pulls)
    out: list[Pull] = []
    since = 0
    for pull in pulls:
        if (
            pull.percent is not None
            and full
            and (pull.percent < FULL.value or any(o.work == pull.work for o in out[since:]))
        ):
            continue
        out.append(pull)
        if pull.slack:
            # what was slackened is tightened anew
            since = len(out)
    return out


def ways_of(pulls: list[Pull], context: Context) -> Iterator[list[Pull]]:
    """The passes of every way of doing it: one variant of each choice."""
    named = {v for p in pulls for v in p.variants}
    choices: dict[str, list[str]] = {}
    for variant in context.plan.variants:
        if variant.id in named:
            choices.setdefault(variant.choice or variant.id, []).append(variant.id)
    for taken in product(*choices.values()):
        yield [p for p in pulls if not p.variants or set(p.variants) & set(taken)]


def _ends_band(ends: Ends) -> PreloadBand:
    return PreloadBand(ends.typical, ends.low, ends.high, ends.low, ends.high)


def _each(first: PreloadBand, second: PreloadBand) -> PreloadBand:
    """The widest of two bands, the typical load of the first."""
    return PreloadBand(
        first.typical,
        min(first.low, second.low),
        max(first.high, second.high),
        min(first.low_rss, second.low_rss),
        max(first.high_rss, second.high_rss),
    )


def _at_most(first: PreloadBand, second: PreloadBand) -> PreloadBand:
    """A nut is not turned back by a wrench that clicks: the larger load at each end."""
    if second is _NOTHING:
        return first
    if first is _NOTHING:
        return second
    return PreloadBand(
        max(first.typical, second.typical),
        max(first.low, second.low),
        max(first.high, second.high),
        max(first.low_rss, second.low_rss),
        max(first.high_rss, second.high_rss),
    )


@dataclass(slots=True)
class _Walk:
    """One way through the passes: the load so far, what the figure gives, the most so far, torques
    set, loads by pass."""

    chosen: Chosen
    ceiling: float | None
    yields: Ends
    exact: bool
    load: PreloadBand = _NOTHING
    full: PreloadBand | None = None
    turned: bool = False
    setting: Setting | None = None
    low_by: Setting | None = None
    high_by: Setting | None = None
    high: float = 0.0
    peak: PreloadBand = _NOTHING
    torques: list[float] = field(default_factory=list)
    passes: dict[tuple[str, str], Ends] = field(default_factory=dict)

    def take(self, pull: Pull) -> None:
        """Go on by one pass."""
        if pull.percent is not None:
            self._torque(pull, pull.percent)
        elif pull.turn is not None:
            self._angle(pull.turn)
        elif pull.left is not None and pull.pumped is not None:
            self._stretch(pull.left, pull.pumped)
        elif pull.slack:
            self.load, self.turned = _NOTHING, False
        elif pull.cap is not None:
            most = self._band(pull.cap, ()).high
            self.load = replace(
                self.load, high=max(self.load.high, most), high_rss=max(self.load.high_rss, most)
            )
        self.peak = _at_most(self.peak, self.load)
        self.passes[pull.stage, pull.name] = Ends(self.load.low, self.load.typical, self.load.high)

    def _band(self, torque: float, accuracies: tuple[float, ...]) -> PreloadBand:
        """The band of a torque; nothing where the prevailing torque eats its low end."""
        prevailing = self.chosen.facts.joint.prevailing
        if torque * (1 - sum(accuracies)) <= prevailing:
            return _NOTHING
        return preload_band(torque, accuracies, self.chosen.facts.joint)

    def _torque(self, pull: Pull, percent: float) -> None:
        wanted = self.chosen.torque * percent / 100
        settings = list(_settings(pull.chains, wanted, self.ceiling, self.exact)) or [
            Setting(wanted, None)
        ]
        bands = [self._band(one.torque, one.accuracies) for one in settings]
        found = reduce(_each, bands)
        self.load = _at_most(self.load, found)
        top = bands.index(max(bands, key=lambda b: b.high))
        if self.high_by is None or bands[top].high > self.high:
            self.high, self.high_by = bands[top].high, settings[top]
        if percent >= FULL.value:
            # the last full pass says what is left: rounds above it come back to it, a last pass
            # above it does not
            self.torques += [s.torque for s in settings]
            if self.turned:
                # a check at the snug torque after the angle clicks and lowers nothing
                return
            self.full, self.setting = found, settings[0]
            self.low_by = settings[bands.index(min(bands, key=lambda b: b.low))]

    def _stretch(self, left: Ends, pumped: Ends) -> None:
        """The nut follows the stretched bolt by hand: what is left is what the tool's pressure
        leaves, and no torque is kept in the bolt."""
        found = _ends_band(left)
        self.load = _at_most(self.load, found)
        self.peak = _at_most(self.peak, _ends_band(pumped))
        self.full, self.setting = found, Setting(self.chosen.torque, None)
        self.low_by = self.low_by or self.setting

    def _angle(self, turn: Ends) -> None:
        facts, scatter = self.chosen.facts, STIFFNESS_SCATTER.value
        if facts.stiffness is None:
            return
        self.turned = True
        gain = Ends(
            *(preload_gain(facts.thread.pitch, angle, facts.stiffness.both) for angle in turn)
        )
        self.load = band_after_angle(self.load, gain, scatter, self.yields)
        if self.full is not None:
            self.full = band_after_angle(self.full, gain, scatter, self.yields)


def _settings(
    chains: tuple[Chain, ...], torque: float, ceiling: float | None, exact: bool
) -> Iterator[Setting]:
    """What each chain sets for a torque at the bolt [N·mm]; one whose scale cannot give it is left
    out."""
    for chain in chains:
        try:
            yield Setting(torque if exact else set_at_bolt(chain, torque, ceiling), chain)
        except Impossible:
            continue


def _walked(context: Context, chosen: Chosen, pulls: list[Pull], exact: bool) -> list[_Walk]:
    """Every way through the pulls, gone to its end."""
    ceiling, yields, walks = context.ceiling(chosen), chosen.facts.yields(), []
    for way in ways_of(pulls, context):
        walk = _Walk(chosen, ceiling, yields, exact)
        for pull in way:
            walk.take(pull)
        walks.append(walk)
    return walks


def seen_of(
    context: Context, chosen: Chosen, pulls: list[Pull], losses: LossOut, exact: bool = False
) -> Seen:
    """What one bolt can see under a figure; `exact` leaves the scales' rounding out.

    Raises Impossible where the prevailing torque eats the low end of the figure.
    """
    stretched = is_stretched(pulls)
    yields = chosen.facts.tension_yields() if stretched else chosen.facts.yields()
    walks = _walked(context, chosen, pulls, exact)
    set_by = [w for w in walks if w.full is not None]
    if set_by:
        setting, band = set_by[0].setting, set_by[0].full
        for other in set_by[1:]:
            band = _each(band, other.full) if band and other.full else band
    else:
        setting, band = Setting(chosen.torque, None), None
    assert setting is not None
    if band is None or band.low <= 0:
        band = chosen.band(setting.torque, setting.accuracies)
    peak = band
    for walk in walks:
        peak = _at_most(peak, walk.peak)
    torques = [t for w in walks for t in w.torques] or [setting.torque]
    after, hot = (
        Ends(*(after_losses(f, losses) for f in (band.low, band.typical, band.high))),
        context.hot.get(chosen.facts.group.id),
    )
    return Seen(
        setting,
        PreloadBand(
            band.typical,
            band.low,
            # what was pumped is let off again; what a wrench gave once, it may have left
            band.high if stretched else max(band.high, peak.high),
            band.low_rss,
            band.high_rss if stretched else max(band.high_rss, peak.high_rss),
        ),
        Ends(peak.low, peak.typical, peak.high),
        after,
        yields,
        (min(torques), max(torques)),
        {key: ends for w in reversed(walks) for key, ends in w.passes.items()},
        band.high,
        min((w.low_by for w in set_by if w.low_by), key=lambda s: s.low, default=setting),
        max(
            (w for w in walks if w.high_by),
            key=lambda w: w.high,
            default=_Walk(chosen, None, yields, exact),
        ).high_by
        or setting,
        max([FULL.value, *(p.percent for p in pulls if p.percent is not None)]),
        Ends(*(max(0.0, f - hot.lost(f)) for f in after)) if hot else None,
        Ends(*(max(0.0, f - hot.lost(f)) for f in (peak.low, peak.typical, peak.high)))
        if hot
        else None,
        stretched,
    )
