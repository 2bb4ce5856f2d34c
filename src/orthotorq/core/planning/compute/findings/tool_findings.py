"""Findings about tools: range, scale, drive, reaction, hand force; one stage after the other, as
its passes set them."""

from __future__ import annotations

from collections.abc import Iterator

from ....errors import Impossible
from ....forms.setting import SettingOut
from ....forms.stage import PassOut, StageOut
from ....kinds.registry import PASS_KINDS
from ....kinds.stages.tighten import TightenStage
from ....tables.materials import drives
from ....thresholds import (
    HAND_FORCE_ANY,
    HAND_FORCE_MANY,
    MANY_PULLS,
    PRESET_SAME,
    REACTION_MUCH,
    TOO_COARSE,
    TOOL_FROM,
)
from ....units import show
from ...findings import Finding
from ..inputs.figure_text import newton_metre
from ..inputs.finding_builder import Found, find
from ..inputs.wrench_settings import Chain, setting_of
from ..load.context import Context


def tool_findings(context: Context, stages: list[StageOut]) -> Iterator[Found]:
    """Every finding about tools, over all stages that tighten."""
    for stage, out in zip(context.plan.stages, stages, strict=True):
        if isinstance(stage, TightenStage):
            yield from _stage(context, stage, out)


def _stage(context: Context, stage: TightenStage, out: StageOut) -> Iterator[Found]:
    where = f"stages/{stage.id}"
    own = {p.id: p.chains for p in context.passes[stage.id]}
    for one in out.passes:
        if one.torque_Nm is None:
            continue
        share, given = (
            one.percent if one.percent is not None else 100.0,
            {s.chain: s for s in one.settings},
        )
        for name in stage.chains_of(one.group, own[one.id]):
            chain = context.chains[name]
            if name in given:
                yield from _one(where, stage.words, share, chain, given[name])
            else:
                yield from _impossible(where, stage.words, share, chain, one)
    chains = {
        name for p in out.passes if p.settings for name in stage.chains_of(p.group, own[p.id])
    }
    used = [m for name in sorted(chains) for m in context.chains[name].multipliers]
    for bare in {m.multiplier: m for m in used if m.efficiency is None}.values():
        yield find(
            Finding.EFFICIENCY_TAKEN,
            where,
            stage=stage.words,
            ratio=f"{bare.multiplier:g}",
            low=f"{bare.band[0] * 100:g}",
            high=f"{bare.band[2] * 100:g}",
        )
    torque = [p for p in out.passes if PASS_KINDS[p.do].wrenched]
    if any(not p.settings and not stage.chains_of(p.group, own[p.id]) for p in torque):
        yield find(Finding.NO_TOOL, where, stage=stage.words)
    yield from _reactions(where, stage.words, torque)
    yield from _forces(where, stage, torque)


def _reactions(where: str, stage: str, passes: list[PassOut]) -> Iterator[Found]:
    """The most that the housings react with, once for each chain."""
    most: dict[str, SettingOut] = {}
    for setting in (s for p in passes for s in p.settings if s.reaction_Nm is not None):
        if (setting.reaction_Nm or 0.0) > (
            most[setting.chain].reaction_Nm or 0.0 if setting.chain in most else 0.0
        ):
            most[setting.chain] = setting
    for setting in most.values():
        arm = f", {setting.reaction_N:.0f} N at the arm" if setting.reaction_N is not None else ""
        yield find(
            Finding.REACTION,
            where,
            stage=stage,
            reaction=newton_metre((setting.reaction_Nm or 0.0) * 1e3),
            arm=arm,
        )


def _impossible(
    where: str, stage: str, share: float, chain: Chain, one: PassOut
) -> Iterator[Found]:
    try:
        setting_of(chain, one.torque_Nm or 0.0, one.ceiling_Nm)
    except Impossible as error:
        yield find(
            Finding.SETTING_IMPOSSIBLE,
            where,
            stage=stage,
            percent=f"{share:g}",
            reason=str(error).rstrip("."),
        )


def _one(
    where: str, stage: str, share: float, chain: Chain, setting: SettingOut
) -> Iterator[Found]:
    name = chain.tool.name or chain.tool.kind
    value, (low, high) = setting.settable_Nm * 1e3, (r.base for r in chain.tool.range)
    words = {"stage": stage, "setting": setting.text, "tool": name, "percent": f"{share:g}"}
    if chain.tool.kind == "preset driver":
        same = PRESET_SAME.value
        if not low * (1 - same) <= setting.exact_Nm * 1e3 <= high * (1 + same):
            yield find(
                Finding.PRESET_OFF,
                where,
                **{
                    **words,
                    "preset": str(chain.tool.range[1]),
                    "setting": newton_metre(setting.exact_Nm * 1e3),
                },
            )
    elif value > high * (1 + 1e-9):
        yield find(Finding.TOOL_OVER_RANGE, where, maximum=str(chain.tool.range[1]), **words)
    elif value < low * (1 - 1e-9):
        yield find(Finding.TOOL_UNDER_RANGE, where, minimum=str(chain.tool.range[0]), **words)
    elif value < TOOL_FROM.value * high * (1 - 1e-9):
        yield find(
            Finding.TOOL_UNDER_20, where, minimum=newton_metre(TOOL_FROM.value * high), **words
        )
    if abs(setting.error) > TOO_COARSE.value:
        yield find(
            Finding.TOOL_TOO_COARSE,
            where,
            settable=setting.text,
            error=f"{setting.error * 100:+.1f}",
            **words,
        )
    drive = chain.tool.drive
    if drive and value > drives()[drive]:
        yield find(
            Finding.DRIVE_TOO_SMALL,
            where,
            stage=stage,
            setting=setting.text,
            drive=drive,
            limit=newton_metre(drives()[drive]),
        )


def _forces(where: str, stage: TightenStage, passes: list[PassOut]) -> Iterator[Found]:
    """Hand and reaction, where the joint is fitted: what holds then holds for the recheck too."""
    if "install" not in stage.in_:
        return
    reaction = max((s.reaction_N or 0.0 for p in passes for s in p.settings), default=0.0)
    if reaction > REACTION_MUCH.value:
        yield find(Finding.REACTION_HIGH, where, stage=stage.words, force=f"{show(reaction, 3)} N")
    pulls: dict[str, list[float]] = {}
    for one in passes:
        for setting in one.settings:
            if setting.hand_force_N is not None:
                pulls.setdefault(setting.chain, []).extend([setting.hand_force_N] * len(one.order))
    for forces in pulls.values():
        hard = [f for f in forces if f > HAND_FORCE_ANY.value]
        many = [f for f in forces if f > HAND_FORCE_MANY.value]
        if hard or len(many) > MANY_PULLS.value:
            limit = HAND_FORCE_ANY if hard else HAND_FORCE_MANY
            yield find(
                Finding.HAND_FORCE,
                where,
                stage=stage.words,
                force=f"{max(forces):.0f} N",
                pulls=len(hard or many),
                limit=f"{limit.value:.0f} N",
            )
