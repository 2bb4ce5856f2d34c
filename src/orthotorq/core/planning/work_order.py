"""The order in which stages are done: what a run walks, what a sheet prints, what findings look
at."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from itertools import product
from typing import Protocol

from ..forms.stage import StageOut


class Choosable(Protocol):
    """A variant: its id, and the choice that it is one of."""

    @property
    def id(self) -> str:
        """Its id."""
        ...

    @property
    def choice(self) -> str:
        """The choice."""
        ...


def in_work_order(stages: Sequence[StageOut], occasion: str) -> list[StageOut]:
    """Stages so that each comes after what it waits for; otherwise in the order given."""
    left = list(stages)
    # what is not among them cannot be waited for
    waiting = {s.id for s in left}
    out: list[StageOut] = []
    while left:
        ready = left.pop(
            next(
                (i for i, s in enumerate(left) if waiting.isdisjoint(s.after.get(occasion, ()))), 0
            )
        )
        waiting.discard(ready.id)
        out.append(ready)
    return out


class Timed(Protocol):
    """What belongs to occasions, and to variants where not to all."""

    @property
    def occasions(self) -> list[str]:
        """Its occasions."""
        ...

    @property
    def variants(self) -> list[str]:
        """Its variants; none for all."""
        ...


def belongs(limited: Sequence[str], variants: Collection[str]) -> bool:
    """Whether something that is limited to variants, where it is, belongs to these."""
    return not limited or any(one in variants for one in limited)


def takes(one: Timed, occasion: str, variants: Sequence[str]) -> bool:
    """Whether a stage is done, or a tool is needed, on an occasion with these variants."""
    return occasion in one.occasions and belongs(one.variants, variants)


def ways(variants: Sequence[Choosable], most: int = 64) -> list[tuple[str, ...]]:
    """Every way in which variants can be chosen: one of each choice."""
    by_choice: dict[str, list[str]] = {}
    for one in variants:
        by_choice.setdefault(one.choice, []).append(one.id)
    return list(product(*by_choice.values()))[:most]
