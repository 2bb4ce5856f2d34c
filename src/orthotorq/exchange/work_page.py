"""The one page of a sheet that is worked from: every pass with its setting, a box for each bolt,
boxes for what is measured."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ..core.forms.group import GroupOut
from ..core.forms.result import Result
from ..core.forms.setting import SettingOut
from ..core.forms.stage import PassOut, StageOut
from ..core.running import first_variants
from ..core.units import show
from .pdf import lasting

#: a torque at the bolt so far from the setting is written beside it
_OTHER = 0.01
#: percent of the figure
FULL = 100


@dataclass(frozen=True, slots=True)
class Row:
    """One pass over one group: setting in both units, as the scale reads, at the nut where a
    multiplier stands between; `boxes` are the bolts in order."""

    stage: str
    name: str
    set: str
    second: str
    reads: str
    at_nut: str
    boxes: list[str]
    condition: str = ""
    way: str = ""


@dataclass(frozen=True, slots=True)
class Measured:
    """Something that is measured or read: its words, its limits, for which bolts."""

    what: str
    limit: str
    bolts: list[str]


@dataclass(frozen=True, slots=True)
class Hand:
    """What the hand does for the full torque of a group: the setting first, what stands between
    wrench and bolt, where it reacts, the force; then what the bolt gets, as it was entered and
    as the wrench can be set."""

    group: str
    set: str
    between: list[str]
    bolt: str


@dataclass(frozen=True, slots=True)
class WorkPage:
    """What the hand does by group, rows of an occasion, what is measured, the positions at which
    each row is done again."""

    hands: dict[str, Hand]
    rows: list[Row]
    measured: list[Measured]
    positions: list[str]


def _setting(one: PassOut) -> SettingOut | None:
    return one.settings[0] if one.settings else None


def _turn(one: PassOut) -> str:
    """What a pass turns by, or waits for, where it sets nothing."""
    if one.turn_deg is not None:
        window = f" ({one.window_deg[0]:g} to {one.window_deg[1]:g}°)" if one.window_deg else ""
        return f"{one.turn_deg:g}°{window}"
    return lasting(one.wait_s) if one.wait_s is not None else "by hand" if one.do == "hand" else ""


def _row(stage: StageOut, one: PassOut, labels: dict[str, str], way: str) -> Row:
    found = _setting(one)
    scale = found.scale if found else None
    # beside a multiplier, or an adapter that lengthens the wrench, the bolt gets another torque
    # than the scale says
    geared = found is not None and abs(found.bolt_torque_Nm / found.settable_Nm - 1) > _OTHER
    return Row(
        stage.title,
        one.name,
        (("cap " if one.until == "gap" else "") + found.text) if found else _turn(one),
        found.second if found else "",
        f"{scale.main} + {scale.collar}" if scale else "",
        f"{found.bolt_torque_Nm:.0f} N·m" if found and geared else "",
        [" + ".join(labels[place] for place in move) for move in one.order if move != ["-"]],
        ", ".join(one.condition),
        way,
    )


def _measured(stage: StageOut, labels: dict[str, str]) -> Iterator[Measured]:
    if stage.sets_in_s:
        # a clock that runs: when it began is written down
        yield Measured(f"{stage.title}: put on at", f"sets in {lasting(stage.sets_in_s)}", [])
    for item in stage.items:
        if item.limits:
            bolts = [labels[place] for place in item.places if place in labels]
            # a reading that is compared has its earlier one beside it
            beside = ["before", "after"] if item.change_from and not bolts else bolts
            yield Measured(item.text, item.limit_text or item.relation_text, beside)


def _between(found: SettingOut) -> Iterator[str]:
    for link in found.links:
        if link.kind == "multiplier":
            rests = f", reaction {found.reaction_Nm:.0f} N·m" if found.reaction_Nm else ""
            yield f"multiplier {link.text}{rests}{f' on {link.rests_on}' if link.rests_on else ''}"
        elif link.kind == "adapter":
            yield (
                f"offset adapter {link.text}, "
                f"{f'at {link.angle_deg:g}°' if link.angle_deg else 'in line'}"
            )
    if found.hand_force_N:
        yield f"about {round(found.hand_force_N / 5) * 5:g} N at the grip"


def _at_bolt(group: GroupOut) -> str:
    """The torque at the bolt as it was entered, and the one beside it that the wrench can be set
    to."""
    target = group.target
    assert target is not None
    entered, given = show(target.torque_Nm, 4), show(target.set_torque_Nm, 4)
    angle = f" + {target.angle_deg:g}°" if target.angle_deg else ""
    rounded = f"; {given} N·m as the wrench can be set" if given != entered else ""
    return f"{entered} N·m{angle} ({target.why}{rounded})"


def _hands(result: Result, stages: list[StageOut]) -> Iterator[Hand]:
    for group in result.groups:
        passes = [
            one
            for stage in stages
            for one in stage.passes
            if one.group == group.id and one.settings
        ]
        if group.target is None or not passes:
            continue
        # the one that gives the figure: the last at 100 %, else the highest
        full = [one for one in passes if one.percent == FULL] or [
            max(passes, key=lambda one: one.settings[0].bolt_torque_Nm)
        ]
        found = full[-1].settings[0]
        yield Hand(
            group.id, f"Set {found.tool} to {found.text}", list(_between(found)), _at_bolt(group)
        )


def work_page(result: Result, occasion: str = "install") -> WorkPage:
    """What is ticked and written down at the machine when a joint is fitted."""
    labels = {p.id: p.label for g in result.groups for p in g.places}
    ways = set(first_variants(result))
    stages = [
        s
        for s in result.stages
        if occasion in s.occasions
        and not s.only_again
        and (not s.variants or ways & set(s.variants))
    ]
    # bolts that are others in another way have their own rows, which say in which
    names = {way.id: way.name for way in result.variants}
    rows = [
        _row(stage, one, labels, ", ".join(names[way] for way in one.variants))
        for stage in stages
        for one in stage.passes
    ]
    hands = {one.group: one for one in _hands(result, stages)}
    return WorkPage(
        hands,
        rows,
        [m for stage in stages for m in _measured(stage, labels)],
        [p.name for p in result.positions],
    )
