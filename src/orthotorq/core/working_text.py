"""Figures and workings in the units people read, shared by screen, paper and command line."""

from __future__ import annotations

from typing import Any

from .mechanics.formula import Step, Symbol
from .units import convert, show, show_quantity

_SHOWN = {"force": "kN", "torque": "N·m", "length": "mm", "stress": "MPa", "angle": "deg"}
_OWN = {"area": "mm²", "resilience": "mm/N"}


def shown_value(symbol: Symbol, value: float) -> str:
    """The number put in for a symbol, with its unit."""
    if symbol.kind == "-":
        return show(value, 5)
    if symbol.kind in _OWN:
        return f"{show(value, 5)} {_OWN[symbol.kind]}"
    unit = "N" if symbol.kind == "force" and abs(value) < 1e3 else _SHOWN[symbol.kind]
    return show_quantity(value, symbol.kind, unit, 5)


def step_lines(step: Step) -> list[str]:
    """A step as lines of plain text: result, formula in TeX, numbers put in, source,
    approximation."""
    form = step.formula
    lines = [
        f"{form.result.words}: {form.result.tex} = {shown_value(form.result, step.value)}",
        f"  {form.tex}",
    ]
    lines += [f"  {s.tex} = {shown_value(s, v)}  ({s.words})" for s, v in step.inputs]
    lines.append(f"  source: {form.source}")
    if form.approximation:
        lines.append(f"  approximation: {form.approximation}")
    return lines


#: ending of a figure's key -> (unit, kind of quantity and unit of the second reading; None where
#: there is none)
ENDINGS: tuple[tuple[str, str, tuple[str, str, float] | None], ...] = (
    ("_mm_per_N", "mm/N", None),
    ("_N_per_deg", "N per degree", None),
    ("_mm2", "mm²", None),
    ("_mm", "mm", ("length", "in", 1.0)),
    ("_Nm", "N·m", ("torque", "ft·lbf", 1e3)),
    ("_MPa", "MPa", ("stress", "ksi", 1.0)),
    ("_N", "N", ("force", "lbf", 1.0)),
    ("_percent", "%", None),
    ("_deg", "°", None),
    ("_min", "min", None),
)


def _named(key: str, value: Any) -> str:
    """One figure of several that belong together: its name, and what it is."""
    name, shown, _ = shown_figure(key, value)
    return shown if name == "why" else f"{name} {shown}"


def shown_figure(key: str, value: Any) -> tuple[str, str, str]:
    """(name, value with its unit, the same in a second unit or nothing) of a figure whose key ends
    in its unit.

    >>> shown_figure("torque_Nm", 317.67)
    ('torque', '317.67 N·m', '234.3 ft·lbf')
    >>> shown_figure("angles_deg", [60.0, 30.0]), shown_figure("percents", [33.333333, 100.0])
    (('angles', '60, 30 °', ''), ('percents', '33.333, 100 %', ''))
    """
    name, unit, second = key, "", None
    for ending, words, other in ENDINGS:
        if key.endswith(ending):
            name, unit, second = key.removesuffix(ending), words, other
            break
    name = (
        name.replace(" rss", ", root-sum-square")
        if (name := name.replace("_", " ")).endswith(" rss")
        else name
    )
    if value is None:
        return name, "–", ""
    if isinstance(value, bool):
        return name, "yes" if value else "no", ""
    if isinstance(value, list) and value and isinstance(value[0], dict):
        return (
            name,
            "; ".join(
                ", ".join(_named(k, v) for k, v in one.items() if v is not None) for one in value
            ),
            "",
        )
    if isinstance(value, list) and value and all(type(v) is float for v in value):
        unit = "%" if name.startswith("percents") else unit
        return name, f"{', '.join(show(v, 5) for v in value)} {unit}".strip(), ""
    if isinstance(value, list):
        return (
            name,
            " ".join("+".join(map(str, v)) if isinstance(v, list) else str(v) for v in value)
            or "–",
            "",
        )
    if not isinstance(value, float):
        return name, f"{value} {unit}".strip(), ""
    other_words = (
        f"{show(convert(value * second[2], second[0], second[1]))} {second[1]}" if second else ""
    )
    if unit == "N" and abs(value) >= 1e3:
        return name, f"{show(value / 1e3, 5)} kN", other_words
    return name, f"{show(value, 5)} {unit}".strip(), other_words
