"""Tools by serial: registered, put right, blocked and let go again; whether each may be used
now."""

from __future__ import annotations

import json
import uuid
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any, get_args

from pydantic import ValidationError
from sqlalchemy import func, select, update
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import selectinload

from ...core.documents.tooling import Drive
from ...core.documents.tooling import Tool as ToolSpec
from ...core.documents.toolroom import SORTS, USUAL_CLASS, TesterSpec, limit_of, read_spec
from ...core.errors import OrthotorqError
from ...core.forms.base import one_line
from ...core.forms.errors import DocumentErrors, FieldError, field_errors
from ...core.messages import Refusal, render
from ...local_time import day_text, moment_text
from ...store.models import Calibration, Tool, ToolPull
from ..context import Ctx
from ..errors import BadField, NotFound
from ..permissions import use_case
from ..registers.near_names import NearTags

MOST_SERIAL, MOST_NOTE = 60, 300
#: the longest that a supervisor lets a tool be used that is not good
MOST_HOURS = 72
EVER = datetime(1900, 1, 1, tzinfo=UTC)


@dataclass(frozen=True, slots=True)
class ToolView:
    """One registered tool; `good` is whether it may be used now, `state` says it in words with
    why."""

    id: uuid.UUID
    serial: str
    sort: str
    kind: str
    name: str
    low_Nm: float
    high_Nm: float
    unit: str
    blocked: bool
    calibrated_until: datetime | None
    good: bool
    note: str
    state: str
    place: str
    owner: str
    borrowed: bool
    pulls: int
    interval_pulls: int
    #: what it is used with, where a check has found an error that is made good
    corrected: float | None
    corrected_text: str
    #: a supervisor lets it be used for now although it is not good
    allowed: bool
    allowed_text: str


@dataclass(frozen=True, slots=True)
class ToolAsTyped:
    """A tool as typed: its sheet by sort, and what the tool room keeps of it."""

    serial: str
    sort: str
    spec: dict[str, Any]
    place: str = ""
    owner: str = ""
    borrowed: bool = False
    held_to: str = ""
    interval_months: int = 12
    interval_pulls: int = 5000
    note: str = ""


def spec_of(tool: Tool) -> ToolSpec:
    """A registered wrench in the form of a plan's tool, under its serial; one used with a found
    error has what is left of it as its accuracy (`corrected` apart)."""
    return ToolSpec.model_validate({**json.loads(tool.spec), "name": tool.serial})


def last_verdict(tool: Tool) -> Calibration | None:
    """Its last check that decided something; one that could not be decided leaves the tool as it
    was."""
    return next((one for one in reversed(tool.calibrations) if one.verdict != "undecided"), None)


def until_of(tool: Tool) -> datetime | None:
    """Until when its last passed calibration holds; None when the last one failed or there is none.
    A tool that is used with the error found is good as long as that check holds."""
    last = last_verdict(tool)
    return last.until if last is not None and (last.passed or tool.corrected is not None) else None


def count_pulls(ctx: Ctx, tools: Iterable[uuid.UUID]) -> None:
    """Write the pulls in runs since the last good check of some tools: when a run has ended, never
    for a list."""
    for tool_id in sorted(set(tools)):
        since = ctx.session.scalar(
            select(func.max(Calibration.at)).where(
                Calibration.tool_id == tool_id, Calibration.passed
            )
        )
        count = (
            select(func.count())
            .select_from(ToolPull)
            .where(ToolPull.tool_id == tool_id, ToolPull.at > (since or EVER))
        )
        ctx.session.execute(
            update(Tool)
            .where(Tool.id == tool_id)
            .values(pulls=count.scalar_subquery())
            .execution_options(synchronize_session="fetch")
        )


def correction_of(tool: Tool) -> float:
    """The error that a wrench is set by; a preset one cannot be set otherwise: its band is wider
    instead."""
    return (
        tool.corrected
        if tool.corrected is not None and json.loads(tool.spec).get("kind") != "preset driver"
        else 0.0
    )


def correction_words(tool: Tool) -> str:
    """What is done about a found error, in words."""
    if tool.corrected is None:
        return ""
    if json.loads(tool.spec).get("kind") == "preset driver":
        return (
            f"used with its error of {tool.corrected * 100:+.1f} %: the clamp band is wider by it"
        )
    return f"used with its error of {tool.corrected * 100:+.1f} %: settings are corrected by it"


def state_of(tool: Tool, now: datetime) -> tuple[bool, str]:
    """(whether a tool may be used, its state in words with why)."""
    last, until = last_verdict(tool), until_of(tool)
    if tool.blocked:
        return False, f"blocked{f': {tool.note}' if tool.note else ''}"
    if last is not None and until is None:
        return False, f"failed its check of {day_text(last.at)}"
    if until is None:
        return tool.sort in ("gauge", "adapter"), "no calibration on record"
    if until <= now:
        return False, f"overdue since {day_text(until)}"
    if tool.interval_pulls and tool.pulls >= tool.interval_pulls:
        return False, f"{tool.pulls} pulls since its last check: due after {tool.interval_pulls}"
    return True, f"calibrated until {day_text(until)}"


def allowed(tool: Tool, now: datetime) -> bool:
    """Whether a supervisor lets a tool be used that is not good."""
    return tool.allowed_until is not None and tool.allowed_until > now


def view_of(tool: Tool, now: datetime) -> ToolView:
    """A tool as lists show it."""
    raw = json.loads(tool.spec)
    spec = read_spec(tool.sort, raw)
    range_ = getattr(spec, "range", None)
    low, high = (range_[0].base / 1e3, range_[1].base / 1e3) if range_ else (0.0, 0.0)
    good, words = state_of(tool, now)
    return ToolView(
        tool.id,
        tool.serial,
        tool.sort,
        spec.kind,
        raw.get("name") or spec.kind,
        low,
        high,
        range_[1].quantity.unit if range_ else "",
        tool.blocked,
        until_of(tool),
        good,
        tool.note,
        words,
        tool.place,
        tool.owner,
        tool.borrowed,
        tool.pulls,
        tool.interval_pulls,
        tool.corrected,
        correction_words(tool),
        allowed(tool, now),
        f"{tool.allowed_why}, until {moment_text(tool.allowed_until)}"
        if tool.allowed_until and allowed(tool, now)
        else "",
    )


def _wrong(field: str, text: str) -> FieldError:
    return FieldError((field,), "bad_value", text)


def _checked(typed: ToolAsTyped) -> list[FieldError]:
    """What is wrong with a tool as typed."""
    errors = []
    if not 1 <= len(typed.serial.strip()) <= MOST_SERIAL or not one_line(typed.serial.strip()):
        errors.append(
            _wrong("serial", render(Refusal.NAME_FORM, what="A serial", most=MOST_SERIAL))
        )
    for field in ("place", "owner", "note"):
        text = str(getattr(typed, field)).strip()
        if len(text) > 120 or not one_line(text or "x"):
            errors.append(_wrong(field, render(Refusal.NAME_FORM, what="This", most=120)))
    for field, most in (("interval_months", 120), ("interval_pulls", 1_000_000)):
        if not 0 <= getattr(typed, field) <= most:
            errors.append(_wrong(field, render(Refusal.FROM_TO, low=0, high=most)))
    if typed.sort not in SORTS:
        return [*errors, _wrong("sort", render(Refusal.ONE_OF, choices=", ".join(SORTS)))]
    try:
        spec = read_spec(typed.sort, typed.spec)
    except ValidationError as error:
        return [
            *errors,
            *(FieldError(("spec", *e.path), e.code, e.text) for e in field_errors(error)),
        ]
    except OrthotorqError as error:
        return [*errors, FieldError(("spec", *error.path), error.code.value, str(error))]
    if isinstance(spec, ToolSpec) and typed.held_to.strip():
        try:
            limit_of(typed.held_to, spec, spec.range[1].base)
        except OrthotorqError as error:
            errors.append(FieldError(("held_to",), error.code.value, str(error)))
    return errors


def _write(tool: Tool, typed: ToolAsTyped) -> None:
    tool.serial, tool.sort = typed.serial.strip(), typed.sort
    tool.spec = json.dumps(typed.spec, ensure_ascii=False)
    tool.place, tool.owner, tool.borrowed = typed.place.strip(), typed.owner.strip(), typed.borrowed
    tool.held_to, tool.note = typed.held_to.strip(), typed.note.strip()
    tool.interval_months, tool.interval_pulls = typed.interval_months, typed.interval_pulls


def tool_of(ctx: Ctx, tool_id: uuid.UUID) -> Tool:
    """A tool. Raises NotFound."""
    tool = ctx.session.scalar(
        select(Tool).where(Tool.id == tool_id).options(selectinload(Tool.calibrations))
    )
    if tool is None:
        raise NotFound("tool")
    return tool


@use_case
def register_tool(ctx: Ctx, typed: ToolAsTyped) -> uuid.UUID:
    """Register a tool; returns its id. Raises DocumentErrors with every field that is wrong."""
    if errors := _checked(typed):
        raise DocumentErrors(errors)
    known = {serial: serial for serial in ctx.session.scalars(select(Tool.serial))}
    NearTags(known).ask(ctx, typed.serial.strip(), "tool")
    tool = Tool(id=ctx.new_id(), blocked=False, pulls=0)
    _write(tool, typed)
    ctx.session.add(tool)
    return _kept(ctx, tool)


@use_case
def change_tool(ctx: Ctx, tool_id: uuid.UUID, typed: ToolAsTyped) -> None:
    """Put a tool's sheet right. Raises NotFound, DocumentErrors."""
    tool = tool_of(ctx, tool_id)
    if typed.sort != tool.sort:
        raise BadField(Refusal.SORT_STAYS, "sort", sort=tool.sort)
    if errors := _checked(typed):
        raise DocumentErrors(errors)
    _write(tool, typed)
    _kept(ctx, tool)


def _kept(ctx: Ctx, tool: Tool) -> uuid.UUID:
    serial = tool.serial
    try:
        ctx.session.flush()
    except IntegrityError:
        raise DocumentErrors(
            [_wrong("serial", render(Refusal.TAG_TAKEN, tag=serial, whose="another tool"))]
        ) from None
    return tool.id


@use_case
def block_tool(ctx: Ctx, tool_id: uuid.UUID, blocked: bool, reason: str) -> None:
    """Block a tool (dropped, damaged), or let it go again, with the reason. Raises NotFound,
    BadField."""
    tool = tool_of(ctx, tool_id)
    if not 3 <= len(reason.strip()) <= MOST_NOTE - 60:
        raise BadField(Refusal.REASON_WANTED, "reason")
    tool.blocked = blocked
    tool.note = (
        f"{reason.strip()} ({ctx.person.name}, {day_text(ctx.now)})" if blocked else reason.strip()
    )


@use_case
def allow_tool(ctx: Ctx, tool_id: uuid.UUID, hours: int, reason: str) -> None:
    """Let a tool be used for some hours although it is blocked or overdue; runs with it say so.
    Raises NotFound, BadField."""
    tool = tool_of(ctx, tool_id)
    if not 1 <= hours <= MOST_HOURS:
        raise BadField(Refusal.FROM_TO, "hours", low=1, high=MOST_HOURS)
    if not 3 <= len(reason.strip()) <= 200:
        raise BadField(Refusal.REASON_WANTED, "reason")
    tool.allowed_until = ctx.now + timedelta(hours=hours)
    tool.allowed_why = f"let be used by {ctx.person.name}: {reason.strip()}"


@use_case
def list_tools(ctx: Ctx) -> list[ToolView]:
    """Every registered tool, by serial."""
    found = ctx.session.scalars(
        select(Tool).options(selectinload(Tool.calibrations)).order_by(Tool.serial)
    )
    return [view_of(tool, ctx.now) for tool in found]


@dataclass(frozen=True, slots=True)
class SortView:
    """A sort of tool as it is registered: the kinds of wrench, and what each is held to where
    nothing is said."""

    id: str
    words: str


@use_case
def tool_sorts(ctx: Ctx) -> tuple[list[SortView], dict[str, str], list[str]]:
    """(sorts of tools, kind of wrench -> usual class, drives)."""
    return (
        [SortView(name, words) for name, (_, words) in SORTS.items()],
        dict(USUAL_CLASS),
        list(get_args(Drive)),
    )


def tester_of(ctx: Ctx, serial: str) -> TesterSpec | None:
    """A registered tester by its serial."""
    tool = ctx.session.scalar(
        select(Tool).where(Tool.serial == serial.strip(), Tool.sort == "tester")
    )
    spec = read_spec("tester", json.loads(tool.spec)) if tool is not None else None
    return spec if isinstance(spec, TesterSpec) else None
