"""Passes of a stage as a result shows them: what each kind plans, in its order, with the settings
of every chain."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ....documents.tightening_moves import order_of
from ....errors import Impossible
from ....forms.errors import FieldErrors
from ....forms.setting import SettingOut
from ....forms.stage import LookOut, PassOut
from ....kinds.pass_kind import At, Look
from ....kinds.registry import PASS_KINDS, Pass
from ....kinds.stages.tighten import TightenStage
from ....messages import Message
from ..inputs.target import Chosen
from ..inputs.wrench_settings import settings_of
from ..load.context import Context


@dataclass(frozen=True, slots=True)
class _Figure:
    """What a pass may ask of its group's figure."""

    chosen: Chosen | None
    ceiling: float | None

    @property
    def torque(self) -> float | None:
        """The torque of the figure [N·mm]."""
        return self.chosen.torque if self.chosen else None

    @property
    def history_unknown(self) -> bool:
        """Whether the history of the bolts is unknown."""
        return self.chosen is not None and self.chosen.facts.group.fastener.history == "unknown"

    @property
    def self_locking(self) -> bool:
        """Whether its nuts or screws lock by themselves."""
        return self.chosen is not None and self.chosen.facts.joint.prevailing > 0

    @property
    def force(self) -> float | None:
        """The load [N] that the figure stands for."""
        return self.chosen.force if self.chosen else None

    @property
    def slender(self) -> tuple[float, float] | None:
        """(Diameter, clamped length) of a bolt [mm], where its stack is given."""
        return self.chosen.facts.slender if self.chosen else None


def pass_name(one: Pass) -> str:
    """The pass in words."""
    return PASS_KINDS[one.do].name(one)


def _settings(
    context: Context, stage: TightenStage, one: Pass, group: str, fields: dict[str, Any]
) -> list[SettingOut]:
    if fields.get("torque_Nm") is None:
        return []
    chains = [context.chains[name] for name in stage.chains_of(group, one.chains)]
    return settings_of(chains, fields["torque_Nm"], fields.get("ceiling_Nm"))


def _may_repeat(one: Pass, moves: list[list[str]]) -> None:
    """Raise Impossible where a pass comes to a bolt again that goes round by itself, checks or
    turns by an angle: the second pull would be counted as something else."""
    bolts = [place for move in moves for place in move]
    by_itself = any(getattr(one, field, None) for field in ("check", "rounds", "repeat"))
    if len(set(bolts)) < len(bolts) and (by_itself or not PASS_KINDS[one.do].repeatable):
        raise Impossible(Message.NO_REPEATS, ("repeats",))


def passes_of(
    context: Context, stage: TightenStage, index: int, errors: FieldErrors
) -> list[PassOut]:
    """Every pass of a stage over each of its groups, in work order; orders that cannot be are named
    in `errors`."""
    out: list[PassOut] = []
    for number, one in enumerate(context.passes[stage.id]):
        kind = PASS_KINDS[one.do]
        if kind.pause:
            out.append(
                PassOut(
                    id=one.id,
                    name=kind.name(one),
                    group="",
                    do=one.do,
                    note=one.note,
                    condition=one.condition.words,
                    order=[],
                    **kind.planned(one, _Figure(None, None)),
                )
            )
            continue
        order = kind.order(one)
        for group in (g for g in stage.groups if g in context.facts):
            moves: list[list[str]] = []
            with errors.at("stages", index, "passes", number, "order"):
                moves = order_of(context.facts[group].group, order)
                _may_repeat(one, moves)
            chosen = context.chosen.get(group)
            fields: dict[str, Any] = {}
            with errors.at("stages", index, "passes", number):
                figure = _Figure(chosen, context.ceiling(chosen) if chosen else None)
                fields = kind.planned(one, figure)
            made = PassOut(
                id=one.id,
                name=kind.name(one),
                group=group,
                do=one.do,
                note=one.note,
                condition=one.condition.words,
                order_kind=order.kind,
                order=moves,
                settings=_settings(context, stage, one, group, fields),
                **fields,
            )
            made.height = kind.height(made)
            out.append(made)
    return out


@dataclass(frozen=True, slots=True)
class _Usual:
    """The usual answer, for the picture of how bolts stand after a pass."""

    word: str
    answer: dict[str, Any] | None = None


def drawn(context: Context, passes: list[PassOut], looks: dict[str, Look]) -> None:
    """Write into each pass how its bolts stand after it, going on from `looks` by group."""
    for one in passes:
        if not one.group or not one.order:
            continue
        kind, chosen = PASS_KINDS[one.do], context.chosen.get(one.group)
        at = At(one, angled=chosen is not None and bool(chosen.angle))
        # a picture of the plan: what is checked is not yet checked, and what is drawn by its gap is
        # drawn
        usual = _Usual(
            kind.ask.choices[0].word,
            {"value": f"{one.stop_at_mm} mm"} if one.stop_at_mm is not None else None,
        )
        look = kind.after(looks.get(one.group, Look()), usual, at, False)
        state = "full" if one.check and look.percent >= 100 else "part" if one.check else look.state
        looks[one.group] = Look(look.percent, state)
        one.leaves = LookOut(state=state, percent=look.percent)
