"""What every kind of pass answers: its form, what it becomes in a result, what it asks at a bolt,
what it leaves there."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Annotated, Any, ClassVar, Protocol

from pydantic import Field

from ..errors import OrthotorqError
from ..forms.base import Id, Model, Name, Words
from ..forms.condition import CONDITION, Condition
from ..forms.order import CIRCLE, Order
from ..forms.stage import PassOut
from ..thresholds import MOVES_ON
from ..units import parse, show
from .fields import FieldSpec
from .fields import field as spec
from .prompts import (
    ACCEPT,
    AFTER_A_FAILURE,
    AFTER_A_LOST_TURN,
    AFTER_A_REFUSAL,
    LOOSE,
    REPAIR,
    Ask,
    Choice,
)
from .pulls import fail_code

#: how one comes back after a mistake that only its own bolt knows of
_MISTAKES: dict[str, tuple[str | Choice, ...]] = {
    "no_reach": (REPAIR.saying("Another socket, which reaches: again"), "accept"),
    "past_mark": (LOOSE.saying("Slackened: all passes again"), "replace", "accept"),
    "dropped": ("found", "replace", ACCEPT.saying("Not found, with a reason")),
    "wrong_setting": ("too_low", "too_high", "accept"),
}

#: what must be said about a deviation and what to do about it, by its code
Sayings = dict[str, tuple[str, str]]


#: what every pass may have beside the fields of its kind, and what one that goes over bolts may say
#: of its order
COMMON_FIELDS = (
    spec("name", "Name", example="as its share", main=False),
    spec("note", "Note", example="none", main=False),
    spec("condition", "Condition of this pass", "condition", main=False),
)
CHAIN_FIELDS = (spec("chains", "Pulled with, instead of the stage's", "chains", main=False),)
ORDER_FIELDS = (
    spec("order.start", "First bolt", "count", "1", main=False),
    spec(
        "order.sense",
        "Way round",
        "choice",
        choices={"cw": "clockwise", "ccw": "anticlockwise"},
        main=False,
    ),
    spec("order.group", "Neighbours taken as one", "count", "1", main=False),
    spec("order.tools", "Tools at once", "count", "1", main=False),
)


class PassForm(Model):
    """What every pass of a plan has."""

    id: Id
    name: Name | None = None
    note: Words = ""
    #: chains of this pass, where they are not those of its stage
    chains: Annotated[list[Id], Field(max_length=6)] = []
    #: what must hold beside the condition of its stage
    condition: Condition = CONDITION
    do: Any


_SHARE = re.compile(r"(?<![\d.,])\d+(?:[.,]\d+)?(?= ?%)")


def following(name: str, percent: float) -> str:
    """A pass's name with the share that it has: a name never says another one.

    >>> following("Second, 70 %", 62.5), following("Once more", 100)
    ('Second, 62.5 %', 'Once more')
    """
    return _SHARE.sub(f"{percent:g}", name)


class Answered(Protocol):
    """An answer as the run keeps it."""

    @property
    def word(self) -> str:
        """The answer's own word."""
        ...

    @property
    def answer(self) -> dict[str, Any] | None:
        """Everything that was answered."""
        ...


@dataclass(frozen=True, slots=True)
class Fail:
    """An answer that is not good: code of the deviation, its parameters, what may be done about it;
    `back` is the stage that can mend it."""

    code: str
    params: dict[str, object]
    choices: tuple[str | Choice, ...] = AFTER_A_FAILURE
    back: str | None = None


@dataclass(slots=True)
class Look:
    """How a bolt stands: share of the chosen torque it last got, how it is drawn, its gap [mm]
    where one was measured."""

    percent: float = 0.0
    state: str = "untouched"
    gap: float | None = None


@dataclass(slots=True)
class At:
    """Where a step of a pass stands: the pass, its round and pull, whether the figure has an angle,
    whether the bolt is slackened before it is pulled, whether the joint is looked at again, whether
    the bolt has torque already."""

    one: PassOut
    round: int = 1
    pull: int | None = None
    angled: bool = False
    slackens: bool = False
    recheck: bool = False
    loaded: bool = False


@dataclass(slots=True)
class History:
    """What a pass has had so far, by place: the last answer, whether it was left as failed, whether
    it ever moved in a check."""

    answers: dict[str, Answered] = field(default_factory=dict)
    left: set[str] = field(default_factory=set)
    moved: list[str] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class Act:
    """What a pass does to the load of a bolt; a pass that does nothing to it has none of these.

    `percent` is a share of the figure's torque, given by a wrench; `turn` an angle [rad] and `left`
    a load [N], each at its low, typical and high end; `pumped` the load meanwhile; `cap` a torque
    [N·mm] that is not passed; `slack` takes everything away.
    """

    percent: float | None = None
    turn: tuple[float, float, float] | None = None
    cap: float | None = None
    left: tuple[float, float, float] | None = None
    pumped: tuple[float, float, float] | None = None
    slack: bool = False


class Planned(Protocol):
    """What a pass may ask while it is planned: the torque of the figure [N·mm], the torque rounding
    may not pass [N·mm], whether nobody knows what these bolts have been through, and what a
    stretched bolt shortens by."""

    @property
    def torque(self) -> float | None:
        """The torque of the figure, or None where the group has none."""
        ...

    @property
    def ceiling(self) -> float | None:
        """The torque that rounding to a scale may not pass."""
        ...

    @property
    def history_unknown(self) -> bool:
        """Whether the history of the bolts is unknown."""
        ...

    @property
    def self_locking(self) -> bool:
        """Whether its nuts or screws lock by themselves, so that they run hard."""
        ...

    @property
    def force(self) -> float | None:
        """The load [N] that the figure stands for, or None where the group has none."""
        ...

    @property
    def slender(self) -> tuple[float, float] | None:
        """(Diameter, clamped length) of a bolt [mm], or None where its stack is not given."""
        ...


def turn_words(turn: str) -> str:
    """A turn as it is said: degrees by their sign, flats and turns as they were written.

    >>> turn_words("30 deg"), turn_words("1 flat"), turn_words("2 turn")
    ('30°', '1 flat', '2 turns')
    """
    number, _, unit = turn.partition(" ")
    if unit == "deg":
        return f"{number}°"
    return turn if number == "1" or unit.endswith("s") else f"{turn}s"


def degrees_words(turn_deg: float | None) -> str:
    """A computed turn in words: whole turns as turns, everything else in degrees.

    >>> degrees_words(720.0), degrees_words(45.0)
    ('2 turns', '45°')
    """
    if turn_deg is None:
        return ""
    turns, rest = divmod(turn_deg, 360.0)
    return f"{turn_deg:g}°" if rest or not turns else f"{turns:g} turn{'' if turns == 1 else 's'}"


def reading_base(text: object, quantity: str) -> float | None:
    """A reading in base units, or None when the text is none."""
    try:
        return parse(text, quantity).base if isinstance(text, str) else None
    except OrthotorqError:
        return None


class PassKind:
    """One way of turning, or of waiting. A subclass in a file of its own says everything about it.

    Attributes are what is the same for every pass of the kind; methods answer for one pass. `form`
    is None for kinds that only stages make.
    """

    do: ClassVar[str]
    form: ClassVar[type[PassForm] | None] = None
    #: the pass in words where the plan gives it no name, and the words on the Bench's list (place:
    #: where on it)
    word: ClassVar[str] = ""
    listed: ClassVar[dict[str, dict[str, Any]]] = {}
    place: ClassVar[int] = 100
    fields: ClassVar[tuple[FieldSpec, ...]] = ()
    #: whether it needs a figure; sets one; is a torque to count an angle from; is pulled with a
    #: wrench set to a torque; may
    #: break a bond; is provisional; takes one step at no bolt
    needs_target: ClassVar[bool] = False
    #: whether it stretches the bolt and leaves a load without a torque
    stretches: ClassVar[bool] = False
    sets_figure: ClassVar[bool] = False
    snug: ClassVar[bool] = False
    provisional: ClassVar[bool] = False
    pause: ClassVar[bool] = False
    pulls: ClassVar[bool] = False
    wrenched: ClassVar[bool] = False
    #: whether a wrench that reads torque and angle can answer it; whether fingers turn it, without
    #: a tool
    traced: ClassVar[bool] = False
    by_fingers: ClassVar[bool] = False
    #: whether a custom sequence may come to a bolt again
    repeatable: ClassVar[bool] = False
    #: whether a bolt that deviated counts as new after it
    frees: ClassVar[bool] = False
    #: words after which a round is done again, and what is said when the rounds run out
    moving: ClassVar[tuple[str, ...]] = ()
    exhausted: ClassVar[str | None] = None
    #: whether its turn goes back; whether it adds its turn to what a bolt has
    back: ClassVar[bool] = False
    adds_angle: ClassVar[bool] = False
    #: seconds of one step, by experience; rounds to be expected where they end by themselves
    seconds_each: ClassVar[float] = 15.0
    sayings: ClassVar[Sayings] = {}
    failures: ClassVar[Sayings] = {}
    #: what stops a pass that is not an answer by itself: what is wrong with what to do, and what
    #: may be decided
    halts: ClassVar[Sayings] = {}
    stops: ClassVar[dict[str, tuple[str | Choice, ...]]] = {}
    ask: ClassVar[Ask]

    # planning

    def name(self, form: Any) -> str:
        """The pass in words."""
        return form.name or self.word

    @property
    def all_fields(self) -> tuple[FieldSpec, ...]:
        """Its own fields, those of an order, those of every pass."""
        chains = CHAIN_FIELDS if self.wrenched else ()
        return (*self.fields, *(() if self.pause else ORDER_FIELDS), *chains, *COMMON_FIELDS)

    def order(self, form: Any) -> Order:
        """The order asked for."""
        found: Order = getattr(form, "order", CIRCLE)
        return found

    def planned(self, form: Any, group: Planned) -> dict[str, Any]:
        """Fields of the result beyond name and order; torques in N·m under `torque_Nm` are set on
        every chain."""
        return {}

    def turned(self, form: Any) -> float:
        """Angle [rad] that the pass adds to a figure of torque plus angle."""
        return 0.0

    def acts(self, one: PassOut) -> Act:
        """What it does to the load of a bolt."""
        if self.back:
            return Act(slack=True)
        return Act(cap=one.torque_Nm * 1e3 if one.torque_Nm is not None else None)

    def seconds(self, one: PassOut) -> float:
        """Estimated time of one pass over its bolts [s]: one round each, longer with a
        multiplier."""
        each = self.seconds_each + (
            30.0 if any(s.reaction_Nm is not None for s in one.settings) else 0.0
        )
        each += 120.0 if one.before_each else 15.0 if one.slacken_first else 0.0
        rounds = one.repeat_still or (3 if one.until in ("gap", "free") else 1)
        return each * len(one.order) * rounds

    def kit(self, one: PassOut) -> tuple[tuple[str, str], ...]:
        """(kind, what) to bring beside the wrench."""
        return ()

    def brief(self, raw: dict[str, Any]) -> str:
        """A pass as typed in a word or two, for the telling line of its stage."""
        turn = f" {raw['turn']}" if isinstance(raw.get("turn"), str) else ""
        return f"{self.word[:1].lower()}{self.word[1:]}{turn}"

    # what it leaves

    def height(self, one: PassOut) -> float:
        """Share of the torque on the pass tape, percent."""
        return 0.0

    def load(self, before: float, at: At) -> float:
        """Share of the target [percent] a bolt has after it."""
        return before

    def state(self, look: Look, word: str, at: At) -> str:
        """How a bolt is drawn after it."""
        return "full" if look.percent >= 100 else "part"

    def suspicious(self, before: Look, word: str, at: At) -> str | None:
        """Code of what stops the pass at a bolt, where an answer is not credible as the bolt
        stands."""
        return None

    def after(self, before: Look, given: Answered, at: At, failed: bool) -> Look:
        """How the bolt stands after an answer."""
        look = Look(self.load(before.percent, at), before.state, before.gap)
        if failed:
            look.state = "deviating"
        elif before.state != "deviating" or self.frees:
            look.state = self.state(look, given.word, at)
        return look

    # the run

    def turn_note(self, one: PassOut) -> str:
        """What is said beside a turn: flats of the hexagon, the window."""
        flats = (one.turn_deg or 0.0) / 60
        words = (
            f"{flats:g} flat{'' if flats == 1 else 's'} of the hexagon"
            if 0 < flats < 6 and flats == int(flats)
            else ""
        )
        window = (
            f"between {one.window_deg[0]:g}° and {one.window_deg[1]:g}°" if one.window_deg else ""
        )
        return ", ".join(x for x in (words, window) if x)

    def asked(self, at: At) -> Ask:
        """What is asked at a step."""
        return self.ask

    def answered(self, one: PassOut, turn_deg: float) -> str:
        """The answer of a wrench that reads its angle, by the turn since the bolt broke away."""
        return "turned" if turn_deg >= MOVES_ON.value else "did_not_turn"

    def judge(self, one: PassOut, given: Answered, label: str) -> Fail | None:
        """Whether an answer at a bolt is a stop condition: by its curve, where there is one, before
        its word."""
        if (code := fail_code(given.answer)) is not None:
            return Fail(
                code,
                {
                    "label": label,
                    "name": one.name,
                    "seen": (given.answer or {})["judged"].get("seen", ""),
                },
            )
        said: dict[str, object] = {"label": label, "name": one.name}
        if self.ask.turns and given.word in ("", "not_sure", "count_lost"):
            return Fail("turn_unsure", said, AFTER_A_LOST_TURN)
        if given.word in _MISTAKES:
            return Fail(given.word, said, _MISTAKES[given.word])
        if given.word in self.failures or given.word == "refuses":
            if self.back and given.word == "refuses":
                return Fail("stuck", said, tuple(c for c in AFTER_A_REFUSAL if c not in one.never))
            return Fail(given.word, said)
        return None

    def order_of_round(self, one: PassOut, history: History) -> Sequence[list[str]]:
        """The moves of the next round; none ends the pass."""
        return one.order

    def goes_on(self, one: PassOut, given: Answered) -> bool:
        """Whether an answer asks for another round."""
        return given.word in self.moving

    def moved(self, one: PassOut, given: Answered) -> bool:
        """Whether a bolt moved: what another round is about, and what a check counts."""
        return self.goes_on(one, given)

    def verdict(self, one: PassOut, history: History) -> list[tuple[str, dict[str, object]]]:
        """Deviations that only the whole pass shows."""
        return []

    def limit_words(self, one: PassOut) -> str | None:
        """What the readings of a step must keep to."""
        return None

    def short_turn(self, one: PassOut) -> str:
        """The turn in words, for the instruction."""
        return degrees_words(one.turn_deg)


def torque_words(percent: float) -> str:
    """A share of the torque as it is said."""
    return f"{show(percent, 4)} %"


__all__ = [
    "Act",
    "Answered",
    "At",
    "Choice",
    "Fail",
    "History",
    "Look",
    "PassForm",
    "PassKind",
    "Planned",
    "Sayings",
    "degrees_words",
    "reading_base",
    "torque_words",
    "turn_words",
]
