"""Numbers of bolts through a whole joint: where two groups would use the same ones, each carries
its group's letter."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Protocol


class Numbered(Protocol):
    """A group of bolts as far as its numbers go."""

    @property
    def id(self) -> str:
        """Its id."""
        ...

    @property
    def name(self) -> str:
        """What it is called."""
        ...

    @property
    def like(self) -> str | None:
        """The group that it is in another way."""
        ...

    @property
    def variants(self) -> Sequence[str]:
        """The ways of the work in which it is there; none: in all of them."""
        ...

    @property
    def numbers(self) -> range:
        """The numbers of its bolts."""
        ...


def _letters(names: Sequence[str]) -> list[str]:
    """A letter for each name: its initial where all differ, else one after the other."""
    initials = [next((c.upper() for c in name if c.isalpha()), "") for name in names]
    if "" not in initials and len(set(initials)) == len(initials):
        return initials
    return [chr(ord("A") + i) if i < 26 else f"Z{i}" for i in range(len(names))]


def _together(one: Numbered, other: Numbered) -> bool:
    """Whether two groups may be worked on in one run."""
    return not one.variants or not other.variants or bool(set(one.variants) & set(other.variants))


def prefixes(groups: Sequence[Numbered]) -> dict[str, str]:
    """The letter before the numbers of each group; nothing where no other group has the same
    numbers.

    What is another group in another way has that group's letter: of the two only one is worked on.
    """
    own = [g for g in groups if g.like is None]
    clash = [
        g
        for g in own
        if any(o is not g and set(o.numbers) & set(g.numbers) and _together(o, g) for o in own)
    ]
    letters = dict(zip((g.id for g in clash), _letters([g.name for g in clash]), strict=True))
    return {g.id: letters.get(g.like or g.id, "") for g in groups}
