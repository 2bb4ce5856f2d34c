"""Even draw: rounds of small turns in which the measured gaps say where to turn next; torque is
only a cap."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field

from ...forms.order import CIRCLE, Order
from ...forms.quantities import Length, Torque, Turn
from ...forms.stage import PassOut
from ...thresholds import DRAWN_HALF, DRAWN_HEIGHT
from ..fields import field
from ..pass_kind import (
    Answered,
    At,
    History,
    Look,
    PassForm,
    PassKind,
    Planned,
    Sayings,
    reading_base,
)
from ..prompts import AGAIN, HANDLED, REFUSES, VALUE, Ask, Choice


class GapPass(PassForm):
    """Even draw: rounds of small turns, the gap measured at each bolt; torque is a cap."""

    do: Literal["gap_round"]
    turn: Turn
    max_spread: Length
    stop_at: Length
    cap: Torque | None = None
    max: Annotated[int, Field(ge=1, le=50)] = 20
    order: Order = CIRCLE


def _gaps(history: History) -> dict[str, float]:
    found = {
        p: reading_base((a.answer or {}).get("value"), "length") for p, a in history.answers.items()
    }
    return {p: gap for p, gap in found.items() if gap is not None}


def _capped(history: History) -> set[str]:
    return {p for p, a in history.answers.items() if a.word in ("cap", "skip")} | history.left


class GapRound(PassKind):
    """Even draw."""

    do, form, word, place = "gap_round", GapPass, "Even draw", 60
    listed = {
        "even draw": {
            "do": "gap_round",
            "turn": "30 deg",
            "max_spread": "0.5 mm",
            "stop_at": "2 mm",
            "max": 20,
        }
    }
    fields = (
        field("turn", "Turn", "quantity"),
        field("stop_at", "Stop at a gap of", "quantity", main=False),
        field("max_spread", "Gaps differ by at most", "quantity", main=False),
        field("cap", "Torque cap", "quantity", "none", main=False),
        field("max", "Rounds at most", "count", main=False),
    )
    sets_figure = frees = True
    seconds_each = 40.0
    ask = Ask(
        "gap",
        (VALUE.saying("Gap"), Choice("cap", "The cap clicked first", "p")),
        (REFUSES, *HANDLED),
        instruction="Turn by {turn}, then measure the gap here.",
        wanted="length",
        shows="turn",
        hint="Small turns all the way round; the largest gap comes first.",
    )
    sayings: ClassVar[Sayings] = {
        "gap_uneven": (
            (
                "{name}: the gaps end {spread} mm apart, more than {limit} mm; left as it is: "
                "{reason}."
            ),
            "Slacken the tight side a little and go round again.",
        ),
        "gap_open": (
            (
                "{name}: after {max} rounds the gap is still {gap} mm at bolt {label}; left as "
                "it is: {reason}."
            ),
            "Something is between the parts, or the part is too hard.",
        ),
        "cap_reached": (
            (
                "{name}: the cap clicked at bolt {label} with a gap of {gap} mm; left as it is: "
                "{reason}."
            ),
            "Torque rises and clamp does not: look where the halves meet.",
        ),
    }
    halts: ClassVar[Sayings] = {
        "gap_uneven": (
            "the gaps are {spread} mm apart, at most {limit} mm are allowed",
            (
                "Stop. Slacken the tight side a little, then go round again; what stays uneven "
                "leaks or breaks there."
            ),
        ),
        "gap_open": (
            "after {max} rounds the gap is still {gap} mm at bolt {label}",
            "Stop. Something is between the parts, or the part is too hard: take it off and look.",
        ),
        "cap_reached": (
            "the cap clicked at bolt {label} with a gap of {gap} mm",
            "Stop. Torque rises and the gap does not close: look where the halves meet.",
        ),
    }
    stops: ClassVar[dict[str, tuple[str | Choice, ...]]] = {
        "gap_uneven": (AGAIN.saying("Tight side slackened: another round"), "back", "accept"),
        "gap_open": (AGAIN.saying("Looked, cleared: another round"), "back", "accept"),
        "cap_reached": (AGAIN.saying("Looked, cleared: another round"), "back", "accept"),
    }

    def planned(self, form: Any, group: Planned) -> dict[str, Any]:
        """Turn, gap limits and cap; rounding never passes the cap."""
        cap = form.cap.base / 1e3 if form.cap else None
        return {
            "turn_deg": round(math.degrees(form.turn.base), 3),
            "max_spread_mm": form.max_spread.base,
            "stop_at_mm": form.stop_at.base,
            "rounds_max": form.max,
            "until": "gap",
            "torque_Nm": cap,
            "ceiling_Nm": cap,
        }

    def kit(self, one: PassOut) -> tuple[tuple[str, str], ...]:
        """What measures a gap."""
        return (("gauge", "gap gauge or inside calliper"),)

    def height(self, one: PassOut) -> float:
        """Not a torque."""
        return DRAWN_HEIGHT.value

    def after(self, before: Look, given: Answered, at: At, failed: bool) -> Look:
        """Full when its gap is drawn, else part; the gap is kept."""
        value = reading_base((given.answer or {}).get("value"), "length")
        gap = before.gap if value is None else value
        if failed:
            return replace(before, state="deviating", gap=gap)
        drawn = value is not None and value <= (at.one.stop_at_mm or 0.0)
        return Look(
            100.0 if drawn else max(before.percent, DRAWN_HALF.value),
            "full" if drawn else "part",
            gap,
        )

    def order_of_round(self, one: PassOut, history: History) -> Sequence[list[str]]:
        """The bolts still open, the largest gap first; while the gaps are too far apart, only the
        wide side.

        >>> from types import SimpleNamespace as N
        >>> draw = PassOut(id="d", name="d", group="b", do="gap_round", order=[["b.1"], ["b.2"],
        ...     ["b.3"]], max_spread_mm=0.3,
        ...                stop_at_mm=1.0)
        >>> seen = {f"b.{i}": N(word="value", answer={"value": f"{gap} mm"}) for i, gap in ((1,
        ...     2.0), (2, 2.6), (3, 1.0))}
        >>> GapRound().order_of_round(draw, History(seen))
        [['b.2'], ['b.1']]
        """
        places, gaps, capped = [move[0] for move in one.order], _gaps(history), _capped(history)
        if not gaps:
            return [[p] for p in places if p not in capped] if capped else one.order
        spread = max(gaps.values()) - min(gaps.values())
        floor = (
            min(gaps.values()) + (one.max_spread_mm or 0.0) / 2
            if spread > (one.max_spread_mm or 0.0)
            else -1.0
        )
        left = [
            p
            for p in places
            if p not in capped and gaps.get(p, 1e9) > max(one.stop_at_mm or 0.0, floor)
        ]
        return [[p] for p in sorted(left, key=lambda p: (-gaps.get(p, 1e9), places.index(p)))]

    def goes_on(self, one: PassOut, given: Answered) -> bool:
        """The gaps decide, round by round."""
        return True

    def verdict(self, one: PassOut, history: History) -> list[tuple[str, dict[str, object]]]:
        """Gaps left open, and gaps too far apart."""
        gaps, capped = _gaps(history), _capped(history)
        if not gaps:
            return []
        out: list[tuple[str, dict[str, object]]] = []
        worst = max(gaps, key=lambda p: gaps[p])
        if gaps[worst] > (one.stop_at_mm or 0.0):
            out.append(
                (
                    "cap_reached" if worst in capped else "gap_open",
                    {
                        "name": one.name,
                        "max": one.rounds_max,
                        "gap": f"{gaps[worst]:g}",
                        "place": worst,
                    },
                )
            )
        spread = max(gaps.values()) - min(gaps.values())
        if spread > (one.max_spread_mm or 0.0) + 1e-9:
            out.append(
                (
                    "gap_uneven",
                    {
                        "name": one.name,
                        "spread": f"{spread:.2g}",
                        "limit": f"{one.max_spread_mm:g}",
                    },
                )
            )
        return out

    def limit_words(self, one: PassOut) -> str | None:
        """Where to stop, and how even."""
        return f"stop at {one.stop_at_mm:g} mm; gaps at most {one.max_spread_mm:g} mm apart"
