"""What changes on the Bench where a plan is made to show a finding: the finding's words, figures,
workings.

`python -m tests.golden.findings` writes it anew, to be read before it is committed.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from tests.core.finding_cases import CASES
from tests.golden.benches import bench
from tests.plans import small

FILE = Path(__file__).parent / "findings.txt"


def _shown(document: dict[str, Any]) -> list[str]:
    # one finding more moves all behind it
    return [re.sub(r"findings\[\d+\]", "finding", line) for line in bench(document)]


def lines() -> Iterator[str]:
    """Each case of a finding with all lines of the Bench that the least plan has not."""
    least = set(_shown(small()))
    for code, change in CASES:
        document = small()
        change(document)
        if code.value == "stage_order":
            document["stages"].append({"id": "late", "kind": "mark", "what": "dot", "after": []})
        yield f"== {code.value}"
        yield from (line for line in _shown(document) if line not in least)


if __name__ == "__main__":
    FILE.write_text("\n".join(lines()) + "\n", encoding="utf-8")
