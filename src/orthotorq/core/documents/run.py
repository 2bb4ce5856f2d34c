"""Runs: what a client sends, the state the core derives, the record it becomes."""
from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from .base import Model
from .result import Out, SettingOut

EventKind = Literal["answer", "problem", "note", "suggest", "photo", "correct", "redo", "accept", "settle", "sign_off",
                    "abandon"]
Answer = Literal["done", "good", "not_good", "turned", "did_not_turn", "not_sure", "value", "refuses", "turns_on",
                 "stopped_early", "cap", "free", "not_yet", "moved", "still", "repair", "replace", "accept", "skip"]
StepKind = Literal["condition", "item", "check", "reading", "wait", "watch", "decision", "hand", "snug", "feel", "pull", "angle",
                   "back_off", "gap", "loosen", "jack"]


class EventIn(Model):
    """One event as a client sends it; `id` makes sending it again harmless."""

    id: Annotated[str, Field(pattern=r"^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$")]
    run: Annotated[str, Field(min_length=36, max_length=36)]
    step: Annotated[str, Field(min_length=1, max_length=200)]
    kind: EventKind
    payload: dict[str, Any] = {}
    device: Annotated[str, Field(min_length=1, max_length=80)]
    device_sequence: Annotated[int, Field(ge=1, le=10_000_000)]
    device_time: Annotated[str, Field(min_length=10, max_length=40)]
    lease: Annotated[int, Field(ge=0, le=1_000_000)]
    last_seen: Annotated[int, Field(ge=0, le=10_000_000)]


class Button(Out):
    """One answer the instruction offers."""

    answer: Answer
    label: str
    key: str


class Ahead(Out):
    """A later step of the same round, for walking on without network: everything else is as in the instruction."""

    step: str
    places: list[str]
    label: str


class Clock(Out):
    """A compound that is setting: torque on these stages must be done by then (seconds since 1970)."""

    what: str
    deadline: float
    stages: list[str]
    set: bool


class Instruction(Out):
    """The one thing to do next."""

    step: str
    kind: StepKind
    position: str | None
    stage: str
    stage_id: str
    pass_name: str | None
    do: str | None
    round: int | None
    pull: int | None
    attempt: int
    label: str
    places: list[str]
    text: str
    hint: str
    before_each: str | None
    watch_for: str | None
    note: str
    settings: list[SettingOut]
    buttons: list[Button]
    cautions: list[str]
    condition: list[str]
    index: int
    total: int
    upcoming: list[str]
    limit_text: str | None
    unit: str | None
    quantity: str | None
    gauge: str | None
    turn_deg: float | None
    window_deg: list[float] | None
    read_by: str | None
    ready_at: float | None
    deadline: float | None
    check_round: bool
    changed_setting: bool
    can_skip: bool
    can_redo: bool
    wrong: list[Button]
    ahead: list[Ahead]


class BoltState(Out):
    """How one bolt stands at one position: `percent` of the chosen torque it last got."""

    place: str
    state: Literal["untouched", "hand", "part", "full", "checked", "moved", "deviating", "loose"]
    percent: float
    gap_mm: float | None = None


class TapeBand(Out):
    """One band of the pass tape: a pass over its steps at one position and round."""

    id: str
    label: str
    position: str | None
    percent: float
    total: int
    done: int
    check: bool
    answers: list[str]


class Deviation(Out):
    """Something that is not as planned, what to do about it, and who accepted it."""

    id: str
    step: str
    code: str
    text: str
    advice: str = ""
    accepted_by: str | None
    reason: str | None


class SignOff(Out):
    """A signature over everything up to the head hash."""

    role: Literal["fitter", "supervisor"]
    person: str
    at: str
    head_hash: str


class LastAnswer(Out):
    """The latest answer that can be corrected."""

    event: str
    step: str
    label: str
    answer: str
    text: str


class Conflict(Out):
    """An event that was kept but moves no state, and what a supervisor made of it."""

    event: str
    step: str
    kind: str
    text: str
    person: str
    settled: str | None
    reason: str | None


class RunState(Out):
    """All a screen needs to know about a run; the same events always give the same state."""

    status: Literal["running", "finished", "signed", "closed", "abandoned"]
    occasion: str
    variants: list[str]
    history: Literal["known", "unknown"]
    provisional: bool
    waiting: list[Instruction]
    clocks: list[Clock]
    fitted: list[str]
    conflicts: list[Conflict]
    sequence: int
    instruction: Instruction | None
    position: str | None
    bolts: list[BoltState]
    tape: list[TapeBand]
    deviations: list[Deviation]
    sign_offs: list[SignOff]
    last: LastAnswer | None
    recent: list[LastAnswer]
    done: int
    notes: int
    unload: list[str] = []


class Cell(Out):
    """What happened to one bolt in one pass and round."""

    answer: str
    text: str
    person: str
    at: str
    torque: str | None
    angle: str | None
    value: str | None
    attempt: int
    pulls: int
    corrected: bool


class Column(Out):
    """One pass and round of the record's table."""

    id: str
    title: str
    setting: str | None
    do: str
    check: bool
    percent: float | None


class PlaceRow(Out):
    """One bolt through all passes."""

    place: str
    label: str
    cells: list[Cell | None]


class GroupTable(Out):
    """Bolt by pass at one position."""

    group: str
    name: str
    position: str | None
    columns: list[Column]
    rows: list[PlaceRow]


class RecordLine(Out):
    """An item, condition, check or reading with its answer."""

    stage: str
    position: str | None
    text: str
    answer: str
    person: str
    at: str


class RecordNote(Out):
    """A note, a problem, a suggestion or a correction."""

    kind: str
    step: str
    text: str
    person: str
    at: str
    photo: str | None = None


class ToolUsed(Out):
    """A tool bound at the start, by serial, with its calibration as it stood then."""

    tool: str
    serial: str
    name: str
    calibrated_until: str | None
    expired: bool
    pulls: int


class Compared(Out):
    """A run against the last one of the same joint: bolts that moved in checks, and those that moved in both."""

    run: int
    at: str
    moved_now: int
    checked_now: int
    moved_before: int
    checked_before: int
    both: list[str]
    deviations_now: int
    deviations_before: int


class Record(Out):
    """What was done, in full."""

    status: str
    occasion: str
    variants: list[str]
    history: str
    provisional: bool
    tools: list[ToolUsed]
    conflicts: list[Conflict]
    tables: list[GroupTable]
    lines: list[RecordLine]
    notes: list[RecordNote]
    deviations: list[Deviation]
    sign_offs: list[SignOff]
    started: str | None
    ended: str | None
    people: list[str]
