"""A run held against the last one of the same joint: a joint that keeps moving is seen."""
from __future__ import annotations

from ..forms.record import Compared, Record


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


def compare(record: Record, before: Record, run: int) -> Compared:
    """What moved in the checks of this run and of the one before, and what moved in both."""
    now, checked = _moved(record)
    then, checked_then = _moved(before)
    return Compared(run=run, at=before.ended or "", moved_now=len(now), checked_now=len(checked), moved_before=len(then),
                    checked_before=len(checked_then), both=sorted(now & then),
                    deviations_now=len(record.deviations), deviations_before=len(before.deviations))
