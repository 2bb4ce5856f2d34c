"""People, their sessions, what is watched, and the seals."""

from __future__ import annotations

import uuid
from datetime import date, datetime

from sqlalchemy import ARRAY, BigInteger, ForeignKey, String
from sqlalchemy.orm import Mapped, mapped_column

from .base import UTC, Base


class Person(Base):
    """Someone who signs in, with one or several roles."""

    __tablename__ = "person"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    login: Mapped[str] = mapped_column(String(60), unique=True)
    name: Mapped[str] = mapped_column(String(120))
    password_hash: Mapped[str] = mapped_column(String(200))
    roles: Mapped[list[str]] = mapped_column(ARRAY(String(20)))
    active: Mapped[bool] = mapped_column(default=True)
    #: Argon2id of a PIN for shared tablets, empty where there is none
    pin_hash: Mapped[str] = mapped_column(String(200), default="")
    #: secret of the one-time codes, encrypted; it counts once `totp_on`, and each step of time once
    totp_secret: Mapped[str] = mapped_column(String(200), default="")
    totp_on: Mapped[bool] = mapped_column(default=False)
    totp_step: Mapped[int] = mapped_column(BigInteger, default=0)
    #: who this is for the plant's own sign-on, learned at the first time
    subject: Mapped[str | None] = mapped_column(String(300), unique=True)


class SignIn(Base):
    """A session: somebody signed in somewhere, until it is ended or too old."""

    __tablename__ = "sign_in"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    person_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"), index=True)
    at: Mapped[datetime] = mapped_column(UTC)
    seen_at: Mapped[datetime] = mapped_column(UTC)
    ended_at: Mapped[datetime | None] = mapped_column(UTC)
    #: what the browser calls itself, so that a session is recognised in a list
    agent: Mapped[str] = mapped_column(String(200), default="")
    #: how it began: password, code (with a one-time code), sso, pin (on a tablet where somebody was
    #: signed in)
    by: Mapped[str] = mapped_column(String(20), default="password")
    #: of a session by PIN: when somebody last signed in on that tablet without one; it ends with
    #: that time
    proven_at: Mapped[datetime | None] = mapped_column(UTC)
    #: when the plant's sign-on last asked the person anew in this session: for a short while that
    #: stands for a password
    fresh_at: Mapped[datetime | None] = mapped_column(UTC)


class SignInAttempt(Base):
    """A failed sign-in; too many in a quarter of an hour are refused, on whatever worker they
    arrive."""

    __tablename__ = "sign_in_attempt"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    login: Mapped[str] = mapped_column(String(60), index=True)
    at: Mapped[datetime] = mapped_column(UTC)
    address: Mapped[str] = mapped_column(String(60), index=True, default="")
    #: the open session in which it was given; tries from elsewhere never block one
    session_id: Mapped[uuid.UUID | None] = mapped_column(index=True)


class Invitation(Base):
    """A link that lets somebody set a password, once; of the link itself only a digest is kept."""

    __tablename__ = "invitation"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    person_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("person.id"), index=True)
    digest: Mapped[str] = mapped_column(String(64), unique=True)
    at: Mapped[datetime] = mapped_column(UTC)
    until: Mapped[datetime] = mapped_column(UTC)
    used_at: Mapped[datetime | None] = mapped_column(UTC)


class SecurityEvent(Base):
    """Who signed in, was refused, changed people, signed or exported data; never edited."""

    __tablename__ = "security_event"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    at: Mapped[datetime] = mapped_column(UTC, index=True)
    kind: Mapped[str] = mapped_column(String(20))
    person_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("person.id"), index=True)
    login: Mapped[str] = mapped_column(String(60))
    words: Mapped[str] = mapped_column(String(300), default="")
    address: Mapped[str] = mapped_column(String(60), default="")


class Seal(Base):
    """One digest over the heads of all runs, the texts of all revisions and the names of all
    people; never edited."""

    __tablename__ = "seal"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    day: Mapped[date]
    made_at: Mapped[datetime] = mapped_column(UTC, index=True)
    runs: Mapped[int]
    previous: Mapped[str] = mapped_column(String(64))
    digest: Mapped[str] = mapped_column(String(64))
    code: Mapped[str] = mapped_column(String(100))
