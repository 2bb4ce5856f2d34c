"""A step of a working in the units people read, shared by screen, paper and command line."""
from __future__ import annotations

from .mechanics.formula import Step, Symbol
from .units import show, show_quantity

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
    """A step as lines of plain text: result, formula in TeX, numbers put in, source, approximation."""
    form = step.formula
    lines = [f"{form.result.words}: {form.result.tex} = {shown_value(form.result, step.value)}", f"  {form.tex}"]
    lines += [f"  {s.tex} = {shown_value(s, v)}  ({s.words})" for s, v in step.inputs]
    lines.append(f"  source: {form.source}")
    if form.approximation:
        lines.append(f"  approximation: {form.approximation}")
    return lines
