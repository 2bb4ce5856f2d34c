"""Runs: what a client sends, and the state that the core derives."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from .base import Model, Out
from .setting import SettingOut
from .stage import LookOut

EventKind = Literal[
    "answer",
    "problem",
    "note",
    "suggest",
    "photo",
    "correct",
    "redo",
    "accept",
    "settle",
    "sign_off",
    "abandon",
    "continue",
    "resume",
    "tool",
]


class EventIn(Model):
    """One event as a client sends it; `id` makes sending it again harmless."""

    id: Annotated[
        str, Field(pattern=r"^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$")
    ]
    run: Annotated[str, Field(min_length=36, max_length=36)]
    step: Annotated[str, Field(min_length=1, max_length=200)]
    kind: EventKind
    payload: dict[str, Any] = {}
    device: Annotated[str, Field(min_length=1, max_length=80)]
    device_sequence: Annotated[int, Field(ge=1, le=10_000_000)]
    device_time: Annotated[str, Field(min_length=10, max_length=40)]
    lease: Annotated[int, Field(ge=0, le=1_000_000)]
    #: who tapped, where the device says so; nobody else may send it
    person: Annotated[str, Field(max_length=36)] | None = None
    last_seen: Annotated[int, Field(ge=0, le=10_000_000)]


class Button(Out):
    """One answer the instruction offers: `follows` when the next bolt of the round simply follows
    it, `reason` when it is taken with a reason only, `back` when a remote's key for back gives it,
    `leaves` how the bolts of the step then look."""

    answer: str
    label: str
    key: str
    follows: bool = False
    reason: bool = False
    back: bool = False
    leaves: LookOut | None = None


class Ahead(Out):
    """A later step of the same round, for walking on without network: everything else is as in the
    instruction."""

    step: str
    places: list[str]
    label: str


class Clock(Out):
    """A compound that is setting: torque on these stages must be done by then (seconds since
    1970)."""

    what: str
    deadline: float
    stages: list[str]
    set: bool


class Instruction(Out):
    """The one thing to do next."""

    step: str
    kind: str
    position: str | None
    #: said before anything is answered at another position than the last one; empty where that is
    #: where one is
    go_to: str = ""
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
    #: why it is done so, in a sentence; empty where it was said before
    why: str = ""
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
    #: what a measuring device may answer here: a pull with its curve, a click, a length
    devices: list[str] = []
    #: what is recorded with the answer; `photo` falls away once one was taken here
    asks: list[Literal["batch", "photo", "second"]] = []
    #: what goes on the head; the gap measured here last
    socket: str = ""
    last_gap: str = ""
    turn_deg: float | None
    window_deg: list[float] | None
    turn_text: str
    turn_back: bool
    turn_note: str
    shows: str
    entry: Literal["buttons", "reading", "decision"]
    exception: Button | None
    ready_at: float | None
    deadline: float | None
    check_round: bool
    changed_setting: bool
    wrong: list[Button]
    ahead: list[Ahead]


class Later(Out):
    """The first step of a round that comes after a step, whatever was answered there; its own round
    is in its `ahead`."""

    after: str
    instruction: Instruction


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
    moved: list[int] = []


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
    """An answer that can be corrected: what it was to, in words, and the answers it may become."""

    event: str
    step: str
    label: str
    answer: str
    text: str
    what: str = ""
    choices: list[Button] = []


class Conflict(Out):
    """An event that was kept but moves no state, and what a supervisor made of it."""

    event: str
    step: str
    kind: str
    text: str
    person: str
    settled: str | None
    reason: str | None


class Stopped(Out):
    """What stops the run until somebody says what was done about it."""

    event: str
    about: Literal["unsafe", "wrench"]
    text: str
    advice: str
    ask: str
    person: str
    at: str


class RunState(Out):
    """All a screen needs to know about a run; the same events always give the same state."""

    status: Literal["running", "finished", "signed", "closed", "abandoned"]
    status_text: str = ""
    occasion_text: str = ""
    held: list[str] = []
    actions: list[str] = []
    next_signature: str | None = None
    occasion: str
    variants: list[str]
    history: Literal["known", "unknown"]
    provisional: bool
    provisional_why: list[str] = []
    #: how a run that was ended early leaves its joint, in a sentence
    leaves: str = ""
    #: what failed and was left as it is, in sentences: the joint must not be used then
    failed: list[str] = []
    #: whether the stages that give the machine back are held back for that
    left_locked: bool = False
    #: whether a bolt was turned
    turned: bool = False
    #: what a signature would stand over, in words
    signs: str = ""
    #: what stops the run until it is settled
    stopped: list[Stopped] = []
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
    #: rounds after the open one that no answer of it decides; given where a round begins, and when
    #: a run is opened
    later: list[Later] = []
