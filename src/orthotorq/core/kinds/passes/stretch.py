"""Stretched by a hydraulic tensioner: pumped, the nut run down by hand, the pressure let off."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field, model_validator

from ...errors import Impossible
from ...forms.base import TransferBand, Words
from ...forms.order import CROSS, Order
from ...forms.quantities import Area, Pressure
from ...forms.stage import PassOut
from ...mechanics.tensioner import load_left, pumped_load, transfer_factor
from ...mechanics.window import Ends
from ...messages import Message
from ...thresholds import GAUGE_OFF, STRETCH_SAME, TRANSFER_OFF
from ...units import show
from ..fields import field
from ..pass_kind import Act, Answered, At, Look, PassForm, PassKind, Planned, Sayings
from ..prompts import DONE, DROPPED, NO_REACH, NOT_SURE, REFUSES, STILL_THERE, TURNED, Ask, Choice


class StretchPass(PassForm):
    """A pressure in a tool of a ring area; `transfer` is the load while pumped over the load that
    is left, low typical high, from the tool's sheet (`source`), else by the common rule from the
    clamped stack.

    A pass that checks is pumped to the same pressure: no nut may be found loose.
    """

    do: Literal["stretch"]
    pressure: Pressure
    area: Area
    efficiency: Annotated[float, Field(gt=0, le=1)] = 1.0
    transfer: TransferBand | None = None
    source: Words = ""
    most: Pressure | None = None
    check: bool = False
    order: Order = CROSS

    @model_validator(mode="after")
    def _within(self) -> StretchPass:
        if self.most is not None and self.pressure.base > self.most.base:
            raise Impossible(
                Message.OUT_OF_RANGE,
                ("pressure",),
                value=f"“{self.pressure}”",
                range=f"at most the tool's highest pressure ({self.most})",
            )
        return self


_CLEAR = (
    "Stand clear of the stud's line. Never above this pressure or the tool's stroke; hoses and "
    "couplings looked at first; the nut by hand only, no bar."
)
_STRETCH = Ask(
    "stretch",
    (DONE.saying("Pumped, nut down, pressure off"), REFUSES.saying("The nut does not run by hand")),
    (Choice("past_pressure", "Pumped above the pressure", "p"), NO_REACH, DROPPED),
    shows="turn",
    instruction="Pump to {turn}, run the nut down by hand until it stands, let the pressure off.",
    hint=_CLEAR,
)
_CHECK = replace(
    _STRETCH,
    choices=(
        STILL_THERE.saying("Nut stood"),
        TURNED.saying("Nut was loose, run down"),
        NOT_SURE,
    ),
    proves=True,
    instruction="Pump to {turn} and try the nut by hand: is it loose? Then let the pressure off.",
)


def factors_of(
    form: StretchPass, slender: tuple[float, float] | None
) -> tuple[float, float, float]:
    """Load transfer factors of a pass: low, typical, high. One figure, and the common rule from
    (diameter, clamped length) [mm], may be off. Raises Impossible where there is neither."""
    if form.transfer is None and slender is None:
        raise Impossible(Message.STRETCH_NEEDS_GRIP, ("transfer",))
    if form.transfer is not None and form.transfer[0] < form.transfer[2]:
        low, factor, high = form.transfer
        return low, factor, high
    factor = form.transfer[1] if form.transfer else transfer_factor(*(slender or (0.0, 1.0)))
    off = TRANSFER_OFF.value
    return max(1.0, factor - off), factor, factor + off


def loads_of(form: StretchPass, slender: tuple[float, float] | None) -> tuple[Ends, Ends]:
    """Loads [N] while it is pumped and that are left, each at its ends. Raises Impossible where
    nothing says how much is lost on release."""
    low, factor, high = factors_of(form, slender)
    typical, off = (
        pumped_load(form.efficiency, form.pressure.base, form.area.base),
        GAUGE_OFF.value / 100,
    )
    pumped = Ends(typical * (1 - off), typical, typical * (1 + off))
    left = (load_left(f, one) for f, one in zip(pumped, (high, factor, low), strict=True))
    return pumped, Ends(*left)


class Stretch(PassKind):
    """Stretched by a hydraulic tensioner."""

    do, form, word, place = "stretch", StretchPass, "Stretch", 45
    listed = {
        "stretch": {
            "do": "stretch",
            "pressure": "900 bar",
            "area": "1530 mm²",
            "transfer": "1.25",
            "order": {"kind": "cross"},
        }
    }
    fields = (
        field("pressure", "Pressure", "quantity"),
        field("area", "Ring area of the tool", "quantity"),
        field("most", "Highest pressure of the tool", "quantity", "not said", main=False),
        field("transfer", "Load transfer factor", "band", "by the common rule"),
        field("source", "Where the factor comes from", example="none", main=False),
        field("efficiency", "Efficiency", "share", "100 %", main=False),
        field("check", "check: no nut loose", "tick"),
    )
    needs_target = sets_figure = stretches = pulls = True
    by_fingers = True
    moving = ("turned",)
    exhausted = "nuts_loose"
    seconds_each = 120.0
    ask = _STRETCH
    sayings: ClassVar[Sayings] = {
        "past_pressure": (
            "Bolt {label} was pumped above its pressure at {name}; left as it is: {reason}.",
            "It may have yielded: measure its length, else replace it.",
        ),
        "nuts_loose": (
            "{name}: after {max} rounds nuts were still loose; left as it is: {reason}.",
            "The joint has not settled: look for a soft part or dirt.",
        ),
    }
    failures: ClassVar[Sayings] = {
        "past_pressure": (
            "it was pumped above its pressure",
            "Pressure off. Measure its length: one that stays longer has yielded, and is replaced.",
        ),
    }
    halts: ClassVar[Sayings] = {
        "nuts_loose": (
            "after {max} rounds nuts are still loose",
            "Stop: the joint does not settle. A soft part, or dirt under a nut? Look before you "
            "pump again.",
        ),
    }
    stops: ClassVar[dict[str, tuple[str | Choice, ...]]] = {
        "nuts_loose": ("back", "accept"),
    }

    def name(self, form: Any) -> str:
        """With its pressure."""
        if form.name:
            return str(form.name)
        return f"{'Check' if form.check else self.word} at {form.pressure}"

    def brief(self, raw: dict[str, Any]) -> str:
        """The pressure alone."""
        return f"{raw.get('pressure', '?')}{' check' if raw.get('check') else ''}"

    def planned(self, form: Any, group: Planned) -> dict[str, Any]:
        """Loads while it is pumped and that are left, and what that is of the target."""
        pumped, left = loads_of(form, group.slender)
        return {
            "percent": round(100 * left.typical / group.force, 1) if group.force else None,
            "pressure": str(form.pressure),
            "pressure_MPa": form.pressure.base,
            "pumped_N": list(pumped),
            "left_N": list(left),
            "check": form.check,
            "rounds_max": 3 if form.check else 1,
            "until": "none_moves" if form.check else "once",
        }

    def acts(self, one: PassOut) -> Act:
        """The load that it leaves, and the larger one meanwhile."""
        if len(one.left_N) != 3 or len(one.pumped_N) != 3:
            return Act()
        (a, b, c), (d, e, f) = one.left_N, one.pumped_N
        return Act(left=(a, b, c), pumped=(d, e, f))

    def kit(self, one: PassOut) -> tuple[tuple[str, str], ...]:
        """The tools, as many as stand at once, and what is pumped with."""
        at_once = max((len(move) for move in one.order), default=1)
        return (
            ("tool", f"{at_once} × hydraulic tensioner for {one.pressure}, in test"),
            ("tool", "pump with gauge and hoses, in test"),
        )

    def height(self, one: PassOut) -> float:
        """Its share of the target; what is as good as the target is all of it."""
        percent = one.percent or 0.0
        return max(percent, 100.0) if percent >= 100 - STRETCH_SAME.value else percent

    def load(self, before: float, at: At) -> float:
        """Its share: what is pumped less than before leaves the nut where it is."""
        return max(before, self.height(at.one))

    def asked(self, at: At) -> Ask:
        """Whether a nut was loose, in a pass that checks."""
        return _CHECK if at.one.check else self.ask

    def after(self, before: Look, given: Answered, at: At, failed: bool) -> Look:
        """A check says whether a nut was loose."""
        look = super().after(before, given, at, failed)
        if not failed and at.one.check and before.state != "deviating":
            look.state = "moved" if self.moved(at.one, given) else "checked"
        return look

    def turn_note(self, one: PassOut) -> str:
        """What it comes to."""
        if len(one.left_N) != 3:
            return ""
        kilo = [show(load / 1e3, 3) for load in (one.pumped_N[1], one.left_N[1])]
        return f"{kilo[0]} kN while pumped, {kilo[1]} kN left"

    def short_turn(self, one: PassOut) -> str:
        """The pressure, in large."""
        return one.pressure or ""
