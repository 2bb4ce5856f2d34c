"""What was made once and is kept: printed sheets. All of it can be made again."""

from __future__ import annotations

import uuid
from datetime import datetime

from sqlalchemy import ForeignKey, LargeBinary, String
from sqlalchemy.orm import Mapped, mapped_column

from .base import UTC, Base


class KeptSheet(Base):
    """A printed sheet of a revision; `digest` is of all that it was made from and with, so that an
    old one is seen to be old."""

    __tablename__ = "kept_sheet"
    revision_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("revision.id"), primary_key=True)
    name: Mapped[str] = mapped_column(String(20), primary_key=True)
    paper: Mapped[str] = mapped_column(String(10), primary_key=True)
    digest: Mapped[str] = mapped_column(String(64))
    made_at: Mapped[datetime] = mapped_column(UTC)
    data: Mapped[bytes] = mapped_column(LargeBinary)
    #: the server's code over all of it: what somebody else has written is not given out
    code: Mapped[str] = mapped_column(String(100))
