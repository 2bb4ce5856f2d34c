"""The kit list: what to bring on which occasion and with which variants, from the plan; and the
parts with their counts."""

from __future__ import annotations

from ....documents.tooling import Adapter, Multiplier
from ....forms.result import KitLine, KitWhen
from ....forms.stage import StageOut
from ....kinds.stage_kind import OCCASIONS
from ....kinds.stage_registry import STAGE_KINDS
from ....kinds.stages.tighten import TightenStage
from ..inputs.facts import socket_of
from ..inputs.wrench_settings import Chain
from ..load.context import Context
from .stages import Work

_ORDER = (
    "wrench",
    "multiplier",
    "adapter",
    "socket",
    "tool",
    "gauge",
    "compound",
    "sundry",
    "part",
    "consumable",
)
#: kinds that are of steel, and come in a version that magnets do not pull
_PULLED_BY_MAGNETS = ("wrench", "socket", "tool", "adapter", "gauge")


class _Kit:
    """Lines without repeats, counts added up by the greatest need, each with when it is needed."""

    def __init__(self, magnets: bool) -> None:
        self.magnets = magnets
        self.lines: dict[tuple[str, str], KitLine] = {}

    def add(
        self, kind: str, text: str, for_: str, count: int = 1, when: StageOut | None = None
    ) -> None:
        """A line for a stage, or for fitting where no stage is named."""
        if self.magnets and kind in _PULLED_BY_MAGNETS:
            text = f"{text}, non-magnetic"
        need = {
            "occasions": list(when.occasions) if when is not None else ["install"],
            "variants": list(when.variants) if when is not None else [],
        }
        have = self.lines.get((kind, text))
        if have is None:
            self.lines[kind, text] = KitLine.model_validate(
                {
                    "kind": kind,
                    "text": text,
                    "count": count,
                    "for_": for_,
                    "occasions": need["occasions"],
                    "when": [need],
                }
            )
            return
        have.count = max(have.count, count)
        have.occasions = [o for o in OCCASIONS if o in {*have.occasions, *need["occasions"]}]
        if (also := KitWhen.model_validate(need)) not in have.when:
            have.when.append(also)
        if for_ not in have.for_.split(", "):
            have.for_ = f"{have.for_}, {for_}"


def kit_of(work: Work, stages: list[StageOut]) -> list[KitLine]:
    """Everything to bring; each line says on which occasion and with which variants."""
    context = work.context
    kit = _Kit(any("strong_magnets" in s.cautions for s in stages))
    for stage, out in zip(context.plan.stages, stages, strict=True):
        title = stage.title or out.title
        if isinstance(stage, TightenStage):
            _wrenches(kit, context, stage, title, out)
        elif out.kind == "loosen":
            _sockets(kit, context, out.groups, None, 1, title, out)
        for line in STAGE_KINDS[stage.kind].kit(stage, out, work):
            kit.add(line.kind, line.text, title, line.count, out)
    positions = max(1, len(context.plan.positions))
    for part in context.plan.parts:
        count = part.count * (positions if part.per == "position" else 1)
        text = (
            ("new " if part.new else "")
            + part.name
            + (f", {part.quantity}" if part.quantity else "")
        )
        kit.add("consumable" if part.consumable else "part", text, "parts", count)
    for fact in context.facts.values():
        if fact.group.layout.count > 1:
            kit.add(
                "part",
                (
                    f"spare {fact.thread.designation} nut or bolt with washer, "
                    f"{fact.group.fastener.grade}"
                ),
                "in case",
            )
    return sorted(kit.lines.values(), key=lambda line: _ORDER.index(line.kind))


def _drive(chains: list[Chain]) -> str | None:
    """The drive that the socket has: of the wrench, or of the output of the last multiplier."""
    for chain in chains:
        return chain.multipliers[-1].drive if chain.multipliers else chain.tool.drive
    return None


def _sockets(
    kit: _Kit,
    context: Context,
    groups: list[str],
    drive: str | None,
    count: int,
    title: str,
    out: StageOut,
) -> None:
    """A socket or key for every group, by its own head."""
    for group in groups:
        fact = context.facts.get(group)
        if fact is None:
            continue
        kit.add(
            "socket",
            socket_of(fact) + (f", {drive} drive" if drive else ""),
            fact.group.name,
            count,
            out,
        )
        if fact.group.seated_stud:
            kit.add(
                "tool",
                f"two nuts {fact.thread.designation}, locked against each other on the stud",
                title,
                1,
                out,
            )


def _wrenches(kit: _Kit, context: Context, stage: TightenStage, title: str, out: StageOut) -> None:
    # several tools at once: as many of everything in the chain
    count = max((max(map(len, p.order), default=1) for p in out.passes), default=1)
    own = [name for one in context.passes[stage.id] for name in one.chains]
    for name in dict.fromkeys([*stage.chains, *stage.chain_for.values(), *own]):
        _, *rest = context.plan.chains[name]
        tool = context.chains[name].tool
        where = f", {tool.drive} drive" if tool.drive else ""
        kit.add(
            "wrench",
            f"{tool.name or tool.kind}, {tool.range[0]} to {tool.range[1]}{where}, in calibration",
            title,
            count,
            out,
        )
        for link in rest:
            if isinstance(link, Multiplier):
                drive = f", {link.drive} output" if link.drive else ""
                on = f", reacts on {link.rests_on}" if link.rests_on else ""
                kit.add(
                    "multiplier",
                    f"torque multiplier {link.multiplier:g}:1{drive}{on}",
                    title,
                    count,
                    out,
                )
            elif isinstance(link, Adapter):
                kit.add("adapter", f"offset adapter {link.adapter}", title, count, out)
    for group in stage.groups:
        chains = [context.chains[name] for name in stage.chains_of(group)]
        _sockets(kit, context, [group], _drive(chains), count, title, out)
