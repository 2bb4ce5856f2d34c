"""Documents that cannot be worked from: each refused by name, with its path, and with nothing else
blamed."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest

from orthotorq.core.documents.read import MAX_BYTES, parse_json
from orthotorq.core.documents.upgrade import upgraded
from orthotorq.core.errors import BadDocument
from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.planning.compute import compute
from tests.plans import small


def refused(change: Callable[[dict[str, Any]], Any]) -> list[tuple[str, str]]:
    document = small()
    change(document)
    with pytest.raises(DocumentErrors) as caught:
        compute(document)
    return [(e.pointer(), e.text) for e in caught.value.errors]


def test_stages_that_wait_for_each_other() -> None:
    def change(d: dict[str, Any]) -> None:
        d["stages"] = [
            {"id": "n1", "kind": "note", "text": "x", "after": ["n2"]},
            {"id": "n2", "kind": "note", "text": "x", "after": ["n1"]},
            *d["stages"],
        ]

    found = refused(change)
    assert found and all(path.startswith("stages/") for path, _ in found)
    assert any("n1" in text and "n2" in text for _, text in found)


@pytest.mark.parametrize(
    ("change", "path", "words"),
    [
        (lambda d: d["stages"][0].update(groups=["none"]), "stages/0/groups", "none"),
        (lambda d: d["stages"][0].update(chains=["none"]), "stages/0/chains", "none"),
        (lambda d: d["stages"][0].update(groups=["b", "b"]), "stages/0/groups/1", "used twice"),
        (lambda d: d["stages"][0].update(chains=["m", "m"]), "stages/0/chains/1", "used twice"),
        (
            lambda d: d["stages"].insert(
                0,
                {"id": "p", "kind": "apply", "what": "x", "compound": "snake-oil", "groups": ["b"]},
            ),
            "stages/0/compound",
            "snake-oil",
        ),
        (lambda d: d["stages"][0].update(after=["none"]), "stages/0/after", "none"),
        (
            lambda d: d["stages"][0]["passes"][2].update(percent=111),
            "stages/0/passes/2/percent",
            "110",
        ),
        (
            lambda d: d["groups"][0].update(
                layout={"kind": "points", "points": [["0 mm", "0 mm"], ["0.1 mm", "0 mm"]]}
            ),
            "groups/0/layout",
            "0.1 mm apart",
        ),
        (lambda d: d["groups"].append(d["groups"][0]), "groups/1/id", "b"),
        (lambda d: d.update(version=4), "version", "4"),
        (lambda d: d.update(format="other"), "format", "orthotorq.plan"),
        (
            lambda d: d["targets"].update(ghost={"kind": "torque", "torque": "10 N·m"}),
            "targets/ghost",
            "ghost",
        ),
    ],
)
def test_what_cannot_be_is_named_with_its_path(
    change: Callable[[dict[str, Any]], Any], path: str, words: str
) -> None:
    found = refused(change)
    assert any(p.startswith(path) for p, _ in found), found
    assert any(words in text for p, text in found if p.startswith(path)), found


def test_a_file_of_ten_megabytes_is_not_even_parsed() -> None:
    with pytest.raises(BadDocument, match="larger than 2 MB"):
        parse_json(b'{"title": "' + b"x" * MAX_BYTES + b'"}')


def test_older_files_go_up_step_by_step() -> None:
    steps = {
        1: lambda d: {**d, "one": True},
        2: lambda d: {**{k: v for k, v in d.items() if k != "one"}, "two": d["one"]},
    }
    assert upgraded({"version": 1}, 3, steps) == {"version": 3, "two": True}
    assert upgraded({"version": 3}, 3, steps) == {"version": 3}
    assert upgraded({"version": 4}, 3, steps) == {"version": 4}
    assert upgraded({"version": True}, 3, steps) == {"version": True}
