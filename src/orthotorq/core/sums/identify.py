"""Which thread is it: from the width across flats, the outside diameter and the length of ten
threads."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

from ..errors import Impossible
from ..messages import Message
from ..tables import hexagons, threads
from ..tables.threads import Thread
from .fields import Answer

#: a measured diameter is below the nominal one by the thread's allowance and wear; flats by wear
#: and paint
_DIAMETER, _FLATS, _PITCH = (-0.04, 0.005), 0.02, 0.03


@lru_cache(maxsize=1)
def _threads() -> tuple[Thread, ...]:
    known = threads.series()
    metric = [f"M{d:g}" for d in known.metric_coarse] + [
        f"M{d:g}x{p:g}" for d, p in sorted(known.metric_fine)
    ]
    return tuple(
        threads.parse_thread(t)
        for t in metric + [f"{size}-{n:g}" for (size, _), n in known.unified.items()]
    )


def _misfit(thread: Thread, v: dict[str, Any]) -> float | None:
    """How badly a thread fits what was measured (0 is exact), or None when it cannot be it."""
    total = 0.0
    if v["outside"] is not None:
        off = v["outside"] / thread.diameter - 1
        if not _DIAMETER[0] <= off <= _DIAMETER[1]:
            return None
        # a real bolt measures about one percent less than its name
        total += abs(off + 0.01)
    if v["ten"] is not None:
        off = v["ten"] / (10 * thread.pitch) - 1
        if abs(off) > _PITCH:
            return None
        total += abs(off)
    if v["flats"] is not None:
        heads = [
            h
            for h in (hexagons.hexagon(thread, "hex"), hexagons.hexagon(thread, "heavy hex"))
            if h is not None
        ]
        widths = [h.across_flats for h in heads] + [
            width for width, _ in hexagons.other_flats(thread)
        ]
        off = min((abs(v["flats"] / width - 1) for width in widths), default=1.0)
        if off > _FLATS:
            return None
        total += off
    return total


def _described(thread: Thread) -> str:
    """A thread with its pitch and every width that stands on its bolts and nuts."""
    head = hexagons.hexagon(thread)
    widths = [f"across flats {head.across_flats:.4g} mm"] if head else []
    widths += [f"{what} {width:.4g} mm" for width, what in hexagons.other_flats(thread)]
    return ", ".join(
        [f"{thread.designation}: {thread.series}, pitch {thread.pitch:.4g} mm", *widths]
    )


def identify_sum(v: dict[str, Any]) -> Answer:
    """Threads that fit what was measured, the likeliest first."""
    if all(v[k] is None for k in ("flats", "outside", "ten")):
        raise Impossible(
            Message.BAD_VALUE,
            ("flats",),
            reason="Give at least one of: across flats, diameter, ten threads",
        )
    found = sorted((m, i, t) for i, t in enumerate(_threads()) if (m := _misfit(t, v)) is not None)
    names = list(dict.fromkeys(t.designation for _, _, t in found))[:8]
    notes = [_described(threads.parse_thread(n)) for n in names[:5]]
    if len(names) > 1:
        notes.append(
            "Several fit: measure ten threads with a calliper, and try a nut that is known."
        )
    if not names:
        notes.append("Nothing in the tables fits: measure again, and clean the thread first.")
    return Answer({"threads": names, "likeliest": names[0] if names else None}, (), tuple(notes))
