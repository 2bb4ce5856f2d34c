"""What a run was started with: occasion, variants, history, tools by serial with the settings
computed for them."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from ...forms.group import GroupOut
from ...forms.result import PositionOut, Result
from ...forms.setting import SettingOut
from ...forms.stage import PassOut, StageOut
from ...kinds.stage_kind import OCCASIONS
from ...kinds.stage_registry import STAGE_KINDS
from ...messages import Refusal
from ...planning.work_order import belongs, takes


@dataclass(frozen=True, slots=True)
class Bound:
    """A registered tool bound to a tool of the plan; `until` is its calibration as text, `state`
    how it stood when it was bound,
    in words."""

    tool: str
    serial: str
    name: str
    until: str | None
    expired: bool
    kept_state: str = ""

    @property
    def state(self) -> str:
        """How it stood, in one breath: a run of an older program kept only the day and whether it
        was good."""
        if self.kept_state:
            return self.kept_state
        if self.expired:
            return "out of calibration" if self.until else "no calibration on record"
        return f"calibrated until {self.until}" if self.until else "no calibration on record"


@dataclass(frozen=True, slots=True)
class Setup:
    """Choices of the start event; a run that says nothing is an install with nothing chosen."""

    occasion: str = "install"
    variants: tuple[str, ...] = ()
    history: str = "known"
    tools: tuple[Bound, ...] = ()
    settings: Mapping[str, list[SettingOut]] = field(default_factory=dict)
    makeshift: str = ""
    #: ids of the positions it is at; none for all of them
    positions: tuple[str, ...] = ()

    def at(self, result: Result) -> list[PositionOut]:
        """The positions of a plan that it is at, in their order."""
        return [p for p in result.positions if not self.positions or p.id in self.positions]

    def takes(self, stage: StageOut) -> bool:
        """Whether a stage is done in this run."""
        return takes(stage, self.occasion, self.variants)

    def has(self, variants: Sequence[str]) -> bool:
        """Whether something that is limited to variants, where it is, belongs to this run."""
        return belongs(variants, self.variants)

    def of_stage(self, stage: StageOut) -> StageOut:
        """A stage with what its variants leave of it."""
        limited = [*(p.variants for p in stage.passes), *(i.variants for i in stage.items)]
        if all(self.has(variants) for variants in limited):
            return stage
        return stage.model_copy(
            update={
                "passes": [p for p in stage.passes if self.has(p.variants)],
                "items": [i for i in stage.items if self.has(i.variants)],
            }
        )

    def settings_of(self, stage: StageOut, one: PassOut) -> list[SettingOut]:
        """Settings of a pass: those of the bound tools, else those of the plan."""
        return self.settings.get(f"{stage.id}/{one.id}/{one.group}", one.settings)


def groups_of(result: Result, variants: Collection[str]) -> list[GroupOut]:
    """The groups that belong to some variants: those of all ways, and of these."""
    return [g for g in result.groups if belongs(g.variants, variants)]


def in_hand(setting: SettingOut) -> tuple[str, ...]:
    """What is in the fitter's hand: the wrench, its setting and what stands between it and the
    bolt."""
    return setting.tool, setting.text, setting.chain


def to_unload(result: Result, setup: Setup) -> list[str]:
    """Wrenches with a spring that is set: turned back to the lowest mark after the work."""
    settings = [
        s
        for stage in result.stages
        if setup.takes(stage)
        for one in setup.of_stage(stage).passes
        for s in setup.settings_of(stage, one)
    ]
    return list(dict.fromkeys(s.tool for s in settings if s.scale is not None))


def setup_of(payload: Mapping[str, Any]) -> Setup:
    """The setup kept in a start event."""
    settings = {
        key: [SettingOut.model_validate(x) for x in value]
        for key, value in dict(payload.get("bound_settings") or {}).items()
    }
    tools = tuple(
        Bound(
            t["tool"],
            t["serial"],
            t["name"],
            t.get("until"),
            bool(t.get("expired")),
            str(t.get("state") or ""),
        )
        for t in payload.get("tools") or []
    )
    return Setup(
        str(payload.get("occasion", "install")),
        tuple(payload.get("variants") or ()),
        str(payload.get("history", "known")),
        tools,
        settings,
        str(payload.get("makeshift") or ""),
        tuple(payload.get("positions") or ()),
    )


def changed(setup: Setup, payload: Mapping[str, Any]) -> Setup:
    """The setup after a wrench was changed; the new one stands last."""
    new = setup_of(payload)
    return replace(
        setup,
        tools=(*(t for t in setup.tools if t.tool not in {n.tool for n in new.tools}), *new.tools),
        settings={**setup.settings, **new.settings},
    )


def occasions_of(result: Result) -> list[str]:
    """Occasions on which a plan does more than make safe, in the order of the work."""
    return [
        o
        for o in OCCASIONS
        if any(o in s.occasions and not STAGE_KINDS[s.kind].makes_safe for s in result.stages)
    ]


def tools_needed(result: Result, occasion: str, variants: Collection[str]) -> list[str]:
    """Ids of the plan's tools that an occasion with these variants needs."""
    setup = Setup(occasion=occasion, variants=tuple(variants))
    names = {
        x.tool
        for s in result.stages
        if setup.takes(s)
        for one in setup.of_stage(s).passes
        for x in one.settings
    }
    return [t.id for t in result.tools if t.name in names]


def choices_of(result: Result, occasion: str) -> list[str]:
    """The choices that make a difference on an occasion, by name."""
    named = {
        v
        for s in result.stages
        if occasion in s.occasions
        for v in (
            *s.variants,
            *(v for p in s.passes for v in p.variants),
            *(v for i in s.items for v in i.variants),
        )
    }
    return [
        c
        for c in dict.fromkeys(v.choice for v in result.variants)
        if any(v.id in named for v in result.variants if v.choice == c)
    ]


def choices_errors(
    result: Result, occasion: str, variants: list[str]
) -> tuple[Refusal, dict[str, object]] | None:
    """Why these choices cannot start a run of a plan, or None: every choice that matters then has
    exactly one of its variants."""
    known = {v.id: v for v in result.variants}
    if occasion not in occasions_of(result):
        return Refusal.NO_WORK_THEN, {"occasion": occasion}
    if unknown := [v for v in variants if v not in known]:
        return Refusal.NO_SUCH_VARIANT, {"variant": unknown[0]}
    matter = choices_of(result, occasion)
    for choice in dict.fromkeys(v.choice for v in result.variants):
        named = [v for v in result.variants if v.choice == choice]
        taken = [v for v in named if v.id in variants]
        if len(taken) > 1 or (not taken and choice in matter):
            return Refusal.CHOOSE_ONE, {"names": " or ".join(v.name for v in named)}
    return None
