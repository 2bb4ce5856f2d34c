"""What a step asks: the answers it takes in words with their keys, and what is said beside it.

An answer is a word; the same word may be said differently by different kinds of step.
"""
from __future__ import annotations

from dataclasses import dataclass, replace


@dataclass(frozen=True, slots=True)
class Choice:
    """One answer: its word, the label on the button, the key; `follows`: the next bolt of the round simply follows.

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
TURNED = Choice("turned", "Clicked, it turned", "space", True)
STILL_THERE = Choice("did_not_turn", "Clicked, did not turn", "d", True)
NOT_SURE = Choice("not_sure", "Not sure", "n", back=True)
VALUE = Choice("value", "Reading", "enter")
REFUSES = Choice("refuses", "It refuses", "r")
TURNS_ON = Choice("turns_on", "It turns on and on", "o")
MOVED = Choice("moved", "It moved", "m")
NOTHING_MOVED = Choice("still", "Nothing moved", "space")
REPAIR = Choice("repair", "Repaired", "1", reason=True)
REPLACE = Choice("replace", "Replaced", "2")
ACCEPT = Choice("accept", "Leave it, with a reason", "3", reason=True)
SKIP = Choice("skip", "Skipped", "k")
BACK = Choice("back", "Back", "b")
PENETRANT = Choice("penetrant", "Penetrant, waited: try again", "1")
EASE = Choice("ease", "A little tighter, then back: try again", "2")
HEAT = Choice("heat", "Heated under permit: try again", "4", reason=True)
CUT = Choice("cut", "Cut off, parts replaced", "5", reason=True)
DRILL = Choice("drill", "Drilled out, thread restored", "6", reason=True)
AGAIN = Choice("again", "Another round", "1", reason=True)
#: why a nut had moved when it was checked again, as far as the one who saw it can say
CAUSES = (Choice("settled", "It settled: gasket, coating, new parts", "1"),
          Choice("worked_loose", "It worked loose: vibration, heat and cold", "2"),
          Choice("never_tight", "It was not right before", "3"), Choice("not_known", "I cannot tell", "4"))

#: what may be done about something that failed, unless the step says otherwise
AFTER_A_FAILURE = ("repair", "replace", "accept")
#: what may be done about a fastener that does not come loose
AFTER_A_REFUSAL = ("penetrant", "ease", "heat", "cut", "drill", "accept")
#: after these the step is done again
TRIED = ("repair", "replace", "penetrant", "ease", "heat")
#: what may be done, as it is said of something looked at; of a bolt
_DECISIONS = {c.word: c for c in (ACCEPT, BACK, PENETRANT, EASE, HEAT, CUT, DRILL, AGAIN)}
_LOOKED_AT = {"repair": REPAIR.saying("Repaired, look again"), "replace": REPLACE.saying("Replaced, look again")}
_OF_A_BOLT = {"repair": REPAIR.saying("Cleaned or mended, do it again"),
              "replace": REPLACE.saying("Bolt or nut replaced: from hand on again")}


@dataclass(frozen=True, slots=True)
class Ask:
    """One kind of step: usual answers (the first has the large button), what can be wrong, the instruction, the hint.

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
    #: the answer that is marked at single bolts when a whole round is confirmed at once
    exception: str | None = None
    #: what stands large beside the bolt: the setting, the turn, the clock, the bolt's number, or the words alone
    shows: str = "label"

    def words(self, may_skip: bool = True) -> tuple[str, ...]:
        """Every answer the step takes; any other is refused."""
        out = tuple(c.word for c in (*self.choices, *self.wrong))
        return (*out, SKIP.word) if self.skippable and may_skip else out


CONDITION = Ask("condition", (DONE.saying("Yes, it is"), NOT_GOOD.saying("No")), skippable=False, shows="words",
                instruction="Is the joint in this condition now?", repeats=("not_sure", "not_good"),
                hint="If not, bring it there first: the work is valid in this condition only.")
SLACKEN = Ask("slacken", (DONE.saying("Slackened, it runs free"), NOT_SURE), (REFUSES.saying("It does not come loose"),),
              instruction="Slacken this bolt alone, until it runs free. All others hold.",
              hint="Nobody knows what it has been through: a click on it as it stands would prove nothing.")
WAIT = Ask("wait", (DONE.saying("Go on"),), instruction="Nothing is turned until then.", hint="Nothing is turned until then.",
           timed=True, shows="clock")
#: what is asked about an item, by the answer the item wants
ITEMS: dict[str, Ask] = {
    "done": Ask("item", (DONE,), shows="words"),
    "good": Ask("check", (GOOD, NOT_GOOD)),
    "value": Ask("reading", (VALUE,)),
    "wait": WAIT,
    "moved": Ask("watch", (NOTHING_MOVED, MOVED), hint="Watch, then say what you saw.", shows="words"),
}


def word_of(choice: str | Choice) -> str:
    """The word of a choice, which may stand for itself."""
    return choice.word if isinstance(choice, Choice) else choice


def decision(choices: tuple[str | Choice, ...], back: str = "", bolt: bool = False) -> Ask:
    """What is asked about something that failed: a look, or a bolt; `back` names the stage that can mend it."""
    said = _DECISIONS | (_OF_A_BOLT if bolt else _LOOKED_AT)
    taken = tuple(one if isinstance(one, Choice) else said[one] for one in choices)
    asked = ("Why had it moved?" if taken == CAUSES else "What now?" if any(one.word in ("back", "again") for one in taken)
             else "What was done about it?")
    return Ask("decision", tuple(one.saying(f"Back to “{back}”") if one.word == "back" else one for one in taken),
               skippable=False, instruction=asked)
