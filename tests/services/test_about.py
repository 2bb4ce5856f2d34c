"""What is kept about one person is of that person alone, and whole."""

from __future__ import annotations

import json
from datetime import timedelta

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from orthotorq.services.accounts.about import about_person
from orthotorq.services.accounts.commands import actor_of, open_session
from orthotorq.services.context import Ctx
from orthotorq.store.models import (
    Base,
    CalendarLink,
    Event,
    Invitation,
    Job,
    Person,
    Revision,
    SignInAttempt,
)
from tests.conftest import NOW


def test_each_person_has_what_is_theirs(session: Session) -> None:
    people = {one.login: one for one in session.scalars(select(Person))}
    for login in ("mira", "tam"):
        open_session(
            Ctx(session, NOW + timedelta(minutes=len(login))), actor_of(people[login]), "a browser"
        )
    session.flush()
    found = {
        login: about_person(Ctx(session, NOW, actor_of(people[login])), login)
        for login in ("mira", "tam", "runa")
    }
    for login, one in found.items():
        assert one is not None and one["person"]["login"] == login
        named = one["named_in"]
        mine = session.scalar(
            select(func.count()).select_from(Event).where(Event.person_id == people[login].id)
        )
        assert len(named.get("event", [])) == mine
        titles = session.scalars(
            select(Revision.id).where(Revision.released_by == people[login].id)
        ).all()
        assert {r["id"] for r in named.get("revision", [])} == set(map(str, titles))
        assert len(named.get("sign_in", [])) == (login != "runa")
    assert (
        len(found["mira"]["named_in"]["revision"]) > 5
        and "revision" not in found["tam"]["named_in"]
    )
    assert about_person(Ctx(session, NOW), "nobody") is None


def test_every_table_that_names_a_person_is_read_and_nothing_that_opens_something_is_in_it(
    session: Session,
) -> None:
    mira = session.scalars(select(Person).where(Person.login == "mira")).one()
    ctx = Ctx(session, NOW, actor_of(mira))
    naming = {
        table.name
        for table in Base.metadata.tables.values()
        if any(key.column.table is Person.__table__ for key in table.foreign_keys)
    }
    session.add(SignInAttempt(id=ctx.new_id(), login="mira", at=NOW, address="10.0.0.9"))
    session.add(Invitation(id=ctx.new_id(), person_id=mira.id, digest="d" * 64, at=NOW, until=NOW))
    session.add(CalendarLink(person_id=mira.id, secret_hash="s" * 64, at=NOW))
    session.add(
        Job(
            id=ctx.new_id(),
            kind="import",
            status="done",
            done=0,
            total=0,
            answer="{}",
            payload=b"secret payload",
            person_id=mira.id,
            at=NOW,
        )
    )
    session.flush()
    found = about_person(ctx, "mira")
    assert found is not None and found["failed_sign_ins"][-1]["address"] == "10.0.0.9"
    assert (
        {"invitation", "calendar_link", "job", "revision", "plan"}
        <= set(found["named_in"])
        <= naming
    )
    text = json.dumps(found)
    assert "secret payload" not in text and "s" * 64 not in text and mira.password_hash not in text
    assert len(naming) > 12
