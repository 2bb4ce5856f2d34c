"""A line of a manual, read by patterns; what was not understood is said, never guessed."""

from __future__ import annotations

import re
from dataclasses import dataclass

from ..errors import BadQuantity
from ..messages import Message
from ..rechecking import Schedule
from .angles import angles_of, back_off_of
from .compounds import lubricants_of
from .designations import Size, counts_apart, set_apart
from .instructions import (
    check_round_in,
    new_fasteners_in,
    order_of,
    rechecks_of,
    sequence_of,
    wait_of,
)
from .shares import shares_of, yields_of
from .torque_steps import torques_of
from .torques import Figure, Question
from .units_in_text import NUMBER
from .words import Part, Words, any_of, english

#: what is read at a time; longer ones are refused, for a part that is not read would be lost unseen
LONGEST = 4000


@dataclass(frozen=True, slots=True)
class Line:
    """What a line says. Shares in percent; `order` of the passes or a `sequence` of bolts,
    `check_round` whether a round proves them, `back_off` [rad], `wait` [min].

    `left` are the words that were not understood, `parts` those that were, with their places;
    `asked` are words with two readings.
    """

    figures: tuple[Figure, ...]
    percents: tuple[float, ...]
    order: str | None
    check_round: bool
    rechecks: tuple[Schedule, ...]
    lubricant: str | None
    left: tuple[str, ...]
    parts: tuple[Part, ...]
    #: a number of steps was said without their shares: they are taken as equal
    equal_steps: bool = False
    sequence: tuple[int, ...] = ()
    back_off: float | None = None
    wait: float | None = None
    new_fasteners: bool = False
    asked: tuple[Question, ...] = ()
    #: where the words stand that are left
    unused: tuple[Part, ...] = ()


def _about(words: Words) -> None:
    """What is said of the joint: by hand, snug."""
    for about in ("hand", "snug"):
        for found in words.wanted(any_of(english()[about])):
            words.take(about, *found.span())


def _give_back_unread(words: Words, sizes: list[Size]) -> None:
    """A size beside a number that nobody could read is not used either."""
    for size in sizes:
        if re.match(rf"[\s:=]*{NUMBER}", words.text[size.end :]):
            words.give_back(size.start, size.end)


def _fillers(lubricant: str | None, figures: list[Figure]) -> set[str]:
    """Words that say nothing. “Lubricated” says nothing beside its compound; where a figure has
    none it stays to be asked.
    """
    fillers = set(english()["fillers"].split())
    named = lubricant is not None and all(figure.lubricant for figure in figures)
    if lubricant is not None and named and not lubricant.startswith("dry"):
        fillers |= set(english()["with_lubricant"].split())
    return fillers


def read_line(text: str) -> Line:
    """Read a line of a manual. What can be no torque is recognised first.

    Raises BadQuantity for one that is too long.

    >>> line = read_line("Torque to 120 Nm in a star pattern, recheck after 40 h")
    >>> round(line.figures[0].torque), line.order, line.rechecks[0].at[0].words(), line.left
    (120000, 'star', '40 h', ())
    >>> read_line("1/2-13 Grade 5 to 75 ft-lb").figures[0].texts
    ('75 ft·lbf',)
    """
    if len(text) > LONGEST:
        reason = f"Enter at most {LONGEST} characters at a time"
        raise BadQuantity(Message.BAD_VALUE, ("text",), reason=reason)
    words = Words(text)
    sizes = set_apart(words)
    sequence = sequence_of(words)
    counts_apart(words)
    back_off, wait = back_off_of(words), wait_of(words)
    rechecks = rechecks_of(words)
    torques = torques_of(words, sizes)
    figures = angles_of(words, yields_of(words, torques.figures))
    new = new_fasteners_in(words)
    checks = check_round_in(words)
    shares, equal = shares_of(words)
    if torques.shares and (equal or not shares):
        shares, equal = torques.shares, False
    order = order_of(words)
    figures, lubricant = lubricants_of(words, figures)
    _about(words)
    _give_back_unread(words, sizes)
    unused = words.left(_fillers(lubricant, figures))
    return Line(
        tuple(figures),
        tuple(shares),
        order,
        checks,
        tuple(rechecks),
        lubricant,
        tuple(words.line[p.start : p.end] for p in unused),
        tuple(sorted(words.parts, key=lambda p: p.start)),
        equal_steps=equal,
        sequence=sequence,
        back_off=back_off,
        wait=wait,
        new_fasteners=new,
        asked=tuple(torques.asked),
        unused=tuple(unused),
    )
