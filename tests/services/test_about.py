"""What is kept about one person is of that person alone, and whole."""
from __future__ import annotations

from datetime import timedelta

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from orthotorq.services.accounts.about import about_person
from orthotorq.services.accounts.commands import actor_of, open_session
from orthotorq.services.context import Ctx
from orthotorq.store.models import Event, Person, Plan, Revision
from tests.conftest import NOW


def test_each_person_has_what_is_theirs(session: Session) -> None:
    people = {one.login: one for one in session.scalars(select(Person))}
    for login in ("mira", "tam"):
        open_session(Ctx(session, NOW + timedelta(minutes=len(login))), actor_of(people[login]), "a browser")
    session.flush()
    found = {login: about_person(Ctx(session, NOW, actor_of(people[login])), login) for login in ("mira", "tam", "runa")}
    for login, one in found.items():
        assert one is not None and one["person"]["login"] == login
        mine = session.scalar(select(func.count()).select_from(Event).where(Event.person_id == people[login].id))
        assert len(one["entries"]) == mine
        titles = session.scalars(select(Plan.title).join(Revision, Revision.plan_id == Plan.id)
                                 .where(Revision.released_by == people[login].id)).all()
        assert sorted(r["plan"] for r in one["released"]) == sorted(titles)
        assert len(one["sessions"]) == (login != "runa")
        assert one["entries"] == sorted(one["entries"], key=lambda e: (e["run"], e["entry"]))
    assert found["mira"] and len(found["mira"]["released"]) > 5 and found["tam"] and not found["tam"]["released"]
    assert about_person(Ctx(session, NOW), "nobody") is None
