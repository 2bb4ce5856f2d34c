"""One figure in two units that are not one: which holds, what each would do, and what may have gone
wrong in print."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ....documents.targets import Source
from ....forms.quantities import QuantityText
from ....thresholds import PAIR_CLEARLY, PAIR_SLIP, SOURCES_APART
from ....units import convert, pair_difference, show
from ...findings import Finding
from .facts import Facts
from .figure_text import kilonewton, newton_metre, percent
from .finding_builder import Found, find

#: ratio of the two readings -> what may have been taken for what
_SLIPS = (
    (9.80665, "kgf·m and N·m were mixed up"),
    (10.0, "a decimal point slipped"),
    (12.0, "in·lbf and ft·lbf were mixed up"),
    (1.3558179, "the number of one unit was printed with the other"),
)


@dataclass(frozen=True, slots=True)
class PairReading:
    """The torque that is computed with [N·mm], how it was read, and what is to be said."""

    torque: float
    how: str
    found: Found


def _swapped(figure: float, right: float) -> bool:
    """Whether two figures differ by digits that changed places.

    >>> _swapped(86.0, 68.0), _swapped(86.0, 67.9), _swapped(86.0, 70.0)
    (True, True, False)
    """
    one, other = f"{figure:g}".replace(".", ""), f"{round(right):d}"
    if len(one) != len(other) or one == other:
        return False
    places = [i for i, (a, b) in enumerate(zip(one, other, strict=True)) if a != b]
    return (
        len(places) == 2
        and one[places[0]] == other[places[1]]
        and one[places[1]] == other[places[0]]
    )


def _guess(first: QuantityText, second: QuantityText) -> str:
    """What may have gone wrong in print, as a clause; empty when nothing usual explains it."""
    ratio = max(first.base, second.base) / min(first.base, second.base)
    for figure, other in ((first, second), (second, first)):
        if _swapped(figure.quantity.value, convert(other.base, "torque", figure.quantity.unit)):
            return f"; perhaps two digits of {figure} changed places"
    size, words = min(_SLIPS, key=lambda slip: abs(ratio / slip[0] - 1))
    return f"; perhaps {words}" if abs(ratio / size - 1) < PAIR_SLIP.value else ""


def _supported(
    first: QuantityText, second: QuantityText, others: list[tuple[str, float]]
) -> tuple[int, str] | None:
    """(index of the reading that every other source supports, in whose words), or None."""
    if not others:
        return None
    sides, names = set(), []
    for name, torque in others:
        to_first, to_second = (abs(math.log(torque / q.base)) for q in (first, second))
        agrees = [abs(torque / q.base - 1) <= SOURCES_APART.value for q in (first, second)]
        clear = max(to_first, to_second) >= PAIR_CLEARLY.value * min(to_first, to_second)
        if not clear and sum(agrees) != 1:
            return None
        sides.add(0 if to_first < to_second else 1)
        names.append(f"{name} ({newton_metre(torque)})")
    return (sides.pop(), " and ".join(names)) if len(sides) == 1 else None


def _does(facts: Facts, torque: float) -> str:
    """What a reading would do: clamp and share of yield."""
    load = max(0.0, torque - facts.joint.prevailing) / facts.joint.band_per_preload().typical
    return (
        f"{kilonewton(load)}, "
        f"{percent(load / (facts.strength.yield_ * facts.thread.stress_area), 2)} of yield"
    )


def read_pair(facts: Facts, source: Source, others: list[tuple[str, float]]) -> PairReading:
    """How a figure in two units is read. `others` are other sources that hold, by name with their
    torque [N·mm].

    Where the two are not one figure the planner's decision counts, then other sources; with neither
    the lower is computed and the plan is stopped. What we could compute ourselves decides nothing:
    it nearly always favours the larger.
    """
    assert source.says.torque is not None
    first, second = source.says.torque
    difference, agree = pair_difference(first.quantity, second.quantity)
    where = f"sources/{source.id}"
    words = {
        "group": facts.group.name,
        "first": str(first),
        "second": str(second),
        "difference": f"{difference * 100:+.1f}",
    }
    if agree:
        return PairReading(
            first.base, f"{first} ({second})", find(Finding.PAIR_AGREES, where, **words)
        )
    if source.holds is not None:
        taken = (first, second)[source.holds == "second"]
        return PairReading(
            taken.base,
            f"{taken}, as decided",
            find(
                Finding.PAIR_DECIDED,
                where,
                taken=str(taken),
                reason=source.because.strip(),
                **words,
            ),
        )
    if (found := _supported(first, second, others)) is not None:
        taken = (first, second)[found[0]]
        return PairReading(
            taken.base,
            f"{taken}, supported by {found[1]}",
            find(Finding.PAIR_MISMATCH, where, taken=str(taken), supports=found[1], **words),
        )
    lower = min((first, second), key=lambda q: q.base)
    ratio = max(first.base, second.base) / min(first.base, second.base)
    return PairReading(
        lower.base,
        f"{lower} until one is chosen; not {second if lower is first else first}",
        find(
            Finding.PAIR_UNDECIDED,
            where,
            taken=str(lower),
            ratio=f"{show(ratio, 3)} times",
            guess=_guess(first, second),
            does_first=_does(facts, first.base),
            does_second=_does(facts, second.base),
            **words,
        ),
    )
