"""What the server answers over the demo's year, as it was read; and what a year of work must have
left."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

import pytest
from sqlalchemy import select

from orthotorq.services.accounts.commands import actor_of
from orthotorq.services.context import Ctx
from orthotorq.services.rechecking.due_dates import list_dues
from orthotorq.services.rechecking.history import joint_history
from orthotorq.services.rechecking.shift import shift
from orthotorq.store.models import Joint, Meter, MeterReading, Person
from tests.conftest import Database
from tests.core.test_golden import same
from tests.golden import answers


@pytest.fixture(scope="module")
def lived() -> Iterator[tuple[Callable[[str], Any], Database]]:
    with answers.year() as year:
        yield year


@pytest.fixture(scope="module")
def found(lived: tuple[Callable[[str], Any], Database]) -> dict[str, list[str]]:
    return answers.lines(lived[0])


@pytest.mark.parametrize("name", sorted(path.stem for path in answers.HERE.glob("*.txt")))
def test_what_is_answered_is_what_was_read(found: dict[str, list[str]], name: str) -> None:
    same(found[name], answers.HERE / f"{name}.txt")


def test_nothing_is_answered_that_was_never_read(found: dict[str, list[str]]) -> None:
    assert sorted(found) == sorted(path.stem for path in answers.HERE.glob("*.txt"))


def test_after_a_year_every_list_has_something_true_in_it(
    lived: tuple[Callable[[str], Any], Database],
) -> None:
    sessions = lived[1].sessions()
    with sessions() as session:
        people = {person.login: actor_of(person) for person in session.scalars(select(Person))}
        planner, supervisor = (
            Ctx(session, answers.TIME, people[login]) for login in ("mira", "runa")
        )
        views = {"planner": shift(planner), "supervisor": shift(supervisor)}
        lists = {one.id: one for view in views.values() for one in view.lists}
        assert [
            name
            for name, one in lists.items()
            if not one.lines and name not in ("conflicts", "aside", "suggested")
        ] == []
        assert views["planner"].overdue_count > 0
        assert {line.title for line in lists["moving"].lines} == {
            "Rail stop anchors",
            "Separator hanger",
            "Trolley wheel",
        }
        assert any("failed" in line.words for line in lists["tools"].lines)
        dues = list_dues(supervisor, limit=100)
        assert {"overdue", "due", "later"} <= {one.state for one in dues}
        words = " ".join(one.why for one in dues)
        assert "cut short" in words and "opened by others" in words.lower()
        wheel = joint_history(
            supervisor, session.scalars(select(Joint.id).where(Joint.name == "Trolley wheel")).one()
        )
        assert wheel.movement.finding == "keeps" and wheel.movement.proposals
        meters = session.scalars(select(Meter)).all()
        assert len(meters) >= 5
        assert all(one.rate for one in meters)
        hows = set(session.scalars(select(MeterReading.how)))
        assert {"reading", "replaced", "rolled_over"} <= hows
    sessions.kw["bind"].dispose()
