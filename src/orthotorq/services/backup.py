"""Copies of everything that is kept: written, looked at again, and put back into an empty database.

The tools are PostgreSQL's own (pg_dump, pg_restore). Photos are in the database, so they are in the
copy; the keys of the record and the secrets are not, and have to be kept apart.
"""

from __future__ import annotations

import hashlib
import json
import os
import subprocess
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from sqlalchemy import URL, create_engine, make_url, text

from .context import Ctx
from .running.seal import Missed, compare_seal, make_seal
from .running.verify import Walked, verify_all

#: tables whose rows are counted before and after
COUNTED = (
    "person",
    "equipment",
    "joint",
    "plan",
    "revision",
    "run",
    "event",
    "reading",
    "photo",
    "tool",
    "calibration",
)


class BackupError(RuntimeError):
    """A copy that could not be made, is damaged, or may not be put there."""


@dataclass(frozen=True, slots=True)
class Copy:
    """A copy that was made: its file, its digest, its size in bytes, the digest of the seal beside
    it."""

    file: Path
    digest: str
    size: int
    seal: str


def _program(name: str) -> str:
    """One of PostgreSQL's programs, the newest there is."""
    found = [
        path
        for path in Path("/usr/lib/postgresql").glob(f"*/bin/{name}")
        if path.parts[-3].isdecimal()
    ]
    return str(max(found, key=lambda path: int(path.parts[-3]))) if found else name


def _run(program: str, url: URL, *arguments: str) -> str:
    """Run a program on a database; its password is in no list of processes. Raises BackupError with
    what it said."""
    given = {
        "PGPASSWORD": url.password or "",
        "PGHOST": url.host or "",
        "PGPORT": str(url.port or 5432),
        "PGUSER": url.username or "",
        "PGDATABASE": url.database or "",
    }
    try:
        done = subprocess.run(
            [_program(program), *arguments],
            env={**os.environ, **given},
            capture_output=True,
            text=True,
            check=False,
        )
    except FileNotFoundError:
        raise BackupError(
            f"{program} is not on this machine: install PostgreSQL's client programs."
        ) from None
    if done.returncode:
        last = (done.stderr.strip().splitlines() or ["no reason given"])[-1]
        raise BackupError(f"{program} failed: {last}")
    return done.stdout


def _digest(file: Path) -> str:
    with file.open("rb") as opened:
        return hashlib.file_digest(opened, "sha256").hexdigest()


def _counts(url: URL) -> dict[str, int]:
    engine = create_engine(url)
    with engine.connect() as connection:
        found = {
            table: int(connection.scalar(text(f"SELECT count(*) FROM {table}")) or 0)
            for table in COUNTED
        }
    engine.dispose()
    return found


def backup(ctx: Ctx, owner_url: str, folder: Path) -> Copy:
    """Copy everything into a folder, with a seal and a list of what is in it, and look whether the
    copy can be read.

    Raises BackupError; a copy that cannot be read is removed.
    """
    url = make_url(owner_url)
    folder.mkdir(parents=True, exist_ok=True)
    stem = f"orthotorq-{ctx.now:%Y%m%dT%H%M%SZ}"
    file = folder / f"{stem}.dump"
    seal, sealed = make_seal(ctx)
    ctx.session.commit()
    part = file.with_suffix(".part")
    os.close(os.open(part, os.O_CREAT | os.O_WRONLY, 0o600))
    try:
        _run("pg_dump", url, "--format=custom", "--no-owner", f"--file={part}")
        if "TABLE DATA public event" not in _run("pg_restore", url, "--list", str(part)):
            raise BackupError("The copy was written and holds no entries of runs.")
    except BackupError:
        part.unlink(missing_ok=True)
        raise
    part.rename(file)
    made = Copy(file, _digest(file), file.stat().st_size, seal.digest)
    (folder / f"{stem}.seal.txt").write_text(sealed, encoding="utf-8")
    (folder / f"{stem}.json").write_text(
        json.dumps(
            {
                "format": "orthotorq.backup",
                "version": 1,
                "file": file.name,
                "sha256": made.digest,
                "bytes": made.size,
                "seal": made.seal,
                "rows": _counts(url),
            },
            indent=1,
        )
        + "\n",
        encoding="utf-8",
    )
    return made


def restore(owner_url: str, file: Path) -> dict[str, int]:
    """Put a copy into an empty database; returns the rows that are there then.

    Raises BackupError for a copy that is not as it was written, and where anything is in the
    database already.
    """
    said = _said(file)
    if _digest(file) != said["sha256"]:
        raise BackupError(
            f"{file.name} is not as it was written: its digest is another. Nothing was changed."
        )
    url = make_url(owner_url)
    engine = create_engine(url)
    with engine.connect() as connection:
        there = connection.scalar(
            text("SELECT count(*) FROM information_schema.tables WHERE table_schema = 'public'")
        )
    engine.dispose()
    if there:
        raise BackupError(
            f"There are {there} tables in this database. A copy is put into an empty one alone. "
            "Nothing was changed."
        )
    _run(
        "pg_restore",
        url,
        "--dbname",
        url.database or "",
        "--no-owner",
        "--single-transaction",
        "--exit-on-error",
        str(file),
    )
    found = _counts(url)
    short = [
        f"{table}: {found[table]} of {rows}"
        for table, rows in said["rows"].items()
        if found.get(table, 0) < rows
    ]
    if short:
        raise BackupError(f"Not everything came back: {', '.join(short)}.")
    return found


def _said(file: Path) -> dict[str, Any]:
    try:
        return dict(json.loads(file.with_suffix(".json").read_text(encoding="utf-8")))
    except (OSError, ValueError):
        listed = file.with_suffix(".json").name
        raise BackupError(
            f"The list beside {file.name} is missing or cannot be read ({listed})."
        ) from None


def proved(ctx: Ctx, file: Path) -> tuple[Walked, list[Missed]]:
    """What was put back, walked and held against the seal beside its copy. Raises SealError."""
    sealed = file.with_suffix(".seal.txt").read_text(encoding="utf-8")
    return verify_all(ctx.session), compare_seal(ctx.session, sealed)[1]
