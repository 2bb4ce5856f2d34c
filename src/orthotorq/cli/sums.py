"""`orthotorq calc`: the table of sums as commands. Loads neither web, database, pydantic nor
numpy."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

import click

from ..core.errors import OrthotorqError
from ..core.sums import SUMS, Answer, Field, Sum, answer
from ..core.working_text import shown_figure, step_lines


def _option(one: Field) -> click.Parameter:
    if one.positional:
        return click.Argument([one.key], metavar=one.name.upper())
    if one.kind == "flag":
        return click.Option([f"--{one.name}", one.key], is_flag=True, help=one.words)
    return click.Option(
        [f"--{one.name}", one.key],
        multiple=one.repeat,
        help=one.words,
        metavar="|".join(one.choices) if one.choices else one.kind.upper(),
    )


def _plain(key: str, value: Any) -> str:
    """One figure for people."""
    name, shown, second = shown_figure(key, value)
    return f"{name}: {shown}{f' ({second})' if second else ''}"


def _print(found: Answer, as_json: bool, working: bool) -> None:
    if as_json:
        click.echo(json.dumps(found.figures, ensure_ascii=False, allow_nan=False))
        return
    for key, value in found.figures.items():
        click.echo(_plain(key, value))
    for note in found.notes:
        click.echo(f"({note})")
    if working:
        for step in found.steps:
            click.echo("")
            for line in step_lines(step):
                click.echo(line)


def _command(asked: Sum) -> click.Command:
    def run(as_json: bool, working: bool, **texts: Any) -> None:
        given = {one.name: texts[one.key] for one in asked.fields}
        try:
            found = answer(
                asked.name,
                {k: ("yes" if v is True else None if v is False else v) for k, v in given.items()},
            )
        except OrthotorqError as error:
            field = f"--{error.path[0]}: " if error.path else ""
            raise click.ClickException(f"{field}{error}") from None
        _print(found, as_json, working)

    parameters = [_option(one) for one in asked.fields]
    parameters += [
        click.Option(["--json", "as_json"], is_flag=True, help="Print one JSON object."),
        click.Option(["--working"], is_flag=True, help="Print the derivation."),
    ]
    callback: Callable[..., None] = run
    return click.Command(asked.name, params=parameters, callback=callback, help=f"{asked.words}.")


calc = click.Group(
    "calc",
    commands={name: _command(asked) for name, asked in SUMS.items()},
    help='Quick sums. Quantities are text with a unit, for example "100 kN" or 25.1mm.',
)
