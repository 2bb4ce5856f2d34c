"""Passes of a simulation as text: `30,70,100 cross; 100 circle`."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from ...errors import Impossible
from ...messages import Message
from ...planning.layouts import row_order
from ...planning.orders import circle_order, cross_order
from .compliance import Array

#: orders that a text can name
ORDERS = {"cross": cross_order, "star": cross_order, "circle": circle_order, "row": row_order}
_PART = re.compile(r"\s*([\d.,\s%]+?)\s*%?\s+([a-z]+)\s*")
#: passes in all
MOST = 50


@dataclass(frozen=True)
class PassOrder:
    """One pass: share of the target, and the bolts (from 0) in their order; bolts of one move are
    pulled together."""

    share: float
    moves: tuple[tuple[int, ...], ...]


def moves_of(
    passes: list[PassOrder], target_N: float, last_targets_N: Array | None = None
) -> Iterator[tuple[int, list[int], Array]]:
    """(number of the pass, bolts, wanted loads N) of every move; in the last pass bolts may have
    own targets (n,)."""
    for number, one in enumerate(passes):
        own = last_targets_N if number == len(passes) - 1 else None
        for bolts in map(list, one.moves):
            yield (
                number,
                bolts,
                np.full(len(bolts), one.share * target_N) if own is None else own[bolts],
            )


def passes_from(text: str, count: int) -> list[PassOrder]:
    """Passes as a person writes them. Raises Impossible with what was expected.

    >>> [(p.share, len(p.moves)) for p in passes_from("30,70,100 cross; 100 circle", 8)]
    [(0.3, 8), (0.7, 8), (1.0, 8), (1.0, 8)]
    """
    found = []
    for part in text.split(";"):
        read = _PART.fullmatch(part)
        if read is None or read[2] not in ORDERS:
            raise _unread(part)
        moves = tuple((bolt - 1,) for bolt in ORDERS[read[2]](count))
        for figure in read[1].replace("%", "").split(","):
            try:
                share = float(figure) / 100
            except ValueError:
                raise _unread(part) from None
            if not 0 < share <= 1.1:
                raise Impossible(
                    Message.OUT_OF_RANGE,
                    ("passes",),
                    value=f"{figure.strip()} %",
                    range="above 0 and up to 110 %",
                )
            found.append(PassOrder(share, moves))
    if len(found) > MOST:
        raise Impossible(
            Message.OUT_OF_RANGE,
            ("passes",),
            value=f"{len(found)} passes",
            range=f"up to {MOST} passes",
        )
    return found


def _unread(part: str) -> Impossible:
    return Impossible(
        Message.BAD_VALUE,
        ("passes",),
        reason=f"“{part.strip()[:40]}” is no pass: expected percents and an order, for example "
        "30,70,100 cross; "
        f"orders are {', '.join(ORDERS)}",
    )
