"""The server does not start without what it needs, says what that is, and knows no more than it
needs."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import pytest

from orthotorq.settings import public_url
from tests.cli.test_commands import run
from tests.conftest import Database, drop_database, make_database

ROOT = Path(__file__).parents[2]


@pytest.fixture
def built(tmp_path: Path) -> str:
    """A folder with a front end."""
    (tmp_path / "index.html").write_text("<p>front end</p>")
    return str(tmp_path)


def python(program: str, names: dict[str, str]) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-c", program],
        capture_output=True,
        text=True,
        check=False,
        env={**os.environ, **names},
    )


def test_everything_that_is_missing_is_named_at_once(database: Database, tmp_path: Path) -> None:
    done = run(
        "serve",
        ORTHOTORQ_DATABASE_URL=database.app_url,
        ORTHOTORQ_FRONTEND=str(tmp_path / "none"),
        ORTHOTORQ_KEYS=str(tmp_path / "keys"),
        ORTHOTORQ_DEMO="0",
    )
    assert done.returncode == 2
    for words in ("There is no front end in", "The key file cannot be read", "people of the demo"):
        assert words in done.stderr, done.stderr


def test_a_database_without_a_schema_or_that_does_not_answer_is_said(built: str) -> None:
    empty = make_database()
    try:
        done = run("serve", ORTHOTORQ_DATABASE_URL=empty.app_url, ORTHOTORQ_FRONTEND=built)
        assert (
            done.returncode == 2
            and "orthotorq migrate" in done.stderr
            and "front end" not in done.stderr
        )
    finally:
        drop_database(empty)
    nobody = "postgresql+psycopg://orthotorq_app:x@127.0.0.1:9/orthotorq"
    done = run("serve", ORTHOTORQ_DATABASE_URL=nobody, ORTHOTORQ_FRONTEND=built)
    assert (
        done.returncode == 2 and "does not answer" in done.stderr and "Traceback" not in done.stderr
    )


def test_the_server_never_learns_the_address_of_the_owner(database: Database, built: str) -> None:
    program = (
        "import os; from pathlib import Path; from orthotorq.cli import keeping\n"
        "keeping.os.execve = lambda file, words, environment: print('ORTHOTORQ_OWNER_URL' in "
        "environment, words[0])\n"
        "keeping.serve.main([], standalone_mode=False)"
    )
    names = {
        "ORTHOTORQ_DATABASE_URL": database.app_url,
        "ORTHOTORQ_OWNER_URL": database.owner_url,
        "ORTHOTORQ_FRONTEND": built,
    }
    done = python(program, names)
    assert done.stdout.split() == ["False", "gunicorn"], done.stderr
    loaded = (
        "import os, orthotorq.serving as serving; print('ORTHOTORQ_OWNER_URL' in os.environ); "
        "serving.on_exit(None)"
    )
    again = python(loaded, names)
    assert again.stdout.strip() == "False"
    # the start script gives it to nobody who serves or works
    script = (ROOT / "scripts" / "demo.sh").read_text()
    for line in script.splitlines():
        if "gunicorn -c" in line or "orthotorq worker >" in line:
            assert "env -u ORTHOTORQ_OWNER_URL" in line, line


def test_the_address_that_devices_see_follows_the_port(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.delenv("ORTHOTORQ_PUBLIC_URL", raising=False)
    monkeypatch.setenv("ORTHOTORQ_PORT", "9414")
    assert public_url() == "http://127.0.0.1:9414"
    monkeypatch.setenv("ORTHOTORQ_PUBLIC_URL", "https://bolts.example/")
    assert public_url() == "https://bolts.example"
