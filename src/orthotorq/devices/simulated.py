"""Stand-ins for devices that are not there: pure functions of what is asked, so that a measurement
is never stored."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ..core.simulation.pull import RATE, Trace, trace_of
from ..core.units import show
from .protocol import MESSAGES, Answers, Asked, Device, Message, Outcome

#: scatter of one reading of each, as a share or in mm
_TESTER_SCATTER, _LENGTH_SCATTER = 0.01, 0.02


def cut(trace: Trace) -> Iterator[Message]:
    """A trace in the messages that carry it."""
    size = RATE // MESSAGES
    for begin in range(0, trace.seconds.size, size):
        part = slice(begin, begin + size)
        yield Message(
            *(
                [round(float(v), 3) for v in line[part]]
                for line in (trace.seconds, trace.torque, trace.angle)
            )
        )


class AngleWrench:
    """A wrench that reads torque and angle."""

    id, name = "simulated-angle-wrench", "Torque-and-angle wrench (simulated)"
    answers: Answers = "pull"

    def samples(self, asked: Asked) -> Iterator[Message]:
        """A hundred samples a second of torque and angle."""
        assert asked.pull is not None
        yield from cut(trace_of(asked.pull))

    def outcome(self, asked: Asked) -> Outcome:
        """Highest torque and the whole angle; what they mean for the step is not the wrench's
        business."""
        assert asked.pull is not None
        trace = trace_of(asked.pull)
        return Outcome(
            [f"{show(float(trace.torque.max()), 4)} N·m", f"{float(trace.angle[-1]):.1f}°"],
            "pulled",
        )


class ClickWrench:
    """A click wrench with a wireless switch: it tells the moment of its click, and nothing else."""

    id, name = "simulated-click-wrench", "Click wrench with switch (simulated)"
    answers: Answers = "click"

    def samples(self, asked: Asked) -> Iterator[Message]:
        """Time alone, until it clicks."""
        for number in range(int(_random(asked).uniform(8, 20))):
            yield Message([number / MESSAGES])

    def outcome(self, asked: Asked) -> Outcome:
        """That it clicked."""
        return Outcome([], "It clicked.")


class Tester:
    """A bench tester: what a wrench gives at its setting, three times."""

    id, name = "simulated-tester", "Torque tester (simulated)"
    answers: Answers = "check"

    def samples(self, asked: Asked) -> Iterator[Message]:
        """None: a tester shows the peak alone."""
        return iter(())

    def outcome(self, asked: Asked) -> Outcome:
        """Three peaks around the setting."""
        peaks = asked.figure * (1 + _random(asked).normal(0.0, _TESTER_SCATTER, 3))
        return Outcome([f"{show(float(p), 4)} N·m" for p in peaks], "three pulls on the tester")


class Gauge:
    """A length or feeler gauge with data output: one length, to two decimals, or to its leaves of
    0.05 mm."""

    answers: Answers = "length"

    def __init__(self, name_id: str, name: str, step: float) -> None:
        self.id, self.name, self._step = name_id, name, step

    def samples(self, asked: Asked) -> Iterator[Message]:
        """None: it has only what is read."""
        return iter(())

    def outcome(self, asked: Asked) -> Outcome:
        """The length, around the figure that is asked for."""
        length = asked.figure * (1 + float(_random(asked).normal(0.0, _LENGTH_SCATTER)))
        return Outcome([f"{max(0.0, round(length / self._step) * self._step):.2f} mm"], "read")


def _random(asked: Asked) -> np.random.Generator:
    return np.random.default_rng(asked.seed)


_LISTED: tuple[Device, ...] = (
    AngleWrench(),
    ClickWrench(),
    Tester(),
    Gauge("simulated-length-gauge", "Length gauge (simulated)", 0.01),
    Gauge("simulated-feeler-gauge", "Feeler gauge with data output (simulated)", 0.05),
)
DEVICES: dict[str, Device] = {d.id: d for d in _LISTED}
