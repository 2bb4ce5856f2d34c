"""A sequence of bolts as somebody types or pastes it: numbers, ranges, pairs, one beside the
other."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

#: more would be no sequence of one joint
MOST_BOLTS = 2000
_PLAIN = str.maketrans(
    {"–": "-", "—": "-", "−": "-", "‑": "-", "→": ">", "➔": ">", "…": "..", "\u00a0": " "}
)
_SAYS_NOTHING = re.compile(
    r"(?<![a-z])(?:bolts?|nuts?|studs?|screws?|numbers?|nos?\.?|then|and|finally|sequence|"
    r"order)(?![a-z])"
)
_CHAIN = re.compile(r"[a-z]?\d+(?:\s*-+\s*[a-z]?\d+)*")
_RANGE = re.compile(r"[a-z]?(\d+)\s*(?:\.{2,3}|to|thru|through)\s*[a-z]?(\d+)")
_NUMBER = re.compile(r"[a-z]?(\d+)")


@dataclass(frozen=True, slots=True)
class SequenceRead:
    """A sequence as painted numbers; `left` are the words that were not understood.

    `other` is what else the text may mean, where `1-4` is a range in one reading and a pair in the
    other and neither is plainly right.
    """

    numbers: tuple[int, ...]
    left: tuple[str, ...] = ()
    other: tuple[int, ...] | None = None


def _between(first: int, last: int) -> list[int]:
    """Numbers from one to another, upwards or downwards; nothing for a range that no joint has."""
    if abs(last - first) > MOST_BOLTS:
        return [first, last]
    step = 1 if last >= first else -1
    return list(range(first, last + step, step))


def _read(text: str, pairs: bool) -> tuple[list[int], list[str], bool]:
    """(numbers, what was not understood, whether a dash stood between two numbers alone)."""
    out, left, doubtful, at = list[int](), list[str](), False, 0
    while at < len(text):
        if found := _RANGE.match(text, at):
            out += _between(int(found[1]), int(found[2]))
        elif found := _CHAIN.match(text, at):
            chain = [int(n) for n in re.findall(r"\d+", found[0])]
            # a chain of three or more is a sequence with dashes; two alone are a range or a pair
            alone = len(chain) == 2
            doubtful |= alone
            out += _between(chain[0], chain[1]) if alone and not pairs else chain
        elif found := re.match(r"[\s,;:/|>()\[\].+]+", text[at:]):
            at += found.end()
            continue
        else:
            word = re.match(r"\S+", text[at:])
            assert word is not None
            left.append(word[0])
            at += word.end()
            continue
        at = found.end()
    return out[:MOST_BOLTS], left, doubtful


def _complete(numbers: Sequence[int], bolts: Sequence[int]) -> bool:
    return sorted(numbers) == sorted(bolts)


def read_sequence(text: str, bolts: Sequence[int] = ()) -> SequenceRead:
    """Read a sequence; `bolts` are the painted numbers of the joint, which decide between a range
    and a pair where one of the two takes each bolt once.

    >>> read_sequence("1-5-3-7, 2-6-4-8").numbers
    (1, 5, 3, 7, 2, 6, 4, 8)
    >>> read_sequence("1-4, 8-5", range(1, 9)).numbers, read_sequence("1-5, 3-7").other
    ((1, 2, 3, 4, 8, 7, 6, 5), (1, 5, 3, 7))
    >>> read_sequence("1-3, 2-4", range(1, 5)).numbers, read_sequence("1 5 x").left
    ((1, 3, 2, 4), ('x',))
    """
    plain = _SAYS_NOTHING.sub(" ", text.translate(_PLAIN).lower())
    # ordinals, # and the points of a list say nothing
    plain = re.sub(r"(?<=\d)(?:st|nd|rd|th)\b|#", " ", plain)
    ranges, left, doubtful = _read(plain, pairs=False)
    if not doubtful:
        return SequenceRead(tuple(ranges), tuple(left))
    paired, _, _ = _read(plain, pairs=True)
    if ranges == paired or _complete(ranges, bolts):
        return SequenceRead(tuple(ranges), tuple(left))
    if _complete(paired, bolts):
        return SequenceRead(tuple(paired), tuple(left))
    return SequenceRead(tuple(ranges), tuple(left), tuple(paired))
