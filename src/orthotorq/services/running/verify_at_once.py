"""The walk over a large database, on all processors at the same time, over one and the same state
of it."""

from __future__ import annotations

import os
import uuid
from concurrent.futures import ProcessPoolExecutor
from functools import reduce
from itertools import accumulate
from multiprocessing import get_context
from operator import add

from sqlalchemy import select, text
from sqlalchemy.orm import Session

from ...store.models import Run
from ..database import open_sessions
from .verify import Part, Walked, verify_all, walk_others, walk_runs

#: below so many entries one process is done before others have begun
WORTH_IT = 50_000
_PATIENCE_MS = 3_600_000


def parts_of(runs: list[tuple[uuid.UUID, int]], count: int) -> list[Part]:
    """Runs by id with their entries, cut into at most so many parts of about as many entries.

    >>> a, b, c = (uuid.UUID(int=n) for n in (1, 2, 3))
    >>> [(first.int if first else None, last.int if last else None)
    ...  for first, last in parts_of([(a, 5), (b, 5), (c, 9)], 2)]
    [(None, 2), (3, None)]
    """
    whole = sum(entries for _, entries in runs)
    sums = list(accumulate(entries for _, entries in runs))
    first = [
        next(i for i, upto in enumerate(sums) if upto > whole * part / count)
        for part in range(1, count)
    ]
    cuts = sorted({one for one in first if one > 0})
    starts: list[uuid.UUID | None] = [None, *(runs[cut][0] for cut in cuts)]
    ends: list[uuid.UUID | None] = [*(runs[cut - 1][0] for cut in cuts), None]
    return list(zip(starts, ends, strict=True))


def _walk(url: str, snapshot: str, part: Part) -> Walked:
    sessions = open_sessions(url, _PATIENCE_MS)
    with sessions() as session:
        session.connection(execution_options={"isolation_level": "REPEATABLE READ"})
        # a name that the database itself gave; it takes no parameter here
        session.execute(text(f"SET TRANSACTION SNAPSHOT '{snapshot}'"))
        return walk_runs(session, part)


def verify_database(session: Session, url: str) -> Walked:
    """Walk everything that is kept, as it is now for `session`, which must not have read anything
    yet."""
    session.connection(execution_options={"isolation_level": "REPEATABLE READ"})
    runs = [
        (run, entries)
        for run, entries in session.execute(select(Run.id, Run.head_sequence).order_by(Run.id))
    ]
    count = os.cpu_count() or 1
    if count == 1 or sum(entries for _, entries in runs) < WORTH_IT:
        return verify_all(session)
    snapshot = session.scalar(text("SELECT pg_export_snapshot()"))
    # clean processes: nothing of connections or threads of this one
    with ProcessPoolExecutor(count, get_context("spawn")) as pool:
        under_way = [pool.submit(_walk, url, str(snapshot), part) for part in parts_of(runs, count)]
        others = walk_others(session)
        return reduce(add, [one.result() for one in under_way], others)
