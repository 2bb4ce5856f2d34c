"""Commands of who looks after the server: people, the server itself, copies."""

from __future__ import annotations

import json
import os
import sys
from datetime import UTC, datetime
from pathlib import Path

import click

from .. import settings
from ..services.context import Ctx
from ..services.database import open_sessions


def _owner() -> str:
    url = settings.read("ORTHOTORQ_OWNER_URL")
    if not url:
        raise click.ClickException(
            "ORTHOTORQ_OWNER_URL is not set: copies are made and put back by the owner of "
            "the schema."
        )
    return url


@click.group()
def admin() -> None:
    """People, from the command line: for the first one, and for when nobody can sign in."""


@admin.command()
@click.argument("login")
@click.argument("name")
@click.option(
    "--role",
    "roles",
    multiple=True,
    default=("administrator",),
    show_default=True,
    type=click.Choice(("planner", "fitter", "supervisor", "administrator")),
    help="May be given several times.",
)
def create(login: str, name: str, roles: tuple[str, ...]) -> None:
    """Register NAME, who signs in as LOGIN, and print the link that sets a password, once."""
    from ..services.accounts.people import invited
    from ..services.errors import ServiceError

    with open_sessions(settings.read("ORTHOTORQ_DATABASE_URL")).begin() as session:
        try:
            link = invited(Ctx(session, datetime.now(UTC)), login, name, list(roles))
        except ServiceError as error:
            raise click.ClickException(error.text) from None
    click.echo(f"{settings.public_url()}/invitation/{link.token}")
    click.echo(f"This link works once, until {link.until:%d %b %Y}. It is kept nowhere.", err=True)


@admin.command()
@click.argument("login")
def unlink(login: str) -> None:
    """Forget who LOGIN is for the plant's sign-on: at the next sign-on they are found by their
    name."""
    from ..services.accounts.factors import unlink as forget

    with open_sessions(settings.read("ORTHOTORQ_DATABASE_URL")).begin() as session:
        if not forget(Ctx(session, datetime.now(UTC)), login):
            raise click.ClickException(
                f"Nobody with the sign-in name {login} is linked to the plant's sign-on."
            )
    click.echo(f"{login} is no longer linked to the plant's sign-on.")


@admin.command()
@click.argument("login")
@click.option(
    "-o",
    "output",
    type=click.Path(dir_okay=False, path_type=Path),
    required=True,
    help="File to write.",
)
def about(login: str, output: Path) -> None:
    """Write all that is kept about LOGIN into a file of JSON, for that person."""
    from ..services.accounts.about import about_person

    with open_sessions(settings.read("ORTHOTORQ_DATABASE_URL"))() as session:
        found = about_person(Ctx(session, datetime.now(UTC)), login)
    if found is None:
        raise click.ClickException(f"Nobody has the sign-in name {login}.")
    output.write_text(json.dumps(found, indent=1, ensure_ascii=False) + "\n", encoding="utf-8")


@admin.command()
@click.argument("machine")
@click.argument("tag")
@click.option(
    "-o",
    "output",
    type=click.Path(dir_okay=False, path_type=Path),
    required=True,
    help="File to write.",
)
def joint(machine: str, tag: str, output: Path) -> None:
    """Pack all that is kept about the joint TAG of MACHINE into a zip: line, plans, records with
    their chains, photos."""
    from ..services.registers.queries import joint_by_tags
    from ..services.running.archive import pack_joint

    with open_sessions(settings.read("ORTHOTORQ_DATABASE_URL"), 600_000).begin() as session:
        found = joint_by_tags(session, machine, tag)
        if found is None:
            raise click.ClickException(f"There is no joint {tag} of a machine {machine}.")
        with output.open("wb") as file:
            pack_joint(Ctx(session, datetime.now(UTC)), found, file)


@click.command()
def serve() -> None:
    """Serve the application on the loopback, for a proxy in front; refuses where something that
    it needs is missing."""
    if wrong := _missing():
        raise click.ClickException(
            "\n".join(["It is not started:", *(f"- {one}" for one in wrong)])
        )
    # the owner's address is for migrate, backup and restore alone: the server never knows it
    environment = {
        name: value for name, value in os.environ.items() if name != "ORTHOTORQ_OWNER_URL"
    }
    gunicorn = Path(sys.executable).with_name("gunicorn")
    os.execve(gunicorn, ["gunicorn", "-c", "python:orthotorq.serving"], environment)


def _missing() -> list[str]:
    """What a server needs and does not find, each in a sentence."""
    from sqlalchemy.exc import SQLAlchemyError

    from ..services.accounts.queries import demo_people
    from ..services.database import wellbeing
    from ..services.keys import KeyFileError, keys
    from ..web.pages import front_end_built

    wrong = []
    if not front_end_built():
        wrong.append(
            f"There is no front end in {settings.read('ORTHOTORQ_FRONTEND')}: build it, or "
            "set ORTHOTORQ_FRONTEND."
        )
    try:
        keys()
        settings.read("ORTHOTORQ_SECRET_KEY")
    except (KeyFileError, settings.MissingSetting) as error:
        wrong.append(str(error))
    try:
        with open_sessions(settings.read("ORTHOTORQ_DATABASE_URL"))() as session:
            if not wellbeing(session).schema:
                return [*wrong, "The schema is not that of this program: run orthotorq migrate."]
            known = demo_people(session) if settings.read("ORTHOTORQ_DEMO") != "1" else []
    except settings.MissingSetting as error:
        return [*wrong, str(error)]
    except SQLAlchemyError as error:
        first = str(getattr(error, "orig", error)).strip().splitlines()[0]
        return [
            *wrong,
            f"The database does not answer, or has no schema yet (orthotorq migrate): {first}",
        ]
    if known:
        wrong.append(
            "This database holds people of the demo, whose password everybody knows: "
            f"{', '.join(known)}. "
            "Serve a database of your own, or deactivate them first."
        )
    return wrong


@click.command()
@click.argument("folder", type=click.Path(file_okay=False, path_type=Path))
def backup(folder: Path) -> None:
    """Copy everything that is kept into FOLDER, and look whether the copy can be read. The keys are
    not in it."""
    from ..services.backup import BackupError
    from ..services.backup import backup as make

    with open_sessions(settings.read("ORTHOTORQ_DATABASE_URL"), 600_000)() as session:
        try:
            made = make(Ctx(session, datetime.now(UTC)), _owner(), folder)
        except BackupError as error:
            raise click.ClickException(str(error)) from None
    click.echo(f"{made.file}  {made.size / 1e6:.1f} MB  sha256 {made.digest}")
    click.echo(f"seal {made.seal}")
    click.echo(
        (
            "Keep the keys of the record and the secrets apart from it: without them nothing of "
            "it can be proved."
        ),
        err=True,
    )


@click.command()
@click.argument("file", type=click.Path(exists=True, dir_okay=False, path_type=Path))
def restore(file: Path) -> None:
    """Put the copy FILE into an empty database, walk it, and hold it against the seal beside it."""
    from ..services.backup import BackupError, proved
    from ..services.backup import restore as put_back
    from ..services.running.seal import SealError

    try:
        rows = put_back(_owner(), file)
        with open_sessions(settings.read("ORTHOTORQ_DATABASE_URL"), 600_000)() as session:
            walked, missed = proved(Ctx(session, datetime.now(UTC)), file)
    except (BackupError, SealError, OSError) as error:
        raise click.ClickException(str(error)) from None
    for one in (*walked.breaks, *missed):
        click.echo(str(one))
    broken = len(walked.breaks) + sum(not one.only_said for one in missed)
    click.echo(
        f"{rows['run']} runs with {rows['event']} entries are back, {broken} things do not hold."
    )
    sys.exit(1 if broken else 0)
