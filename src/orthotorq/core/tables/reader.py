"""Reads the shipped CSV files; the first line of a file may be a comment with its source."""

from __future__ import annotations

import csv
from collections.abc import Iterator
from importlib.resources import files


def source_of(name: str) -> str:
    """The source line of a shipped table (text after `# source:`), or an empty string."""
    first = (files(__package__) / "data" / name).read_text(encoding="utf-8").splitlines()[0]
    return first.removeprefix("# source:").strip() if first.startswith("#") else ""


def rows(name: str, delimiter: str = ",") -> Iterator[dict[str, str]]:
    """Rows of a shipped table as dictionaries of text."""
    text = (files(__package__) / "data" / name).read_text(encoding="utf-8")
    lines = [line for line in text.splitlines() if line and not line.startswith("#")]
    yield from csv.DictReader(lines, delimiter=delimiter)


def number(text: str) -> float | None:
    """A figure of a table, or None where the table has none."""
    return float(text) if text else None
