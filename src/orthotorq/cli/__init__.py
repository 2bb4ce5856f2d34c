"""The command line: one lazy module per command, so that a sum loads no web and no database."""

from __future__ import annotations

import importlib
import sys

import click

from ..settings import MissingSetting

#: command -> (module, one line of help)
COMMANDS: dict[str, tuple[str, str]] = {
    "calc": ("sums", "Quick sums: torque, clamp load, limits, tools, angle, gasket, orders."),
    "compute": ("plans", "Compute a plan file."),
    "simulate": (
        "simulation",
        "Simulate what pulling one bolt does to the others, on a bolt circle.",
    ),
    "schema": ("plans", "JSON Schema of the plan document."),
    "findings": ("plans", "The table of findings, as docs/findings.md holds it."),
    "thresholds": ("plans", "The table of thresholds, as docs/thresholds.md holds it."),
    "terms": ("plans", "The glossary, as docs/glossary.md holds it."),
    "conditions": (
        "plans",
        "The conditions of joints and the rows that change them, as docs/conditions.md holds them.",
    ),
    "pulls": ("plans", "How pulls of the simulated wrench are judged, as docs/pulls.md holds it."),
    "verify": ("database", "Walk the chains and codes of all runs, also against a seal."),
    "seal": ("database", "Seal what is kept: one digest over all runs, plans and people."),
    "serve": ("keeping", "Serve the application on the loopback."),
    "admin": ("keeping", "Register the first person."),
    "backup": ("keeping", "Copy everything that is kept into a folder."),
    "restore": ("keeping", "Put a copy into an empty database and prove it."),
    "migrate": ("database", "Bring the database schema up to date."),
    "prepare-demo": ("database", "Migrate, then load Vellmark Saltworks into an empty database."),
    "worker": ("database", "Work the queue of long jobs."),
    "import": ("exchange", "Import a folder of plan files."),
    "export": ("exchange", "Export every plan into a folder."),
    "openapi": ("web", "Write the OpenAPI document."),
    "health": ("web", "Ask an application whether it is well."),
}
#: commands whose name is a word of the language
_FUNCTIONS = {"import": "import_folder", "export": "export_folder"}


class LazyGroup(click.Group):
    """Loads a command's module when the command is called."""

    def list_commands(self, ctx: click.Context) -> list[str]:
        """Names, from the table."""
        return list(COMMANDS)

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:
        """The command, imported now."""
        if cmd_name not in COMMANDS:
            return None
        module = importlib.import_module(f".{COMMANDS[cmd_name][0]}", __name__)
        command: click.Command = getattr(
            module, _FUNCTIONS.get(cmd_name, cmd_name.replace("-", "_"))
        )
        return command

    def format_commands(self, ctx: click.Context, formatter: click.HelpFormatter) -> None:
        """Help without importing anything."""
        with formatter.section("Commands"):
            formatter.write_dl([(name, text) for name, (_, text) in COMMANDS.items()])


@click.group(cls=LazyGroup)
def cli() -> None:
    """Orthotorq: plan the tightening of bolted joints, lead the fitter through it, keep the
    record."""


def main() -> None:
    """Entry point: one sentence on standard error and exit code 2 for a bad argument."""
    try:
        sys.exit(cli(prog_name="orthotorq", standalone_mode=False) or 0)
    except click.ClickException as error:
        click.echo(error.format_message(), err=True)
        sys.exit(2)
    except click.Abort:
        sys.exit(1)
    except MissingSetting as error:
        click.echo(f"{error} `./torq cli` knows the demo's while it runs.", err=True)
        sys.exit(2)
    except Exception as error:
        # by its name, because sums must start without loading the database's packages
        if type(error).__name__ not in ("OperationalError", "PoolTimeout"):
            raise
        click.echo(
            "The database does not answer: is it running, and do the settings name it?", err=True
        )
        sys.exit(2)
