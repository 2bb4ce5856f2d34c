"""States of a joint: which there are for its kind, which hold when work begins, which no plan may
end in.

A stage says what it brings about. A state of the joint's kind takes the place of the one before it;
everything else that is brought about was put in for the work, and must be undone.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

from ..forms.condition import STATES, Condition
from ..kinds.joints.axis import CONTENT, Axis
from ..kinds.joints.registry import JOINTS

#: choices that every condition may make, whatever the joint; a condition of turning says the first
#: three where they are its own
EVERYWHERE = ("pressure", "temperature", "load", "held")
#: choices that a condition in which bolts are turned has to make, where the joint has them
DECISIVE = ("pressure", "temperature", "load", "wheel")

#: axes by kind of joint
AXES: dict[str, tuple[Axis, ...]] = {kind: one.axes for kind, one in JOINTS.items()}
#: kinds of joint behind which there may be pressure
PRESSED = tuple(kind for kind, axes in AXES.items() if CONTENT in axes)
LOCKED = "locked out"
#: what is put in for safety, in the words that are known -> the caution that stands where it is
#: undone
SAFEGUARDS: dict[str, str | None] = {
    LOCKED: "lock_off",
    "on stands": "lower_down",
    "chocked": None,
    "in slings": "sling_off",
    "second safeguard hung": "sling_off",
    "held by a helper": None,
    "spacers in": None,
    "holding tool in": "tool_out",
}
#: what holds a part during the work alone: taking it away does not give the machine back
HOLDS = frozenset(
    {"held by a helper", "in slings", "second safeguard hung", "spacers in", "holding tool in"}
)
#: by caution of a stage, the safeguard that it speaks of
SPOKEN_OF = {"lockout": LOCKED}


def axis_of(kind: str, word: str) -> Axis | None:
    """The axis of a state, or None for what is put in and must be undone."""
    return next((axis for axis in AXES.get(kind, ()) if word in axis.states), None)


def not_chosen(kind: str, condition: Condition) -> list[str]:
    """Axes of the joint that decide whether bolts may be turned, and of which a condition says
    nothing."""
    return [
        axis.name
        for axis in AXES.get(kind, ())
        if axis.name in DECISIVE and axis.name not in condition.chosen
    ]


def needed(kind: str, condition: Condition) -> list[str]:
    """What a condition wants to find brought about: states of the joint's axes, and what is in
    place. Heat and pressure that are
    wanted are said by findings of their own."""
    own = {word for axis in AXES.get(kind, ()) for word in axis.states} - {
        STATES["pressure"]["on"],
        STATES["temperature"]["hot"],
    }
    return [
        word
        for word in (*condition.states, *condition.in_place)
        if word in own or word in condition.in_place
    ]


@dataclass(slots=True)
class Standing:
    """What holds at a point of the work: one state of every axis, and what was put in, with who put
    it in."""

    kind: str
    occasion: str
    states: dict[int, str] = field(default_factory=dict)
    inside: dict[str, str] = field(default_factory=dict)

    def __post_init__(self) -> None:
        for number, axis in enumerate(AXES.get(self.kind, ())):
            if (first := axis.at_first(self.occasion)) is not None:
                self.states[number] = first

    def holds(self, word: str) -> bool:
        """Whether a state holds, or something is in."""
        return word in self.states.values() or word in self.inside

    def bring(self, word: str, stage: str) -> None:
        """Bring a state about, or put something in."""
        axis = axis_of(self.kind, word)
        if axis is None:
            self.inside.setdefault(word, stage)
        else:
            self.states[AXES[self.kind].index(axis)] = word

    def undo(self, word: str) -> bool:
        """Take something out; whether it was in."""
        return self.inside.pop(word, None) is not None

    def unfinished(self) -> Iterator[str]:
        """States that a joint is never left in."""
        for number, axis in enumerate(AXES.get(self.kind, ())):
            if self.states.get(number) in axis.never_left:
                yield self.states[number]
