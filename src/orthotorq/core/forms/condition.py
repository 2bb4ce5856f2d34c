"""The condition a stage or a pass is valid in: choices that rules read, own words that only people
do."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import AfterValidator, Field

from ..errors import BadQuantity, Impossible, OrthotorqError
from ..messages import Message
from ..thresholds import HOT_ABOVE
from ..units import parse
from .base import Model, Words

Word = Annotated[str, Field(min_length=1, max_length=300)]
#: choice -> its states as the work says them; the temperature may also be a figure
STATES: dict[str, dict[str, str]] = {
    "pressure": {"off": "pressure off", "on": "pressure on"},
    "temperature": {"cold": "cold", "hot": "hot"},
    "load": {"off": "load off", "on": "load on"},
    "wheel": {
        "off": "wheel off",
        "hanging": "wheel hanging",
        "touching": "wheel touching",
        "standing": "wheel standing",
    },
    "inside": {"not_seen": "not seen inside", "seen_empty": "seen to be empty"},
    "joint": {"open": "joint open", "closed": "joint closed"},
    "parts": {
        "loose": "parts loose",
        "centred": "parts centred",
        "at_stops": "parts at their stops",
    },
    "weight": {
        "on_hoist": "on the hoist",
        "on_feet": "on its feet",
        "on_rods": "weight on the rods",
        "set_down": "set down",
    },
    "held": {"still": "held still"},
}


def _temperature(text: str) -> str:
    """Cold, hot, or a temperature with its unit."""
    if text not in STATES["temperature"]:
        try:
            parse(text, "temperature")
        except OrthotorqError:
            reason = "Choose cold or hot, or enter the temperature, for example 80 °C"
            raise Impossible(Message.BAD_VALUE, reason=reason) from None
    return text


class Condition(Model):
    """What must hold: one choice on each axis that matters, what is in place for the work, own
    words.

    Rules read the choices and what is in place; `says` is shown, printed and confirmed, and no rule
    reads it.
    """

    pressure: Literal["off", "on"] | None = None
    temperature: Annotated[str, AfterValidator(_temperature)] | None = None
    load: Literal["off", "on"] | None = None
    wheel: Literal["off", "hanging", "touching", "standing"] | None = None
    inside: Literal["not_seen", "seen_empty"] | None = None
    joint: Literal["open", "closed"] | None = None
    parts: Literal["loose", "centred", "at_stops"] | None = None
    weight: Literal["on_hoist", "on_feet", "on_rods", "set_down"] | None = None
    held: Literal["still"] | None = None
    #: what was put in for the work and must be in
    in_place: Annotated[list[Word], Field(max_length=10)] = []
    says: Words = ""

    def __bool__(self) -> bool:
        """Whether anything is said."""
        return bool(self.words)

    @property
    def chosen(self) -> dict[str, str]:
        """Choices by axis."""
        return {axis: str(value) for axis in STATES if (value := getattr(self, axis)) is not None}

    @property
    def states(self) -> list[str]:
        """The chosen states as the work says them; a temperature that is a figure is none."""
        return [STATES[axis][value] for axis, value in self.chosen.items() if value in STATES[axis]]

    @property
    def words(self) -> list[str]:
        """Everything that must hold, in words.

        >>> Condition(pressure="off", temperature="cold", says="drained").words
        ['pressure off', 'cold', 'drained']
        """
        return condition_words(self.model_dump(exclude_none=True))

    @property
    def hot(self) -> bool:
        """Whether parts are hot: chosen, or by the temperature that is given."""
        return self.temperature is not None and asks_for_heat(f"at {self.temperature}")


#: nothing is said; one for all, since a default of a model is copied deep for every stage and pass
NOTHING_SAID = Condition()
CONDITION = Field(default_factory=lambda: NOTHING_SAID)


def asks_for_heat(words: str) -> bool:
    """Whether a condition in words asks for hot parts: by its state, or by a temperature.

    >>> (asks_for_heat("hot"), asks_for_heat("at 80 °C"), asks_for_heat("at 20 °C"),
    ...  asks_for_heat("cold"))
    (True, True, False, False)
    """
    told = words.removeprefix("at ")
    if told in STATES["temperature"]:
        return told == "hot"
    try:
        return words != told and parse(told, "temperature").base > HOT_ABOVE.value
    except BadQuantity:
        return False


def condition_words(raw: Any) -> list[str]:
    """A condition as typed, in words; what cannot be one has none.

    >>> condition_words({"temperature": "80 °C", "in_place": ["locked out"]}), condition_words(None)
    (['at 80 °C', 'locked out'], [])
    """
    if not isinstance(raw, dict):
        return []
    out = []
    for axis, states in STATES.items():
        value = raw.get(axis)
        # “at” alone is a figure that is still to be typed
        if isinstance(value, str) and value and value != "at":
            out.append(states.get(value, f"at {value}" if axis == "temperature" else value))
    placed = raw.get("in_place")
    out += [word for word in placed if isinstance(word, str)] if isinstance(placed, list) else []
    says = raw.get("says")
    return out + ([says] if isinstance(says, str) and says.strip() else [])
