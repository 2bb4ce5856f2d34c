"""The record: bolt by pass, items, notes, deviations and signatures, derived from the events
alone."""

from __future__ import annotations

import math
from collections.abc import Iterable

from ...forms.group import GroupOut
from ...forms.record import Cell, Column, GroupTable, PlaceRow, Record, RecordLine, ToolUsed
from ...forms.result import Result
from ...forms.setting import SettingOut
from ...forms.stage import PassOut
from ...kinds.pulls import measured_words
from ...kinds.registry import PASS_KINDS
from ...units import show
from ..log.event_log import Fact, Given, Log, fold
from ..log.step_id import parse, step_id
from ..log.tool_history import PULLED
from ..walk.deviations import all_deviations
from ..walk.instruction import answer_text
from ..walk.program import Segment, segments_of, units_of
from ..walk.provisional import provisional_why
from ..walk.reading_relations import charts_of_readings
from ..walk.state import conflicts_of, sign_offs_of, status_of, walk_run
from ..walk.step_walker import Walk
from .narrative import story_of, too_fast
from .record_pictures import bolts_of, charts_of, notes_of

#: answers that a reader of the record should see, and those that were a pull of the wrench
_NOTABLE = ("refuses", "turns_on", "stopped_early", "cap", "skip")


def _tries(
    log: Log, base: str, round_: int | None, place: str | None, pull: int | None
) -> list[Given]:
    """Every answer a step ever had, in order of attempts."""
    out: list[Given] = []
    while (given := log.answers.get(step_id(base, round_, place, len(out) + 1, pull))) is not None:
        out.append(given)
    return out


def _cell(
    walk: Walk, base: str, one: PassOut, round_: int, place: str, fast: set[str]
) -> Cell | None:
    """What happened to one bolt in one pass and round: its last answer, with attempts and pulls
    counted."""
    pulls: list[list[Given]] = []
    for pull in range(1, (one.repeat_max or 1) + 1):
        tries = _tries(walk.log, base, round_, place, pull if one.repeat_still else None)
        if not tries:
            break
        pulls.append(tries)
    if not pulls:
        return None
    given, number = pulls[-1][-1], len(pulls)
    # a bolt that was slackened before it was pulled turns because of that
    slackened = bool(_tries(walk.log, base, round_, place, 0))
    moved = one.check and not slackened and PASS_KINDS[one.do].moved(one, given)
    answer = given.answer or {}
    reading = answer.get("reading") or {}
    then = _tries_then(walk.log, given)
    text = answer_text(given.answer, walk.step_of(given.fact.id))
    if then is not None:
        text = f"{text}; {answer_text(then.answer, walk.step_of(then.fact.id))}"
    text = f"slackened; {text}" if slackened else text
    return Cell(
        answer=given.word,
        text=text,
        person=given.fact.person,
        at=given.fact.at,
        torque=reading.get("torque"),
        angle=reading.get("angle"),
        value=answer.get("value"),
        still=given.word == "did_not_turn",
        notable=given.word in _NOTABLE or moved,
        moved=moved,
        slackened=slackened,
        measured=measured_words(answer),
        whole=bool(given.fact.payload.get("whole")),
        fast=given.fact.id in fast,
        attempt=sum(len(p) for p in pulls) - number + 1,
        pulls=number,
        corrected=any(g.corrected for p in pulls for g in p),
    )


def _tries_then(log: Log, given: Given) -> Given | None:
    """What was done about a failed answer, the last word."""
    found, attempt = None, 1
    while (
        then := log.answers.get(f"{given.fact.step}/then" + (f"/a{attempt}" if attempt > 1 else ""))
    ) is not None:
        found, attempt = then, attempt + 1
    return found


def _rounds(log: Log, base: str, one: PassOut) -> int:
    """How many rounds of a pass have begun, at least one."""
    count = 1
    # more rounds than the plan gives, where that was decided
    while any(step_id(base, count + 1, move[0], 1) in log.answers for move in one.order):
        count += 1
    return count


def _table(
    walk: Walk, group: GroupOut, position: str | None, parts: list[Segment], fast: set[str]
) -> GroupTable:
    columns: list[Column] = []
    cells: dict[str, list[Cell | None]] = {p.id: [] for p in group.places}
    for segment in parts:
        one = segment.one
        assert one is not None
        base = segment.base()
        settings = walk.log.setup.settings_of(segment.stage, one)
        for round_ in range(1, _rounds(walk.log, base, one) + 1):
            title = one.name if round_ == 1 else f"{one.name}, round {round_}"
            columns.append(
                Column(
                    id=f"{base}/r{round_}",
                    title=title,
                    do=one.do,
                    check=one.check,
                    percent=one.percent,
                    setting=_setting_words(settings),
                )
            )
            found = {
                place: _cell(walk, base, one, round_, move[0], fast)
                for move in one.order
                for place in move
            }
            for place in cells:
                cells[place].append(found.get(place))
    rows = [PlaceRow(place=p.id, label=p.label, cells=cells[p.id]) for p in group.places]
    made = GroupTable(
        group=group.id, name=group.name, position=position, columns=columns, rows=rows
    )
    made.bolts, made.notes = bolts_of(made, walk.deviations), notes_of(made, walk.deviations)
    made.charts = charts_of(made, group.target.set_torque_Nm if group.target else None)
    return made


def _lines(walk: Walk, parts: list[Segment]) -> list[RecordLine]:
    out = []
    for segment in parts:
        text = segment.item.text if segment.item else "Condition: " + ", ".join(segment.condition)
        if segment.place:
            text = f"{text}, bolt {walk.named(None, segment.place)}"
        if segment.nth:
            text = f"{text}, reading {segment.nth}"
        for given in _tries(walk.log, segment.base(), None, segment.place, segment.nth):
            answer, then = (
                answer_text(given.answer, walk.step_of(given.fact.id)),
                _tries_then(walk.log, given),
            )
            if then is not None:
                answer = f"{answer}; {answer_text(then.answer, walk.step_of(then.fact.id))}"
            out.append(
                RecordLine(
                    stage=segment.stage.title,
                    position=segment.position,
                    text=text,
                    answer=answer,
                    person=given.fact.person,
                    at=given.fact.at,
                )
            )
    return out


def _pauses(walk: Walk, parts: list[Segment]) -> list[RecordLine]:
    """Waits and jacking inside stages: passes over no bolts."""
    out = []
    for segment in parts:
        one = segment.one
        if one is None or one.group:
            continue
        rounds: list[int | None] = (
            [None] if PASS_KINDS[one.do].pause else [*range(1, one.rounds_max + 1)]
        )
        for round_ in rounds:
            for given in _tries(walk.log, segment.base(), round_, None, None):
                out.append(
                    RecordLine(
                        stage=segment.stage.title,
                        position=segment.position,
                        text=one.name,
                        answer=answer_text(given.answer, walk.step_of(given.fact.id)),
                        person=given.fact.person,
                        at=given.fact.at,
                    )
                )
    return out


def _tools(log: Log, parts: list[Segment]) -> list[ToolUsed]:
    """Bound tools with the pulls they made, counted against their calibration."""
    stages: dict[tuple[str, str, str], str | None] = {}
    names = {t.name: t.tool for t in log.setup.tools}
    for segment in parts:
        settings = log.setup.settings_of(segment.stage, segment.one) if segment.one else []
        if settings and segment.one:
            stages[segment.stage.id, segment.one.id, segment.one.group] = names.get(
                settings[0].tool
            )
    out = []
    for number, (tool, change) in enumerate(log.hands):
        # in hand from its change to the next of the same kind
        until = next(
            (
                c.sequence
                for t, c in log.hands[number + 1 :]
                if t.tool == tool.tool and c is not None
            ),
            None,
        )
        pulls = sum(
            1
            for given in log.order
            if given.word in PULLED
            and stages.get(_part(given)) == tool.tool
            and (change is None or given.fact.sequence > change.sequence)
            and (until is None or given.fact.sequence < until)
        )
        out.append(
            ToolUsed(
                tool=tool.tool,
                serial=tool.serial,
                name=tool.name,
                calibrated_until=tool.until,
                expired=tool.expired,
                state=tool.state,
                pulls=pulls,
            )
        )
    return out


def _part(given: Given) -> tuple[str, str, str]:
    """Stage, pass and group of an answer: groups of one pass may each have a wrench of their
    own."""
    step = parse(given.fact.step)
    return (step.stage, step.part, (step.place or "").rpartition(".")[0]) if step else ("", "", "")


def _setting_words(settings: list[SettingOut]) -> str | None:
    """What a pass was set to: at the bolt, and on the wrench where that is another figure."""
    if not settings:
        return None
    one = settings[0]
    if math.isclose(one.settable_Nm, one.bolt_torque_Nm, rel_tol=1e-6):
        return one.text
    return f"{show(one.bolt_torque_Nm, 4)} N·m at the bolt, {one.text} on the wrench"


def record_of(result: Result, facts: Iterable[Fact], now: float = 0.0) -> Record:
    """The record of a run from its stored result and its events in sequence order."""
    listed = list(facts)
    log = fold(listed)
    walk, pending, _ = walk_run(result, log, now)
    parts = [s for unit in units_of(result, log.setup) for s in segments_of(unit)]
    fast, tables = too_fast(walk, log), []
    passes = [s for s in parts if s.one is not None and s.one.group]
    for position in dict.fromkeys(s.position for s in passes):
        for group in result.groups:
            own = [
                s
                for s in passes
                if s.one is not None and s.one.group == group.id and s.position == position
            ]
            if own:
                tables.append(_table(walk, group, position, own, fast))
    lines = _lines(walk, [s for s in parts if s.one is None]) + _pauses(walk, parts)
    names = {v.id: v.name for v in result.variants}
    status = status_of(log, pending)
    why = provisional_why(result, walk, log)
    return Record(
        status=status,
        occasion=log.setup.occasion,
        variants=[names.get(v, v) for v in log.setup.variants],
        history=log.setup.history,
        provisional=bool(why),
        provisional_why=why,
        tools=_tools(log, parts),
        conflicts=conflicts_of(log, walk),
        tables=tables,
        lines=sorted(lines, key=lambda x: x.at),
        readings=charts_of_readings(walk),
        story=story_of(result, walk, log, listed, fast),
        deviations=all_deviations(walk, log),
        sign_offs=sign_offs_of(log),
        started=listed[0].at if listed else None,
        ended=listed[-1].at if listed else None,
        people=sorted({f.person for f in listed}),
    )
