"""A database of a test's own."""

from __future__ import annotations

from collections.abc import Iterator

import pytest

from tests.conftest import Database, drop_database, make_database


@pytest.fixture
def own(template: Database) -> Iterator[Database]:
    """A copy of the demo that is bent and thrown away."""
    made = make_database(template.name)
    yield made
    drop_database(made)
