"""Whether a revision is the one that was released: it leads nobody unless its code holds."""

from __future__ import annotations

import uuid

from sqlalchemy import text
from sqlalchemy.orm import Session

from ..core.messages import Refusal
from ..store.models import Revision
from .codes import revision_text
from .errors import Refused
from .keys import holds

#: said of a revision or a run that the application did not write
NO_CODE = "it has no code: it was written past the application"


def revisions_before_codes(session: Session) -> set[uuid.UUID]:
    """Revisions that were released before there were codes; the application cannot write this
    list."""
    return set(session.scalar(text("SELECT revisions FROM codes_since")) or ())


def revision_problem(session: Session, revision: Revision) -> str | None:
    """What is wrong with the code of a revision, or None."""
    if revision.code:
        return holds(revision.code, revision_text(revision))
    return None if revision.id in revisions_before_codes(session) else NO_CODE


def require_proven(session: Session, revision: Revision) -> None:
    """Raises Refused for a revision that was changed or written past the application."""
    problem = revision_problem(session, revision)
    if problem is not None:
        raise Refused(
            Refusal.REVISION_NOT_PROVEN,
            number=revision.number,
            plan=revision.plan.title,
            why=problem,
        )
