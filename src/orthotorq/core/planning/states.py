"""States of a joint: which there are for its kind, which hold when work begins, which no plan may
end in.

A stage says what it brings about. A state of the joint's kind takes the place of the one before it;
everything else that is brought about was put in for the work, and must be undone.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

from ..forms.condition import STATES, Condition


@dataclass(frozen=True, slots=True)
class Axis:
    """States of which one holds at a time, as choices of a condition; `begins` is the choice that
    holds when nothing was done
    yet, by occasion or always; in a choice of `passing` a joint is never left."""

    name: str
    choices: tuple[str, ...]
    begins: dict[str, str] = field(default_factory=dict)
    passing: frozenset[str] = frozenset()

    @property
    def states(self) -> tuple[str, ...]:
        """Its states as the work says them."""
        return tuple(STATES[self.name][choice] for choice in self.choices)

    def at_first(self, occasion: str) -> str | None:
        """The state that holds at the beginning, where one can be taken for granted."""
        first = self.begins.get(occasion, self.begins.get("always"))
        return STATES[self.name][first] if first is not None else None

    @property
    def never_left(self) -> tuple[str, ...]:
        """States in which a joint is never left."""
        return tuple(STATES[self.name][choice] for choice in self.choices if choice in self.passing)


WHEEL = Axis(
    "wheel",
    ("off", "hanging", "touching", "standing"),
    {"install": "off", "always": "standing"},
    frozenset({"hanging", "touching"}),
)
PRESSURE = Axis("pressure", ("on", "off"), {"always": "on"})
HEAT = Axis("temperature", ("hot", "cold"), {"always": "hot"})
CONTENT = Axis("inside", ("not_seen", "seen_empty"), {"always": "not_seen"})
COVER = Axis("joint", ("open", "closed"), {"install": "open", "always": "closed"})
LOAD = Axis("load", ("on", "off"), {"always": "on"})
PARTS = Axis("parts", ("loose", "centred", "at_stops"), {"install": "loose", "always": "centred"})
STOPS = Axis("parts", PARTS.choices, {"install": "loose", "always": "at_stops"})
FEET = Axis(
    "weight", ("on_hoist", "on_feet", "set_down"), {"always": "on_feet"}, frozenset({"on_hoist"})
)
HUNG = Axis(
    "weight", ("on_hoist", "on_rods", "set_down"), {"always": "on_rods"}, frozenset({"on_hoist"})
)
#: choices that every condition may make, whatever the joint; a condition of turning says the first
#: three where they are its own
EVERYWHERE = ("pressure", "temperature", "load", "held")
#: choices that a condition in which bolts are turned has to make, where the joint has them
DECISIVE = ("pressure", "temperature", "load", "wheel")

_PRESSED = (PRESSURE, HEAT, CONTENT, COVER)
#: axes by kind of joint
AXES: dict[str, tuple[Axis, ...]] = {
    "wheel": (WHEEL,),
    "twin_wheel": (WHEEL,),
    "gasketed_cover": _PRESSED,
    "casting_studs": _PRESSED,
    "soft_clamp": _PRESSED,
    "machine_mount": (LOAD, PARTS, FEET),
    "hung_equipment": (HUNG,),
    "stud_row": (LOAD,),
    "locking_hub": (LOAD, PARTS),
    "centre_bolt": (LOAD, PARTS),
    "bearing_nut": (LOAD,),
    "axle_nut": (LOAD,),
    "fixture": (STOPS,),
}
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
