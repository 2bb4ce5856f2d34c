"""What a formula is called, looks like and comes from, kept beside the function that computes it.

The same record feeds the docstring test, the working on screen and the working in the PDF, so they
cannot differ.
"""

from __future__ import annotations

import inspect
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, ParamSpec

P = ParamSpec("P")


@dataclass(frozen=True, slots=True)
class Symbol:
    """One letter of a formula: how it is set, its kind of unit (`-` for a bare number) and its
    words."""

    tex: str
    kind: str
    words: str


@dataclass(frozen=True, slots=True)
class Formula:
    """One formula: TeX, symbols by argument name, result, source, and the word for an approximation
    if it is one."""

    name: str
    tex: str
    result: Symbol
    symbols: dict[str, Symbol]
    source: str
    approximation: str | None = None


@dataclass(frozen=True, slots=True)
class Step:
    """A formula with numbers put in: inputs and result in base units."""

    formula: Formula
    inputs: tuple[tuple[Symbol, float], ...]
    value: float


_REGISTRY: dict[Callable[..., float], Formula] = {}


def formula(
    tex: str,
    result: tuple[str, str, str],
    source: str,
    *,
    approximation: str | None = None,
    **symbols: tuple[str, str, str],
) -> Callable[[Callable[P, float]], Callable[P, float]]:
    """Attach a Formula to a function of floats; every argument needs its symbol."""

    def attach(function: Callable[P, float]) -> Callable[P, float]:
        missing = set(inspect.signature(function).parameters) ^ set(symbols)
        if missing:
            raise TypeError(
                f"{function.__name__}: symbols and arguments differ in {sorted(missing)}"
            )
        _REGISTRY[function] = Formula(
            function.__name__,
            tex,
            Symbol(*result),
            {k: Symbol(*v) for k, v in symbols.items()},
            source,
            approximation,
        )
        return function

    return attach


def formula_of(function: Callable[..., float]) -> Formula:
    """The Formula attached to a function."""
    return _REGISTRY[function]


def formulas() -> tuple[Formula, ...]:
    """Every formula of the core that has been loaded."""
    return tuple(_REGISTRY.values())


def explain(function: Callable[..., float], **inputs: Any) -> Step:
    """Compute and keep the numbers put in.

    >>> from .preload import torque_from_nut_factor
    >>> step = explain(torque_from_nut_factor, preload=100e3, nut_factor=0.2, diameter=20.0)
    >>> step.value, step.formula.source[:9]
    (400000.0, 'ISO 16047')
    """
    record = _REGISTRY[function]
    return Step(
        record,
        tuple([(record.symbols[k], float(v)) for k, v in inputs.items()]),
        function(**inputs),
    )
