"""The words of the sheet of every demo plan, page by page, as they are printed: to be read before
they are carried."""

from __future__ import annotations

import argparse
import io
from datetime import UTC, datetime
from functools import lru_cache
from pathlib import Path

from pypdf import PdfReader

from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.compute.output.working import working
from orthotorq.demo.load import plan_document, plan_names
from orthotorq.exchange.sheet import SheetHead, render_sheet

HERE = Path(__file__).parent / "sheets"
NOW = datetime(2026, 11, 24, 8, 0, tzinfo=UTC)
HEAD = SheetHead("Evaporator 2", "Channel cover", 3, "Mira Oslund", NOW)


@lru_cache(maxsize=32)
def pages(name: str) -> list[str]:
    """The words of each page, with single blanks."""
    document = plan_document(name)
    result = compute(document)
    workings = [
        working(document, f"{group.id}/preload")
        for group in result.groups
        if group.target and group.preload
    ]
    pdf = render_sheet(result, HEAD, workings, made_at=NOW, link="https://works.example/joints/7")
    return [
        "\n".join(
            " ".join(line.split()) for line in page.extract_text().splitlines() if line.strip()
        )
        for page in PdfReader(io.BytesIO(pdf)).pages
    ]


def printed(name: str) -> str:
    """A sheet as text."""
    return (
        "\n\n".join(f"== page {number}\n{text}" for number, text in enumerate(pages(name), 1))
        + "\n"
    )


def main() -> None:
    """Write the sheets anew: to be read before they are committed."""
    argparse.ArgumentParser(description=main.__doc__).parse_args()
    HERE.mkdir(exist_ok=True)
    for name in plan_names():
        (HERE / f"{name}.txt").write_text(printed(name), encoding="utf-8")


if __name__ == "__main__":
    main()
