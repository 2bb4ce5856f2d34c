"""Compounds that a line names, and the figures they are said for."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace

from .torques import Figure
from .words import Words, any_of, english

#: lubricated, with what is not said
_UNNAMED = "?"


@dataclass(frozen=True, slots=True)
class _Mention:
    """A compound that a line names, and where."""

    name: str
    start: int
    end: int


_SEALING = re.compile(
    r"(?<![\w])(?:seats?|cones?|faces?|gaskets?|sealing|tapers?|hubs?|flanges?|spigot|mating)(?![\w])"
)
_THREADED = re.compile(
    r"(?<![\w])(?:threads?|bolts?|nuts?|studs?|screws?|washers?|under|heads?)(?![\w])"
)
_ON_CONDITION = re.compile(r"(?<![\w])(?:when|if|where|unless)(?:\s+\w+){0,2}\s*$")


def _elsewhere(words: Words, found: re.Match[str]) -> bool:
    """Whether a compound is said for a seat, a face or a gasket, and not for what is turned."""
    clause = words.clause_text(*found.span())
    return bool(_SEALING.search(clause)) and not _THREADED.search(clause)


def _mentions(words: Words) -> list[_Mention]:
    """Every compound that is named and not denied, the more exact name before the general one."""
    out = list[_Mention]()
    taken = list[tuple[int, int]]()
    for name, spelled in [*english()["lubricants"].items(), (_UNNAMED, ["lubricated", "lubed"])]:
        at = 0
        while (found := words.find(any_of(spelled), at)) is not None:
            at = found.end()
            if any(start < found.end() and found.start() < end for start, end in taken):
                continue
            # also what is not said for the threads is taken: no shorter name is found inside it
            taken.append(found.span())
            conditional = _ON_CONDITION.search(words.text[: found.start()])
            denied = words.negated(found.start(), across=True)
            if not (conditional or denied or _elsewhere(words, found)):
                out.append(_Mention(name, *found.span()))
    return sorted(out, key=lambda one: one.start)


def _bound(words: Words, figures: list[Figure], one: _Mention) -> list[int]:
    """Which figures a compound is said for, where it is the only one: those of its clause, else
    all."""
    starts = [words.clause_of(f.start) for f in figures]
    own = [i for i, start in enumerate(starts) if start == words.clause_of(one.start)]
    first = not figures or one.start < figures[0].start
    return list(range(len(figures))) if first or not own else own


def lubricants_of(words: Words, figures: list[Figure]) -> tuple[list[Figure], str | None]:
    """(figures with the compound each is said for, the compound of the first of them or of the
    line).

    As many compounds as figures belong each to its own; a single one belongs to the figures of its
    clause, or to all. Anything else is not decided here and stays unread, as does what names no
    compound (“lubricated”).
    """
    found = _mentions(words)
    named = [one for one in found if one.name != _UNNAMED]
    if not named:
        return figures, None
    if len(found) == len(figures) and len({one.name for one in found}) > 1:
        for one in named:
            words.take("lubricant", one.start, one.end)
        said = [
            replace(f, lubricant=None if one.name == _UNNAMED else one.name)
            for f, one in zip(figures, found, strict=True)
        ]
        return said, said[0].lubricant
    if len({one.name for one in named}) > 1:
        return figures, None
    for one in named:
        words.take("lubricant", one.start, one.end)
    bound = {i for one in named for i in _bound(words, figures, one)}
    name = named[0].name
    said = [replace(f, lubricant=name if i in bound else None) for i, f in enumerate(figures)]
    return said, said[0].lubricant if said else name
