"""Own friction tests of a compound (ISO 16047): torque and clamp load read together on a rig, one
line a tightening."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated

from pydantic import AfterValidator, Field, model_validator

from ..errors import BadThread, Impossible
from ..forms.base import FRICTION, NUT_FACTOR, Id, Model, Words
from ..forms.quantities import Length
from ..mechanics.friction_tests import (
    bearing_friction,
    measured_nut_factor,
    thread_friction,
    total_friction,
)
from ..mechanics.preload import effective_diameter
from ..messages import Message
from ..tables.hexagons import hexagon
from ..tables.threads import Thread, parse_thread
from ..units import parse

#: between the figures of a line: a semicolon, a tab, a comma with a blank, the word “at”
_BETWEEN = re.compile(r"\s*(?:;|\t|,\s|\bat\b)\s*")


@dataclass(frozen=True, slots=True)
class RigReading:
    """One tightening: torque [N·mm], clamp load [N], the torque in the thread where it was measured
    apart; or the nut factor."""

    torque: float | None = None
    load: float | None = None
    thread_torque: float | None = None
    nut_factor: float | None = None


def rig_reading(text: str) -> RigReading:
    """A line as typed: a nut factor alone, or torque and clamp load, or these and the torque in the
    thread. Raises Impossible, BadQuantity.

    >>> (rig_reading("0.16").nut_factor, rig_reading("300 N·m, 98 kN").load,
    ...  rig_reading("300 N·m; 98 kN; 155 N·m").thread_torque)
    (0.16, 98000.0, 155000.0)
    """
    parts = [part for part in _BETWEEN.split(text.strip()) if part]
    if len(parts) == 1 and re.fullmatch(r"\d*[.,]?\d+", parts[0]):
        factor = float(parts[0].replace(",", "."))
        if not NUT_FACTOR[0] <= factor <= NUT_FACTOR[1]:
            raise Impossible(
                Message.OUT_OF_RANGE,
                value=parts[0],
                range="a nut factor from {} to {}".format(*NUT_FACTOR),
            )
        return RigReading(nut_factor=factor)
    if len(parts) not in (2, 3):
        raise Impossible(
            Message.BAD_VALUE,
            reason="A test is torque and clamp load, “300 N·m, 98 kN”, the torque in the thread "
            "after them where it was measured; or the nut factor alone, “0.16”",
        )
    torque, load = parse(parts[0], "torque").base, parse(parts[1], "force").base
    apart = parse(parts[2], "torque").base if len(parts) == 3 else None
    if torque <= 0 or load <= 0 or (apart is not None and not 0 < apart < torque):
        raise Impossible(
            Message.BAD_VALUE,
            reason="Torque and clamp load are more than 0; the thread takes less than the whole",
        )
    return RigReading(torque, load, apart)


def _readable(text: str) -> str:
    rig_reading(text)
    return text


def _a_thread(text: str) -> str:
    parse_thread(text)
    return text


RigLine = Annotated[str, Field(min_length=1, max_length=80), AfterValidator(_readable)]


class RigTest(Model):
    """A series of tests on one thread; the effective bearing diameter is that of a standard hexagon
    where it is not given."""

    id: Id
    thread: Annotated[str, Field(min_length=1, max_length=40), AfterValidator(_a_thread)]
    readings: Annotated[list[RigLine], Field(min_length=1, max_length=100)]
    bearing_diameter: Length | None = None
    date: Words = ""
    sheet: Words = ""

    @model_validator(mode="after")
    def _makes_sense(self) -> RigTest:
        self.found  # noqa: B018  what no friction gives is named at its line
        return self

    @property
    def found(self) -> list[dict[str, float]]:
        """What each line says: friction of thread and face together (`mu_total`), or each apart,
        and the nut factor.

        Raises BadThread where the tables have neither thread nor hexagon, Impossible for figures
        that no friction gives.
        """
        thread = parse_thread(self.thread)
        read = [rig_reading(line) for line in self.readings]
        bearing = _bearing(self, thread) if any(one.torque is not None for one in read) else 0.0
        out = []
        for line, one in enumerate(read):
            values = dict(_frictions(one, thread, bearing))
            for what, value in values.items():
                low, high = NUT_FACTOR if what == "nut_factor" else FRICTION
                if not low <= value <= high:
                    raise Impossible(
                        Message.BAD_VALUE,
                        ("readings", line),
                        reason=f"This gives a friction of {value:.3f}: check "
                        "units, and which torque and load belong together",
                    )
            out.append(values)
        return out


def _bearing(series: RigTest, thread: Thread) -> float:
    """Effective bearing diameter of a series [mm]."""
    if series.bearing_diameter is not None:
        return series.bearing_diameter.base
    head = hexagon(thread)
    if head is None:
        raise BadThread(Message.HEXAGON_UNKNOWN, ("bearing_diameter",), thread=thread.designation)
    return effective_diameter(head.face_diameter, head.hole)


def _frictions(one: RigReading, thread: Thread, bearing: float) -> Iterator[tuple[str, float]]:
    if one.torque is None or one.load is None:
        yield "nut_factor", one.nut_factor or 0.0
        return
    yield "nut_factor", measured_nut_factor(one.torque, one.load, thread.diameter)
    if one.thread_torque is None:
        yield (
            "mu_total",
            total_friction(one.torque, one.load, thread.pitch, thread.pitch_diameter, bearing),
        )
    else:
        yield (
            "mu_thread",
            thread_friction(one.thread_torque, one.load, thread.pitch, thread.pitch_diameter),
        )
        yield "mu_bearing", bearing_friction(one.torque, one.thread_torque, one.load, bearing)
