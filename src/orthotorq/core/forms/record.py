"""The record: what was done, bolt by bolt."""

from __future__ import annotations

from typing import Literal

from .base import Out
from .run import BoltState, Conflict, Deviation, SignOff


class Cell(Out):
    """What happened to one bolt in one pass and round; `notable` when a reader should see it,
    `still` when it did not move, `slackened` when it was slackened first, so that its turn proves
    nothing."""

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
    notable: bool = False
    still: bool = False
    moved: bool = False
    slackened: bool = False
    #: what a measuring device said of it
    measured: str = ""
    #: kept with its whole round at once; kept faster than a hand can pull
    whole: bool = False
    fast: bool = False


class StoryLine(Out):
    """What happened, in words: who, when, where, which bolts, and what a reader should know about
    it."""

    kind: str
    at: str
    until: str | None = None
    person: str
    stage: str
    position: str | None
    what: str
    bolts: list[str] = []
    text: str
    marks: list[str] = []
    photo: str | None = None


class SummaryLine(Out):
    """One of the few lines that tell a run: when, what must be seen, and the rest of the
    sentence."""

    at: str
    strong: str
    text: str


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


class ChartBar(Out):
    """One bar of a chart: its label and its figures."""

    label: str
    value: float
    low: float | None = None
    total: int | None = None
    #: whether it is the reading that this one is held against
    before: bool = False


class Chart(Out):
    """A picture of one thing: torque readings around what was wanted, movement in the checks, gaps
    round by round, readings of one check between their limits."""

    kind: Literal["torque", "moved", "gaps", "readings"]
    title: str
    wanted: float | None = None
    unit: str = ""
    least: float | None = None
    most: float | None = None
    bars: list[ChartBar]


class BoltNote(Out):
    """What a reader must know of one bolt, in a word or two beside it: in which pass, and what."""

    place: str
    label: str
    where: str
    text: str


class GroupTable(Out):
    """Bolt by pass at one position."""

    group: str
    name: str
    position: str | None
    columns: list[Column]
    rows: list[PlaceRow]
    bolts: list[BoltState] = []
    charts: list[Chart] = []
    notes: list[BoltNote] = []


class RecordLine(Out):
    """An item, condition, check or reading with its answer."""

    stage: str
    position: str | None
    text: str
    answer: str
    person: str
    at: str


class ToolUsed(Out):
    """A tool bound at the start, by serial, with its calibration as it stood then; `state` says it
    in words."""

    tool: str
    serial: str
    name: str
    calibrated_until: str | None
    expired: bool
    state: str
    pulls: int


class Compared(Out):
    """A run against the last one of the same joint: bolts that moved in checks, and those that
    moved in both."""

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
    provisional_why: list[str] = []
    tools: list[ToolUsed]
    conflicts: list[Conflict]
    tables: list[GroupTable]
    lines: list[RecordLine]
    readings: list[Chart] = []
    story: list[StoryLine]
    deviations: list[Deviation]
    sign_offs: list[SignOff]
    started: str | None
    ended: str | None
    people: list[str]
