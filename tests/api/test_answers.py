"""What the server answers over the demo's year, as it was read."""
from __future__ import annotations

import pytest

from tests.core.test_golden import same
from tests.golden import answers


@pytest.fixture(scope="module")
def found() -> dict[str, list[str]]:
    return answers.lines()


@pytest.mark.parametrize("name", sorted(path.stem for path in answers.HERE.glob("*.txt")))
def test_what_is_answered_is_what_was_read(found: dict[str, list[str]], name: str) -> None:
    same(found[name], answers.HERE / f"{name}.txt")


def test_nothing_is_answered_that_was_never_read(found: dict[str, list[str]]) -> None:
    assert sorted(found) == sorted(path.stem for path in answers.HERE.glob("*.txt"))
