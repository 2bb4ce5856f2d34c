"""`orthotorq simulate`: the loads that are left in the bolts of a circle after its passes. Needs no
database."""

from __future__ import annotations

import json
import re
from typing import Any

import click
import numpy as np

from ..core.errors import BadQuantity, Impossible, OrthotorqError, in_range
from ..core.messages import Message
from ..core.simulation.interaction import (
    Joint,
    PassOrder,
    Scatter,
    Simulated,
    coefficients,
    equalised,
    passes_from,
    ring,
    simulated,
)
from ..core.units import parse

#: a cap without a unit up to here is a multiple of the target, above it newtons
_MULTIPLE = 10


def _cap_of(text: str | None, target_N: float) -> float | None:
    """A cap as a load with its unit, as newtons, or as a multiple of the target. Raises
    BadQuantity, Impossible."""
    if text is None:
        return None
    if re.fullmatch(r"\s*\d+(\.\d+)?(e\d+)?\s*", text):
        figure = float(text)
        return figure * target_N if figure <= _MULTIPLE else figure
    return float(parse(text, "force").base)


def _given(field: str, text: str, kind: str) -> float:
    try:
        return float(parse(text, kind).base)
    except BadQuantity as error:
        error.path = (field,)
        raise


def _json(joint: Joint, found: Simulated, steps: bool) -> dict[str, Any]:
    """Keys of cli.md, loads in N."""
    out: dict[str, Any] = {
        "loads_N": found.loads_N.tolist(),
        "mean_N": found.mean_N,
        "cv": found.cv,
        "coefficients": coefficients(joint).tolist(),
        "moved_last_round": len(found.moved_last),
    }
    if found.scattered_N is not None:
        low, middle, high = np.percentile(found.scattered_N, [5, 50, 95], axis=0)
        out |= {"low_5_N": low.tolist(), "median_N": middle.tolist(), "high_95_N": high.tolist()}
    if steps:
        out["steps"] = [
            {
                "pass": one.number + 1,
                "bolts": [bolt + 1 for bolt in one.bolts],
                "target_N": one.wanted_N,
                "moved": all(one.moved),
                "loads_N": one.loads_N.tolist(),
            }
            for one in found.steps
        ]
    return out


def _lines(found: Simulated, figures: dict[str, Any]) -> list[str]:
    """The same for people."""
    kN = [f"{load / 1000:.2f}" for load in found.loads_N]
    lines = [f"bolt {i}: {load} kN" for i, load in enumerate(kN, 1)]
    for key, words in (
        ("low_5_N", "5 %"),
        ("median_N", "median"),
        ("high_95_N", "95 %"),
        ("targets_N", "target"),
    ):
        if key in figures:
            lines.append(f"{words}: {', '.join(f'{load / 1000:.2f}' for load in figures[key])} kN")
    lines += [
        f"mean: {found.mean_N / 1000:.2f} kN",
        f"coefficient of variation: {100 * found.cv:.2f} %",
        f"bolts that moved in the last pass: {len(found.moved_last)}",
        f"largest tilting moment on the way: {found.tilting_Nmm / 1e6:.2f} kN·m",
        "(A flange as a beam on an elastic gasket: it knows no tilting and no gap. Compare "
        "orders by the tilting "
        "moment, too; scale it to a measured loss before you rely on a figure.)",
    ]
    return lines


@click.command()
@click.option("--count", type=int, required=True, help="Number of bolts on the circle.")
@click.option("--radius", required=True, help="Radius of the bolt circle, for example 150mm.")
@click.option("--ei", type=float, required=True, help="Bending stiffness of the flange, N·mm².")
@click.option(
    "--kg", type=float, required=True, help="Stiffness of the gasket, N/mm per mm of arc."
)
@click.option("--kb", type=float, required=True, help="Stiffness of a bolt, N/mm.")
@click.option(
    "--passes", "passes", required=True, help='For example "30,70,100 cross; 100 circle".'
)
@click.option("--target", default="100 kN", show_default=True, help="Wanted load of a bolt.")
@click.option(
    "--static-friction",
    type=float,
    default=0.0,
    show_default=True,
    help="Share of the load that it hides.",
)
@click.option("--trials", type=int, help="Trials with scatter.")
@click.option(
    "--friction-cv",
    type=float,
    default=0.0,
    help="Scatter of friction from bolt to bolt, as a share.",
)
@click.option(
    "--tool-cv", type=float, default=0.0, help="Scatter of the tool from pull to pull, as a share."
)
@click.option(
    "--seed", type=int, default=0, show_default=True, help="The same seed gives the same trials."
)
@click.option(
    "--equalise", is_flag=True, help="Own targets in the last pass, so that the loads end even."
)
@click.option(
    "--cap", help="Most load of a bolt with --equalise: a load, or a multiple of the target."
)
@click.option("--steps", is_flag=True, help="Loads after every step.")
@click.option("--json", "as_json", is_flag=True, help="Print one JSON object.")
def simulate(as_json: bool, steps: bool, **texts: Any) -> None:
    """Simulate what pulling one bolt does to the others, on a bolt circle."""
    try:
        joint, found, targets = _simulated(texts)
    except OrthotorqError as error:
        field = f"--{error.path[0]}: " if error.path else ""
        raise click.ClickException(f"{field}{error}") from None
    figures = _json(joint, found, steps)
    if targets is not None:
        figures["targets_N"] = targets
    if as_json:
        click.echo(json.dumps(figures, allow_nan=False))
        return
    for line in _lines(found, figures):
        click.echo(line)
    for one in figures.get("steps", []):
        loads = " ".join(f"{load / 1000:.2f}" for load in one["loads_N"])
        click.echo(
            f"pass {one['pass']}, bolt {one['bolts'][0]}: {loads} "
            f"kN{'' if one['moved'] else ' (did not move)'}"
        )


def _simulated(texts: dict[str, Any]) -> tuple[Joint, Simulated, list[float] | None]:
    """(the joint, what became of it, own targets of the last pass). Raises OrthotorqError."""
    target_N = _given("target", texts["target"], "force")
    joint = ring(
        texts["count"],
        _given("radius", texts["radius"], "length"),
        texts["ei"],
        texts["kg"],
        texts["kb"],
    )
    passes: list[PassOrder] = passes_from(texts["passes"], texts["count"])
    friction = texts["static_friction"]
    scatter = None
    if texts["trials"] is not None:
        in_range(texts["seed"], 0, 2**63, "a seed from 0")
        scatter = Scatter(texts["trials"], texts["friction_cv"], texts["tool_cv"], texts["seed"])
    elif texts["friction_cv"] or texts["tool_cv"]:
        raise Impossible(Message.MISSING_FIELD, ("trials",))
    if not texts["equalise"]:
        if texts["cap"] is not None:
            raise Impossible(Message.BAD_VALUE, ("cap",), reason="A cap needs --equalise")
        return joint, simulated(joint, passes, target_N, friction, scatter), None
    even = equalised(joint, passes, target_N, friction, _cap_of(texts["cap"], target_N))
    result = even.result
    if scatter is not None:
        result = simulated(joint, passes, target_N, friction, scatter, even.targets_N)
    return joint, result, even.targets_N.tolist()
