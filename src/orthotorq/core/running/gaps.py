"""Even draw: rounds of small turns in which the measured gaps say where to turn next; torque is only a cap."""
from __future__ import annotations

from functools import partial

from ..documents.result import PassOut
from .fold import Given
from .items import reading_base
from .program import Segment, Unit, step_id
from .pulls import band_of
from .walk import Fail, Pending, Walk


def next_order(one: PassOut, gaps: dict[str, float], capped: set[str]) -> list[list[str]]:
    """The bolts of the next round: those still open, the largest gap first; while the gaps are too far apart, only the
    wide side.

    >>> draw = PassOut(id="d", name="d", group="b", do="gap_round", order=[["b.1"], ["b.2"], ["b.3"]], max_spread_mm=0.3,
    ...                stop_at_mm=1.0)
    >>> next_order(draw, {"b.1": 2.0, "b.2": 2.6, "b.3": 1.0}, set())
    [['b.2'], ['b.1']]
    """
    places = [move[0] for move in one.order]
    if not gaps:
        return one.order
    spread = max(gaps.values()) - min(gaps.values())
    floor = min(gaps.values()) + (one.max_spread_mm or 0.0) / 2 if spread > (one.max_spread_mm or 0.0) else -1.0
    left = [p for p in places if p not in capped and gaps.get(p, 1e9) > max(one.stop_at_mm or 0.0, floor)]
    return [[p] for p in sorted(left, key=lambda p: (-gaps.get(p, 1e9), places.index(p)))]


def walk_gaps(walk: Walk, unit: Unit, segment: Segment) -> Pending | None:
    """An even draw round by round until every gap is drawn, its cap has clicked, or the rounds run out."""
    one = segment.one
    assert one is not None
    gaps: dict[str, float] = {}
    capped: set[str] = set()
    for round_ in range(1, one.rounds_max + 1):
        order = next_order(one, gaps, capped)
        if not order:
            break
        pending = _round(walk, unit, segment, one, round_, order, gaps, capped)
        if pending is not None:
            return pending
    _verdict(walk, segment, one, gaps, capped)
    return None


def _round(walk: Walk, unit: Unit, segment: Segment, one: PassOut, round_: int, order: list[list[str]],
           gaps: dict[str, float], capped: set[str]) -> Pending | None:
    answers: list[str] = []
    pending: Pending | None = None
    for number, move in enumerate(order, 1):
        place = move[0]
        found = walk.settle(segment.base(), round_, place, None, partial(_judge, walk, one, move))
        if found.given is None:
            spread = max(gaps.values()) - min(gaps.values()) if gaps else None
            pending = Pending(unit, segment, "decision" if found.decision else "gap", round_, move, found.attempt, number, None,
                              order, found.fail, found.decision, spread=spread)
            break
        answers.append(found.given.word)
        walk.step_done(found.given, segment.position)
        step = step_id(segment.base(), round_, place, found.attempt)
        bolt = walk.bolt(segment.position, place)
        value = reading_base(str((found.given.answer or {}).get("value", "")), "length")
        if value is not None:
            gaps[place] = bolt.gap = value
        if found.given.word == "cap":
            capped.add(place)
        if found.fail is not None or found.given.word == "skip":
            bolt.state = "deviating"
            capped.add(place)
            code, params = (found.fail.code, found.fail.params) if found.fail else (
                "skipped", {"text": f"bolt {walk.label(place)}, {one.name}"})
            reason = found.reason or (found.given.answer or {}).get("reason", "")
            walk.deviate(step, code, **{**params, "reason": reason})
        else:
            bolt.state = "full" if value is not None and value <= (one.stop_at_mm or 0.0) else "part"
            bolt.percent = 100.0 if bolt.state == "full" else max(bolt.percent, 50.0)
    walk.tape.append(band_of(walk, segment, one, round_, len(order), answers))
    return pending


def _judge(walk: Walk, one: PassOut, move: list[str], given: Given) -> Fail | None:
    if given.word == "refuses":
        return Fail("refuses", {"label": walk.label(move[0]), "name": one.name})
    return None


def _verdict(walk: Walk, segment: Segment, one: PassOut, gaps: dict[str, float], capped: set[str]) -> None:
    base = f"{segment.base()}/end/-"
    stop = one.stop_at_mm or 0.0
    if not gaps:
        return
    worst = max(gaps, key=lambda p: gaps[p])
    if gaps[worst] > stop:
        code = "cap_reached" if worst in capped else "gap_open"
        walk.deviate(base, code, name=one.name, max=one.rounds_max, gap=f"{gaps[worst]:g}", label=walk.label(worst))
    spread = max(gaps.values()) - min(gaps.values())
    if spread > (one.max_spread_mm or 0.0) + 1e-9:
        walk.deviate(base, "gap_uneven", name=one.name, spread=f"{spread:.2g}", limit=f"{one.max_spread_mm:g}")
