"""The record: bolt by pass, items, notes, deviations and signatures, derived from the events alone."""
from __future__ import annotations

from collections.abc import Iterable

from ..documents.result import GroupOut, PassOut, Result
from ..documents.run import Cell, Column, GroupTable, PlaceRow, Record, RecordLine, RecordNote
from .fold import Fact, Given, Log, fold
from .instruct import label_of
from .passes import settled
from .program import Segment, segments, step_id
from .state import all_deviations, answer_text, sign_offs_of, status_of, walk_run


def _cell(given: Given, attempt: int, check: bool) -> Cell:
    answer = given.answer or {}
    reading = answer.get("reading") or {}
    return Cell(answer=str(answer.get("answer")), text=answer_text(given.answer, check),
                person=given.fact.person, at=given.fact.at, torque=reading.get("torque"), angle=reading.get("angle"),
                attempt=attempt, corrected=given.corrected)


def _rounds(log: Log, base: str, one: PassOut) -> int:
    """How many rounds of a pass have begun, at least one."""
    count = 1
    for round_ in range(2, one.rounds_max + 1):
        if any(step_id(base, round_, move[0], 1) in log.answers for move in one.order):
            count = round_
    return count


def _table(log: Log, group: GroupOut, position: str | None, parts: list[Segment]) -> GroupTable:
    columns: list[Column] = []
    cells: dict[str, list[Cell | None]] = {p.id: [] for p in group.places}
    for segment in parts:
        one = segment.one
        assert one is not None
        base = segment.base()
        for round_ in range(1, _rounds(log, base, one) + 1):
            title = one.name if round_ == 1 else f"{one.name}, round {round_}"
            columns.append(Column(id=f"{base}/r{round_}", title=title,
                                  setting=one.settings[0].text if one.settings else None))
            for move in one.order:
                given, attempt = settled(log, base, round_, move[0])
                for place in move:
                    cells[place].append(_cell(given, attempt, one.check) if given else None)
    rows = [PlaceRow(place=p.id, label=label_of(p.id), cells=cells[p.id]) for p in group.places]
    return GroupTable(group=group.id, name=group.name, position=position, columns=columns, rows=rows)


def _lines(log: Log, parts: list[Segment]) -> list[RecordLine]:
    out = []
    for segment in parts:
        attempt = 1
        while (given := log.answers.get(step_id(segment.base(), None, None, attempt))) is not None:
            text = segment.item.text if segment.item else "Condition: " + ", ".join(segment.stage.condition)
            out.append(RecordLine(stage=segment.stage.title, position=segment.position, text=text,
                                  answer=answer_text(given.answer), person=given.fact.person,
                                  at=given.fact.at))
            attempt += 1
    return out


def _notes(log: Log) -> list[RecordNote]:
    out = []
    for fact in log.others:
        text = str(fact.payload.get("text", ""))
        if fact.kind == "correct":
            given = log.by_event.get(str(fact.payload.get("voids")))
            step = given.fact.step if given else "?"
            text = f"{step}: {answer_text(fact.payload.get('answer'))}"
        out.append(RecordNote(kind=fact.kind, step=fact.step, text=text, person=fact.person, at=fact.at))
    return out


def record_of(result: Result, facts: Iterable[Fact]) -> Record:
    """The record of a run from its stored result and its events in sequence order."""
    listed = list(facts)
    log = fold(listed)
    walk, pending = walk_run(result, log)
    parts = segments(result)
    tables = []
    positions: list[str | None] = [p.id for p in result.positions]
    for position in positions or [None]:
        for group in result.groups:
            own = [s for s in parts if s.one is not None and s.one.group == group.id and s.position == position]
            if own:
                tables.append(_table(log, group, position, own))
    return Record(status=status_of(log, pending), tables=tables, lines=_lines(log, [s for s in parts if s.one is None]),
                  notes=_notes(log), deviations=all_deviations(walk, log), sign_offs=sign_offs_of(log),
                  started=listed[0].at if listed else None, ended=listed[-1].at if listed else None,
                  people=sorted({f.person for f in listed}))
