"""The kit list: what to bring, from the plan; and the parts with their counts."""
from __future__ import annotations

from ...documents.plan import Plan
from ...documents.result import KitLine, StageOut
from ...documents.stages import ApplyStage, HoldStage, InspectStage, JackOutStage, LockStage, LoosenStage, TightenStage
from ...documents.tooling import Adapter, Multiplier
from ...units import show
from .facts import Facts

_GAUGES = {"length": "measuring tool for {text} ({limit})", "angle": "angle gauge for {text} ({limit})",
           "torque": "indicating torque wrench for {text} ({limit})"}
#: how it is locked -> what that takes
_LOCKED_WITH = {"tab": "drift and hammer for the tab", "stake": "staking punch and hammer", "pin": "pliers for the pin",
                "wire": "wire pliers and cutter", "adhesive": "adhesive of the lock, cleaner", "ring": "pliers for the ring",
                "lock nut": "second spanner for the lock nut"}


class _Kit:
    """Lines without repeats, counts added up by the greatest need."""

    def __init__(self) -> None:
        self.lines: dict[tuple[str, str], KitLine] = {}

    def add(self, kind: str, text: str, for_: str, count: int = 1) -> None:
        have = self.lines.get((kind, text))
        if have is None:
            self.lines[kind, text] = KitLine(kind=kind, text=text, count=count, for_=for_)
            return
        have.count = max(have.count, count)
        if for_ not in have.for_:
            have.for_ = f"{have.for_}, {for_}"


def kit_of(plan: Plan, facts: dict[str, Facts], stages: list[StageOut]) -> list[KitLine]:
    """Everything to bring for one run, on whatever occasion."""
    kit = _Kit()
    for stage in plan.stages:
        title = stage.title or next(s.title for s in stages if s.id == stage.id)
        if isinstance(stage, TightenStage):
            _tighten(kit, plan, stage, facts, title, next(s for s in stages if s.id == stage.id))
        elif isinstance(stage, LoosenStage):
            kit.add("tool", "breaker bar (never the torque wrench)", title)
        elif isinstance(stage, ApplyStage):
            kit.add("compound", stage.what + (f", {stage.amount}" if stage.amount else ""), title)
            kit.add("sundry", "brush and lint-free cloth", title)
        elif isinstance(stage, HoldStage) and (stage.tool or stage.kind == "counter_hold"):
            kit.add("tool", stage.tool or "spanner to hold the far side", title)
        elif isinstance(stage, InspectStage):
            _gauges(kit, stage, title)
        elif isinstance(stage, JackOutStage):
            kit.add("tool", f"{stage.screws} jacking screws, ends rounded and greased", title)
            kit.add("tool", "soft pry bar that leaves no marks", title)
        elif isinstance(stage, LockStage):
            kit.add("tool", _LOCKED_WITH[stage.by], title)
        elif stage.kind == "mark":
            kit.add("sundry", "paint marker", title)
        elif stage.kind == "clean":
            kit.add("sundry", "wire brush, cleaner, lint-free cloth", title)
    positions = max(1, len(plan.positions))
    for part in plan.parts:
        count = part.count * (positions if part.per == "position" else 1)
        text = ("new " if part.new else "") + part.name + (f", {part.quantity}" if part.quantity else "")
        kit.add("consumable" if part.consumable else "part", text, "parts", count)
    for fact in facts.values():
        if fact.group.layout.count > 1:
            kit.add("part", f"spare {fact.thread.designation} nut or bolt with washer, {fact.group.fastener.grade}", "in case")
    order = {"wrench": 0, "multiplier": 1, "adapter": 2, "socket": 3, "tool": 4, "gauge": 5, "compound": 6, "sundry": 7,
             "part": 8, "consumable": 9}
    return sorted(kit.lines.values(), key=lambda line: order[line.kind])


def _drive(plan: Plan, chains: list[str]) -> str | None:
    for name in chains:
        chain = plan.chains[name]
        if not any(isinstance(x, Multiplier) for x in chain):
            return plan.tools[str(chain[0])].drive
    return None


def _sockets(kit: _Kit, facts: dict[str, Facts], groups: list[str], drive: str | None, count: int) -> None:
    for group in groups:
        fact = facts.get(group)
        if fact is None:
            continue
        flats = fact.group.fastener.across_flats
        size = flats.base if flats else fact.hexagon.across_flats if fact.hexagon else None
        what = "hexagon key bit" if fact.group.fastener.head == "socket head" else "socket"
        width = f"{show(size, 4)} mm" if size else "to suit the head"
        kit.add("socket", f"{what} {width}" + (f", {drive} drive" if drive else ""), fact.group.name, count)


def _tighten(kit: _Kit, plan: Plan, stage: TightenStage, facts: dict[str, Facts], title: str, out: StageOut) -> None:
    # several tools at once: as many of everything in the chain
    count = max((len(move) for p in out.passes for move in p.order), default=1)
    for name in dict.fromkeys([*stage.chains, *stage.chain_for.values()]):
        first, *rest = plan.chains[name]
        tool = plan.tools[str(first)]
        where = f", {tool.drive} drive" if tool.drive else ""
        kit.add("wrench", f"{tool.name or tool.kind}, {tool.range[0]} to {tool.range[1]}{where}, in calibration", title, count)
        for link in rest:
            if isinstance(link, Multiplier):
                on = f", reacts on {link.rests_on}" if link.rests_on else ""
                kit.add("multiplier", f"torque multiplier 1 : {link.multiplier:g}{on}", title, count)
            elif isinstance(link, Adapter):
                kit.add("adapter", f"offset adapter {link.adapter}", title, count)
    _sockets(kit, facts, stage.groups, _drive(plan, stage.chains), count)
    if any(p.read_by == "angle disc" for p in out.passes):
        kit.add("gauge", "angle disc with a fixed arm", title)
    if any(p.do == "gap_round" for p in out.passes):
        kit.add("gauge", "gap gauge or inside calliper", title)
    if stage.impact == "run_down":
        kit.add("tool", "impact driver, for running down only", title)


def _gauges(kit: _Kit, stage: InspectStage, title: str) -> None:
    for check in stage.checks:
        if check.gauge:
            kit.add("gauge", check.gauge, title)
        elif check.limit is not None:
            end = check.limit.max or check.limit.min
            assert end is not None
            words = _GAUGES.get(end.quantity.kind, "gauge for {text} ({limit})")
            kit.add("gauge", words.format(text=check.words[:1].lower() + check.words[1:],
                                          limit=f"{check.limit.min or '…'} to {check.limit.max or '…'}"), title)
