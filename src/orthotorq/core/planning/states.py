"""States of a joint: which there are for its kind, which hold when work begins, which no plan may end in.

A stage says what it brings about. A state of the joint's kind takes the place of the one before it; everything else that is
brought about was put in for the work, and must be undone.
"""
from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field


@dataclass(frozen=True, slots=True)
class Axis:
    """States of which one holds at a time; `begins` is what holds when nothing was done yet, by occasion or always; in a
    state of `passing` a joint is never left."""

    states: tuple[str, ...]
    begins: dict[str, str] = field(default_factory=dict)
    passing: frozenset[str] = frozenset()

    def at_first(self, occasion: str) -> str | None:
        """The state that holds at the beginning, where one can be taken for granted."""
        return self.begins.get(occasion, self.begins.get("always"))


WHEEL = Axis(("wheel off", "wheel hanging", "wheel touching", "wheel standing"),
             {"install": "wheel off", "always": "wheel standing"}, frozenset({"wheel hanging", "wheel touching"}))
PRESSURE = Axis(("in service", "pressure off"), {"always": "in service"})
HEAT = Axis(("hot in service", "cold"), {"always": "hot in service"})
CONTENT = Axis(("not seen inside", "seen to be empty"), {"always": "not seen inside"})
COVER = Axis(("joint open", "joint closed"), {"install": "joint open", "always": "joint closed"})
LOAD = Axis(("load on", "load off"), {"always": "load on"})
PARTS = Axis(("parts loose", "parts centred", "parts at their stops"), {"install": "parts loose", "always": "parts centred"})
STOPS = Axis(PARTS.states, {"install": "parts loose", "always": "parts at their stops"})
FEET = Axis(("on the hoist", "on its feet", "set down"), {"always": "on its feet"}, frozenset({"on the hoist"}))
HUNG = Axis(("on the hoist", "weight on the rods", "set down"), {"always": "weight on the rods"}, frozenset({"on the hoist"}))

_PRESSED = (PRESSURE, HEAT, CONTENT, COVER)
#: axes by kind of joint
AXES: dict[str, tuple[Axis, ...]] = {
    "wheel": (WHEEL,), "twin_wheel": (WHEEL,),
    "gasketed_cover": _PRESSED, "casting_studs": _PRESSED, "soft_clamp": _PRESSED,
    "machine_mount": (LOAD, PARTS, FEET), "hung_equipment": (HUNG,), "stud_row": (LOAD,), "locking_hub": (LOAD, PARTS),
    "centre_bolt": (LOAD, PARTS), "bearing_nut": (LOAD,), "axle_nut": (LOAD,), "fixture": (STOPS,),
}
#: kinds of joint behind which there may be pressure
PRESSED = tuple(kind for kind, axes in AXES.items() if CONTENT in axes)
LOCKED = "locked out"
#: what is put in for safety, in the words that are known -> the caution that stands where it is undone
SAFEGUARDS: dict[str, str | None] = {
    LOCKED: "lock_off", "on stands": "lower_down", "chocked": None, "in slings": "sling_off",
    "second safeguard hung": "sling_off", "held by a helper": None, "spacers in": None, "holding tool in": "tool_out",
}
#: by caution of a stage, the safeguard that it speaks of
SPOKEN_OF = {"lockout": LOCKED}


def axis_of(kind: str, word: str) -> Axis | None:
    """The axis of a state, or None for what is put in and must be undone."""
    return next((axis for axis in AXES.get(kind, ()) if word in axis.states), None)


def words_of(condition: str, kind: str) -> list[str]:
    """A condition as states; two of them may be said in one breath.

    >>> words_of("pressure off and cold", "gasketed_cover"), words_of("nuts and bolts off", "gasketed_cover")
    (['pressure off', 'cold'], ['nuts and bolts off'])
    """
    parts = condition.split(" and ")
    return parts if len(parts) > 1 and all(axis_of(kind, part) or part in SAFEGUARDS for part in parts) else [condition]


@dataclass(slots=True)
class Standing:
    """What holds at a point of the work: one state of every axis, and what was put in, with who put it in."""

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
            if self.states.get(number) in axis.passing:
                yield self.states[number]
