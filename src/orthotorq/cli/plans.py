"""Plans from the command line: no database needed."""
from __future__ import annotations

import json
import sys
from pathlib import Path

import click

from ..core.documents.plan import Plan
from ..core.documents.read import parse_json
from ..core.errors import OrthotorqError
from ..core.forms.errors import DocumentErrors
from ..core.planning.compute import compute as compute_document
from ..core.planning.findings import RULES
from ..core.running import expand
from ..core.thresholds import TABLE as THRESHOLDS


def fail(text: str) -> None:
    """End with exit code 2 and the sentence on standard error."""
    click.echo(text, err=True)
    sys.exit(2)


@click.command()
@click.argument("plan", type=click.Path(path_type=Path))
@click.option("-o", "output", type=click.Path(path_type=Path), help="Write the result to a file.")
@click.option("--steps", is_flag=True, help="Enumerate the steps that can be known beforehand.")
def compute(plan: Path, output: Path | None, steps: bool) -> None:
    """Compute PLAN.json and print the result document."""
    try:
        result = compute_document(parse_json(plan.read_bytes()))
        if steps:
            result.steps = expand(result)
    except OSError as error:
        fail(f"{plan}: {error.strerror}.")
    except DocumentErrors as error:
        fail("\n".join(f"{e.pointer()}: {e.text}" for e in error.errors))
    except OrthotorqError as error:
        fail(str(error))
    text = result.model_dump_json(indent=1, exclude=None if steps else {"steps"})
    if output is None:
        click.echo(text)
    else:
        output.write_text(text + "\n", encoding="utf-8")


@click.command()
def schema() -> None:
    """Print the JSON Schema of the plan document."""
    click.echo(json.dumps(Plan.model_json_schema(), indent=1, ensure_ascii=False))


@click.command()
def findings() -> None:
    """Print the table of findings as a page of the handbook."""
    click.echo("""# Findings

Made by `./torq cli findings` from the one table in `core/planning/findings`; in the application under Tables. A stop that
nobody may waive keeps a plan from release; words in braces are filled in.

| code | severity | who may waive it | sentence | remedy |
|---|---|---|---|---|""")
    for code, rule in RULES.items():
        waived_by = rule.role if rule.waivable else "nobody"
        click.echo(f"| `{code.value}` | {rule.severity} | {waived_by} | {rule.text} | {rule.remedy} |")


@click.command()
def pulls() -> None:
    """Print how pulls of the simulated wrench are judged, as a page of the handbook."""
    # numpy is loaded for this command alone
    from ..core.simulation.confusion import page

    click.echo(page())


@click.command()
def thresholds() -> None:
    """Print the table of thresholds as a page of the handbook."""
    click.echo("""# Thresholds

Made by `./torq cli thresholds` from the one table in `core/thresholds.py`; in the application under Tables. Every number that
decides stands here and nowhere else, and `tests/core/test_thresholds.py` looks at both of its sides.

| name | value | what it decides | where it comes from |
|---|---|---|---|""")
    for one in THRESHOLDS.values():
        click.echo(f"| {one.name} | {one.text} | {one.decides} | {one.source} |")
