"""What a measuring device is to Orthotorq: it is asked for one thing, sends samples while it
measures, and ends with a result."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Literal, Protocol

from ..core.simulation.pull import Pull

#: what a device answers: a pull with its curve; that the wrench clicked; a length; readings of a
#: wrench at one setting
Answers = Literal["pull", "click", "length", "check"]
#: messages a second, each with the samples since the one before
MESSAGES = 10


@dataclass(frozen=True, slots=True)
class Asked:
    """What is asked of a device: a pull, or a reading around a figure [mm, or N·m]; `seed` is what
    its chance begins from.

    What a pull holds beside its target, and the figure, are what a simulated joint has: a real
    device measures them.
    """

    pull: Pull | None = None
    figure: float = 0.0
    seed: int = 0


@dataclass(frozen=True, slots=True)
class Message:
    """Samples in the order they were taken: time since the begin [s], torque [N·m], angle [deg];
    lists of one length."""

    seconds: list[float]
    torque: list[float] = field(default_factory=list)
    angle: list[float] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class Outcome:
    """The end of a measurement: readings as they are typed, with their units, and what was seen in
    words."""

    readings: list[str]
    says: str


class Device(Protocol):
    """One device. It holds nothing between two measurements, so that any worker can serve any of
    them."""

    id: str
    name: str
    answers: Answers

    def samples(self, asked: Asked) -> Iterator[Message]:
        """The samples of a measurement, as they come; none for a device that only has a result."""
        ...

    def outcome(self, asked: Asked) -> Outcome:
        """The result of the same measurement."""
        ...
