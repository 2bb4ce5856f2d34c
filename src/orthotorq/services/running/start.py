"""Starting a run: occasion, variants, history, tools by serial; all of it is kept in the first
event."""

from __future__ import annotations

import json
import uuid
from dataclasses import dataclass
from typing import Any

from sqlalchemy import select, text
from sqlalchemy.orm import Session

from ...core.documents.plan import Plan as PlanDocument
from ...core.documents.read import read_plan
from ...core.forms.result import Result
from ...core.forms.stored import stored_result
from ...core.joint_condition import history_of
from ...core.messages import Refusal
from ...core.planning.compute.load.tool_binding import BoundTool, bound_settings
from ...core.running import choices_errors
from ...core.running.walk.remaining import done_on
from ...local_time import moment_text
from ...settings import read
from ...store.models import Event, Joint, Person, Plan, Revision, Run, Tool
from ..codes import close_head, time_text
from ..context import Ctx
from ..errors import BadField, NotFound, Refused
from ..permissions import use_case
from ..revision_proof import require_proven
from ..toolroom.tools import allowed, correction_of, spec_of, state_of, until_of
from .append import append
from .chain import GENESIS
from .histories import HISTORIES, MOST_WORDS


@dataclass(frozen=True, slots=True)
class Choices:
    """What is chosen at the start of a run; tools by id of the plan's tool -> serial; a part that
    is not the right one."""

    device: str
    occasion: str = "install"
    variants: tuple[str, ...] = ()
    history: str = "known"
    tools: tuple[tuple[str, str], ...] = ()
    makeshift: str = ""
    #: ids of positions, where it is not at all of them
    positions: tuple[str, ...] = ()
    #: the run's id as the device has made it, so that a start that is sent again begins no second
    #: run
    run: uuid.UUID | None = None


#: results of revisions whose code held when they were read, by revision and code: each is read once
#: by every worker
_PROVEN: dict[tuple[uuid.UUID, str], Result] = {}


def proven_result(session: Session, revision: Revision) -> Result:
    """The stored result of a revision whose code holds now. Raises Refused where it does not."""
    require_proven(session, revision)
    key = (revision.id, revision.code)
    if key not in _PROVEN:
        if len(_PROVEN) >= 64:
            _PROVEN.clear()
        _PROVEN[key] = stored_result(revision.result)
    return _PROVEN[key]


def result_of(session: Session, run: Run) -> Result:
    """The stored result a run works from. Raises Refused where its revision is not as it was
    released.

    Of one that was proven by this worker only the code is fetched, not the long text: what leads is
    what was proven.
    """
    code = session.scalars(select(Revision.code).where(Revision.id == run.revision_id)).one()
    known = _PROVEN.get((run.revision_id, code))
    return known or proven_result(session, session.get_one(Revision, run.revision_id))


def _bind(ctx: Ctx, plan: PlanDocument, result: Result, wanted: dict[str, str]) -> dict[str, Any]:
    """The bound tools and their settings for the first event. Raises BadField, Impossible,
    Refused."""
    bound: dict[str, BoundTool] = {}
    kept = []
    for name, serial in wanted.items():
        if name not in plan.tools:
            raise BadField(Refusal.NO_SUCH_TOOL, "tools", tool=name)
        tool = ctx.session.scalar(select(Tool).where(Tool.serial == serial))
        if tool is None:
            raise BadField(Refusal.NO_SUCH_SERIAL, "tools", serial=serial)
        if tool.sort != "wrench":
            raise BadField(Refusal.NO_SUCH_SERIAL, "tools", serial=serial)
        good, words = state_of(tool, ctx.now)
        if not good and not allowed(tool, ctx.now):
            raise Refused(Refusal.TOOL_BLOCKED, serial=serial, note=words.removeprefix("blocked: "))
        until = until_of(tool)
        bound[name] = BoundTool(serial, spec_of(tool), correction_of(tool))
        kept.append(
            {
                "tool": name,
                "serial": serial,
                "name": serial,
                "until": time_text(until)[:10] if until else None,
                "expired": not good,
                "state": words,
                **({"allowed": tool.allowed_why} if not good else {}),
            }
        )
    settings = bound_settings(plan, result, bound) if bound else {}
    return {
        "tools": kept,
        "bound_settings": {k: [x.model_dump(mode="json") for x in v] for k, v in settings.items()},
    }


def bound_anew(
    ctx: Ctx, run: Run, result: Result, bound: dict[str, str], change: dict[str, Any]
) -> dict[str, Any]:
    """What a change of a wrench adds to its event: the new tool, and the settings of all bound ones
    for what `result` has left.

    Raises BadField, Refused, and Impossible when the new one cannot be set to what a pass asks for.
    """
    plan = read_plan(json.loads(ctx.session.get_one(Revision, run.revision_id).document))
    made = _bind(ctx, plan, result, {**bound, change["tool"]: change["serial"]})
    return {**made, "tools": [t for t in made["tools"] if t["tool"] == change["tool"]]}


def _number(ctx: Ctx) -> int:
    """The next free number of a run.

    In a database copied from another, a sequence may step back when PostgreSQL crashes: what is
    taken is passed over.
    """
    while True:
        number = ctx.session.scalars(text("SELECT nextval('run_number')")).one()
        if ctx.session.scalar(select(Run.id).where(Run.number == number)) is None:
            return int(number)


def _started(ctx: Ctx, run_id: uuid.UUID, revision_id: uuid.UUID) -> uuid.UUID | None:
    """The run that this start has begun already, also in the same moment. Raises Refused where the
    id is another run's."""
    ctx.session.execute(
        text("SELECT pg_advisory_xact_lock(hashtextextended(:id, 0))"), {"id": str(run_id)}
    )
    run = ctx.session.get(Run, run_id)
    if run is None:
        return None
    if (run.started_by, run.revision_id) != (ctx.person.id, revision_id):
        raise Refused(Refusal.RUN_ID_TAKEN)
    return run.id


def going_on(ctx: Ctx, joint_id: uuid.UUID) -> list[tuple[Run, str]]:
    """Runs in progress on a joint, newest first, with who began them."""
    rows = ctx.session.execute(
        select(Run, Person.name)
        .join(Revision, Run.revision_id == Revision.id)
        .join(Plan, Revision.plan_id == Plan.id)
        .join(Person, Run.started_by == Person.id)
        .where(Plan.joint_id == joint_id, Run.status == "running")
        .order_by(Run.number.desc())
    )
    return [(run, name) for run, name in rows]


def require_alone(
    ctx: Ctx, joint_id: uuid.UUID, positions: tuple[str, ...], run_id: uuid.UUID | None = None
) -> None:
    """Two runs do not work on one joint at once, unless each is at positions of its own; one in
    which nothing was answered yet does not work. Raises Refused."""
    if read("ORTHOTORQ_SEVERAL_RUNS") == "1":
        return
    # two who begin in one moment are asked one after the other
    ctx.session.execute(select(Joint.id).where(Joint.id == joint_id).with_for_update())
    for run, name in going_on(ctx, joint_id):
        if (
            run.id == run_id
            or ctx.session.scalar(
                select(Event.sequence)
                .where(Event.run_id == run.id, Event.kind == "answer", Event.verdict == "accepted")
                .limit(1)
            )
            is None
        ):
            continue
        begun = ctx.session.scalars(
            select(Event.canonical).where(Event.run_id == run.id, Event.sequence == 1)
        ).one()
        others = json.loads(begun)["client"]["payload"].get("positions") or []
        if not positions or not others or set(positions) & set(others):
            raise Refused(
                Refusal.SECOND_RUN, run=run.number, person=name, since=moment_text(run.started_at)
            )


def _require_choices(result: Result, choices: Choices) -> None:
    """Raises BadField for what cannot be chosen."""
    if not 1 <= len(choices.device) <= 80:
        raise BadField(Refusal.BAD_DEVICE, "device")
    if choices.history not in HISTORIES:
        raise BadField(Refusal.BAD_HISTORY, "history")
    if len(choices.makeshift) > MOST_WORDS:
        raise BadField(Refusal.WORDS_TOO_LONG, "makeshift", most=MOST_WORDS)
    if (wrong := choices_errors(result, choices.occasion, list(choices.variants))) is not None:
        raise BadField(wrong[0], "variants", **wrong[1])
    if strange := [p for p in choices.positions if p not in {one.id for one in result.positions}]:
        raise BadField(Refusal.NO_SUCH_POSITION, "positions", position=strange[0])


def _started_from(revision: Revision, result: Result, choices: Choices) -> dict[str, Any]:
    """What the first event of a run keeps of its revision, its joint and what was chosen."""
    joint = revision.plan.joint
    return {
        "revision": revision.number,
        "plan_hash": revision.plan_hash,
        "tables": result.tables,
        "core": result.core,
        "occasion": choices.occasion,
        "variants": list(choices.variants),
        "history": history_of(joint.condition, choices.history, choices.occasion),
        # as they are called now: a record says what was said when it was made
        "names": {
            "machine": joint.equipment.name,
            "machine_tag": joint.equipment.tag,
            "joint": joint.name,
        },
        **({"positions": list(choices.positions)} if choices.positions else {}),
        **({"makeshift": choices.makeshift.strip()} if choices.makeshift.strip() else {}),
    }


@use_case
def start_run(ctx: Ctx, revision_id: uuid.UUID, choices: Choices) -> uuid.UUID:
    """Start a run of a released revision on a device; its first event keeps what it was started
    from.

    Raises NotFound, Refused, BadField, and Impossible when a bound tool cannot be set to what a
    pass asks for.
    """
    if choices.run is not None and (there := _started(ctx, choices.run, revision_id)) is not None:
        return there
    revision = ctx.session.get(Revision, revision_id)
    if revision is None:
        raise NotFound("revision")
    if revision.status != "released":
        raise Refused(Refusal.REVISION_REPLACED)
    result = proven_result(ctx.session, revision)
    _require_choices(result, choices)
    require_alone(ctx, revision.plan.joint_id, choices.positions)
    doing = done_on(result, choices.occasion, choices.variants)
    bound = (
        _bind(ctx, read_plan(json.loads(revision.document)), doing, dict(choices.tools))
        if choices.tools
        else {}
    )
    run = Run(
        id=choices.run or ctx.new_id(),
        number=_number(ctx),
        revision_id=revision.id,
        status="running",
        started_by=ctx.person.id,
        started_at=ctx.now,
        lease_epoch=1,
        lease_device=choices.device,
        lease_person=ctx.person.id,
        head_sequence=0,
        head_hash=GENESIS,
        occasion=choices.occasion,
        conflicts=0,
        checked=0,
        moved=0,
        provisional=False,
    )
    ctx.session.add(run)
    ctx.session.flush()
    client = {
        "id": str(ctx.new_id()),
        "run": str(run.id),
        "step": "-",
        "kind": "start",
        "device": "server",
        "device_sequence": 1,
        "device_time": time_text(ctx.now),
        "lease": 1,
        "last_seen": 0,
        "payload": {**_started_from(revision, result, choices), **bound},
    }
    append(ctx, run, client, "accepted", {})
    close_head(run)
    return run.id
