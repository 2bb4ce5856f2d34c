"""Plans that nobody would draw: what is said of them, their figures, a run of them, as they were
read."""

from __future__ import annotations

import pytest

from orthotorq.demo.load import plan_names
from tests.core.test_golden import same
from tests.golden import odd


@pytest.mark.parametrize("name", plan_names())
def test_of_an_odd_plan_all_follows_as_it_was_read(name: str) -> None:
    same(list(odd.lines(name)), odd.HERE / f"{name}.txt")
