"""The base of every table: the naming of constraints, and times in UTC."""

from __future__ import annotations

from sqlalchemy import DateTime, MetaData
from sqlalchemy.orm import DeclarativeBase

NAMING = {
    "ix": "ix_%(column_0_label)s",
    "uq": "uq_%(table_name)s_%(column_0_name)s",
    "ck": "ck_%(table_name)s_%(constraint_name)s",
    "fk": "fk_%(table_name)s_%(column_0_name)s",
    "pk": "pk_%(table_name)s",
}
UTC = DateTime(timezone=True)


class Base(DeclarativeBase):
    """Base with the naming convention of every constraint."""

    metadata = MetaData(naming_convention=NAMING)
