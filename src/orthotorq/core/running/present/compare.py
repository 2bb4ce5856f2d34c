"""A run held against the last one of the same joint: a joint that keeps moving is seen."""

from __future__ import annotations

from collections.abc import Mapping

from ...forms.record import Compared, Record


def _moved(record: Record) -> tuple[set[str], set[str]]:
    """(bolts that moved in a check round, bolts that were checked), as position and place."""
    moved, checked = set[str](), set[str]()
    for table in record.tables:
        for row in table.rows:
            name = f"{table.position} {row.place}" if table.position else row.place
            for column, cell in zip(table.columns, row.cells, strict=True):
                # a bolt that was slackened first was tightened anew, not checked
                if column.check and cell is not None and not cell.slackened:
                    checked.add(name)
                    if cell.moved:
                        moved.add(name)
    return moved, checked


def counted(record: Record) -> tuple[int, int]:
    """(bolts that check rounds of a run looked at, bolts of those that had moved)."""
    moved, checked = _moved(record)
    return len(checked), len(moved)


def checked_bolts(record: Record) -> set[str]:
    """Bolts that a check round of a run looked at; taking apart and looking have none."""
    return _moved(record)[1]


def _words(record: Record, positions: Mapping[str, str]) -> dict[str, str]:
    """Bolts as they are painted, with their position, by position and place."""
    out = {}
    for table in record.tables:
        where = f" ({positions.get(table.position, table.position)})" if table.position else ""
        for row in table.rows:
            out[f"{table.position} {row.place}" if table.position else row.place] = (
                f"bolt {row.label}{where}"
            )
    return out


def compare(
    record: Record, before: Record, run: int, positions: Mapping[str, str] | None = None
) -> Compared:
    """What moved in the checks of this run and of the one before, and what moved in both;
    `positions` are names by id."""
    now, checked = _moved(record)
    then, checked_then = _moved(before)
    both = [words for bolt, words in _words(record, positions or {}).items() if bolt in now & then]
    return Compared(
        run=run,
        at=before.ended or "",
        moved_now=len(now),
        checked_now=len(checked),
        moved_before=len(then),
        checked_before=len(checked_then),
        both=both,
        deviations_now=len(record.deviations),
        deviations_before=len(before.deviations),
    )
