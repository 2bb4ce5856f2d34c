"""The drill: a copy is made, put into an empty database, walked, counted, and held against the seal
beside it."""

from __future__ import annotations

import json
from collections.abc import Iterator
from pathlib import Path

import pytest

from orthotorq.services.backup import BackupError, backup, proved, restore
from orthotorq.services.context import Ctx
from tests.cli.test_commands import run
from tests.conftest import NOW, Database, drop_database, make_database


@pytest.fixture(scope="module")
def copied(database: Database, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A copy of the demo."""
    sessions = database.sessions()
    with sessions() as session:
        made = backup(Ctx(session, NOW), database.owner_url, tmp_path_factory.mktemp("copies"))
    sessions.kw["bind"].dispose()
    return made.file


@pytest.fixture
def empty() -> Iterator[Database]:
    """A database with nothing in it."""
    made = make_database()
    yield made
    drop_database(made)


def test_what_was_copied_is_put_back_and_proved(copied: Path, empty: Database) -> None:
    said = json.loads(copied.with_suffix(".json").read_text(encoding="utf-8"))
    assert copied.stat().st_mode & 0o077 == 0
    assert restore(empty.owner_url, copied) == said["rows"]
    sessions = empty.sessions()
    with sessions() as session:
        walked, missed = proved(Ctx(session, NOW), copied)
    sessions.kw["bind"].dispose()
    assert (walked.runs, walked.breaks, missed) == (3, [], [])
    # triggers and rights came back too
    done = run(
        "verify",
        "--seal",
        str(copied.with_suffix(".seal.txt")),
        ORTHOTORQ_DATABASE_URL=empty.app_url,
    )
    assert done.returncode == 0, done.stdout + done.stderr


def test_a_copy_is_put_into_an_empty_database_alone(copied: Path, database: Database) -> None:
    with pytest.raises(BackupError, match="into an empty one alone"):
        restore(database.owner_url, copied)


def test_a_damaged_copy_is_not_put_back(copied: Path, empty: Database, tmp_path: Path) -> None:
    bad = tmp_path / copied.name
    data = bytearray(copied.read_bytes())
    data[len(data) // 2] ^= 1
    bad.write_bytes(data)
    with pytest.raises(BackupError, match="The list beside"):
        restore(empty.owner_url, bad)
    bad.with_suffix(".json").write_bytes(copied.with_suffix(".json").read_bytes())
    with pytest.raises(BackupError, match="its digest is another"):
        restore(empty.owner_url, bad)


def test_a_copy_that_cannot_be_made_leaves_nothing_and_says_why(
    database: Database, tmp_path: Path
) -> None:
    sessions = database.sessions()
    with sessions() as session, pytest.raises(BackupError, match="pg_dump failed"):
        backup(
            Ctx(session, NOW),
            database.owner_url.replace("orthotorq_owner:", "orthotorq_owner:not"),
            tmp_path,
        )
    sessions.kw["bind"].dispose()
    assert list(tmp_path.glob("*.dump")) + list(tmp_path.glob("*.part")) == []


def test_copies_and_putting_back_from_the_command_line(
    database: Database, empty: Database, tmp_path: Path
) -> None:
    made = run(
        "backup",
        str(tmp_path),
        ORTHOTORQ_DATABASE_URL=database.app_url,
        ORTHOTORQ_OWNER_URL=database.owner_url,
    )
    assert made.returncode == 0 and "sha256" in made.stdout and "seal" in made.stdout, made.stderr
    file = next(tmp_path.glob("*.dump"))
    back = run(
        "restore",
        str(file),
        ORTHOTORQ_DATABASE_URL=empty.app_url,
        ORTHOTORQ_OWNER_URL=empty.owner_url,
    )
    assert back.returncode == 0 and "0 things do not hold" in back.stdout, back.stdout + back.stderr
    again = run(
        "restore",
        str(file),
        ORTHOTORQ_DATABASE_URL=empty.app_url,
        ORTHOTORQ_OWNER_URL=empty.owner_url,
    )
    assert again.returncode == 2 and "into an empty one alone" in again.stderr


def test_all_that_is_kept_about_a_person_is_written_for_them(
    database: Database, tmp_path: Path
) -> None:
    out = tmp_path / "tam.json"
    assert (
        run(
            "admin", "about", "tam", "-o", str(out), ORTHOTORQ_DATABASE_URL=database.app_url
        ).returncode
        == 0
    )
    found = json.loads(out.read_text(encoding="utf-8"))
    assert (found["person"]["name"], found["person"]["roles"]) == ("Tam Hollis", ["fitter"])
    assert {one["kind"] for one in found["named_in"]["event"]} >= {"start", "answer", "sign_off"}
    assert [one["kind"] for one in found["named_in"]["security_event"]] == ["signature"] * 3
    assert (
        run(
            "admin", "about", "nobody", "-o", str(out), ORTHOTORQ_DATABASE_URL=database.app_url
        ).returncode
        == 2
    )


def test_the_first_person_is_made_by_the_command_line_and_the_demo_is_not_served_as_real(
    database: Database,
) -> None:
    names = {
        "ORTHOTORQ_DATABASE_URL": database.app_url,
        "ORTHOTORQ_PUBLIC_URL": "https://bolts.example",
    }
    made = run("admin", "create", "nell", "Nell Arden", **names)
    assert made.returncode == 0 and made.stdout.startswith("https://bolts.example/invitation/"), (
        made.stderr
    )
    again = run("admin", "create", "nell", "Nell Arden", **names)
    assert again.returncode == 2 and "is the sign-in name of another person" in again.stderr
    served = run("serve", **names, ORTHOTORQ_DEMO="0")
    assert served.returncode == 2 and "jory, mira, runa, tam" in served.stderr
