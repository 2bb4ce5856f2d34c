"""The kit list: what to bring, from the plan; and the parts with their counts."""
from __future__ import annotations

from ...documents.tooling import Adapter, Multiplier
from ...forms.result import KitLine
from ...forms.stage import StageOut
from ...kinds.stage_registry import STAGE_KINDS
from ...kinds.stages.tighten import TightenStage
from ...units import show
from .context import Context
from .stages import Work

_ORDER = ("wrench", "multiplier", "adapter", "socket", "tool", "gauge", "compound", "sundry", "part", "consumable")


class _Kit:
    """Lines without repeats, counts added up by the greatest need."""

    def __init__(self) -> None:
        self.lines: dict[tuple[str, str], KitLine] = {}

    def add(self, kind: str, text: str, for_: str, count: int = 1) -> None:
        have = self.lines.get((kind, text))
        if have is None:
            self.lines[kind, text] = KitLine.model_validate({"kind": kind, "text": text, "count": count, "for_": for_})
            return
        have.count = max(have.count, count)
        if for_ not in have.for_:
            have.for_ = f"{have.for_}, {for_}"


def kit_of(work: Work, stages: list[StageOut]) -> list[KitLine]:
    """Everything to bring for one run, on whatever occasion."""
    context, kit = work.context, _Kit()
    for stage, out in zip(context.plan.stages, stages, strict=True):
        title = stage.title or out.title
        if isinstance(stage, TightenStage):
            _wrenches(kit, context, stage, title, out)
        for line in STAGE_KINDS[stage.kind].kit(stage, out, work):
            kit.add(line.kind, line.text, title, line.count)
    positions = max(1, len(context.plan.positions))
    for part in context.plan.parts:
        count = part.count * (positions if part.per == "position" else 1)
        text = ("new " if part.new else "") + part.name + (f", {part.quantity}" if part.quantity else "")
        kit.add("consumable" if part.consumable else "part", text, "parts", count)
    for fact in context.facts.values():
        if fact.group.layout.count > 1:
            kit.add("part", f"spare {fact.thread.designation} nut or bolt with washer, {fact.group.fastener.grade}", "in case")
    return sorted(kit.lines.values(), key=lambda line: _ORDER.index(line.kind))


def _drive(context: Context, chains: list[str]) -> str | None:
    for name in chains:
        chain = context.chains[name]
        if not chain.multipliers:
            return chain.tool.drive
    return None


def _sockets(kit: _Kit, context: Context, groups: list[str], drive: str | None, count: int) -> None:
    for group in groups:
        fact = context.facts.get(group)
        if fact is None:
            continue
        flats = fact.group.fastener.across_flats
        size = flats.base if flats else fact.hexagon.across_flats if fact.hexagon else None
        what = "hexagon key bit" if fact.group.fastener.head == "socket head" else "socket"
        width = f"{show(size, 4)} mm" if size else "to suit the head"
        kit.add("socket", f"{what} {width}" + (f", {drive} drive" if drive else ""), fact.group.name, count)


def _wrenches(kit: _Kit, context: Context, stage: TightenStage, title: str, out: StageOut) -> None:
    # several tools at once: as many of everything in the chain
    count = max((len(move) for p in out.passes for move in p.order), default=1)
    for name in dict.fromkeys([*stage.chains, *stage.chain_for.values()]):
        _, *rest = context.plan.chains[name]
        tool = context.chains[name].tool
        where = f", {tool.drive} drive" if tool.drive else ""
        kit.add("wrench", f"{tool.name or tool.kind}, {tool.range[0]} to {tool.range[1]}{where}, in calibration", title, count)
        for link in rest:
            if isinstance(link, Multiplier):
                on = f", reacts on {link.rests_on}" if link.rests_on else ""
                kit.add("multiplier", f"torque multiplier 1 : {link.multiplier:g}{on}", title, count)
            elif isinstance(link, Adapter):
                kit.add("adapter", f"offset adapter {link.adapter}", title, count)
    _sockets(kit, context, stage.groups, _drive(context, stage.chains), count)


