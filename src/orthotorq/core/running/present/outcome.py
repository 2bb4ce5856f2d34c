"""What a run proves and leaves, by position and group; the condition of its joint follows from
it."""

from __future__ import annotations

from ...forms.group import GroupOut
from ...forms.outcome import FailureOut, PartOutcome, RunOutcome
from ...forms.result import Result
from ..log.event_log import Log
from ..log.step_id import parse
from ..walk.program import Unit, units_of
from ..walk.provisional import provisional_why
from ..walk.state import status_of, walk_run
from ..walk.step_walker import Walk


def outcome_of(result: Result, log: Log, number: int, now: float = 0.0) -> RunOutcome:
    """What a run leaves, from its stored result and its folded log, at a time in s since 1970."""
    walk, pending, _ = walk_run(result, log, now)
    status = status_of(log, pending)
    why = provisional_why(result, walk, log)
    ended = str(log.abandoned.payload.get("reason", "")) if log.abandoned is not None else ""
    units = units_of(result, log.setup)
    positions: list[tuple[str | None, str]] = [(p.id, p.name) for p in log.setup.at(result)] or [
        (None, "")
    ]
    parts = [
        _part(walk, log, units, position, group)
        for position in positions
        for group in _groups(result, walk, log)
    ]
    return RunOutcome(
        number=number,
        last_at=walk.last_at,
        occasion=log.setup.occasion,
        status=status,
        provisional=why,
        ended_why=ended,
        parts=parts,
    )


def _groups(result: Result, walk: Walk, log: Log) -> list[GroupOut]:
    """The groups that a run is about: of a choice that made no difference then, those of every
    way."""
    chosen = {v.choice for v in result.variants if v.id in log.setup.variants}
    open_ = {v.id for v in result.variants if v.choice not in chosen}
    return [g for g in result.groups if g.id in walk.groups or set(g.variants) & open_]


def _empty(position: tuple[str | None, str], group: GroupOut, groups: int) -> PartOutcome:
    return PartOutcome(
        position=position[0],
        position_name=position[1],
        group=group.id,
        group_name=group.name if groups > 1 else "",
        bolts=len(group.places),
        turned=False,
        slackened=False,
        pulled=False,
        checked=0,
        moved=0,
    )


def _part(
    walk: Walk, log: Log, units: list[Unit], position: tuple[str | None, str], group: GroupOut
) -> PartOutcome:
    """One group at one position."""
    found: list[set[str]] = [
        walk.marks.get((position[0], p.id)) or walk.marks.get((None, p.id)) or set()
        for p in group.places
    ]

    def each(word: str) -> bool:
        return all(word in marks for marks in found)

    made = _empty(position, group, len(walk.groups))
    return made.model_copy(
        update={
            "turned": any(found),
            "slackened": each("slackened"),
            "pulled": each("pulled"),
            "checked": sum("checked" in marks for marks in found),
            "moved": sum("moved" in marks for marks in found),
            "failures": [*_failures(walk, units, position[0], group.id), *_unsafe(log)],
            "held": sorted({stage for stage, where in walk.held if where in (None, position[0])}),
        }
    )


def _failures(walk: Walk, units: list[Unit], position: str | None, group: str) -> list[FailureOut]:
    """What failed and was left at a group: at its bolts, or at all bolts of its position."""
    out = []
    for step, (code, text) in walk.failed.items():
        where = parse(step)
        if where is None or where.position not in (None, position):
            continue
        if where.place is not None and where.place.rpartition(".")[0] not in ("", group):
            continue
        stage = next((u.stage for u in units if u.stage.id == where.stage), None)
        if stage is not None and where.place is None and stage.groups and group not in stage.groups:
            continue
        out.append(
            FailureOut(
                step=step,
                stage=where.stage,
                title=walk.title(where.stage),
                code=code,
                text=text,
                needs=_needs(units, where.stage),
            )
        )
    return out


def _needs(units: list[Unit], failed: str) -> list[str]:
    """A stage with all stages after it that turn bolts or prove something."""
    stages = list({u.stage.id: u for u in units}.values())
    at = next((i for i, u in enumerate(stages) if u.stage.id == failed), len(stages))
    return [
        u.stage.id
        for i, u in enumerate(stages[at:])
        if i == 0 or u.kind.turns or u.kind.proves or u.kind.kind == "watch"
    ]


def _unsafe(log: Log) -> list[FailureOut]:
    """Stops that somebody asked for since it is not safe, and that nobody has settled."""
    return [
        FailureOut(
            step=fact.step,
            stage="",
            title="",
            code="unsafe",
            text=f"Stopped, not safe: {fact.payload.get('text', '')}",
        )
        for fact in log.stopped()
        if fact.payload.get("about") == "unsafe"
    ]
