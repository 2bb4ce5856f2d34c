"""What the codes of entries, runs and revisions stand for."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime
from typing import Any

from ..store.models import Run
from .keys import code_of


def time_text(at: datetime) -> str:
    """A time as it stands in the chain: ISO 8601 in UTC with microseconds."""
    return f"{at.astimezone(UTC).replace(tzinfo=None).isoformat(timespec='microseconds')}Z"


def event_text(run: uuid.UUID | str, sequence: int, own_hash: str) -> str:
    """What the code of an entry stands for: its hash, at its place in its run."""
    return f"{run}|{sequence}|{own_hash}"


def run_text(run: Any) -> str:
    """What the code of a run stands for: what stands of it beside its chain, and where the chain
    ends."""
    return (
        f"{run.id}|{run.number}|{run.revision_id}|{run.status}|{run.started_by}|{time_text(run.started_at)}|{run.occasion}|"
        f"{run.provisional}|{run.head_sequence}|{run.head_hash}"
    )


def revision_text(revision: Any) -> str:
    """What the code of a revision stands for: its plan, its figures, who released it and why."""
    return "|".join(
        (
            str(revision.id),
            str(revision.plan_id),
            str(revision.number),
            str(revision.released_by),
            time_text(revision.released_at),
            revision.document,
            revision.result,
            revision.reason,
            revision.taken_on,
        )
    )


def close_head(run: Run) -> None:
    """Write the code of a run anew, after what it stands for has changed."""
    run.code = code_of(run_text(run))
