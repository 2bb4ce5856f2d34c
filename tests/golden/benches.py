"""All that the Bench shows of every demo plan: its figures, its lines, the working of each figure.

`python -m tests.golden.benches` writes them anew, to be read before they are committed.
"""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any

from orthotorq.core.forms.result import Result
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.compute.output.working import working
from orthotorq.core.planning.outline import outline
from orthotorq.demo.load import plan_document, plan_names

HERE = Path(__file__).parent / "benches"


def _plain(value: Any) -> str:
    # the last digits of a figure are the processor's
    return f"{value:.8g}" if isinstance(value, float) else str(value)


def _flat(value: Any) -> bool:
    return not isinstance(value, dict) and not (
        isinstance(value, list) and any(isinstance(one, dict | list) for one in value)
    )


def leaves(value: dict[str, Any], path: str) -> Iterator[str]:
    """An object a line; what is empty or false is left out."""
    flat = {
        key: one for key, one in value.items() if _flat(one) and one not in (None, "", [], False)
    }
    if flat:
        yield f"{path}: " + "; ".join(
            f"{key} {' '.join(map(_plain, one)) if isinstance(one, list) else _plain(one)}"
            for key, one in flat.items()
        )
    for key, one in value.items():
        for n, inner in enumerate(one) if isinstance(one, list) and not _flat(one) else ():
            yield from leaves(
                inner if isinstance(inner, dict) else {"": inner}, f"{path}.{key}[{n}]"
            )
        if isinstance(one, dict):
            yield from leaves(one, f"{path}.{key}")


def _figures(result: Result) -> Iterator[str]:
    for group in result.groups:
        if group.preload is not None:
            yield from (f"{group.id}/{one}" for one in ("preload", "stiffness", "losses", "split"))
        yield from (f"{group.id}/limit/{limit.id}" for limit in group.limits)
    for stage in result.stages:
        for one in stage.passes:
            yield from (
                f"{stage.id}/{one.id}/{one.group}/setting/{setting.chain}"
                for setting in one.settings
            )


def bench(document: dict[str, Any]) -> list[str]:
    """What is shown of a plan, a line each."""
    result = compute(document)
    lines = list(
        leaves(result.model_dump(mode="json", exclude={"tables", "core", "plan_hash"}), "plan")
    )
    lines += [f"{one.key} | {one.title} | {one.line}" for one in outline(document, result)]
    lines += [
        f"not computed: {one.key} | {one.title} | {one.line}" for one in outline(document, None)
    ]
    for figure in _figures(result):
        made = working(document, figure)
        lines += [
            (
                f"{figure} | {step.name} | {', '.join(one.value for one in step.inputs)} | "
                f"{step.result}"
            )
            for step in made.steps
        ]
        lines += [f"{figure} | {note}" for note in made.notes]
    return lines


def main() -> None:
    """Write all of them."""
    HERE.mkdir(exist_ok=True)
    for name in plan_names():
        (HERE / f"{name}.txt").write_text(
            "\n".join(bench(plan_document(name))) + "\n", encoding="utf-8"
        )


if __name__ == "__main__":
    main()
