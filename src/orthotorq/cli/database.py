"""Database commands: migrate, load the demo, verify the chains."""

from __future__ import annotations

import sys
from pathlib import Path

import click

from .. import settings
from ..services.database import open_sessions


def _migrate() -> None:
    from ..services.schema import upgrade

    url = settings.read("ORTHOTORQ_OWNER_URL")
    if not url:
        raise click.ClickException("ORTHOTORQ_OWNER_URL is not set.")
    upgrade(url, settings.read("ORTHOTORQ_APP_ROLE"))


@click.command()
def migrate() -> None:
    """Bring the schema up to date, as its owner."""
    _migrate()


@click.command()
def prepare_demo() -> None:
    """Bring the schema up to date and load Vellmark Saltworks where nobody is registered yet."""
    from ..services.schema import people_exist

    _migrate()
    sessions = open_sessions(settings.read("ORTHOTORQ_DATABASE_URL"))
    with sessions.begin() as session:
        if people_exist(session):
            return
        # only now: it brings the whole core, and a demo that is already there starts sooner without
        # it
        from ..demo.load import load

        load(session, year=True)
        click.echo("Loaded the demo: Vellmark Saltworks.", err=True)


@click.command()
@click.option(
    "--seal",
    "sealed",
    type=click.Path(exists=True, dir_okay=False, path_type=Path),
    help="A seal of an earlier day: what it says has to be there.",
)
def verify(sealed: Path | None) -> None:
    """Walk the chains of all runs, their codes, and what stands beside them; exit 1 when something
    does not hold."""
    from ..services.running.seal import Missed, SealError, compare_seal
    from ..services.running.verify_at_once import verify_database

    url = settings.read("ORTHOTORQ_DATABASE_URL")
    with open_sessions(url, 3_600_000)() as session:
        walked = verify_database(session, url)
        missed: list[Missed] = []
        if sealed is not None:
            try:
                digest, missed = compare_seal(
                    session, sealed.read_text(encoding="utf-8", errors="replace")
                )
            except SealError as error:
                raise click.ClickException(str(error)) from None
            click.echo(f"Held against the seal {digest}.")
    for one in (*walked.breaks, *missed):
        click.echo(str(one))
    for one in walked.said:
        click.echo(f"note: {one}")
    if walked.uncoded:
        click.echo(
            f"{walked.uncoded} entries are older than the codes: their chains hold, who "
            "wrote them is not proved."
        )
    broken = len(walked.breaks) + sum(not one.only_said for one in missed)
    click.echo(
        f"{walked.runs} runs with {walked.entries} entries walked, {broken} things do not hold."
    )
    sys.exit(1 if broken else 0)


@click.command()
@click.option(
    "--out", type=click.Path(file_okay=False, path_type=Path), help="Folder for the seal's file."
)
def seal(out: Path | None) -> None:
    """Seal what is there now: print its digest, and leave the file that `verify --seal` takes."""
    from datetime import UTC, datetime

    from ..services.context import Ctx
    from ..services.running.seal import make_seal

    folder = out or Path(settings.read("ORTHOTORQ_SEALS") or ".")
    with open_sessions(settings.read("ORTHOTORQ_DATABASE_URL"), 600_000).begin() as session:
        made, _ = make_seal(Ctx(session, datetime.now(UTC)), folder)
        click.echo(f"{made.digest}  {made.day:%d %b %Y}, {made.runs} runs")


@click.command()
@click.option("--until-empty", is_flag=True, help="Stop when nothing is left to do.")
def worker(until_empty: bool) -> None:
    """Work the queue of long jobs until told to stop."""
    from ..services.jobs import run_worker

    run_worker(settings.read("ORTHOTORQ_DATABASE_URL"), wait=not until_empty)
