"""Database commands: migrate, load the demo, verify the chains."""
from __future__ import annotations

import sys

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
        # only now: it brings the whole core, and a demo that is already there starts sooner without it
        from ..demo.load import load

        load(session, year=True)
        click.echo("Loaded the demo: Vellmark Saltworks.", err=True)


@click.command()
def verify() -> None:
    """Walk the hash chains of all runs; exit 1 when one does not hold."""
    from ..services.running.chain import verify_all

    with open_sessions(settings.read("ORTHOTORQ_DATABASE_URL"), 600_000)() as session:
        count, breaks = verify_all(session)
    for one in breaks:
        click.echo(f"run {one.run}, entry {one.sequence}: {one.what}")
    click.echo(f"{count} chains walked, {len(breaks)} do not hold.")
    sys.exit(1 if breaks else 0)


@click.command()
@click.option("--until-empty", is_flag=True, help="Stop when nothing is left to do.")
def worker(until_empty: bool) -> None:
    """Work the queue of long jobs until told to stop."""
    from ..services.jobs import run_worker

    run_worker(settings.read("ORTHOTORQ_DATABASE_URL"), wait=not until_empty)
