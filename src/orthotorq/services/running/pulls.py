"""Measurements of devices at the steps of a run: begun, streamed, read, and taken by an answer."""

from __future__ import annotations

import json
import uuid
from collections.abc import Iterator
from dataclasses import asdict, dataclass
from typing import Any, cast

from ...core.errors import OrthotorqError
from ...core.forms.result import Result
from ...core.forms.stage import PassOut
from ...core.messages import Refusal
from ...core.running import PullStep, fold, length_step, pull_step, walk_run
from ...core.running.log.step_id import parse as parse_step
from ...core.simulation.judging import Expected
from ...core.simulation.planned import PullRead, Situation, expected_of, read, simulated
from ...core.simulation.pull import JOINT_HAS, Fault, Trace, trace_of
from ...core.simulation.pull import Pull as Inputs
from ...devices.protocol import MESSAGES, Asked, Device
from ...devices.raw import read_raw
from ...devices.simulated import DEVICES, cut
from ...store.models import Pull, Run
from ..context import Ctx
from ..errors import BadField, NotFound, Refused
from ..permissions import use_case
from .chain import facts_of
from .start import result_of

#: what the device of a file is called in the row of its pull
FROM_A_FILE = "file"
#: a file of raw readings may be this large
MOST_RAW = 1_000_000


@dataclass(frozen=True, slots=True)
class DeviceView:
    """A device that may be connected, and what it answers."""

    id: str
    name: str
    answers: str


@dataclass(frozen=True, slots=True)
class Choice:
    """Something to choose, in words."""

    id: str
    name: str


@dataclass(frozen=True, slots=True)
class DevicesView:
    """Devices, and what a simulated joint may have."""

    devices: list[DeviceView]
    joints: list[Choice]


@dataclass(frozen=True, slots=True)
class Curve:
    """A curve or a part of it, as lists of one length: time [s] and angle [deg] from the begin of
    the pull, torque [N·m]."""

    seconds: list[float]
    torque: list[float]
    angle: list[float]


@dataclass(frozen=True, slots=True)
class PullResult:
    """How a measurement ended: the answer to its step with its readings; verdict in words; what the
    curve shows it with.

    `first` and `last` are the times [s] between which it is seen; `wanted` the torque to reach
    [N·m].
    """

    answer: str | None
    torque: str | None
    angle: str | None
    readings: list[str]
    code: str
    says: str
    advice: str
    seen: str
    first: float
    last: float


@dataclass(frozen=True, slots=True)
class PullView:
    """A measurement that was begun: what it is for and how it ends; the samples come by its
    stream."""

    id: uuid.UUID
    device: str
    wanted_Nm: float | None
    turn_deg: float | None
    seconds: float
    result: PullResult


@use_case
def list_devices(ctx: Ctx) -> DevicesView:
    """Devices that may be connected."""
    return DevicesView(
        [DeviceView(d.id, d.name, d.answers) for d in DEVICES.values()],
        [Choice(code, name) for code, name in JOINT_HAS.items()],
    )


@use_case
def begin_pull(
    ctx: Ctx, run_id: uuid.UUID, step: str, device: str, joint: str = "none"
) -> PullView:
    """Begin a measurement at the open step. Raises NotFound, BadField, Refused where the step takes
    none."""
    run = _run(ctx, run_id)
    known = DEVICES.get(device)
    if known is None:
        raise BadField(Refusal.NO_SUCH_DEVICE, "device")
    if joint not in JOINT_HAS:
        raise BadField(Refusal.NO_SUCH_FAULT, "joint")
    at, figure = _asked(ctx, run, step)
    if known.answers in ("pull", "click") and at is not None:
        return pull_with(ctx, run, step, device, at, joint)
    if known.answers == "length" and figure is not None:
        made_id = ctx.new_id()
        return _keep(
            ctx, run, made_id, step, device, {"figure": figure, "seed": _seed(made_id)}, None, None
        )
    raise Refused(Refusal.STEP_NOT_MEASURED)


def _seed(made_id: uuid.UUID) -> int:
    return made_id.int & 0x7FFFFFFF


def pull_with(
    ctx: Ctx, run: Run, step: str, device: str, at: Situation, joint: str = "none"
) -> PullView:
    """Pull with a simulated device at a step that asks for it."""
    made_id = ctx.new_id()
    inputs = asdict(simulated(at, None if joint == "none" else cast(Fault, joint), _seed(made_id)))
    return _keep(ctx, run, made_id, step, device, inputs, expected_of(at), None)


@use_case
def keep_raw_pull(ctx: Ctx, run_id: uuid.UUID, step: str, data: bytes) -> PullView:
    """Keep a pull that a real wrench gave, as a file of raw readings. Raises NotFound, BadField,
    Refused."""
    run = _run(ctx, run_id)
    try:
        if len(data) > MOST_RAW:
            raise BadField(Refusal.RAW_TOO_LARGE, "file")
        text = data.decode("utf-8")
        read_raw(text)
    except UnicodeDecodeError:
        raise BadField(Refusal.RAW_NO_TEXT, "file") from None
    except OrthotorqError as error:
        raise BadField.worded(Refusal.RAW_NOT_READ, str(error), "file") from None
    at, _ = _asked(ctx, run, step)
    if at is None:
        raise Refused(Refusal.STEP_NOT_MEASURED)
    return _keep(ctx, run, ctx.new_id(), step, FROM_A_FILE, {}, expected_of(at), text)


def _run(ctx: Ctx, run_id: uuid.UUID) -> Run:
    run = ctx.session.get(Run, run_id)
    if run is None:
        raise NotFound("run")
    return run


def _asked(ctx: Ctx, run: Run, step: str) -> tuple[Situation | None, float | None]:
    """(the pull, the length [mm]) that the open step asks for; it has to be the one that is
    named."""
    log = fold(facts_of(ctx.session, run))
    walk, pending, _ = walk_run(result_of(ctx.session, run), log, ctx.now.timestamp())
    if pending is None or pending.step != step or log.stopped():
        raise Refused(Refusal.STEP_NOT_OPEN)
    return situation(pull_step(walk, pending)), length_step(walk, pending)


def situation(found: PullStep | None) -> Situation | None:
    """What a device has to know of a pull."""
    return (
        None
        if found is None
        else Situation(
            found.group, found.one, found.round, found.percent, found.slackened, found.turned
        )
    )


def _keep(
    ctx: Ctx,
    run: Run,
    made_id: uuid.UUID,
    step: str,
    device: str,
    inputs: dict[str, Any],
    expected: Expected | None,
    raw: str | None,
) -> PullView:
    row = Pull(
        id=made_id,
        run_id=run.id,
        step=step,
        device=device,
        inputs=json.dumps(inputs),
        expected=json.dumps(asdict(expected) if expected else {}),
        raw=raw,
        person_id=ctx.person.id,
        at=ctx.now,
    )
    ctx.session.add(row)
    ctx.session.flush()
    return view_of(row, result_of(ctx.session, run))


def pass_of(result: Result, step: str) -> PassOut | None:
    """The pass of a step."""
    found = parse_step(step)
    stage = next((s for s in result.stages if found is not None and s.id == found.stage), None)
    group = found.place.rpartition(".")[0] if found and found.place else ""
    return (
        next((p for p in stage.passes if found and p.id == found.part and p.group == group), None)
        if stage
        else None
    )


def trace_of_row(row: Pull) -> Trace | None:
    """The samples of a measurement that has some."""
    if row.raw is not None:
        return read_raw(row.raw)
    return trace_of(Inputs(**json.loads(row.inputs))) if _device(row).answers == "pull" else None


def _device(row: Pull) -> Device:
    return DEVICES[row.device]


def _asked_of(row: Pull) -> Asked:
    inputs = json.loads(row.inputs)
    pulled = Inputs(**inputs) if "target" in inputs else None
    return Asked(pulled, inputs.get("figure", 0.0), inputs["seed"])


def read_row(row: Pull, one: PassOut | None) -> tuple[Trace | None, PullRead | None]:
    """(the samples, what they answer) of a measurement; nothing for one without a curve."""
    trace = trace_of_row(row)
    if trace is None or one is None:
        return trace, None
    return trace, read(trace, Expected(**json.loads(row.expected)), one)


def view_of(row: Pull, result: Result) -> PullView:
    """A measurement as the screen begins it."""
    trace, found = read_row(row, pass_of(result, row.step))
    expected = json.loads(row.expected)
    inputs = json.loads(row.inputs)
    if trace is not None and found is not None:
        verdict = found.verdict
        ended = PullResult(
            found.answer,
            found.torque,
            found.angle,
            [],
            verdict.code,
            found.says,
            found.advice,
            verdict.seen,
            float(trace.seconds[verdict.first]),
            float(trace.seconds[verdict.last]),
        )
        seconds = float(trace.seconds[-1])
    else:
        outcome = _device(row).outcome(_asked_of(row))
        ended = PullResult(
            None, None, None, outcome.readings, "good", outcome.says, "", "", 0.0, 0.0
        )
        seconds = len(list(_device(row).samples(_asked_of(row)))) / MESSAGES
    return PullView(row.id, row.device, expected.get("target"), inputs.get("turn"), seconds, ended)


@use_case
def stream_pull(ctx: Ctx, pull_id: uuid.UUID) -> tuple[Iterator[Curve], PullResult]:
    """(the samples of a measurement as they come, its end). Raises NotFound."""
    row = ctx.session.get(Pull, pull_id)
    if row is None:
        raise NotFound("pull")
    run = ctx.session.get_one(Run, row.run_id)
    view, trace = view_of(row, result_of(ctx.session, run)), trace_of_row(row)
    messages = list(cut(trace) if trace is not None else _device(row).samples(_asked_of(row)))
    return (Curve(m.seconds, m.torque, m.angle) for m in messages), view.result


def judged_of(
    ctx: Ctx, run: Run, result: Result, step: str, payload: dict[str, Any]
) -> dict[str, Any] | None:
    """What the chain keeps of the measurement that an answer names; None where the run has no such
    one at this step."""
    try:
        row = ctx.session.get(Pull, uuid.UUID(str(payload.get("pull"))))
    except ValueError:
        return None
    if row is None or (row.run_id, row.step) != (run.id, step):
        return None
    found = view_of(row, result).result
    kept = {"device": row.device, "code": found.code, "seen": found.seen}
    return kept | (
        {"torque": found.torque, "angle": found.angle}
        if found.torque
        else {"readings": found.readings}
    )
