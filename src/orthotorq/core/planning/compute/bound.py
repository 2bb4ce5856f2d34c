"""Settings for the tools bound by serial at the start of a run: order, targets and limits stay those of the stored result."""
from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from ...documents.plan import Plan
from ...documents.result import GroupOut, PassOut, Result, SettingOut
from ...documents.tooling import Tool
from ...errors import Impossible
from ...messages import Message
from .settings import Chain, chain_of, setting_for


def _ceiling(group: GroupOut | None) -> float | None:
    """Torque at the bolt [N·mm] at which the typical preload reaches the chosen share of yield."""
    if group is None or group.preload is None or group.target is None:
        return None
    share = next((x.clamp_N for x in group.limits if x.code == "share"), None)
    return group.target.set_torque_Nm * 1e3 * share / group.preload.typical_N if share else None


def _setting(chain: Chain, serial: str, one: PassOut, ceiling: float | None) -> SettingOut:
    torque = (one.torque_Nm or 0.0) * 1e3
    top = ceiling if ceiling is not None and ceiling >= torque * (1 - 1e-9) else None
    found = setting_for(chain, torque, top)
    low, high = (r.base / 1e3 for r in chain.tool.range)
    preset = chain.tool.kind == "preset driver"
    fits = (abs(found.exact_Nm - high) <= 0.01 * high) if preset else low * (1 - 1e-9) <= found.settable_Nm <= high * (1 + 1e-9)
    if not fits:
        raise Impossible(Message.TOOL_DOES_NOT_FIT, (chain.tool_id,), serial=serial, setting=found.text, step=one.name,
                         low=f"{low:g}", high=f"{high:g}")
    return found


def bound_settings(plan: Plan, result: Result, tools: Mapping[str, tuple[str, Tool]]) -> dict[str, list[SettingOut]]:
    """Settings by `stage/pass/group` for tools by plan id as (serial, tool).

    Raises Impossible when a bound tool cannot be set to what a pass asks for.
    """
    groups = {g.id: g for g in result.groups}
    out: dict[str, list[SettingOut]] = {}
    for stage in result.stages:
        for one in stage.passes:
            if not one.settings or not any(chain_of(plan, s.chain).tool_id in tools for s in one.settings):
                continue
            settings = []
            for old in one.settings:
                chain = chain_of(plan, old.chain)
                if chain.tool_id not in tools:
                    settings.append(old)
                    continue
                serial, tool = tools[chain.tool_id]
                bound = replace(chain, tool=tool)
                settings.append(_setting(bound, serial, one, None if one.do == "gap_round" else _ceiling(groups.get(one.group))))
            out[f"{stage.id}/{one.id}/{one.group}"] = settings
    return out
