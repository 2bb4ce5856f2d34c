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
from ..core.glossary import glossary
from ..core.joint_condition import CONDITIONS, ROWS
from ..core.planning.compute import compute as compute_document
from ..core.planning.findings import RULES
from ..core.planning.findings.rule import SEVERITIES
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

Made by `./torq cli findings` from the one table in `core/planning/findings`; in the application
under Tables. An error that nobody may waive blocks release; words in braces are filled in.

| code | severity | who may waive it | sentence | remedy |
|---|---|---|---|---|""")
    for code, rule in RULES.items():
        waived_by = rule.role if rule.waivable else "nobody"
        click.echo(
            f"| `{code.value}` | {SEVERITIES[rule.severity]} | {waived_by} | {rule.text} | "
            f"{rule.remedy} |"
        )


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

Made by `./torq cli thresholds` from the one table in `core/thresholds.py`; in the application under
Tables. Every number that decides stands here and nowhere else, and `tests/core/test_thresholds.py`
looks at both of its sides.

| name | value | what it decides | where it comes from |
|---|---|---|---|""")
    for one in THRESHOLDS.values():
        click.echo(f"| {one.name} | {one.text} | {one.decides} | {one.source} |")


@click.command()
def terms() -> None:
    """Print the glossary as a page of the handbook."""
    click.echo("""# Glossary

Made by `./torq cli terms` from `core/glossary.py`; in the application under Tables, Glossary.

| term | meaning | standard |
|---|---|---|""")
    for term in glossary():
        click.echo(f"| **{term.name}** | {term.meaning} | {term.standard or '–'} |")


@click.command()
def conditions() -> None:
    """Print the conditions of joints and the table of what changes them as a page of the
    handbook."""
    click.echo("""# The condition of a joint

Made by `./torq cli conditions` from `core/joint_condition`. The condition is kept for every
position and every group of bolts at it; the worst one speaks for the joint. It is a pure function
of the runs and of what people report: the same past always gives the same condition.

## Words, the worst first

| condition | when | what clears it | due at once |
|---|---|---|---|""")
    for one in CONDITIONS.values():
        click.echo(f"| **{one.title}** | {one.when} | {one.clears} | {one.due or 'no'} |")
    click.echo("""
## What a run makes of a group of bolts: the first row that fits

| row | when | then |
|---|---|---|""")
    for row in ROWS:
        click.echo(
            f"| {row.name} | {row.says} | {CONDITIONS[row.to].title if row.to else 'as before'} |"
        )
    click.echo("""
Beside the row stand **failures**: a check, reading, watch or pull that failed and was left, a bolt
that was skipped, a stop that nobody settled, a report that it is not safe. While one is open the
group is *do not use*, whatever the row says. A failure is cleared by a signed run of the procedure
without one, or by a signed run in which its stage and every later stage that turns bolts or proves
something held again. A supervisor who did not work in the run accepts it with conditions and an
end: *limited use* until that day, then *do not use* again. Stages that give the machine back
(locks, guards, load) are not offered in a run in which something failed and was left.

A look raises nothing: a recheck without pulls keeps the condition, and its date is shown. What
failed counts at once, signed or not; what raises a condition counts when a supervisor has
signed.""")
