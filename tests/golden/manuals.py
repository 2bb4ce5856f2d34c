"""What lines of manuals propose for a plan, each with its own words; `python -m
tests.golden.manuals` writes it anew."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

from orthotorq.core.planning.from_manual import propose
from orthotorq.core.planning.templates import blank_plan
from orthotorq.demo.load import plan_document
from tests.core.test_reading import LINES

FILE = Path(__file__).parent / "manuals.txt"


def lines() -> Iterator[str]:
    """Each line of a manual, and what it proposes for a new wheel and for a cover that is
    planned."""
    for title, document, group in (
        ("wheel", blank_plan("wheel", "New", "a/b"), "bolts"),
        ("cover", plan_document("evaporator-cover"), "studs"),
    ):
        for text, _ in LINES:
            found = propose(document, group, text)
            yield f"== {title}: {text}"
            yield from (
                f"  {one.words} | {one.says} | {one.act} {one.params}" for one in found.items
            )
            yield from (f"  left: {one}" for one in found.left)


if __name__ == "__main__":
    FILE.write_text("\n".join(lines()) + "\n", encoding="utf-8")
