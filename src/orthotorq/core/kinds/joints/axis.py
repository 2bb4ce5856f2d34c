"""Axes of states that a joint can have: whether it is pressed, hot, loaded, where it hangs or
stands."""

from __future__ import annotations

from dataclasses import dataclass, field

from ...forms.condition import STATES


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

#: what stands on a joint behind which there may be pressure
PRESSED = (PRESSURE, HEAT, CONTENT, COVER)
