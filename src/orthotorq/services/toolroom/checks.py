"""Checks of a wrench against a reference: judged by its class or own limit, kept for good, and what
follows from them."""

from __future__ import annotations

import json
import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import select

from ...core.documents.tooling import Tool as ToolSpec
from ...core.documents.toolroom import USUAL_CLASS, limit_of
from ...core.errors import OrthotorqError
from ...core.forms.errors import DocumentErrors, FieldError
from ...core.mechanics.calibration import check_of, delivered_of
from ...core.mechanics.wrench_history import NEAR, full_at, in_full, trend_of
from ...core.messages import Refusal, render
from ...core.number_formats import UNCERTAIN, read_readings, read_share
from ...core.rechecking.due import add_months
from ...core.units import convert, parse, show
from ...local_time import day_text
from ...store.models import Calibration, Person, Tool
from ..context import Ctx
from ..errors import BadField
from ..permissions import use_case
from .tools import ToolView, count_pulls, spec_of, tester_of, tool_of, view_of

#: points of a check, and checks shown
MOST_POINTS, SHOWN = 12, 60
YEAR = 365.25 * 86400


@dataclass(frozen=True, slots=True)
class PointView:
    """One setting of a check with its readings and errors (shares), as kept."""

    setting: str
    setting_Nm: float
    readings: list[str]
    errors: list[float]
    limit: float
    verdict: str


@dataclass(frozen=True, slots=True)
class PointShown(PointView):
    """A setting of a check with what the wrench delivered there: mean in the tool's unit, shares of
    the setting, and the error that is largest."""

    mean: str
    delivered: list[float]
    difference: float
    worst: float
    allowed: list[float]


@dataclass(frozen=True, slots=True)
class CheckView:
    """A check of a tool; shares. `words` says what came of it."""

    id: uuid.UUID
    at: datetime
    until: datetime
    certificate: str
    reference: str
    uncertainty: float
    verdict: str
    error: float | None
    worst: float | None
    limit: float | None
    points: list[PointShown]
    person: str
    note: str
    words: str


@dataclass(frozen=True, slots=True)
class CheckTrend:
    """How the mean error went from check to check: a share a year, and what that is in words."""

    per_year: float | None
    words: str


@dataclass(frozen=True, slots=True)
class ToolDetail:
    """A tool with its checks, newest first, its trend, and its sheet as typed."""

    tool: ToolView
    spec: dict[str, Any]
    held_to: str
    held_to_words: str
    interval_months: int
    checks: list[CheckView]
    trend: CheckTrend
    #: settings to check at, in the tool's unit, with the limit there in words
    check_at: list[str]
    limit_words: str
    may_correct: bool


@dataclass(frozen=True, slots=True)
class PointAsTyped:
    """A setting and the readings of the reference there, as typed."""

    setting: str
    readings: str


@dataclass(frozen=True, slots=True)
class CheckAsTyped:
    """A check as typed; the reference is the serial of a registered tester, or words with its
    uncertainty."""

    points: Sequence[PointAsTyped]
    reference: str
    uncertainty: str = ""
    certificate: str = ""
    note: str = ""


def _field(error: OrthotorqError, *path: str | int) -> FieldError:
    return FieldError(path, error.code.value, str(error))


def _point(
    spec: ToolSpec,
    held_to: str,
    number: int,
    typed: PointAsTyped,
    uncertainty: float,
    errors: list[FieldError],
) -> PointView | None:
    """One setting of a check, judged; None with what is wrong added to the errors."""
    path = ("points", number)
    try:
        setting = parse(typed.setting, "torque")
    except OrthotorqError as error:
        errors.append(_field(error, *path, "setting"))
        return None
    low, high = spec.range[0].base, spec.range[1].base
    if not low * (1 - NEAR) <= setting.base <= high * (1 + NEAR):
        errors.append(
            FieldError(
                (*path, "setting"),
                "out_of_range",
                render(
                    Refusal.BEYOND_RANGE,
                    setting=typed.setting.strip(),
                    low=str(spec.range[0]),
                    high=str(spec.range[1]),
                ),
            )
        )
        return None
    try:
        texts, values = read_readings(typed.readings, setting.unit)
        limit = limit_of(held_to, spec, setting.base)
        found = check_of(setting.base, values, limit, uncertainty)
    except OrthotorqError as error:
        errors.append(_field(error, *path, "readings"))
        return None
    return PointView(
        typed.setting.strip(),
        setting.base / 1e3,
        list(texts),
        list(found.errors),
        limit,
        found.verdict,
    )


def _verdict(points: Sequence[PointView]) -> str:
    verdicts = {point.verdict for point in points}
    return "fail" if "fail" in verdicts else "undecided" if "undecided" in verdicts else "pass"


@use_case
def check_tool(ctx: Ctx, tool_id: uuid.UUID, typed: CheckAsTyped) -> CheckView:
    """Judge a check and keep it. One that fails blocks the tool; one over the whole range that
    passes begins its interval anew.

    Raises NotFound, DocumentErrors with every field that is wrong: nothing is kept then.
    """
    tool = tool_of(ctx, tool_id)
    if tool.sort != "wrench":
        raise BadField(Refusal.ONLY_WRENCHES, "points")
    spec, errors = spec_of(tool), list[FieldError]()
    tester, uncertainty = tester_of(ctx, typed.reference), 0.0
    if not typed.reference.strip():
        errors.append(FieldError(("reference",), "missing", render(Refusal.REFERENCE_WANTED)))
    elif typed.uncertainty.strip() or tester is None:
        try:
            uncertainty = read_share(typed.uncertainty, UNCERTAIN)
        except OrthotorqError as error:
            errors.append(_field(error, "uncertainty"))
    else:
        uncertainty = tester.uncertainty
    if not 1 <= len(typed.points) <= MOST_POINTS:
        errors.append(
            FieldError(("points",), "missing", render(Refusal.POINTS_WANTED, most=MOST_POINTS))
        )
    points = [
        _point(spec, tool.held_to, i, one, uncertainty, errors)
        for i, one in enumerate(typed.points[:MOST_POINTS])
    ]
    if errors:
        raise DocumentErrors(errors)
    return _view(
        _keep(ctx, tool, spec, [p for p in points if p is not None], typed, uncertainty),
        ctx.person.name,
    )


def _points_text(points: list[PointView]) -> str:
    kept = ("setting", "setting_Nm", "readings", "errors", "limit", "verdict")
    return json.dumps(
        [{name: getattr(point, name) for name in kept} for point in points], ensure_ascii=False
    )


def _after_check(tool: Tool, check: Calibration, full: bool) -> None:
    """A check that fails blocks the tool; one over the whole range that passes lets it go."""
    if check.verdict == "fail":
        tool.blocked, tool.corrected = True, None
        tool.note = (
            f"failed its check of {day_text(check.at)}: {(check.worst or 0.0) * 100:+.1f} % at "
            f"worst, ±{(check.limit or 0.0) * 100:.0f} % allowed"
        )
    elif full:
        tool.corrected = None
        if tool.blocked and tool.note.startswith("failed"):
            tool.blocked, tool.note = False, ""


def _keep(
    ctx: Ctx,
    tool: Tool,
    spec: ToolSpec,
    points: list[PointView],
    typed: CheckAsTyped,
    uncertainty: float,
) -> Calibration:
    verdict, every = _verdict(points), [e for p in points for e in p.errors]
    before = next((one.until for one in reversed(tool.calibrations) if one.passed), ctx.now)
    full = verdict == "pass" and in_full(
        spec.range[0].base / 1e3,
        spec.range[1].base / 1e3,
        spec.kind == "preset driver",
        [(p.setting_Nm, len(p.errors)) for p in points],
    )
    day = add_months(ctx.today, tool.interval_months or 12)
    until = (
        datetime.combine(day, ctx.now.timetz())
        if full
        else before
        if verdict == "pass"
        else ctx.now
    )
    check = Calibration(
        id=ctx.new_id(),
        tool_id=tool.id,
        at=ctx.now,
        until=until,
        certificate=typed.certificate.strip()[:80],
        passed=verdict == "pass",
        person_id=ctx.person.id,
        verdict=verdict,
        reference=typed.reference.strip()[:120],
        uncertainty=uncertainty,
        limit=max(p.limit for p in points),
        error=sum(every) / len(every),
        worst=max(every, key=abs),
        note=typed.note.strip()[:300],
        points=_points_text(points),
    )
    tool.calibrations.append(check)
    _after_check(tool, check, full)
    ctx.session.flush()
    count_pulls(ctx, [tool.id])
    return check


def _point_shown(point: PointView) -> PointShown:
    delivered = [delivered_of(error) for error in point.errors]
    mean = sum(delivered) / len(delivered)
    unit = parse(point.setting, "torque").unit
    torque = convert(point.setting_Nm * mean * 1e3, "torque", unit)
    return PointShown(
        point.setting,
        point.setting_Nm,
        point.readings,
        point.errors,
        point.limit,
        point.verdict,
        f"{show(torque, 3)} {unit}",
        delivered,
        mean - 1.0,
        max(point.errors, key=abs),
        [delivered_of(point.limit), delivered_of(-point.limit)],
    )


def _view(check: Calibration, person: str) -> CheckView:
    points = [_point_shown(PointView(**p)) for p in json.loads(check.points)]
    if check.verdict == "":
        words = f"certificate {check.certificate}" if check.passed else "failed"
    else:
        unsure = f"±{check.uncertainty * 100:.1f} %"
        words = {
            "pass": f"passes, good until {day_text(check.until)}"
            if check.until > check.at
            else "passes, but starts no new interval: not over the whole range",
            "fail": "fails: it is blocked until it is repaired or allowed with correction",
            "undecided": f"not decided: the reference's {unsure} could turn it",
        }[check.verdict]
    return CheckView(
        check.id,
        check.at,
        check.until,
        check.certificate,
        check.reference,
        check.uncertainty,
        check.verdict or ("pass" if check.passed else "fail"),
        check.error,
        check.worst,
        check.limit,
        points,
        person,
        check.note,
        words,
    )


def _trend(checks: Sequence[Calibration]) -> CheckTrend:
    """How the mean error went over the checks that have figures."""
    known = [(one.at.timestamp() / YEAR, one.error) for one in checks if one.error is not None]
    return CheckTrend(
        *trend_of(known, next((one.limit for one in reversed(checks) if one.limit), None))
    )


def _check_at(spec: ToolSpec) -> list[str]:
    """Settings for a check in full, in the tool's unit."""
    unit = spec.range[1].quantity.unit
    low, high = spec.range[0].base, spec.range[1].base
    step = spec.increment.base if spec.increment else None
    wanted = [at * high for at in full_at(low, high, spec.kind == "preset driver")]
    rounded = [round(w / step) * step if step else w for w in wanted]
    return [f"{show(convert(one, 'torque', unit), 4)} {unit}" for one in dict.fromkeys(rounded)]


@use_case
def tool_detail(ctx: Ctx, tool_id: uuid.UUID) -> ToolDetail:
    """A tool with its checks. Raises NotFound."""
    tool = tool_of(ctx, tool_id)
    raw, names = json.loads(tool.spec), _people(ctx, tool)
    wrench = spec_of(tool) if tool.sort == "wrench" else None
    usual = USUAL_CLASS.get(raw.get("kind", ""), "")
    held = tool.held_to or usual
    top = limit_of(tool.held_to, wrench, wrench.range[1].base) if wrench is not None else None
    last = tool.calibrations[-1] if tool.calibrations else None
    checks = [
        _view(one, names.get(one.person_id, "")) for one in reversed(tool.calibrations[-SHOWN:])
    ]
    held_words = (
        ""
        if wrench is None
        else f"type and class {held} of ISO 6789-1"
        if held[:1] == "I"
        else f"its own limit, {held}"
    )
    return ToolDetail(
        view_of(tool, ctx.now),
        raw,
        tool.held_to,
        held_words,
        tool.interval_months,
        checks,
        _trend(tool.calibrations),
        _check_at(wrench) if wrench is not None else [],
        "" if top is None else f"every reading within ±{top * 100:g} %",
        last is not None
        and last.verdict == "fail"
        and last.error is not None
        and tool.corrected is None,
    )


def _people(ctx: Ctx, tool: Tool) -> dict[uuid.UUID, str]:
    ids = {one.person_id for one in tool.calibrations}
    return {
        row.id: row.name for row in ctx.session.scalars(select(Person).where(Person.id.in_(ids)))
    }


def add_calibration(
    ctx: Ctx, tool: Tool, at: datetime, until: datetime, certificate: str, passed: bool = True
) -> None:
    """Keep a calibration by its certificate, without figures."""
    tool.calibrations.append(
        Calibration(
            id=ctx.new_id(),
            tool_id=tool.id,
            at=at,
            until=until,
            certificate=certificate,
            passed=passed,
            person_id=ctx.person.id,
        )
    )
    ctx.session.flush()
