"""Tighten stages: orders and settings of every pass, and the findings about tools and passes."""
from __future__ import annotations

import math
from functools import lru_cache
from typing import Any

from ...documents.joint import Group
from ...documents.layouts import Circle, Grid, Layout, Row
from ...documents.passes import AnglePass, BackOffPass, GapPass, Order, Pass, TorquePass, WaitPass
from ...documents.places import points_of
from ...documents.plan import Plan
from ...documents.result import PassOut, SettingOut
from ...documents.stages import LoosenStage, TightenStage
from ...errors import Impossible
from ...messages import Message
from ...tables.materials import drives
from ...units import show
from .. import layouts, orders
from ..findings import Finding
from .chosen import Chosen
from .collect import Collector, newton_metre
from .facts import Facts
from .settings import Chain, chain_of, setting_for

HAND_FORCE_MANY, HAND_FORCE_ANY, MANY_PULLS, REACTION_MUCH = 250.0, 400.0, 20, 2500.0


@lru_cache(maxsize=1024)
def _circle(count: int, kind: str, start: int, sense: str, group: int, tools: int) -> tuple[tuple[int, ...], ...]:
    if kind == "circle":
        plain = orders.circle_order(count)
    elif group > 1:
        plain = orders.grouped_cross_order(count, group)
    else:
        plain = orders.cross_order(count)
    begun = orders.turned(plain, start, sense, count)
    moves = orders.tool_moves(count, tools, begun) if tools > 1 else [[bolt] for bolt in begun]
    return tuple(tuple(move) for move in moves)


def _plain_order(layout: Layout, order: Order) -> list[int]:
    """Place numbers of a layout that is no circle, one after the other."""
    if order.kind == "listed":
        places = order.places or []
        if sorted(places) != list(range(1, layout.count + 1)):
            raise Impossible(Message.ORDER_IMPOSSIBLE, ("places",), what="A listed order",
                             expected=f"every place from 1 to {layout.count} once")
        return list(places)
    if order.kind == "circle":
        return orders.turned(orders.circle_order(layout.count), order.start, order.sense, layout.count)
    if order.start != 1 or order.sense != "cw" or order.group != 1:
        raise Impossible(Message.ORDER_IMPOSSIBLE, ("start",), what="Start, sense and groups belong to a circle",
                         expected="an order from the middle out without them")
    if isinstance(layout, Row):
        return layouts.row_order(layout.count)
    if isinstance(layout, Grid) and not layout.perimeter:
        return layouts.grid_order(layout.rows, layout.columns)
    return list(layouts.centre_out_order(tuple((round(x, 6), round(y, 6)) for x, y in points_of(layout))))


@lru_cache(maxsize=64)
def _named(group: str, moves: tuple[tuple[int, ...], ...]) -> tuple[tuple[str, ...], ...]:
    """Moves as ids of places; the passes of a stage mostly share one order."""
    return tuple(tuple(f"{group}.{bolt}" for bolt in move) for move in moves)


def order_of(group: Group, order: Order) -> list[list[str]]:
    """Moves of a pass as lists of places that are tightened together. Raises Impossible for an order that cannot be."""
    layout = group.layout
    if isinstance(layout, Circle) and order.kind in ("cross", "star", "circle"):
        moves = _circle(layout.count, order.kind, order.start, order.sense, order.group, order.tools)
        return [list(move) for move in _named(group.id, moves)]
    plain = _plain_order(layout, order)
    if layout.count % order.tools:
        raise Impossible(Message.ORDER_IMPOSSIBLE, ("tools",), what=f"{order.tools} tools on {layout.count} bolts",
                         expected="a number of tools that divides the number of bolts")
    return [[f"{group.id}.{b}" for b in plain[i : i + order.tools]] for i in range(0, len(plain), order.tools)]


def turn_words(turn: str) -> str:
    """A turn as it is said: degrees by their sign, flats and turns as they were written."""
    number, _, unit = turn.partition(" ")
    if unit == "deg":
        return f"{number}°"
    return turn if number == "1" or unit.endswith("s") else f"{turn}s"


_NAMES = {"hand": "By hand", "snug": "Snug", "feel": "By feel", "angle": "Angle", "back_off": "Back off",
          "gap_round": "Even draw", "wait": "Let it settle"}


def pass_name(one: Pass) -> str:
    """The pass in words when the plan gives it no name."""
    if one.name:
        return one.name
    if isinstance(one, TorquePass):
        return f"Check at {one.percent:g} %" if one.check else f"{one.percent:g} %"
    turn = f" {turn_words(one.turn)}" if isinstance(one, AnglePass | BackOffPass) else ""
    return _NAMES[one.do] + turn


def _tool_findings(collector: Collector, where: str, stage: TightenStage, share: float, chain: Chain,
                   setting: SettingOut) -> None:
    name = chain.tool.name or chain.tool.kind
    value, (low, high) = setting.settable_Nm * 1e3, (r.base for r in chain.tool.range)
    words = {"stage": stage.title or stage.id, "setting": setting.text, "tool": name, "percent": f"{share:g}"}
    if chain.tool.kind == "preset driver":
        if not low * 0.99 <= setting.exact_Nm * 1e3 <= high * 1.01:
            collector.add(Finding.PRESET_OFF, where, **{**words, "preset": str(chain.tool.range[1]),
                                                        "setting": newton_metre(setting.exact_Nm * 1e3)})
    elif value > high * (1 + 1e-9):
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


def chains_for(stage: TightenStage, group: str) -> list[str]:
    """The chains a group is pulled with."""
    return [stage.chain_for[group]] if group in stage.chain_for else stage.chains


def _settings(plan: Plan, stage: TightenStage, group: str, percent: float, torque: float, ceiling: float | None, where: str,
              collector: Collector) -> list[SettingOut]:
    out = []
    for name in chains_for(stage, group):
        chain = chain_of(plan, name)
        try:
            setting = setting_for(chain, torque, ceiling)
        except Impossible as error:
            collector.add(Finding.SETTING_IMPOSSIBLE, where, stage=stage.title or stage.id, percent=f"{percent:g}",
                          reason=str(error).rstrip("."))
            continue
        _tool_findings(collector, where, stage, percent, chain, setting)
        out.append(setting)
    return out


def _torque_fields(plan: Plan, stage: TightenStage, one: TorquePass, chosen: Chosen, ceiling: float | None, where: str,
                   collector: Collector) -> dict[str, Any]:
    torque = chosen.torque * one.percent / 100
    if ceiling is not None and ceiling < torque * (1 - 1e-9):
        ceiling = None
    rounds, repeat = one.rounds, one.repeat
    unknown = chosen.facts.group.fastener.history == "unknown"
    return {"percent": one.percent, "check": one.check, "rounds_max": rounds.max if rounds else 1,
            "until": "none_moves" if rounds else "once",
            "moved_above_deg": round(math.degrees(rounds.moved_above.base), 4) if rounds else None,
            "repeat_still": repeat.still if repeat else None, "repeat_max": repeat.max if repeat else None,
            "before_each": one.before_each, "slacken_first": one.slacken_first or (unknown and one.check),
            "torque_Nm": torque / 1e3,
            "settings": _settings(plan, stage, chosen.facts.group.id, one.percent, torque, ceiling, where, collector)}


def _fields_of(plan: Plan, stage: TightenStage, one: Pass, group: str, chosen: Chosen | None, ceiling: float | None, where: str,
               collector: Collector) -> dict[str, Any]:
    """The fields of a pass beyond its order."""
    if isinstance(one, TorquePass):
        return _torque_fields(plan, stage, one, chosen, ceiling, where, collector) if chosen else {}
    if isinstance(one, AnglePass):
        window = [round(math.degrees(w.base), 3) for w in one.window] if one.window else None
        return {"turn_deg": round(math.degrees(one.turn.base), 3), "window_deg": window, "read_by": one.read_by}
    if isinstance(one, BackOffPass):
        return {"turn_deg": round(math.degrees(one.turn.base), 3)}
    if isinstance(one, GapPass):
        cap = _settings(plan, stage, group, 100.0, one.cap.base, one.cap.base, where, collector) if one.cap else []
        return {"turn_deg": round(math.degrees(one.turn.base), 3), "max_spread_mm": one.max_spread.base,
                "stop_at_mm": one.stop_at.base, "rounds_max": one.max, "until": "gap",
                "torque_Nm": one.cap.base / 1e3 if one.cap else None, "settings": cap}
    return {}


def passes_of(plan: Plan, index: int, stage: TightenStage, passes: list[Pass], facts: dict[str, Facts],
              chosen: dict[str, Chosen], ceilings: dict[str, float | None], collector: Collector) -> list[PassOut]:
    """Every pass of a stage over each of its groups, in work order."""
    out: list[PassOut] = []
    where = f"stages/{index}"
    for number, one in enumerate(passes):
        if isinstance(one, WaitPass):
            out.append(PassOut(id=one.id, name=pass_name(one), group="", do="wait", note=one.note, order=[],
                               wait_s=one.lasts.base))
            continue
        for group_id in stage.groups:
            fact = facts.get(group_id)
            if fact is None:
                continue
            moves: list[list[str]] = []
            with collector.at("stages", index, "passes", number, "order"):
                moves = order_of(fact.group, one.order)
            fields = _fields_of(plan, stage, one, group_id, chosen.get(group_id), ceilings.get(group_id), where, collector)
            out.append(PassOut(id=one.id, name=pass_name(one), group=group_id, do=one.do, note=one.note,
                               order_kind=one.order.kind, order=moves, **fields))
    _stage_findings(stage, out, where, collector)
    return out


def loosen_passes(index: int, stage: LoosenStage, facts: dict[str, Facts], collector: Collector) -> list[PassOut]:
    """The rounds of a loosen stage: a little at a time, every bolt, in the order given."""
    out = []
    for group_id in stage.groups:
        if group_id not in facts:
            continue
        moves: list[list[str]] = []
        with collector.at("stages", index, "order"):
            moves = order_of(facts[group_id].group, stage.order)
        for number in range(1, stage.rounds + 1):
            out.append(PassOut(id=f"round{number}", name=f"Loosen {turn_words(stage.turn)}, round {number} of {stage.rounds}",
                               group=group_id, do="loosen", order_kind=stage.order.kind, order=moves,
                               turn_deg=round(math.degrees(stage.turn.base), 3)))
    return sorted(out, key=lambda p: p.id)


def _stage_findings(stage: TightenStage, passes: list[PassOut], where: str, collector: Collector) -> None:
    title = stage.title or stage.id
    torque_passes = [p for p in passes if p.do == "torque"]
    if any(not p.settings and not chains_for(stage, p.group) for p in torque_passes):
        collector.add(Finding.NO_TOOL, where, stage=title)
    pulls: dict[str, list[float]] = {}
    for one in torque_passes:
        for setting in one.settings:
            if setting.hand_force_N is not None:
                pulls.setdefault(setting.chain, []).extend([setting.hand_force_N] * len(one.order))
    reaction = max((s.reaction_N or 0.0 for p in torque_passes for s in p.settings), default=0.0)
    if reaction > REACTION_MUCH and "install" in stage.in_:
        collector.add(Finding.REACTION_HIGH, where, stage=title, force=f"{show(reaction, 3)} N")
    if "install" not in stage.in_:
        return  # what the install says of hand and reaction holds for the recheck too
    for forces in pulls.values():
        hard = [f for f in forces if f > HAND_FORCE_ANY]
        many = [f for f in forces if f > HAND_FORCE_MANY]
        if hard or len(many) > MANY_PULLS:
            limit = HAND_FORCE_ANY if hard else HAND_FORCE_MANY
            collector.add(Finding.HAND_FORCE, where, stage=title, force=f"{max(forces):.0f} N",
                          pulls=len(hard or many), limit=f"{limit:.0f} N")
