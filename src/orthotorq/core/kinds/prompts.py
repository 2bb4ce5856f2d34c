"""What a step asks: the answers it takes in words with their keys, and what is said beside it.

An answer is a word; the same word may be said differently by different kinds of step.
"""

from __future__ import annotations

from dataclasses import dataclass, replace


@dataclass(frozen=True, slots=True)
class Choice:
    """One answer: its word, the label on the button, the key; `follows`: the next bolt of the round
    simply follows.

    `reason`: it is taken with a reason only; `back`: the key of a remote that goes back gives it.
    """

    word: str
    label: str
    key: str
    follows: bool = False
    reason: bool = False
    back: bool = False

    def saying(self, label: str, key: str = "") -> Choice:
        """The same answer in other words."""
        return replace(self, label=label, key=key or self.key)


DONE = Choice("done", "Done", "space", True)
GOOD = Choice("good", "Good", "space")
NOT_GOOD = Choice("not_good", "Not good", "g")
TURNED = Choice("turned", "Clicked, turned", "space", True)
STILL_THERE = Choice("did_not_turn", "Clicked, did not turn", "d", True)
NOT_SURE = Choice("not_sure", "Not sure", "n", back=True)
VALUE = Choice("value", "Reading", "enter")
REFUSES = Choice("refuses", "It refuses", "r")
TURNS_ON = Choice("turns_on", "Keeps turning, does not get tight", "o")
PAST_CLICK = Choice("past_click", "Pulled past the click", "p")
NO_REACH = Choice("no_reach", "This socket does not reach it", "x")
PAST_MARK = Choice("past_mark", "Turned past the mark", "p")
COUNT_LOST = Choice("count_lost", "Count lost: how far it was turned", "u")
ANOTHER_BOLT = Choice("another_bolt", "It was another bolt", "j")
ORDER_LOST = Choice("order_lost", "Order lost: which bolts are done", "v")
WRONG_SETTING = Choice("wrong_setting", "The wrench was set wrong", "z")
DROPPED = Choice("dropped", "A part was dropped", "y")
MOVED = Choice("moved", "It moved", "m")
NOTHING_MOVED = Choice("still", "Nothing moved", "space")
REPAIR = Choice("repair", "Repaired", "1", reason=True)
REPLACE = Choice("replace", "Replaced", "2")
ACCEPT = Choice("accept", "Leave as is, with a reason", "3", reason=True)
SKIP = Choice("skip", "Skipped", "k")
BACK = Choice("back", "Back", "b")
PENETRANT = Choice("penetrant", "Penetrant, waited: try again", "1")
EASE = Choice("ease", "A little tighter, then back: try again", "2")
HEAT = Choice("heat", "Heated under permit: try again", "4", reason=True)
CUT = Choice("cut", "Cut off, parts replaced", "5", reason=True)
DRILL = Choice("drill", "Drilled out, thread restored", "6", reason=True)
FINISH = Choice("finish", "The mark is certain: measured, finish the turn", "1", reason=True)
LOOSE = Choice("loose", "Not certain: back to loose, then all passes again", "2")
NOW_SO = Choice("now_so", "It is in this condition now", "1")
FOUND = Choice("found", "Found, clean and whole: continue", "1")
CERTAIN = Choice("certain", "The marks show every bolt that is done: continue", "1")
TOO_LOW = Choice("too_low", "Set too low", "1")
TOO_HIGH = Choice("too_high", "Set too high", "2")
AGAIN = Choice("again", "Another round", "1", reason=True)
#: why a nut had moved when it was checked again, as far as the one who saw it can say
CAUSES = (
    Choice("settled", "It settled: gasket, coating, new parts", "1"),
    Choice("worked_loose", "It worked loose: vibration, heat and cold", "2"),
    Choice("never_tight", "It was not right before", "3"),
    Choice("not_known", "I cannot tell", "4"),
)

#: what may be done about something that failed, unless the step says otherwise
AFTER_A_FAILURE = ("repair", "replace", "accept")
#: what may be done about a fastener that does not come loose
AFTER_A_REFUSAL = ("penetrant", "ease", "heat", "cut", "drill", "accept")
#: what may be done about a turn of which nobody knows how far it came
AFTER_A_LOST_TURN = ("finish", "loose", "replace", "accept")
#: after these the step is done again
TRIED = (
    "repair",
    "replace",
    "finish",
    "loose",
    "penetrant",
    "ease",
    "heat",
    "now_so",
    "found",
    "certain",
    "too_low",
    "too_high",
)
#: after these a bolt is loose, and goes through all passes up to the step again
LOOSENED = ("repair", "replace", "loose")
#: after these other bolts are pulled again before the step is
OTHERS = ("too_low", "too_high")
#: before the place of a bolt, in a decision about which bolt it was
BOLT = "bolt:"
#: what can be wrong wherever a tool turns a bolt; where the same again does no harm; where nothing
#: is ever turned twice
HANDLED = (NO_REACH, DROPPED)
PULLED = (ANOTHER_BOLT, ORDER_LOST, WRONG_SETTING, *HANDLED)
TURNED_ON = (PAST_MARK, COUNT_LOST, ANOTHER_BOLT, ORDER_LOST, *HANDLED)
#: what may be done, as it is said of something looked at; of a bolt
_DECISIONS = {
    c.word: c
    for c in (
        ACCEPT,
        BACK,
        FINISH,
        LOOSE,
        PENETRANT,
        EASE,
        HEAT,
        CUT,
        DRILL,
        AGAIN,
        NOW_SO,
        FOUND,
        CERTAIN,
        TOO_LOW,
        TOO_HIGH,
    )
}
_LOOKED_AT = {
    "repair": REPAIR.saying("Repaired, look again"),
    "replace": REPLACE.saying("Replaced, look again"),
}
_OF_A_BOLT = {
    "repair": REPAIR.saying("Slackened, repaired: all passes again"),
    "replace": replace(REPLACE, label="Replaced (part, batch): all passes again", reason=True),
}


@dataclass(frozen=True, slots=True)
class Ask:
    """One kind of step: usual answers (the first has the large button), what can be wrong, the
    instruction, the hint.

    `wanted` names the unit of a reading; `repeats` are answers after which the same is asked again.
    """

    step: str
    choices: tuple[Choice, ...]
    wrong: tuple[Choice, ...] = ()
    skippable: bool = True
    instruction: str = ""
    hint: str = ""
    repeats: tuple[str, ...] = ("not_sure",)
    timed: bool = False
    wanted: str | None = None
    #: whether a reading of torque or angle may come with the answer
    reads: bool = False
    proves: bool = False
    #: whether it is a turn that is never made twice: nobody repeats it without knowing how far it
    #: came
    turns: bool = False
    #: the answer that is marked at single bolts when a whole round is confirmed at once
    exception: str | None = None
    #: what stands large beside the bolt: the setting, the turn, the clock, the bolt's number, or
    #: the words alone
    shows: str = "label"

    def words(self, may_skip: bool = True) -> tuple[str, ...]:
        """Every answer the step takes; any other is refused."""
        out = tuple(c.word for c in (*self.choices, *self.wrong))
        return (*out, SKIP.word) if self.skippable and may_skip else out


CONDITION = Ask(
    "condition",
    (DONE.saying("Yes, it is"), NOT_GOOD.saying("No")),
    skippable=False,
    shows="words",
    instruction="Is the joint in this condition now?",
    hint="If not, bring it there first: the work is valid in this condition only.",
)
RESUME = replace(
    CONDITION,
    choices=(DONE.saying("Yes, all as it was"), NOT_GOOD.saying("No")),
    instruction="Before the run continues: {left}. Everything as it was left?",
    hint=(
        "Go and look before you answer. If not, report a problem, or end the run: what was "
        "reached is not certain."
    ),
    repeats=("not_sure", "not_good"),
)
SLACKEN = Ask(
    "slacken",
    (DONE.saying("Slackened, it runs free"), NOT_SURE),
    (REFUSES.saying("It does not come loose"),),
    instruction="Slacken this bolt alone, until it runs free. All others hold.",
    hint="Its history is unknown: a click on it as it is would prove nothing.",
)
WAIT = Ask(
    "wait",
    (DONE.saying("Continue"),),
    instruction="Nothing is turned until then.",
    hint="Nothing is turned until then.",
    timed=True,
    shows="clock",
)
#: what is asked about an item, by the answer the item wants
ITEMS: dict[str, Ask] = {
    "done": Ask("item", (DONE,), shows="words"),
    "good": Ask("check", (GOOD, NOT_GOOD)),
    "value": Ask("reading", (VALUE,)),
    "wait": WAIT,
    "moved": Ask(
        "watch", (NOTHING_MOVED, MOVED), hint="Watch, then answer what you saw.", shows="words"
    ),
}


def word_of(choice: str | Choice) -> str:
    """The word of a choice, which may stand for itself."""
    return choice.word if isinstance(choice, Choice) else choice


def _question(taken: tuple[Choice, ...]) -> str:
    """What is asked, by what may be said."""
    if taken == CAUSES:
        return "Why had it moved?"
    if taken[0].word.startswith(BOLT):
        return "Which bolt?"
    if any(one.word in ("back", "again") for one in taken):
        return "What now?"
    return "What was done about it?"


def decision(choices: tuple[str | Choice, ...], back: str = "", bolt: bool = False) -> Ask:
    """What is asked about something that failed: a look, or a bolt; `back` names the stage that can
    mend it."""
    said = _DECISIONS | (_OF_A_BOLT if bolt else _LOOKED_AT)
    taken = tuple(one if isinstance(one, Choice) else said[one] for one in choices)
    return Ask(
        "decision",
        tuple(one.saying(f"Back to “{back}”") if one.word == "back" else one for one in taken),
        skippable=False,
        instruction=_question(taken),
    )
