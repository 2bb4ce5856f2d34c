"""Readings that relate: several at one place, before and after, the largest and the smallest; and
all of them in a row."""

from __future__ import annotations

from collections.abc import Iterator

from ...forms.record import Chart, ChartBar
from ...forms.stage import ItemOut
from ...kinds.pass_kind import Fail, reading_base
from ...kinds.prompts import AFTER_A_FAILURE
from ...units import convert, show, show_quantity
from ..log.event_log import Given
from .pending import ReadAt
from .program import Segment, Unit
from .step_walker import Walk

#: two figures that were typed with three digits are not told apart below that
_EXACT = 1e-9
#: a shaft is read to a hundredth of a millimetre in a hundred and more
_DIGITS = 6


def value_of(item: ItemOut, given: Given) -> float | None:
    """What was read, in base units."""
    if given.word != "value":
        return None
    return reading_base((given.answer or {}).get("value"), item.quantity or "length")


def _at(unit: Unit, item: str, place: str | None) -> ReadAt:
    return unit.stage.id, unit.position, item, place


def _good(walk: Walk, at: ReadAt) -> list[float]:
    """What was read somewhere, without what was left as it is."""
    return [value for value, good in walk.readings.get(at, []) if good]


def keep_reading(walk: Walk, unit: Unit, segment: Segment, given: Given, good: bool) -> None:
    """Keep what was read at a place, for those that are held against it; what was left as it is
    only is drawn."""
    item = segment.item
    if item is not None and (value := value_of(item, given)) is not None:
        walk.readings.setdefault(_at(unit, item.id, segment.place), []).append((value, good))


def related_fail(
    walk: Walk, unit: Unit, segment: Segment, given: Given, most_back: int
) -> Fail | None:
    """What stops the run at a reading because of others: it is judged with the last of its row."""
    item = segment.item
    value = value_of(item, given) if item is not None else None
    if item is None or value is None or (segment.nth or 1) < (item.repeats or 1):
        return None
    read = [*_good(walk, _at(unit, item.id, segment.place)), value]
    found = (
        _apart(item, read)
        or _changed(walk, unit, segment, _mean(read))
        or _spread(walk, unit, segment, _mean(read))
    )
    if found is None:
        return None
    code, said = found
    # all of the stage is read again, unless a stage before it can mend what is wrong
    back = (item.back or unit.stage.id) if unit.cycle <= most_back else None
    words = (*(("back",) if back else ()), *(item.on_fail or AFTER_A_FAILURE))
    where = f" at bolt {walk.named(unit.position, segment.place)}" if segment.place else ""
    return Fail(code, {"text": item.text, "place": where, **said}, words, back)


Found = tuple[str, dict[str, object]] | None


def _apart(item: ItemOut, read: list[float]) -> Found:
    """Readings at one place that are too far apart."""
    apart = max(read) - min(read)
    if item.repeats_within is None or apart <= item.repeats_within + _EXACT:
        return None
    return "repeats_apart", {
        "value": _words(item, apart),
        "limit": _words(item, item.repeats_within),
    }


def _changed(walk: Walk, unit: Unit, segment: Segment, value: float) -> Found:
    """A reading that has gone too far from the one before it, or has none."""
    item = segment.item
    assert item is not None
    if item.change_from is None or (item.change_min is None and item.change_max is None):
        return None
    before = reading_before(walk, unit, item, segment.place)
    if before is None:
        return "no_reading_before", {}
    change = value - before
    low, high = item.change_min, item.change_max
    if (low is not None and change < low - _EXACT) or (high is not None and change > high + _EXACT):
        return "changed", {
            "value": _words(item, change),
            "limit": item.change_text,
            "before": _words(item, before),
        }
    return None


def reading_before(walk: Walk, unit: Unit, item: ItemOut, place: str | None) -> float | None:
    """What an earlier reading was that an item is held against: at the same place, else at its
    position, else once."""
    stage, _, part = (item.change_from or "").partition("/")
    for position in (unit.position, None):
        for where in (place, None):
            if read := _good(walk, (stage, position, part, where)):
                return _mean(read)
    return None


def _spread(walk: Walk, unit: Unit, segment: Segment, value: float) -> Found:
    """The largest and the smallest of all places, once the last one is read."""
    item = segment.item
    assert item is not None
    if item.spread_max is None or (item.places and segment.place != item.places[-1]):
        return None
    every = [
        _mean(read)
        for place in item.places[:-1]
        if (read := _good(walk, _at(unit, item.id, place)))
    ] + [value]
    apart = max(every) - min(every)
    if apart <= item.spread_max + _EXACT:
        return None
    return "spread", {"value": _words(item, apart), "limit": _words(item, item.spread_max)}


def _mean(read: list[float]) -> float:
    return sum(read) / len(read)


def _words(item: ItemOut, value: float) -> str:
    """A figure in the unit of its readings."""
    return show_quantity(value, item.quantity or "length", item.unit or "mm", _DIGITS)


def reading_hint(walk: Walk, unit: Unit, segment: Segment) -> str:
    """What stands beside a reading that relates to others: which one of several it is, and what was
    read before."""
    item = segment.item
    if item is None or item.answer != "value":
        return ""
    said = [f"Reading {segment.nth} of {item.repeats} at this place." if segment.nth else ""]
    if item.change_from and (before := reading_before(walk, unit, item, segment.place)) is not None:
        said.append(f"Before: {_words(item, before)}.")
    return " ".join(one for one in said if one)


def charts_of_readings(walk: Walk) -> list[Chart]:
    """Readings of one check at several places or several times, or held against earlier ones,
    between their limits."""
    names = {p.id: p.name for p in walk.result.positions}
    out = []
    for stage in walk.result.stages:
        for item in stage.items:
            positions = dict.fromkeys(
                at[1] for at in walk.readings if (at[0], at[2]) == (stage.id, item.id)
            )
            for position in positions:
                bars = list(_bars(walk, stage.id, position, item))
                where = names.get(position or "", "")
                if len(bars) > 1:
                    title = f"{item.text}, {where}" if where and len(names) > 1 else item.text
                    out.append(
                        Chart(
                            kind="readings",
                            title=title,
                            unit=item.unit or "mm",
                            bars=bars,
                            least=_in_unit(item, item.min),
                            most=_in_unit(item, item.max),
                        )
                    )
    return out


def _bars(walk: Walk, stage: str, position: str | None, item: ItemOut) -> Iterator[ChartBar]:
    """Each reading in its unit, those that it is held against before it."""
    earlier, _, part = (item.change_from or "").partition("/")
    places: list[str | None] = [*item.places] or [None]
    for place in places:
        label = walk.label(place) if place else ""
        for before, key in (
            (True, (earlier, position, part, place)),
            (False, (stage, position, item.id, place)),
        ):
            for value, _ in walk.readings.get(key, []):
                yield ChartBar(label=label, value=_in_unit(item, value) or 0.0, before=before)


def _in_unit(item: ItemOut, value: float | None) -> float | None:
    if value is None:
        return None
    return float(show(convert(value, item.quantity or "length", item.unit or "mm"), _DIGITS))
