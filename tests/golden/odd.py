"""Plans that nobody would draw: demo plans with fields of one another, other figures, parts left
out.

What is said of them is kept in words, all that follows from them (figures, lines, workings, a run
full of trouble and its record) as a digest. `python -m tests.golden.odd` writes them anew; with a
title, as 'gearbox-foot 3', it prints what the digests of that one stand for.
"""

from __future__ import annotations

import argparse
import copy
import re
from collections import Counter, defaultdict
from collections.abc import Iterator
from functools import lru_cache, reduce
from hashlib import sha256
from operator import getitem
from pathlib import Path
from random import Random
from typing import Any

from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.forms.result import Result
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.outline import mended_in, outline
from orthotorq.core.planning.work_order import ways
from orthotorq.core.running import occasions_of
from orthotorq.demo.load import plan_document, plan_names
from tests.core.test_fuzz import paths
from tests.golden.benches import bench
from tests.golden.troubles import told

HERE = Path(__file__).parent / "odd"
EACH, CHANGES, EVENTS = 3, 4, 30
#: without these nothing else of a thing would be looked at
NEEDED = {"id", "kind", "do", "name", "text", "title"}
_FIGURE = re.compile(r"-?\d+(?:\.\d+)?")
#: the stages of a plan have most of its fields, and the least to be computed
SHARE = {"groups": 5, "stages": 4}
Path_ = tuple[Any, ...]


def _paths(document: Any) -> list[tuple[Path_, Any]]:
    """Every place of a document, with what stands there."""
    return [(path, reduce(getitem, path, document)) for path in paths(document)]


def _shape(path: Path_) -> Path_:
    return tuple("*" if isinstance(part, int) else part for part in path)


@lru_cache(maxsize=1)
def pool_of() -> dict[Path_, list[Any]]:
    """What stands in any demo plan at places of a shape."""
    found: dict[Path_, list[Any]] = defaultdict(list)
    for name in plan_names():
        for path, value in _paths(plan_document(name)):
            if value not in found[_shape(path)] and path[-1] not in ("id", "title"):
                found[_shape(path)].append(value)
    return found


def _changed(document: dict[str, Any], pool: dict[Path_, list[Any]], chance: Random) -> str:
    """Change one thing in a document; returns what."""
    found = [one for one in _paths(document) if one[0][-1] not in NEEDED]
    many = Counter(path[0] for path, _ in found)
    path, old = chance.choices(found, [SHARE.get(path[0], 1) / many[path[0]] for path, _ in found])[
        0
    ]
    inner: Any = document
    for part in path[:-1]:
        inner = inner[part]
    words, others = "/".join(map(str, path)), [one for one in pool[_shape(path)] if one != old]
    how = chance.random()
    if how < 0.35 and others:
        inner[path[-1]] = copy.deepcopy(chance.choice(others))
        return f"another {words}"
    if isinstance(old, str) and _FIGURE.search(old) and how < 0.8:
        by = chance.choice((0.4, 0.8, 1.25, 3.0))
        inner[path[-1]] = _FIGURE.sub(
            lambda found: f"{float(found.group()) * by:.4g}", old, count=1
        )
        return f"{words} × {by:g}"
    del inner[path[-1]]
    return f"no {words}"


def _digest(lines: list[str]) -> str:
    return sha256("\n".join(lines).encode()).hexdigest()[:12]


def _followed(document: dict[str, Any], result: Result, chance: Random) -> Iterator[list[str]]:
    """All that is shown of it, then a run of it."""
    yield bench(document)
    occasion, way = chance.choice(occasions_of(result)), chance.choice(ways(result.variants))
    if result.stages:
        yield list(
            told(
                document,
                {"occasion": occasion, "variants": list(way)},
                str(chance.random()),
                EVENTS,
                beside=False,
            )
        )


def _made(document: dict[str, Any], pool: dict[Path_, list[Any]], chance: Random) -> Iterator[str]:
    """Change a document; what is refused is said, and not done."""
    for _ in range(CHANGES):
        tried = copy.deepcopy(document)
        what = _changed(tried, pool, chance)
        try:
            compute(tried)
        except DocumentErrors as error:
            yield from (f"{what} is refused: {one.pointer()}: {one.text}" for one in error.errors)
            continue
        document.clear()
        document.update(tried)
        yield what


def _said(document: dict[str, Any], result: Result) -> Iterator[str]:
    """Findings, each with the place on the Bench where it is mended."""
    sections = outline(document, result)
    for one in result.findings:
        mended = mended_in(one, document, sections)
        yield (
            f"{one.severity} {one.code} at {one.where}: {one.text} {one.remedy} "
            f"[{mended.section}: {mended.field}]"
        )


def lines(name: str, show: str = "") -> Iterator[str]:
    """Odd plans made of a demo plan: what was changed, what is said of it now, and whatever else
    follows from it, as digests.

    `show` is the title of one whose lines are given as they are.
    """
    pool, known = pool_of(), set(_said(plan_document(name), compute(plan_document(name))))
    for number in range(EACH):
        title, chance, document = (
            f"{name} {number}",
            Random(f"{name} {number}"),
            plan_document(name),
        )
        yield f"== {title}"
        yield from _made(document, pool, chance)
        result = compute(document)
        yield from (one for one in _said(document, result) if one not in known)
        for made in _followed(document, result, chance):
            yield from made if title == show else [f"{len(made)} lines, {_digest(made)}"]


def main() -> None:
    """Write them, or print those of one plan with all that the digests of one are made of."""
    given = argparse.ArgumentParser(description=main.__doc__)
    given.add_argument(
        "show", nargs="?", default="", help="an odd plan by its title, as 'gearbox-foot 3'"
    )
    if show := given.parse_args().show:
        print("\n".join(lines(show.rpartition(" ")[0], show)))
        return
    HERE.mkdir(exist_ok=True)
    for name in plan_names():
        (HERE / f"{name}.txt").write_text("\n".join(lines(name)) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
