"""Folders of plan files in and out of a database."""

from __future__ import annotations

import io
import sys
import zipfile
from datetime import UTC, datetime
from pathlib import Path

import click

from .. import settings
from ..services.context import Ctx
from ..services.database import open_sessions
from ..services.errors import ServiceError


def _sign_in(ctx: Ctx, login: str) -> Ctx:
    from ..services.accounts.queries import actor_by_login

    actor = actor_by_login(ctx.session, login)
    if actor is None:
        raise click.ClickException(f"Nobody has the login “{login}”.")
    return Ctx(ctx.session, ctx.now, actor)


@click.command()
@click.argument("folder", type=click.Path(path_type=Path, exists=True, file_okay=False))
@click.option("--as", "login", required=True, help="Login of the planner who imports.")
def import_folder(folder: Path, login: str) -> None:
    """Import every .json of FOLDER as a plan; with one error anywhere nothing is imported."""
    from ..services.planning.exchange import read_job, run_import, start_import

    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w") as archive:
        for path in sorted(folder.rglob("*.json")):
            archive.write(path, str(path.relative_to(folder)))
    sessions = open_sessions(settings.read("ORTHOTORQ_DATABASE_URL"), 120_000)
    try:
        with sessions.begin() as session:
            ctx = _sign_in(Ctx(session, datetime.now(UTC)), login)
            job = start_import(ctx, packed.getvalue()).run(ctx)
    except ServiceError as error:
        raise click.ClickException(error.text) from None
    run_import(sessions, job, lambda session: Ctx(session, datetime.now(UTC)))
    with sessions() as session:
        found = read_job(_sign_in(Ctx(session, datetime.now(UTC)), login), job)
    for one in found.errors:
        click.echo(f"{one.file}: {one.path}: {one.text}", err=True)
    click.echo(f"{found.imported} plans imported.")
    sys.exit(2 if found.errors else 0)


@click.command()
@click.argument("folder", type=click.Path(path_type=Path, file_okay=False))
@click.option("--as", "login", required=True, help="Login of whoever exports.")
def export_folder(folder: Path, login: str) -> None:
    """Export every plan's draft into FOLDER, one file each."""
    from ..services.planning.exchange import export_plans

    with open_sessions(settings.read("ORTHOTORQ_DATABASE_URL"))() as session:
        _, data = export_plans(_sign_in(Ctx(session, datetime.now(UTC)), login))
    folder.mkdir(parents=True, exist_ok=True)
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        archive.extractall(folder)
        click.echo(f"{len(archive.namelist())} plans exported.")
