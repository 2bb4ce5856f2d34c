"""A share of the chosen torque at every bolt: rising passes, rounds until none moves, repeated
pulls, checks."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Annotated, Any, ClassVar, Literal

from pydantic import AfterValidator, Field, model_validator

from ...errors import Impossible
from ...forms.base import Model, written
from ...forms.order import CROSS, Order, Text
from ...forms.quantities import Turn
from ...forms.stage import PassOut
from ...messages import Message
from ...number_formats import read_percent
from ...thresholds import MOST_PERCENT, MOVED_ABOVE, SNUG_OF_AN_ANGLE
from ..fields import field
from ..pass_kind import (
    Act,
    Answered,
    At,
    Fail,
    History,
    Look,
    PassForm,
    PassKind,
    Planned,
    Sayings,
    following,
    reading_base,
)
from ..prompts import (
    AGAIN,
    LOOSE,
    NOT_SURE,
    PAST_CLICK,
    PULLED,
    REFUSES,
    REPAIR,
    STILL_THERE,
    TURNED,
    TURNS_ON,
    Ask,
    Choice,
)


class Rounds(Model):
    """A round repeated until none moves; a round is always finished, reaching `max` is never
    success."""

    until: Literal["none_moves"] = "none_moves"
    moved_above: Turn = Field(default=MOVED_ABOVE.text, validate_default=True)
    max: Annotated[int, Field(ge=1, le=50)] = 3


class Repeat(Model):
    """Pulls on one bolt until so many in a row show no turn."""

    still: Annotated[int, Field(ge=1, le=10)] = 3
    max: Annotated[int, Field(ge=1, le=50)] = 10

    @model_validator(mode="after")
    def _enough(self) -> Repeat:
        if self.max < self.still:
            raise Impossible(
                Message.RANGE_REVERSED, ("max",), low=f"still {self.still}", high=f"max {self.max}"
            )
        return self


def _percent(value: float) -> float:
    if value > MOST_PERCENT.value:
        raise Impossible(Message.OVER_110_PERCENT, percent=f"{value:g}")
    return value


class TorquePass(PassForm):
    """A share of the chosen torque at every bolt; `check` marks a round that proves rather than
    tightens.

    `before_each` is done at one bolt before it is pulled, while the others hold (take out, clean,
    lubricate); `slacken_first` is the same for bolts of unknown history.
    """

    do: Literal["torque"]
    percent: Annotated[float, written(read_percent, float), Field(gt=0), AfterValidator(_percent)]
    order: Order = CROSS
    check: bool = False
    rounds: Rounds | None = None
    repeat: Repeat | None = None
    before_each: Text | None = None
    slacken_first: bool = False
    falls: Text | None = None

    @model_validator(mode="after")
    def _one_rule(self) -> TorquePass:
        if self.rounds is not None and self.repeat is not None:
            raise Impossible(
                Message.PASS_FORM, ("repeat",), what="A pass has rounds or repeated pulls, not both"
            )
        return self


_CHECKING = {
    "check": True,
    "rounds": {"until": "none_moves", "moved_above": MOVED_ABOVE.text, "max": 3},
}
_PULL = Ask(
    "pull",
    (TURNED, STILL_THERE, NOT_SURE),
    (TURNS_ON, REFUSES, PAST_CLICK, *PULLED),
    reads=True,
    shows="setting",
    exception="did_not_turn",
    instruction="Pull steadily, stop at the click.",
    hint="One click. Do not pull on after it.",
)
#: a click without a turn while the torque rises is not simply followed by the next bolt
_RISES = replace(_PULL, choices=(TURNED, replace(STILL_THERE, follows=False), NOT_SURE))
#: in a check the usual answer is that nothing moved: it gets the large button and the space bar
_PROOF = replace(
    _PULL,
    choices=(STILL_THERE.saying("Did not move", "space"), TURNED.saying("It moved", "m"), NOT_SURE),
    instruction="Pull steadily to the click. Did it move before the click?",
    proves=True,
    exception="turned",
    hint="A click without movement proves only that this torque does not move the nut.",
)
#: when a joint is looked at again, a nut that moved is asked about
_SEEN_AGAIN = replace(
    _PROOF, choices=(_PROOF.choices[0], replace(_PROOF.choices[1], follows=False), NOT_SURE)
)
#: in a later round a turn means that it has not settled: the large button does not invite it
_LATER = replace(
    _PULL,
    choices=(
        STILL_THERE.saying(STILL_THERE.label, "space"),
        TURNED.saying(TURNED.label, "m"),
        NOT_SURE,
    ),
    instruction="Pull steadily to the click. Did it still turn?",
    exception="turned",
)
_AGAIN = replace(_PROOF, instruction="Pull again to the click. Did it turn?")


class Torque(PassKind):
    """A share of the torque."""

    do, form, word, place = "torque", TorquePass, "Torque", 30
    listed = {
        "pass": {"do": "torque", "percent": 100, "order": {"kind": "cross"}},
        "check round": {"do": "torque", "percent": 100, "order": {"kind": "circle"}, **_CHECKING},
    }
    fields = (
        field("percent", "Share", "percent"),
        field("check", "check", "tick"),
        field("before_each", "First, at each bolt", example="nothing", main=False),
        field("falls", "Lower than before because", example="it does not fall", main=False),
        field("rounds.max", "Rounds at most", "count", "one round", main=False),
        field("rounds.moved_above", "Moved is more than", "quantity", MOVED_ABOVE.text, main=False),
        field("repeat.still", "Pulls that show no turn", "count", "one pull", main=False),
        field("repeat.max", "Pulls at most", "count", "10", main=False),
        field("slacken_first", "slacken each bolt first", "tick", main=False),
    )
    needs_target = sets_figure = snug = pulls = wrenched = traced = repeatable = True
    moving = ("turned",)
    exhausted = "rounds_exhausted"
    seconds_each = 18.0
    ask = _PULL
    sayings: ClassVar[Sayings] = {
        "did_not_turn": (
            "Bolt {label} did not turn at {name}, though the torque rose; left as it is: {reason}.",
            (
                "Seized, cross-threaded, bottomed or already tighter than this: its clamp is not "
                "known."
            ),
        ),
        "rounds_exhausted": (
            "{name}: after {max} rounds bolts still moved; left as it is: {reason}.",
            "The joint has not settled: look for a soft part, a wrong gasket or dirt.",
        ),
        "moved_after_still": (
            "{name}: {count} moved, bolt {label} first, although no bolt before it moved; "
            "left as it is: "
            "{reason}.",
            "It has come loose since: ask before the machine runs.",
        ),
        "pulls_exhausted": (
            "Bolt {label} still turned after {max} pulls at {name}; left as it is: {reason}.",
            "It yields, strips or its seat sinks: take it out and look.",
        ),
        "moved_at_recheck": (
            "Bolt {label} had moved at {name}: {cause}.",
            "The next recheck comes at half the interval, until one finds nothing moved.",
        ),
    }
    halts: ClassVar[Sayings] = {
        "did_not_turn": (
            "it did not turn, though the torque rose",
            "Seized, cross-threaded, bottomed, or already tighter than this. Slacken it, "
            "look at the thread, run "
            "it on by hand, then pull again.",
        ),
        "rounds_exhausted": (
            "after {max} rounds bolts still move",
            "Stop: the joint does not settle. A soft part, a wrong gasket, dirt, paint under "
            "the nuts, a bolt "
            "that yields? More pulling does not repair it.",
        ),
        "moved_after_still": (
            "{count} moved, bolt {label} first, although no bolt before it moved",
            "Stop. It has come loose since: slacken, clean, and start again. The machine "
            "must not run like this.",
        ),
        "pulls_exhausted": (
            "it still turns after {max} pulls",
            "Stop: it yields, strips, or its seat sinks. Remove it and inspect.",
        ),
        "moved_at_recheck": (
            "it moved",
            (
                "Enter the cause. The bolt is brought to its target, then all bolts are checked "
                "once more."
            ),
        ),
    }
    stops: ClassVar[dict[str, tuple[str | Choice, ...]]] = {
        "did_not_turn": (
            REPAIR.saying("Slackened, runs free: all passes again"),
            "replace",
            "accept",
        ),
        "rounds_exhausted": (AGAIN.saying("Found and repaired: more rounds"), "back", "accept"),
        "moved_after_still": ("back", "accept"),
        "pulls_exhausted": ("replace", "accept"),
    }

    def name(self, form: Any) -> str:
        """The share, and whether it checks."""
        if form.name:
            return following(form.name, form.percent)
        return f"Check at {form.percent:g} %" if form.check else f"{form.percent:g} %"

    def brief(self, raw: dict[str, Any]) -> str:
        """The share alone, since most passes are of this kind."""
        told = " check" if raw.get("check") else " repeat" if raw.get("repeat") else ""
        return f"{raw.get('percent', '?')}{told}"

    def planned(self, form: Any, group: Planned) -> dict[str, Any]:
        """Torque at the bolt, rounds and repeated pulls."""
        if group.torque is None:
            return {}
        torque, rounds, repeat = group.torque * form.percent / 100, form.rounds, form.repeat
        return {
            "percent": form.percent,
            "check": form.check,
            "rounds_max": rounds.max if rounds else 1,
            "until": "none_moves" if rounds else "once",
            "moved_above_deg": round(math.degrees(rounds.moved_above.base), 4) if rounds else None,
            "repeat_still": repeat.still if repeat else None,
            "repeat_max": repeat.max if repeat else None,
            "falls": form.falls is not None,
            "before_each": form.before_each,
            "slacken_first": form.slacken_first or (group.history_unknown and form.check),
            "torque_Nm": torque / 1e3,
            "ceiling_Nm": None if group.ceiling is None else group.ceiling / 1e3,
        }

    def acts(self, one: PassOut) -> Act:
        """Its share of the torque."""
        return Act(percent=one.percent)

    def height(self, one: PassOut) -> float:
        """Its share."""
        return one.percent or 0.0

    def load(self, before: float, at: At) -> float:
        """Its share; with an angle after it, the snug torque is half way."""
        return max(before, (at.one.percent or 0.0) * (SNUG_OF_AN_ANGLE.value if at.angled else 1.0))

    def asked(self, at: At) -> Ask:
        """Whether it turned; in a check, and in repeated pulls after the first, whether it
        moved."""
        if (at.pull or 1) > 1:
            return _AGAIN
        if at.one.check and not at.slackens:
            return _SEEN_AGAIN if at.recheck and at.round == 1 else _PROOF
        if at.round > 1 and not at.slackens:
            return _LATER
        # what was slackened a moment ago turns: that proves nothing
        return (
            _RISES
            if at.loaded and at.round == 1 and not at.one.check and not at.one.repeat_still
            else _PULL
        )

    def moved(self, one: PassOut, given: Answered) -> bool:
        """Whether a bolt moved: by hand as answered; where an angle was read, more than the pass
        allows."""
        read = ((given.answer or {}).get("reading") or {}).get("angle")
        if (
            read is not None
            and one.moved_above_deg is not None
            and given.word in ("turned", "did_not_turn")
        ):
            angle = reading_base(read, "angle")
            if angle is not None:
                return math.degrees(angle) > one.moved_above_deg
        return given.word == "turned"

    def answered(self, one: PassOut, turn_deg: float) -> str:
        """Where a pass is gone round until nothing moves, a turn is one above what it allows."""
        most = (
            one.moved_above_deg
            if one.moved_above_deg is not None and (one.check or one.rounds_max > 1)
            else None
        )
        return (
            super().answered(one, turn_deg)
            if most is None
            else "turned"
            if turn_deg > most
            else "did_not_turn"
        )

    def goes_on(self, one: PassOut, given: Answered) -> bool:
        """Another round when a bolt moved."""
        return self.moved(one, given)

    def verdict(self, one: PassOut, history: History) -> list[tuple[str, dict[str, object]]]:
        """What stood still above must not move below."""
        if not one.falls or not history.moved:
            return []
        return [
            (
                "moved_after_still",
                {"name": one.name, "place": history.moved[0], "count": len(set(history.moved))},
            )
        ]

    def suspicious(self, before: Look, word: str, at: At) -> str | None:
        """Neighbours only lower a bolt's load: in a rising pass it should turn."""
        rising = self.load(before.percent, at) > before.percent > 0 and at.round == 1
        return (
            "did_not_turn"
            if word == "did_not_turn" and rising and not at.one.check and not at.one.repeat_still
            else None
        )

    def after(self, before: Look, given: Answered, at: At, failed: bool) -> Look:
        """A check says whether a bolt moved; any other pass what it has."""
        look = super().after(before, given, at, failed)
        if not failed and at.one.check and not at.slackens and before.state != "deviating":
            look.state = "moved" if self.moved(at.one, given) else "checked"
        return look

    def judge(self, one: PassOut, given: Answered, label: str) -> Fail | None:
        """A bolt that turns on and on is taken out; one that refuses is looked at."""
        said: dict[str, object] = {"label": label, "name": one.name}
        if given.word == "turns_on":
            return Fail("turns_on", said, ("replace", "accept"))
        if given.word == "past_click":
            return Fail(
                "past_click",
                said,
                (LOOSE.saying("Slackened: all passes again"), "replace", "accept"),
            )
        return super().judge(one, given, label)
