"""The seal: the heads of all runs, the texts of all revisions and the names of all people on one
day, with one digest.

What was taken away as a whole cannot be missed by walking what is left. A seal that is kept
elsewhere, or only its digest on paper, says what has to be there. The file is plain text: a line
for each thing, then the digest of the lines before it.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import date
from pathlib import Path
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...store.models import Event, Person, Revision, Run, Seal
from ..context import Ctx
from ..keys import code_of, holds

HEAD = "orthotorq.seal 1"


class SealError(ValueError):
    """A file that is no seal, or is not as it was written."""


@dataclass(frozen=True, slots=True)
class Missed:
    """What a seal says and the database does not; a name that was changed is said, and is no
    break."""

    where: str
    what: str
    only_said: bool = False

    def __str__(self) -> str:
        return f"{'note: ' if self.only_said else ''}{self.where} {self.what}"


def sha(text: str) -> str:
    """SHA-256 of a text."""
    return hashlib.sha256(text.encode()).hexdigest()


def _lines(session: Session, day: date, previous: str) -> Iterator[str]:
    yield HEAD
    yield f"day {day.isoformat()}"
    yield f"previous {previous or '-'}"
    runs = select(
        Run.number, Run.id, Run.revision_id, Run.started_by, Run.head_sequence, Run.head_hash
    ).order_by(Run.number)
    for run in session.execute(runs.execution_options(yield_per=1000)):
        yield (
            f"run {run.number} {run.id} {run.revision_id} {run.started_by} {run.head_sequence} "
            f"{run.head_hash}"
        )
    texts = select(Revision.id, Revision.document, Revision.result).order_by(Revision.id)
    for revision in session.execute(texts.execution_options(yield_per=100)):
        yield f"revision {revision.id} {sha(revision.document)} {sha(revision.result)}"
    for person in session.execute(select(Person.id, Person.name).order_by(Person.id)):
        yield f"person {person.id} {person.name}"


def make_seal(ctx: Ctx, folder: Path | None = None) -> tuple[Seal, str]:
    """Seal what is there: (the row that is kept, the text). The seals of a folder are written
    beside each other by day."""
    day = ctx.now.date()
    before = ctx.session.scalar(select(Seal.digest).order_by(Seal.made_at.desc()).limit(1)) or ""
    digest, lines = hashlib.sha256(), []
    for line in _lines(ctx.session, day, before):
        lines.append(line)
        digest.update(f"{line}\n".encode())
    seal = Seal(
        id=ctx.new_id(),
        day=day,
        made_at=ctx.now,
        runs=sum(line.startswith("run ") for line in lines),
        previous=before,
        digest=digest.hexdigest(),
        code=code_of(digest.hexdigest()),
    )
    text = "\n".join([*lines, f"digest {seal.digest}", f"code {seal.code}", ""])
    if folder is not None:
        folder.mkdir(parents=True, exist_ok=True)
        made = folder / f"seal-{day.isoformat()}-{seal.digest[:8]}.txt"
        made.write_text(text, encoding="utf-8")
    ctx.session.add(seal)
    ctx.session.flush()
    return seal, text


def last_seal(session: Session) -> Seal | None:
    """The newest seal."""
    return session.scalar(select(Seal).order_by(Seal.made_at.desc()).limit(1))


def read_seal(text: str) -> tuple[str, list[list[str]]]:
    """(digest, lines in words) of a seal's file, which has to be as it was written. Raises
    SealError."""
    lines = text.splitlines()
    if not lines or lines[0] != HEAD:
        raise SealError(f"This is no seal: it does not start with “{HEAD}”.")
    body = [line for line in lines if not line.startswith(("digest ", "code "))]
    said = {line.split(" ", 1)[0]: line.split(" ", 1)[1] for line in lines[len(body) :]}
    digest = hashlib.sha256("".join(f"{line}\n" for line in body).encode()).hexdigest()
    if said.get("digest") != digest:
        raise SealError("The lines of this seal do not give its digest: the file was changed.")
    if problem := holds(said.get("code", ""), digest):
        raise SealError(f"This seal was not made here: {problem}.")
    return digest, [line.split(" ", 6) for line in body]


def compare_seal(session: Session, text: str) -> tuple[str, list[Missed]]:
    """(digest, what the seal says and the database does not). Raises SealError."""
    digest, lines = read_seal(text)
    out: list[Missed] = []
    runs = {
        str(run.id): run
        for run in session.execute(
            select(
                Run.id,
                Run.number,
                Run.revision_id,
                Run.started_by,
                Run.head_sequence,
                Run.head_hash,
            )
        )
    }
    revisions = {
        str(row.id): row
        for row in session.execute(select(Revision.id, Revision.document, Revision.result))
    }
    people = {str(row.id): row.name for row in session.execute(select(Person.id, Person.name))}
    for line in lines:
        if line[0] == "run":
            out += _run(session, runs, line)
        elif line[0] == "revision":
            row = revisions.get(line[1])
            if row is None:
                out.append(Missed(f"revision {line[1]}", "is not there any more"))
            elif sha(row.document) != line[2]:
                out.append(Missed(f"revision {line[1]}", "its plan is not the one that was sealed"))
            elif sha(row.result) != line[3]:
                out.append(
                    Missed(f"revision {line[1]}", "its figures are not the ones that were sealed")
                )
        elif line[0] == "person":
            name = " ".join(line[2:])
            if people.get(line[1]) is None:
                out.append(
                    Missed(f"person {line[1]}", f"{name} is not in the list of people any more")
                )
            elif people[line[1]] != name:
                out.append(
                    Missed(
                        f"person {line[1]}", f"was called {name} then, {people[line[1]]} now", True
                    )
                )
    return digest, out


def _run(session: Session, runs: Mapping[str, Any], line: list[str]) -> Iterator[Missed]:
    _, number, run_id, revision, starter, sequence, head = line
    run = runs.get(run_id)
    where = f"run {number}"
    if run is None:
        yield Missed(where, f"is not there any more; it had {sequence} entries")
        return
    if str(run.revision_id) != revision:
        yield Missed(where, "belongs to another revision now")
    if str(run.started_by) != starter:
        yield Missed(where, "was begun by another person")
    if (run.head_sequence, run.head_hash) == (int(sequence), head):
        return
    now = session.scalar(
        select(Event.hash).where(Event.run_id == run.id, Event.sequence == int(sequence))
    )
    if now is None:
        yield Missed(where, f"had {sequence} entries and ends before: its tail was cut off")
    elif now != head:
        yield Missed(where, f"entry {sequence} is not the one that was sealed")
