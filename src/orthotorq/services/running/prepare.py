"""What has to be chosen before a run: occasion, one of each choice, history, tools by serial; what is usual stands chosen."""
from __future__ import annotations

import uuid
from dataclasses import dataclass

from ...core.forms.result import KitLine, ToolOut
from ...core.kinds.stage_kind import OCCASIONS
from ...core.planning.work_order import takes
from ...core.running import choices_of, occasions_of, tools_needed
from ...core.running.standing import STANDING
from ...core.thresholds import TOOL_REACHES
from ...store.models import Revision
from ..context import Ctx
from ..errors import NotFound
from ..permissions import use_case
from ..registers.queries import standing_words
from ..toolroom.tools import ToolView, list_tools
from .histories import HISTORIES
from .start import parsed_result


@dataclass(frozen=True, slots=True)
class Offer:
    """A registered tool that reaches what a plan asks; `words` says what it is and whether it is in calibration."""

    serial: str
    words: str
    good: bool
    state: str


@dataclass(frozen=True, slots=True)
class NeededTool:
    """A tool of the plan that is needed: what it must reach, which are offered (good and near ones first), which is usual."""

    id: str
    words: str
    offers: list[Offer]
    usual: str
    #: tools that would reach it and must not be used, in words
    blocked: list[str]


@dataclass(frozen=True, slots=True)
class StartOption:
    """One thing to choose."""

    value: str
    words: str


@dataclass(frozen=True, slots=True)
class StartChoice:
    """Of these exactly one is taken; `taken` is what was asked for, or the usual one."""

    name: str
    options: list[StartOption]
    taken: str


@dataclass(frozen=True, slots=True)
class StartView:
    """What has to be chosen before a run: occasion, one of each choice, history, tools by serial."""

    before: list[str]
    occasions: list[StartOption]
    occasion: str
    choices: list[StartChoice]
    histories: list[StartOption]
    tools: list[NeededTool]
    #: how the joint stands by its record, and whether that asks for something now
    standing: str
    due: bool
    kit: list[KitLine]


def reaches(wanted: ToolOut, tool: ToolView) -> bool:
    """Whether a registered tool reaches what a plan asks: a preset driver its one figure, any other most of the range."""
    if wanted.kind == "preset driver":
        return tool.high_Nm == wanted.high_Nm
    return tool.sort == "wrench" and tool.kind != "preset driver" and tool.high_Nm >= wanted.high_Nm * TOOL_REACHES.value


def _state(tool: ToolView) -> str:
    late = "" if tool.good else f"; {tool.allowed_text}: a deviation that a supervisor has to accept"
    used = f"; {tool.corrected_text}" if tool.corrected_text else ""
    return f"{tool.state}{late}{used}{f' · {tool.note}' if tool.note and not used else ''}"


def _needed(wanted: ToolOut, tools: list[ToolView]) -> NeededTool:
    reach = [t for t in tools if reaches(wanted, t)]
    fit = sorted((t for t in reach if t.good or t.allowed), key=lambda t: (not t.good, abs(t.high_Nm - wanted.high_Nm)))
    offers = [Offer(t.serial, f"{t.serial} · {t.kind}, to {t.high_Nm:g} N·m{'' if t.good else ' · out of calibration'}", t.good,
                    _state(t)) for t in fit]
    preferred = next((s for s in wanted.prefer if any(t.serial == s for t in fit)), "")
    low = "" if wanted.low_Nm == wanted.high_Nm else f"{wanted.low_Nm:g} to "
    usual = preferred or (fit[0].serial if fit else "")
    return NeededTool(wanted.id, f"{wanted.name}, {low}{wanted.high_Nm:g} N·m", offers, usual,
                      [f"{t.serial}: {t.state}" for t in reach if t not in fit])


@use_case
def prepare_run(ctx: Ctx, revision_id: uuid.UUID, occasion: str = "", variants: tuple[str, ...] = ()) -> StartView:
    """What has to be chosen before a run of a revision, for an occasion and variants chosen so far. Raises NotFound."""
    revision = ctx.session.get(Revision, revision_id)
    if revision is None:
        raise NotFound("revision")
    result = parsed_result(revision)
    possible = occasions_of(result)
    taken = occasion if occasion in possible else next(iter(possible), "install")
    choices = []
    for name in choices_of(result, taken):
        own = [v for v in result.variants if v.choice == name]
        first = next((v.id for v in own if v.id in variants), own[0].id)
        choices.append(StartChoice(name or "Variant", [StartOption(v.id, v.name) for v in own], first))
    needed, tools = tools_needed(result, taken, [c.taken for c in choices]), list_tools(ctx)
    joint = revision.plan.joint
    known = STANDING[joint.standing]
    # a fitter can only make it less known
    histories = {k: v for k, v in HISTORIES.items() if known.known or k != "known" or taken != "recheck"}
    chosen = [c.taken for c in choices]
    return StartView(result.links_before, [StartOption(o, OCCASIONS[o]) for o in possible], taken, choices,
                     [StartOption(k, v) for k, v in histories.items()],
                     [_needed(t, tools) for t in result.tools if t.id in needed], standing_words(joint), known.due,
                     [k for k in result.kit if any(takes(when, taken, chosen) for when in k.when)])
