"""Settings for the tools bound by serial at the start of a run: order, targets and limits stay
those of the stored result."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from ....documents.plan import Plan
from ....documents.tooling import Tool
from ....errors import Impossible
from ....forms.errors import FieldErrors
from ....forms.result import Result
from ....forms.setting import SettingOut
from ....forms.stage import PassOut
from ....messages import Message
from ....thresholds import PRESET_SAME
from ..inputs.wrench_settings import Chain, chain_of, setting_of
from .context import context_of


@dataclass(frozen=True, slots=True)
class BoundTool:
    """A registered wrench bound to a tool of the plan; `corrected` is the error that it is used
    with, as a share."""

    serial: str
    spec: Tool
    corrected: float = 0.0


def _checked(chain: Chain, serial: str, one: PassOut, found: SettingOut) -> SettingOut:
    """The setting, where the bound tool reaches it. Raises Impossible."""
    low, high = (r.base / 1e3 for r in chain.tool.range)
    preset = chain.tool.kind == "preset driver"
    fits = (
        abs(found.exact_Nm - high) <= PRESET_SAME.value * high
        if preset
        else (low * (1 - 1e-9) <= found.settable_Nm <= high * (1 + 1e-9))
    )
    if not fits:
        raise Impossible(
            Message.TOOL_DOES_NOT_FIT,
            (chain.tool_id,),
            serial=serial,
            setting=found.text,
            step=one.name,
            low=f"{low:g}",
            high=f"{high:g}",
        )
    return found


def with_ceilings(plan: Plan, result: Result) -> Result:
    """A result stored before passes kept what rounding may not pass, with that written in."""
    if any(p.ceiling_Nm is not None for s in result.stages for p in s.passes):
        return result
    errors = FieldErrors()
    context = context_of(plan, errors)
    ceilings = {name: context.ceiling(chosen) for name, chosen in context.chosen.items()}
    out = result.model_copy(deep=True)
    for stage in out.stages:
        for one in stage.passes:
            top = (
                one.torque_Nm * 1e3
                if one.percent is None and one.torque_Nm is not None
                else ceilings.get(one.group)
            )
            one.ceiling_Nm = None if top is None else top / 1e3
    return out


def bound_settings(
    plan: Plan, result: Result, tools: Mapping[str, BoundTool]
) -> dict[str, list[SettingOut]]:
    """Settings by `stage/pass/group` for tools by plan id.

    Raises Impossible when a bound tool cannot be set to what a pass asks for.
    """
    out: dict[str, list[SettingOut]] = {}
    chains = {name: chain_of(plan, name) for name in plan.chains}
    for stage in with_ceilings(plan, result).stages:
        for one in stage.passes:
            if (
                not any(chains[s.chain].tool_id in tools for s in one.settings)
                or one.torque_Nm is None
            ):
                continue
            settings = []
            for old in one.settings:
                chain = chains[old.chain]
                if chain.tool_id not in tools:
                    settings.append(old)
                    continue
                tool = tools[chain.tool_id]
                bound = replace(chain, tool=tool.spec, corrected=tool.corrected)
                settings.append(
                    _checked(
                        bound, tool.serial, one, setting_of(bound, one.torque_Nm, one.ceiling_Nm)
                    )
                )
            out[f"{stage.id}/{one.id}/{one.group}"] = settings
    return out
