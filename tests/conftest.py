"""Databases for tests: one template with the migrated schema and the demo, copied for every module
that wants one."""

from __future__ import annotations

import os
import uuid
from collections.abc import Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass
from datetime import UTC, datetime

import pytest
from argon2 import PasswordHasher
from hypothesis import settings
from sqlalchemy import create_engine, text
from sqlalchemy.engine import URL, make_url
from sqlalchemy.orm import Session, sessionmaker

from orthotorq.demo.load import load
from orthotorq.services.accounts import commands, factors, passwords, queries
from orthotorq.services.database import open_sessions
from orthotorq.services.schema import upgrade

# what every process of the application is given
os.environ.setdefault("ORTHOTORQ_SECRET_KEY", "for tests only, at least thirty-two characters")
os.environ.setdefault("ORTHOTORQ_DEMO", "1")
os.environ.setdefault("ORTHOTORQ_TIME_ZONE", "UTC")
# tests ask faster than anybody; test_limits has its own
os.environ.setdefault("ORTHOTORQ_RATE", "0")
APP_ROLE = "orthotorq_app"
#: the demo is loaded as of today, and looked at today: nothing in it grows old
NOW = datetime.now(UTC).replace(microsecond=0)

# tests assert no times: a machine that pauses fails nothing
settings.register_profile("untimed", deadline=None)
settings.load_profile("untimed")


def _needed(name: str) -> URL:
    value = os.environ.get(name)
    if not value:
        pytest.skip(f"{name} is not set: run ./torq test")
    return make_url(value)


def text_of(url: URL) -> str:
    """A URL with its password."""
    return url.render_as_string(hide_password=False)


def superuser_url() -> URL:
    """URL of the cluster's superuser."""
    return _needed("ORTHOTORQ_TEST_SUPER_URL")


def superuser(statement: str) -> None:
    """Run a statement as the cluster's superuser, outside a transaction."""
    engine = create_engine(superuser_url(), isolation_level="AUTOCOMMIT")
    with engine.connect() as connection:
        connection.execute(text(statement))
    engine.dispose()


@dataclass(frozen=True)
class Database:
    """One test database with the URLs of both roles."""

    name: str
    app_url: str
    owner_url: str

    def sessions(self) -> sessionmaker[Session]:
        """Sessions of the application's role."""
        return open_sessions(self.app_url)


def make_database(template: str | None = None, name: str = "") -> Database:
    """An empty database, or a copy of another."""
    name = name or f"t_{uuid.uuid4().hex[:12]}"
    copy = f" TEMPLATE {template}" if template else ""
    superuser(f"CREATE DATABASE {name} OWNER orthotorq_owner{copy}")
    superuser(f"GRANT CONNECT ON DATABASE {name} TO {APP_ROLE}")
    urls = [
        text_of(_needed(f"ORTHOTORQ_{which}_URL").set(database=name))
        for which in ("DATABASE", "OWNER")
    ]
    return Database(name, *urls)


@pytest.fixture(scope="session", autouse=True)
def real_hasher() -> Iterator[PasswordHasher]:
    """How passwords are hashed outside of the tests, where a hash takes a quarter of a second of a
    processor, on purpose; here it takes a millisecond."""
    real, quick = commands.HASHER, PasswordHasher(time_cost=1, memory_cost=1024, parallelism=1)
    with pytest.MonkeyPatch.context() as patch:
        for module in (commands, factors, passwords, queries):
            patch.setattr(module, "HASHER", quick)
        patch.setattr(commands, "_NOBODY", quick.hash("nobody signs in with this"))
        yield real


_DROPPING = ThreadPoolExecutor(1)


def drop_database(database: Database) -> Future[None]:
    """Remove it, whoever is still connected, beside whatever comes next: PostgreSQL waits half a
    second for its checkpoint."""
    return _DROPPING.submit(superuser, f"DROP DATABASE {database.name} WITH (FORCE)")


@pytest.fixture(scope="session")
def template() -> Iterator[Database]:
    """A migrated database with the demo, to be copied and never written."""
    made = make_database()
    upgrade(made.owner_url, APP_ROLE)
    sessions = made.sessions()
    with sessions.begin() as session:
        load(session)
    sessions.kw["bind"].dispose()
    yield made
    # one after the other: this is the last
    drop_database(made).result()


@pytest.fixture(scope="module")
def database(template: Database) -> Iterator[Database]:
    """A copy of the demo for one module."""
    made = make_database(template.name)
    yield made
    drop_database(made)


@pytest.fixture
def session(database: Database) -> Iterator[Session]:
    """A session whose changes are rolled back."""
    sessions = database.sessions()
    with sessions() as opened:
        yield opened
        opened.rollback()
    sessions.kw["bind"].dispose()
