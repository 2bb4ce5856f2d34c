"""What is kept cannot be bent, cut, swapped or taken away without being found, at the right
place."""

from __future__ import annotations

import hashlib
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from sqlalchemy import create_engine, text
from sqlalchemy.orm import Session

from orthotorq.services.codes import event_text, time_text
from orthotorq.services.context import Ctx
from orthotorq.services.running.chain import GENESIS, canonical_event, chain_hash
from orthotorq.services.running.seal import SealError, compare_seal, make_seal
from orthotorq.services.running.verify import Walked, verify_all
from orthotorq.store.models import Event, Person, Run
from tests.conftest import NOW, Database, superuser_url


def bend(database: Database, *statements: str) -> None:
    """What somebody with every right does to the tables, past all triggers."""
    engine = create_engine(superuser_url().set(database=database.name))
    with engine.begin() as connection:
        connection.execute(text("SET session_replication_role = replica"))
        for one in statements:
            connection.execute(text(one))
    engine.dispose()


def walk(database: Database) -> Walked:
    sessions = database.sessions()
    with sessions() as session:
        found = verify_all(session)
    sessions.kw["bind"].dispose()
    return found


def sealed(database: Database) -> str:
    sessions = database.sessions()
    with sessions.begin() as session:
        made = make_seal(Ctx(session, NOW))[1]
    sessions.kw["bind"].dispose()
    return made


def missed(database: Database, seal: str) -> list[str]:
    sessions = database.sessions()
    with sessions() as session:
        found = [str(one) for one in compare_seal(session, seal)[1]]
    sessions.kw["bind"].dispose()
    return found


LAST = "(SELECT max(number) FROM run)"
OF_LAST = f"(SELECT id FROM run WHERE number = {LAST})"
SIGNED = f"run_id = {OF_LAST} AND kind = 'sign_off'"


def test_what_nobody_touched_holds_and_every_entry_has_a_code(own: Database) -> None:
    found = walk(own)
    assert (found.runs, found.breaks, found.said, found.uncoded) == (3, [], [], 0)
    assert found.entries > 100
    assert missed(own, sealed(own)) == []


@pytest.mark.parametrize(
    ("statement", "where", "words"),
    [
        (
            f"UPDATE event SET happened_at = NULL WHERE sequence = 5 AND run_id = {OF_LAST}",
            "entry 5",
            "column happened_at differs",
        ),
        (
            f"UPDATE event SET code = '' WHERE sequence = 6 AND run_id = {OF_LAST}",
            "entry 6",
            "it has no code",
        ),
        (
            f"UPDATE event SET code = 'secret:00' WHERE sequence = 6 AND run_id = {OF_LAST}",
            "entry 6",
            "not the server's",
        ),
        (
            f"UPDATE event SET code = 'old:00' WHERE sequence = 6 AND run_id = {OF_LAST}",
            "entry 6",
            "“old”, which is not at hand",
        ),
        (
            (
                "UPDATE run SET revision_id = (SELECT id FROM revision WHERE id <> "
                f"run.revision_id LIMIT 1) WHERE id = {OF_LAST}"
            ),
            "",
            "beside its chain was changed",
        ),
        (
            f"UPDATE run SET status = 'abandoned' WHERE id = {OF_LAST}",
            "",
            "beside its chain was changed",
        ),
        (
            (
                "UPDATE run SET started_by = (SELECT id FROM person WHERE login = 'jory') WHERE "
                f"id = {OF_LAST}"
            ),
            "",
            "beside its chain was changed",
        ),
        (f"UPDATE run SET code = '' WHERE id = {OF_LAST}", "", "the run has no code"),
        (f"DELETE FROM event WHERE run_id = {OF_LAST}", "", "nothing of its chain is there"),
        (
            f"UPDATE reading SET value = value * 1.01 WHERE run_id = {OF_LAST} AND sequence "
            "= (SELECT min(sequence) FROM reading "
            f"WHERE run_id = {OF_LAST})",
            "entry",
            "is not what was typed",
        ),
        (
            (
                f"DELETE FROM reading WHERE run_id = {OF_LAST} AND sequence = (SELECT "
                f"max(sequence) FROM reading WHERE run_id = {OF_LAST})"
            ),
            "",
            "typed readings are missing",
        ),
    ],
)
def test_a_run_that_was_bent_is_found_at_its_place(
    own: Database, statement: str, where: str, words: str
) -> None:
    bend(own, statement)
    found = [
        str(one)
        for one in walk(own).breaks
        if "FROM event" not in statement or "not what was typed" not in one.what
    ]
    assert (
        len(found) == 1 and found[0].startswith("run ") and where in found[0] and words in found[0]
    ), found


def test_entries_that_were_swapped_are_found(own: Database) -> None:
    here = f"run_id = {OF_LAST} AND sequence"
    bend(
        own,
        f"UPDATE event SET sequence = 9005 WHERE {here} = 5",
        f"UPDATE event SET sequence = 5 WHERE {here} = 6",
        f"UPDATE event SET sequence = 6 WHERE {here} = 9005",
    )
    found = [str(one) for one in walk(own).breaks]
    assert (
        len(found) == 1
        and "entry 5" in found[0]
        and "the previous hash is not that of the entry before" in found[0]
    )


def test_chains_that_were_swapped_between_two_runs_are_found(own: Database) -> None:
    first = "(SELECT id FROM run WHERE number = (SELECT min(number) FROM run))"
    spare = "'00000000-0000-0000-0000-000000000001'"
    for table in ("event", "reading"):
        bend(
            own,
            f"UPDATE {table} SET run_id = {spare} WHERE run_id = {first}",
            f"UPDATE {table} SET run_id = {first} WHERE run_id = {OF_LAST}",
            f"UPDATE {table} SET run_id = {OF_LAST} WHERE run_id = {spare}",
        )
    found = [str(one) for one in walk(own).breaks]
    assert len(found) == 2 and all(
        "entry 1" in one and "column run differs" in one for one in found
    )


@pytest.mark.parametrize(
    ("column", "change"),
    [
        ("document", "replace(document, '\"count\":', '\"count\": ')"),
        ("result", "replace(result, '1', '2')"),
        ("reason", "'it was wished'"),
        ("taken_on", "'[]' || ' '"),
    ],
)
def test_a_revision_that_was_bent_is_found(own: Database, column: str, change: str) -> None:
    bend(
        own,
        (
            f"UPDATE revision SET {column} = {change} WHERE id = (SELECT id FROM revision ORDER "
            "BY id LIMIT 1)"
        ),
    )
    found = [str(one) for one in walk(own).breaks]
    assert (
        len(found) == 1
        and found[0].startswith("revision 1 of plan")
        and "plan or figures were changed" in found[0]
    )


def test_a_tail_that_was_cut_with_its_head_moved_is_found(own: Database) -> None:
    seal = sealed(own)
    bend(
        own,
        f"DELETE FROM event WHERE {SIGNED}",
        f"DELETE FROM reading WHERE run_id = {OF_LAST} AND sequence > 400",
        "UPDATE run SET (head_sequence, head_hash) = (SELECT sequence, hash FROM event "
        "WHERE run_id = run.id "
        f"ORDER BY sequence DESC LIMIT 1) WHERE id = {OF_LAST}",
    )
    assert any("beside its chain was changed" in str(one) for one in walk(own).breaks)
    assert any("its tail was cut off" in one for one in missed(own, seal))


def test_a_chain_that_was_written_anew_from_end_to_end_is_found(own: Database) -> None:
    """Who holds the database can compute every hash again; without the key the codes cannot be
    made."""
    seal, engine = sealed(own), create_engine(superuser_url().set(database=own.name))
    with Session(engine) as session, session.begin():
        session.execute(text("SET session_replication_role = replica"))
        run = session.query(Run).order_by(Run.number.desc()).first()
        assert run is not None
        previous = GENESIS
        for event in session.query(Event).filter(Event.run_id == run.id).order_by(Event.sequence):
            event.canonical = event.canonical.replace("Runa Tesk", "Rina Tesk")
            event.previous_hash, event.hash = previous, chain_hash(previous, event.canonical)
            previous = event.hash
        run.head_hash = previous
    engine.dispose()
    assert any("not the server's" in str(one) for one in walk(own).breaks)
    assert any("is not the one that was sealed" in one for one in missed(own, seal))


def test_a_signature_that_was_forged_with_the_password_of_the_database_is_found(
    own: Database,
) -> None:
    """Ten lines, as the role of the application: nothing stops them, and the walk says so."""
    sessions = own.sessions()
    with sessions.begin() as session:
        run = session.query(Run).order_by(Run.number.desc()).first()
        chief = session.query(Person).filter(Person.login == "runa").one()
        assert run is not None
        sequence, now = run.head_sequence + 1, datetime.now(UTC)
        client: dict[str, Any] = {
            "id": str(Ctx(session, now).new_id()),
            "run": str(run.id),
            "step": "-",
            "kind": "sign_off",
            "device": "forged",
            "device_sequence": 1,
            "device_time": time_text(now),
            "lease": 1,
            "last_seen": 1,
            "payload": {"role": "supervisor"},
        }
        body = canonical_event(
            client,
            {
                "sequence": sequence,
                "verdict": "accepted",
                "person": str(chief.id),
                "received_at": time_text(now),
                "happened_at": time_text(now),
            },
        )
        own_hash = chain_hash(run.head_hash, body)
        session.add(
            Event(
                run_id=run.id,
                sequence=sequence,
                id=client["id"],
                step="-",
                kind="sign_off",
                verdict="accepted",
                device="forged",
                device_sequence=1,
                device_time=time_text(now),
                lease=1,
                last_seen=1,
                person_id=chief.id,
                received_at=now,
                happened_at=now,
                canonical=body,
                previous_hash=run.head_hash,
                hash=own_hash,
                code="secret:"
                + hashlib.sha256(event_text(run.id, sequence, own_hash).encode()).hexdigest(),
            )
        )
    sessions.kw["bind"].dispose()
    found = [str(one) for one in walk(own).breaks]
    assert (
        len(found) == 1
        and f"entry {sequence}" in found[0]
        and "written past the application" in found[0]
    )


def test_a_run_that_was_taken_away_whole_is_missed_by_the_seal_alone(own: Database) -> None:
    seal = sealed(own)
    gone = OF_LAST
    bend(
        own,
        *(
            f"DELETE FROM {table} WHERE run_id = {gone}"
            for table in ("reading", "tool_pull", "pull", "photo", "event")
        ),
        f"DELETE FROM run WHERE id = {gone}",
    )
    assert walk(own).breaks == []
    found = missed(own, seal)
    assert len(found) == 1 and found[0].startswith("run ") and "is not there any more" in found[0]


def test_people_renamed_after_signing_are_said_and_the_record_keeps_the_name(own: Database) -> None:
    seal = sealed(own)
    bend(own, "UPDATE person SET name = 'Runa Else' WHERE login = 'runa'")
    found = walk(own)
    assert found.breaks == [] and all(
        "was signed by Runa Tesk, who is called Runa Else now" in str(one) for one in found.said
    )
    assert found.said
    assert [one for one in missed(own, seal) if "was called Runa Tesk then, Runa Else now" in one]
    bend(own, "DELETE FROM person WHERE login = 'jory'")
    assert any(
        "Jory Vane is not in the list of people any more" in one for one in missed(own, seal)
    )


def test_what_happens_after_a_seal_is_no_break(own: Database) -> None:
    seal = sealed(own)
    sessions = own.sessions()
    with sessions.begin() as session:
        first = make_seal(Ctx(session, NOW + timedelta(days=1)))[0]
        assert first.previous == seal.splitlines()[-2].split()[1]
    sessions.kw["bind"].dispose()
    assert missed(own, seal) == []


@pytest.mark.parametrize(
    "bent",
    [
        lambda seal: "",
        lambda seal: "something else\n" + seal,
        lambda seal: seal.replace("run ", "run 9", 1),
        lambda seal: "\n".join(seal.splitlines()[:-1]),
        lambda seal: seal.replace("code secret:", "code secret:ff"),
    ],
)
def test_a_seal_that_was_changed_is_no_seal(own: Database, bent: Any) -> None:
    seal, sessions = sealed(own), own.sessions()
    with sessions() as session, pytest.raises(SealError):
        compare_seal(session, bent(seal))
    sessions.kw["bind"].dispose()
