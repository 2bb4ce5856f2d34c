"""What a run was started with: occasion, variants, history, tools by serial with the settings computed for them."""
from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from ..documents.result import PassOut, Result, SettingOut, StageOut


@dataclass(frozen=True, slots=True)
class Bound:
    """A registered tool bound to a tool of the plan; `until` is its calibration as text."""

    tool: str
    serial: str
    name: str
    until: str | None
    expired: bool


@dataclass(frozen=True, slots=True)
class Setup:
    """Choices of the start event; a run that says nothing is an install with nothing chosen."""

    occasion: str = "install"
    variants: tuple[str, ...] = ()
    history: str = "known"
    tools: tuple[Bound, ...] = ()
    settings: Mapping[str, list[SettingOut]] = field(default_factory=dict)

    def takes(self, stage: StageOut) -> bool:
        """Whether a stage is done in this run."""
        return self.occasion in stage.occasions and (not stage.variants or bool(set(stage.variants) & set(self.variants)))

    def settings_of(self, stage: StageOut, one: PassOut) -> list[SettingOut]:
        """Settings of a pass: those of the bound tools, else those of the plan."""
        return self.settings.get(f"{stage.id}/{one.id}/{one.group}", one.settings)


def in_hand(setting: SettingOut) -> tuple[str, ...]:
    """What is in the fitter's hand: the wrench, its setting and what stands between it and the bolt."""
    return setting.tool, setting.text, setting.chain


def to_unload(result: Result, setup: Setup) -> list[str]:
    """Wrenches with a spring that is set: turned back to the lowest mark after the work."""
    settings = [s for stage in result.stages if setup.takes(stage) for one in stage.passes for s in setup.settings_of(stage, one)]
    return list(dict.fromkeys(s.tool for s in settings if s.scale is not None))


def setup_of(payload: Mapping[str, Any]) -> Setup:
    """The setup kept in a start event."""
    settings = {key: [SettingOut.model_validate(x) for x in value]
                for key, value in dict(payload.get("bound_settings") or {}).items()}
    tools = tuple(Bound(t["tool"], t["serial"], t["name"], t.get("until"), bool(t.get("expired")))
                  for t in payload.get("tools") or [])
    return Setup(str(payload.get("occasion", "install")), tuple(payload.get("variants") or ()),
                 str(payload.get("history", "known")), tools, settings)


def choices_errors(result: Result, occasion: str, variants: list[str]) -> str | None:
    """Why these choices cannot start a run of a plan, or None: every choice has exactly one of its variants."""
    known = {v.id: v for v in result.variants}
    if not any(occasion in s.occasions and s.kind != "prepare" for s in result.stages):
        return f"This plan has no work for the occasion “{occasion}”: at the most it makes safe."
    if unknown := [v for v in variants if v not in known]:
        return f"“{unknown[0]}” is not a variant of this plan."
    for choice in dict.fromkeys(v.choice for v in result.variants):
        named = [v for v in result.variants if v.choice == choice]
        taken = [v for v in named if v.id in variants]
        if len(taken) != 1:
            return f"Choose one: {' or '.join(v.name for v in named)}."
    return None
