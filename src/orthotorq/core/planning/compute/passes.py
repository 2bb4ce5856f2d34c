"""Tighten stages: orders and settings of every pass, and the findings about tools and passes."""
from __future__ import annotations

from itertools import pairwise

from ...documents.plan import Plan
from ...documents.result import PassOut, SettingOut
from ...documents.stages import HandPass, Order, Pass, TightenStage, TorquePass
from ...errors import Impossible
from ...tables.materials import drives
from .. import orders
from ..findings import Finding
from .collect import Collector, newton_metre
from .groups import Facts
from .settings import Chain, chain_of, setting_for

HAND_FORCE_MANY, HAND_FORCE_ANY, MANY_PULLS = 250.0, 400.0, 20


def order_of(group_id: str, count: int, order: Order) -> list[list[str]]:
    """Moves of a pass as lists of places that are tightened together."""
    if order.kind == "circle":
        plain = orders.circle_order(count)
    elif order.group > 1:
        plain = orders.grouped_cross_order(count, order.group)
    else:
        plain = orders.cross_order(count)
    begun = orders.turned(plain, order.start, order.sense, count)
    moves = orders.tool_moves(count, order.tools, begun) if order.tools > 1 else [[bolt] for bolt in begun]
    return [[f"{group_id}.{bolt}" for bolt in move] for move in moves]


def pass_name(one: Pass) -> str:
    """The pass in words when the plan gives it no name."""
    if one.name:
        return one.name
    if isinstance(one, HandPass):
        return "By hand"
    return f"Check at {one.percent:g} %" if one.check else f"{one.percent:g} %"


def _tool_findings(collector: Collector, where: str, stage: TightenStage, share: float, chain: Chain,
                   setting: SettingOut) -> None:
    name = chain.tool.name or chain.tool.kind
    value, (low, high) = setting.settable_Nm * 1e3, (r.base for r in chain.tool.range)
    words = {"stage": stage.title or stage.id, "setting": setting.text, "tool": name, "percent": f"{share:g}"}
    if value > high * (1 + 1e-9):
        collector.add(Finding.TOOL_OVER_RANGE, where, maximum=str(chain.tool.range[1]), **words)
    elif value < low * (1 - 1e-9):
        collector.add(Finding.TOOL_UNDER_RANGE, where, minimum=str(chain.tool.range[0]), **words)
    elif value < 0.2 * high * (1 - 1e-9):
        collector.add(Finding.TOOL_UNDER_20, where, minimum=newton_metre(0.2 * high), **words)
    if abs(setting.error) > 0.02:
        collector.add(Finding.TOOL_TOO_COARSE, where, settable=setting.text,
                      error=f"{setting.error * 100:+.1f}", **words)
    drive = chain.tool.drive
    if drive and value > drives()[drive]:
        collector.add(Finding.DRIVE_TOO_SMALL, where, stage=words["stage"], setting=setting.text, drive=drive,
                      limit=newton_metre(drives()[drive]))
    if setting.reaction_Nm is not None:
        arm = f", {setting.reaction_N:.0f} N at the arm" if setting.reaction_N is not None else ""
        collector.add(Finding.REACTION, where, stage=words["stage"],
                      reaction=newton_metre(setting.reaction_Nm * 1e3), arm=arm)


def _settings(plan: Plan, stage: TightenStage, one: TorquePass, torque: float, ceiling: float | None, where: str,
              collector: Collector) -> list[SettingOut]:
    out = []
    for name in stage.chains:
        chain = chain_of(plan, name)
        try:
            setting = setting_for(chain, torque, ceiling)
        except Impossible as error:
            collector.add(Finding.SETTING_IMPOSSIBLE, where, stage=stage.title or stage.id, percent=f"{one.percent:g}",
                          reason=str(error).rstrip("."))
            continue
        _tool_findings(collector, where, stage, one.percent, chain, setting)
        out.append(setting)
    return out


def passes_of(plan: Plan, index: int, stage: TightenStage, facts: dict[str, Facts], ceilings: dict[str, float | None],
              collector: Collector) -> list[PassOut]:
    """Every pass of a stage over each of its groups, in work order."""
    out: list[PassOut] = []
    where = f"stages/{index}"
    for number, one in enumerate(stage.passes):
        for group_id in stage.groups:
            fact = facts.get(group_id)
            if fact is None:
                continue
            count = fact.group.layout.count
            moves: list[list[str]] = []
            with collector.at("stages", index, "passes", number, "order"):
                moves = order_of(group_id, count, one.order)
            common = {"id": one.id, "name": pass_name(one), "group": group_id, "order_kind": one.order.kind,
                      "order": moves}
            if isinstance(one, HandPass):
                out.append(PassOut(**common, do="hand", percent=None, check=False, rounds_max=1, until="once",
                                   moved_above_deg=None, torque_Nm=None, settings=[]))
                continue
            torque = fact.torque * one.percent / 100
            ceiling = ceilings.get(group_id)
            if ceiling is not None:
                ceiling = None if ceiling < torque * (1 - 1e-9) else ceiling
            settings = _settings(plan, stage, one, torque, ceiling, where, collector)
            moved = one.rounds.moved_above.base if one.rounds else None
            out.append(PassOut(
                **common, do="torque", percent=one.percent, check=one.check,
                rounds_max=one.rounds.max if one.rounds else 1, until="none_moves" if one.rounds else "once",
                moved_above_deg=round(moved * 57.29577951308232, 4) if moved is not None else None,
                torque_Nm=torque / 1e3, settings=settings))
    _stage_findings(stage, out, where, collector)
    return out


def _stage_findings(stage: TightenStage, passes: list[PassOut], where: str, collector: Collector) -> None:
    torque_passes = [p for p in passes if p.do == "torque"]
    if torque_passes and not stage.chains:
        collector.add(Finding.NO_TOOL, where, stage=stage.title or stage.id)
    pulls: dict[str, list[float]] = {}
    for one in torque_passes:
        for setting in one.settings:
            if setting.hand_force_N is not None:
                pulls.setdefault(setting.chain, []).extend([setting.hand_force_N] * len(one.order))
    for forces in pulls.values():
        hard = [f for f in forces if f > HAND_FORCE_ANY]
        many = [f for f in forces if f > HAND_FORCE_MANY]
        if hard or len(many) > MANY_PULLS:
            limit = HAND_FORCE_ANY if hard else HAND_FORCE_MANY
            collector.add(Finding.HAND_FORCE, where, stage=stage.title or stage.id, force=f"{max(forces):.0f} N",
                          pulls=len(hard or many), limit=f"{limit:.0f} N")


def sequence_findings(plan: Plan, facts: dict[str, Facts], collector: Collector) -> None:
    """What the passes of one group over all install stages leave out or get wrong."""
    for group_id, fact in facts.items():
        seen: list[TorquePass] = []
        for stage in plan.stages:
            if isinstance(stage, TightenStage) and group_id in stage.groups and "install" in stage.in_:
                seen += [p for p in stage.passes if isinstance(p, TorquePass)]
        if not seen:
            continue
        where, name = f"groups/{group_id}", fact.group.name
        for before, after in pairwise(seen):
            if after.percent < before.percent:
                collector.add(Finding.PERCENT_FALLS, where, group=name, percent=f"{after.percent:g}",
                              before=f"{before.percent:g}")
        if seen[-1].percent < 100:
            collector.add(Finding.ENDS_BELOW_FULL, where, group=name, percent=f"{seen[-1].percent:g}")
        if fact.group.layout.count > 1 and not any(p.check for p in seen):
            collector.add(Finding.NO_CHECK_ROUND, where, group=name)
        if plan.joint_kind == "gasketed_cover" and seen[0].percent > 50:
            collector.add(Finding.NO_RISING_PASSES, where, group=name, percent=f"{seen[0].percent:g}")


