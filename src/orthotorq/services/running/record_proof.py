"""What a record file proves: its words are held against its chain, its chain against the keys at
hand."""

from __future__ import annotations

import json
import uuid
from dataclasses import replace
from datetime import datetime
from types import SimpleNamespace
from typing import Any

from ...core.errors import OrthotorqError
from ...core.forms.errors import DocumentErrors
from ...core.forms.record_file import FileEvent, FileProof, FileRevision, RecordFile
from ...core.forms.result import Result
from ...core.forms.stored import stored_result
from ...core.kinds.stage_kind import OCCASIONS
from ...core.messages import Refusal
from ...core.running import Fact, record_of
from ...store.models import Revision, Run
from ..codes import event_text, revision_text, run_text, time_text
from ..errors import BadField
from ..keys import FROM_SECRET, holds, keys
from .chain import GENESIS, chain_hash, fact_of

#: what reading a text that somebody made may raise
_UNREADABLE = (
    OrthotorqError,
    DocumentErrors,
    ValueError,
    LookupError,
    TypeError,
    AttributeError,
    RecursionError,
)


def derived_file(
    head: dict[str, Any],
    result: Result,
    facts: list[Fact],
    events: list[FileEvent],
    proof: FileProof | None,
) -> RecordFile:
    """A record file as it follows from a result and the entries; `head` is what no entry says of
    where it belongs."""
    start = next((fact for fact in facts if fact.kind == "start"), None)
    said = start.payload if start is not None else {}
    names = said.get("names") or {}
    record = record_of(result, facts, facts[-1].received)
    return RecordFile(
        run=head["run"],
        title=result.title,
        equipment=names.get("machine", head["equipment"]),
        equipment_tag=names.get("machine_tag", head["equipment_tag"]),
        joint=names.get("joint", head["joint"]),
        joint_kind=result.joint_kind,
        revision=said.get("revision", head["revision"]),
        occasion=OCCASIONS.get(record.occasion, record.occasion),
        calculated=result.calculated,
        plan_hash=result.plan_hash,
        head_hash=facts[-1].hash,
        positions=result.positions,
        groups=result.groups,
        record=record,
        events=events,
        proof=proof,
    )


def file_event(fact: Fact, text: str, code: str) -> FileEvent:
    """One entry in words, with the text and the code that prove it."""
    return FileEvent(
        sequence=fact.sequence,
        id=fact.id,
        step=fact.step,
        kind=fact.kind,
        payload=fact.payload,
        person=fact.person,
        at=fact.at,
        hash=fact.hash,
        accepted=fact.accepted,
        text=text,
        code=code,
    )


def check_file(found: RecordFile) -> None:
    """Everything that a file says is what its chain says. Raises BadField with the entry or the
    field that is not."""
    facts = _facts(found)
    if found.proof is None:
        return
    try:
        result = stored_result(found.proof.revision.result)
        derived = derived_file(found.model_dump(), result, facts, found.events, found.proof)
        same = _led_by(found, result, facts)
    except _UNREADABLE:
        raise BadField(Refusal.RECORD_UNLIKE, "file", what="proof") from None
    unlike = next(
        (
            name
            for name in RecordFile.model_fields
            if getattr(derived, name) != getattr(found, name)
        ),
        None,
    )
    if unlike is not None or not same:
        raise BadField(Refusal.RECORD_UNLIKE, "file", what=unlike or "proof")


def _led_by(found: RecordFile, result: Result, facts: list[Fact]) -> bool:
    """Whether the entries are of the run and the revision that the proof names."""
    proof = found.proof
    assert proof is not None
    said = next((fact.payload for fact in facts if fact.kind == "start"), {})
    runs = {json.loads(event.text)["client"]["run"] for event in found.events}
    return (said.get("plan_hash"), said.get("revision"), said.get("occasion"), runs) == (
        result.plan_hash,
        proof.revision.number,
        proof.occasion,
        {proof.run},
    )


def _facts(found: RecordFile) -> list[Fact]:
    """The entries of a chain that hangs together. Raises BadField at the first that does not, or
    says something else."""
    last, facts = GENESIS, list[Fact]()
    for number, event in enumerate(found.events, 1):
        last = chain_hash(last, event.text)
        try:
            fact = fact_of(SimpleNamespace(canonical=event.text, hash=last, name=event.person))
            said = file_event(replace(fact, sequence=number), event.text, event.code)
        except _UNREADABLE:
            raise BadField(Refusal.RECORD_CHAIN, "file", number=number) from None
        if said != event:
            raise BadField(Refusal.RECORD_CHAIN, "file", number=number)
        facts.append(fact)
    if not facts or last != found.head_hash:
        raise BadField(Refusal.RECORD_CHAIN, "file", number=len(facts))
    return facts


def not_proved(found: RecordFile) -> str:
    """Why a file that hangs together is not proved by the keys at hand, in words; empty where it
    is.

    Raises BadField for a file with codes of ours beside codes that only pretend to be: somebody has
    changed it.
    """
    if found.proof is None:
        return "it was written by an earlier version, whose files carry no codes"
    problems = [*_codes(found, found.proof)]
    wrong = [(what, why) for what, why in problems if why]
    if not wrong:
        named = any("names" in event.payload for event in found.events if event.kind == "start")
        return (
            ""
            if named
            else "its entries do not name machine and joint: they are of an earlier version"
        )
    at_hand = keys()
    names = {code.partition(":")[0] for code in _all_codes(found, found.proof)}
    ours = len(wrong) < len(problems) or names & (set(at_hand) - {FROM_SECRET})
    if ours and not any(name not in at_hand for name in names):
        raise BadField(Refusal.RECORD_FORGED, "file", what=wrong[0][0], why=wrong[0][1])
    return "its codes were made with keys of another server, which are not at hand here"


def _all_codes(found: RecordFile, proof: FileProof) -> list[str]:
    return [*(event.code for event in found.events), proof.code, proof.revision.code]


def _codes(found: RecordFile, proof: FileProof) -> list[tuple[str, str]]:
    """(What a code stands for, what is wrong with it) for each."""
    run, revision = uuid.UUID(proof.run), proof.revision
    row = SimpleNamespace(
        id=run,
        number=found.run,
        revision_id=uuid.UUID(revision.id),
        status=proof.status,
        started_by=uuid.UUID(proof.started_by),
        started_at=datetime.fromisoformat(proof.started_at),
        occasion=proof.occasion,
        provisional=proof.provisional,
        head_sequence=len(found.events),
        head_hash=found.head_hash,
    )
    released = SimpleNamespace(
        id=uuid.UUID(revision.id),
        plan_id=uuid.UUID(revision.plan),
        number=revision.number,
        released_by=uuid.UUID(revision.released_by),
        released_at=datetime.fromisoformat(revision.released_at),
        document=revision.document,
        result=revision.result,
        reason=revision.reason,
        taken_on=revision.taken_on,
    )
    said = [
        (f"entry {event.sequence}", event.code, event_text(run, event.sequence, event.hash))
        for event in found.events
    ]
    said += [
        ("the run", proof.code, run_text(row)),
        ("the revision", revision.code, revision_text(released)),
    ]
    return [
        (what, holds(code, text) or "" if code else "it has no code") for what, code, text in said
    ]


def proof_of(run: Run, revision: Revision) -> FileProof:
    """What proves a run and its revision."""
    return FileProof(
        run=str(run.id),
        status=run.status,
        started_by=str(run.started_by),
        started_at=time_text(run.started_at),
        occasion=run.occasion,
        provisional=run.provisional,
        code=run.code,
        revision=FileRevision(
            id=str(revision.id),
            plan=str(revision.plan_id),
            number=revision.number,
            released_by=str(revision.released_by),
            released_at=time_text(revision.released_at),
            document=revision.document,
            result=revision.result,
            reason=revision.reason,
            taken_on=revision.taken_on,
            code=revision.code,
        ),
    )
