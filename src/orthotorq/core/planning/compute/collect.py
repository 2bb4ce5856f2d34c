"""Collects findings and field errors while a plan is computed."""
from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from ...documents.base import FieldError
from ...documents.result import FindingOut
from ...errors import OrthotorqError
from ...units import show_quantity
from ..findings import RULES, Finding


class Collector:
    """Findings in the order found (no repeats), and errors with the path of their field."""

    def __init__(self) -> None:
        self.findings: dict[tuple[str, str, str], FindingOut] = {}
        self.errors: list[FieldError] = []

    def add(self, code: Finding, where: str, **params: object) -> None:
        """Note a finding once per place and sentence."""
        rule = RULES[code]
        text = rule.text.format(**params)
        self.findings.setdefault((code.value, where, text), FindingOut(
            code=code.value, severity=rule.severity, waivable=rule.waivable, role=rule.role, where=where, text=text,
            remedy=rule.remedy.format(**params)))

    @contextmanager
    def at(self, *path: str | int) -> Iterator[None]:
        """Errors of the core raised inside become field errors at a path; work on other fields goes on."""
        try:
            yield
        except OrthotorqError as error:
            self.errors.append(FieldError((*path, *error.path), error.code.value, str(error)))


def kilonewton(newton: float) -> str:
    """Clamp load as read by people."""
    return show_quantity(newton, "force", "kN", 3)


def newton_metre(base: float, digits: int = 4) -> str:
    """Torque as read by people."""
    return show_quantity(base, "torque", "N·m", digits)


def percent(share: float, digits: int = 3) -> str:
    """A share in percent with so many significant digits."""
    return f"{share * 100:.{digits}g} %"
