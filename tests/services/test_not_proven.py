"""What was changed or written past the application leads nobody, and is named wherever it is
shdatabase."""

from __future__ import annotations

import io
import json
import uuid
from collections.abc import Iterator
from typing import Any

import pytest
from pypdf import PdfReader
from sqlalchemy.orm import Session

from orthotorq.core.documents.read import canonical
from orthotorq.services.accounts.commands import actor_of
from orthotorq.services.codes import time_text
from orthotorq.services.context import Ctx
from orthotorq.services.errors import Refused, ServiceError
from orthotorq.services.planning.sheets import sheet_pdf, template_pdf
from orthotorq.services.running import chain
from orthotorq.services.running.commands import append_events, take_lease
from orthotorq.services.running.prepare import prepare_run
from orthotorq.services.running.queries import read_record, read_run
from orthotorq.services.running.record_files import record_book, record_pdf
from orthotorq.services.running.start import Choices, start_run
from orthotorq.store.models import Event, Person, Plan, Revision, Run
from tests.conftest import NOW, Database, drop_database, make_database
from tests.services.test_proof import OF_LAST, bend


@pytest.fixture
def database(template: Database) -> Iterator[Database]:
    """A copy of the demo for each test: it is bent and thrown away."""
    made = make_database(template.name)
    yield made
    drop_database(made)


def ctx(session: Session, login: str = "tam") -> Ctx:
    return Ctx(session, NOW, actor_of(session.query(Person).filter(Person.login == login).one()))


def last(session: Session) -> Run:
    return session.query(Run).order_by(Run.number.desc()).limit(1).one()


def forged(session: Session) -> uuid.UUID:
    """A revision as somebody writes it who has the password of the database: every torque three
    times as high."""
    real = (
        session.query(Revision).filter(Revision.status == "released").order_by(Revision.id).first()
    )
    assert real is not None
    result = json.loads(real.result)
    for group in result["groups"]:
        group["target"]["set_torque_Nm"] *= 3
    made = Revision(
        id=uuid.uuid4(),
        plan_id=real.plan_id,
        number=real.number + 1,
        status="released",
        released_by=real.released_by,
        released_at=real.released_at,
        document=real.document,
        result=json.dumps(result),
        reason="",
        taken_on="[]",
        plan_hash=real.plan_hash,
        code=real.code,
    )
    session.add(made)
    session.flush()
    return made.id


def test_a_forged_revision_starts_no_run_and_prints_no_sheet(session: Session) -> None:
    made, tam = forged(session), ctx(session)
    for lead in (
        lambda: start_run(tam, made, Choices("tablet")),
        lambda: prepare_run(tam, made),
        lambda: sheet_pdf(tam, made),
        lambda: template_pdf(tam, made),
    ):
        with pytest.raises(
            Refused, match=r"Revision \d+ of “.*” is not as it was released .*Do not work by it"
        ):
            lead()


def test_a_revision_that_was_bent_leads_its_runs_no_further_and_the_record_names_it(
    database: Database, session: Session
) -> None:
    tam = ctx(session)
    revision = (
        session.query(Revision)
        .join(Plan)
        .filter(Plan.title == "Fit the conveyor drum journal nut")
        .one()
    )
    begun = start_run(tam, revision.id, Choices("tablet"))
    session.commit()
    assert read_run(tam, begun).state.instruction is not None
    assert read_record(tam, last(session).id).not_proven == read_record(tam, begun).not_proven == ""
    # this worker had proven it, and led by what it had proven; another one, or this one after a
    # start, reads it anew
    bend(database, f"UPDATE revision SET code = 'secret:00' WHERE id = '{revision.id}'")
    session.expire_all()
    for lead in (lambda: read_run(tam, begun), lambda: append_events(tam, begun, [{}])):
        with pytest.raises(Refused, match="is not as it was released"):
            lead()
    view = read_record(tam, begun)
    assert view.not_proven.startswith(
        "revision 1, by which this was done: its code is not the server's"
    )
    _, data = record_pdf(tam, begun).run(tam)
    paper = " ".join(
        "".join(page.extract_text() for page in PdfReader(io.BytesIO(data)).pages).split()
    )
    assert "This record does not hold" in paper and "Do not rely on it" in paper
    assert record_book(tam, begun).run(tam)[1]


def _without(name: str) -> str:
    change = f"replace(canonical, '\"{name}\"', '\"{name}s\"')"
    return f"UPDATE event SET canonical = {change} WHERE sequence = 4 AND run_id = {OF_LAST}"


@pytest.mark.parametrize(
    ("statement", "words"),
    [
        (_without("client"), "entry 4: the text does not give its hash"),
        (_without("server"), "entry 4: the text does not give its hash"),
        (
            f"UPDATE event SET canonical = 'null' WHERE sequence = 4 AND run_id = {OF_LAST}",
            "entry 4",
        ),
        (f"UPDATE event SET canonical = '' WHERE sequence = 4 AND run_id = {OF_LAST}", "entry 4"),
        (
            f"UPDATE event SET code = 'secret:00' WHERE sequence = 4 AND run_id = {OF_LAST}",
            "entry 4: its code is not the server's",
        ),
        (
            f"DELETE FROM event WHERE sequence = 4 AND run_id = {OF_LAST}",
            "entry 4: sequence 5 stands where 4 belongs",
        ),
        (f"UPDATE run SET status = 'running' WHERE id = {OF_LAST}", "its code is not the server's"),
    ],
)
def test_a_bent_entry_is_shown_as_bent_and_leads_nobody(
    database: Database, session: Session, statement: str, words: str
) -> None:
    bend(database, statement)
    chain._READ.clear()
    run, tam = last(session), ctx(session)
    for lead in (lambda: read_run(tam, run.id), lambda: append_events(tam, run.id, [{}])):
        with pytest.raises(Refused, match=f"Run {run.number} is not as it was saved: .*{words}"):
            lead()
    view = read_record(tam, run.id)
    assert view.not_proven
    if "entry" in words:
        # what stands before it is shown, and nothing from it on
        assert (
            words.partition(": ")[2] in view.not_proven
            and len(chain.read_chain(session, run)[0]) == 3
        )
        assert not view.record.tables or all(
            cell is None for t in view.record.tables for r in t.rows for cell in r.cells
        )


def test_a_text_with_hashes_that_fit_and_without_a_code_is_no_entry(
    database: Database, session: Session
) -> None:
    """Who has the password of the application writes an entry that hangs on the chain as it
    should."""
    run, tam = last(session), ctx(session)
    client: dict[str, Any] = {
        "id": str(uuid.uuid4()),
        "run": str(run.id),
        "step": "-",
        "kind": "note",
        "device": "forged",
        "device_sequence": 1,
        "device_time": time_text(NOW),
        "lease": 1,
        "last_seen": 1,
        "payload": {},
    }
    text = canonical({"client": client})
    session.add(
        Event(
            run_id=run.id,
            sequence=run.head_sequence + 1,
            id=uuid.UUID(client["id"]),
            step="-",
            kind="note",
            verdict="accepted",
            device="forged",
            device_sequence=1,
            device_time=time_text(NOW),
            lease=1,
            last_seen=1,
            person_id=tam.person.id,
            received_at=NOW,
            happened_at=NOW,
            canonical=text,
            previous_hash=run.head_hash,
            hash=chain.chain_hash(run.head_hash, text),
            code="",
        )
    )
    session.flush()
    session.expire_all()
    assert f"entry {run.head_sequence}" in read_record(tam, run.id).not_proven
    with pytest.raises(ServiceError, match="is not as it was saved"):
        take_lease(tam, run.id, "tablet")


def test_a_record_of_which_nothing_stands_is_said_to_be_none(
    database: Database, session: Session
) -> None:
    bend(database, f"UPDATE event SET canonical = '{{}}' WHERE sequence = 1 AND run_id = {OF_LAST}")
    chain._READ.clear()
    with pytest.raises(Refused, match=r"Run \d+ is not as it was saved: run \d+, entry 1"):
        read_record(ctx(session), last(session).id)
