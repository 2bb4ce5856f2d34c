"""The schema and whether anything is in it, for those above the services; loads nothing of the
core."""

from __future__ import annotations

from sqlalchemy import exists, select
from sqlalchemy.orm import Session

from ..store.migrate import downgrade, upgrade
from ..store.models import Person

__all__ = ["downgrade", "people_exist", "upgrade"]


def people_exist(session: Session) -> bool:
    """Whether anybody is registered."""
    return bool(session.scalar(select(exists().select_from(Person))))
