"""Torque figures in a line: one, a range, a tolerance, a bound, the same in a second unit, steps, a
list by size."""

from __future__ import annotations

import re
from dataclasses import dataclass, field, replace

from ..errors import OrthotorqError
from ..units import Quantity, pair_difference, read_number
from .designations import WIDEST, may_be_a_class
from .units_in_text import MAYBE_UNIT, NUMBER, torque, torque_unit, two_readings
from .words import Words, any_of, english

_TO = r"\s*(?:-|to|\.{2,3}|…|through|thru)\s*"
_OFF = r"\s*,?\s*[\(\[]?\s*(?:±|\+\s?/\s?-|\+-|plus or minus|plus/minus|\+ or -)\s*"
#: what may stand between one figure and the same in another unit
_JOINED = re.compile(
    r"\s*[(\[/=,|]?\s*(?:(?:or|equals|approx(?:imately|\.)?|about|ca\.?|i\.e\.)\s*)?[(\[]?\s*"
)
#: what may stand between the least and the most of one figure
_AND_SO = re.compile(r"[\s,;/()]*(?:and|to|but)?[\s,(]*")
LEAST_STEPS = 2


@dataclass(frozen=True, slots=True)
class Figure:
    """A figure as a line states it: torque and its ends [N·mm], turns one after the other [rad];
    None where not said.

    `pair_agrees` is whether the second statement of it, in another unit, is the same figure.
    `texts` are the torques as a plan writes them. `thread`, `lubricant` and `yields` [percent of
    yield] are what it is said for.
    """

    torque: float | None = None
    low: float | None = None
    high: float | None = None
    pair_agrees: bool | None = None
    angles: tuple[float, ...] = ()
    texts: tuple[str, ...] = ()
    ends: tuple[str, ...] = ()
    start: int = 0
    end: int = 0
    thread: str | None = None
    lubricant: str | None = None
    yields: tuple[float, ...] = ()

    @property
    def angle(self) -> float | None:
        """All of its turns together [rad]."""
        return sum(self.angles) if self.angles else None

    @property
    def plain(self) -> bool:
        """Whether it is one torque and nothing else."""
        return self.torque is not None and self.low is None and self.high is None


@dataclass(frozen=True, slots=True)
class Question:
    """Words that have two readings: both, as a plan would write them."""

    readings: tuple[str, ...]
    start: int
    end: int


@dataclass(slots=True)
class Torques:
    """What a line says of torques: figures, the shares that its rising steps are [percent], what
    has two readings."""

    figures: list[Figure] = field(default_factory=list)
    shares: list[float] = field(default_factory=list)
    asked: list[Question] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class Said:
    """One statement: a torque, the ends of a range."""

    torque: Quantity | None
    low: Quantity | None
    high: Quantity | None
    low_base: float | None
    high_base: float | None
    start: int
    end: int

    @property
    def unit(self) -> str:
        """The unit it is written in."""
        one = self.torque or self.low or self.high
        return one.unit if one else ""


_RANGE = re.compile(
    rf"(?:between\s+(?P<a>{NUMBER})\s*(?P<ua>{MAYBE_UNIT})?\s*and\s*"
    rf"|(?:from\s+)?(?P<b>{NUMBER})\s*(?P<ub>{MAYBE_UNIT})?{_TO})"
    rf"(?P<c>{NUMBER})\s*-?\s*(?P<u>{MAYBE_UNIT})"
)
_TOLERANCE = re.compile(
    rf"(?P<n>{NUMBER})\s*(?P<u>{MAYBE_UNIT})?{_OFF}(?P<t>{NUMBER})\s*(?P<p>%|percent)?\s*"
    rf"(?P<v>{MAYBE_UNIT})?\s*[\)\]]?(?:\s*(?P<w>{MAYBE_UNIT}))?"
)
_UNEVEN = re.compile(
    rf"(?P<n>{NUMBER})\s*(?P<u>{MAYBE_UNIT})\s*[\(\[]?\s*\+\s*(?P<h>[\d.]+)\s*(?P<p>%)?"
    r"\s*[/,]?\s*-\s*"
    rf"(?P<l>[\d.]+)\s*(?P<q>%)?\s*(?P<v>{MAYBE_UNIT})?\s*[\)\]]?"
)
PLAIN = re.compile(rf"(?P<n>{NUMBER})\s*-?\s*(?P<u>{MAYBE_UNIT})")


def _range(words: Words, at: int, asked: list[Question]) -> Said | None:
    found = _RANGE.match(words.text, at)
    unit = torque_unit(found["u"]) if found else None
    first = (found["ua"] or found["ub"]) if found else None
    if not found or unit is None or (first and torque_unit(first) is None):
        return None
    low = torque(found["a"] or found["b"], torque_unit(first) or unit)
    high = torque(found["c"], unit)
    if low.base > high.base:
        return None
    wide = not low.base or high.base / low.base > WIDEST
    if wide or may_be_a_class(words, at):
        if not found["a"]:
            readings = f"{written(low)} to {written(high)}", written(high)
            asked.append(Question(readings, *found.span()))
        return Said(None, None, None, None, None, *found.span())
    return Said(None, low, high, low.base, high.base, *found.span())


def _with_tolerance(words: Words, at: int, asked: list[Question]) -> Said | None:
    found = _TOLERANCE.match(words.text, at)
    if found:
        unit = torque_unit(found["u"]) or torque_unit(found["v"]) or torque_unit(found["w"])
        if unit is None or (not found["p"] and found["v"] and torque_unit(found["v"]) is None):
            return None
        middle = torque(found["n"], unit)
        share = middle.base * read_number(found["t"])[0] / 100
        off = share if found["p"] else torque(found["t"], torque_unit(found["v"]) or unit).base
        low, high = middle.base - off, middle.base + off
        return None if off >= middle.base else Said(middle, None, None, low, high, *found.span())
    found = _UNEVEN.match(words.text, at)
    unit = torque_unit(found["u"]) if found else None
    if not found or unit is None:
        return None
    middle, per_cent = torque(found["n"], unit), found["p"] or found["q"]
    up, down = (
        middle.base * read_number(found[k])[0] / 100
        if per_cent
        else torque(found[k], torque_unit(found["v"]) or unit).base
        for k in ("h", "l")
    )
    return Said(middle, None, None, middle.base - down, middle.base + up, *found.span())


def _plain(words: Words, at: int, asked: list[Question]) -> Said | None:
    found = PLAIN.match(words.text, at)
    if not found:
        return None
    unit = torque_unit(found["u"])
    if unit is None:
        # pounds alone are inches or feet of them: nobody chooses here
        if re.fullmatch(r"lbf?s?\.?|pounds?", found["u"].strip()):
            readings = f"{found['n']} ft·lbf", f"{found['n']} in·lbf"
            asked.append(Question(readings, found.start(), found.end()))
        return None
    if two := two_readings(found["n"], unit):
        asked.append(Question(two, *found.span()))
        return None
    return Said(torque(found["n"], unit), None, None, None, None, *found.span())


def _bounded(words: Words, said: Said) -> Said:
    """A figure that is only a bound: at most, at least, before it or behind it."""
    if said.torque is None or said.low_base is not None:
        return said
    patterns = english()
    for kind in ("most", "least"):
        before = re.compile(
            rf"(?<![\w])(?:{any_of(patterns[kind])})(?:\s+(?:a|the|of|is|to|torque))*[\s:=(]*$"
        ).search(words.text[: said.start])
        after = (
            r"max(?:imum|\.)?|at (?:the )?most"
            if kind == "most"
            else r"min(?:imum|\.)?|at least|or more"
        )
        behind = None
        if not (kind == "most" and before):
            behind = re.compile(rf"\s*\(?(?:{after})(?![\w])(?!\.?\s*\d)\)?").match(
                words.text, said.end
            )
        if before or behind:
            span = (before.start() if before else said.start, behind.end() if behind else said.end)
            low, high = (None, said.torque) if kind == "most" else (said.torque, None)
            bases = low.base if low else None, high.base if high else None
            return Said(None, low, high, *bases, *span)
    return said


_OF_A_TOOL = re.compile(r"(?<![\w])(?:range|capacity|rated)(?:\s+(?:of|from|is|up|to))*\s*:?\s*$")
_SIGNED = re.compile(r"[\d)]\s*[-+±]\s*$")


def _denied(words: Words, said: Said) -> bool:
    """Whether it is no figure for the bolt: `not 60 Nm`, the 5 of `60 -5 Nm`, what a wrench can do;
    a bound has its negation in it."""
    before = words.text[: said.start]
    tool = _OF_A_TOOL.search(before) and re.search(r"wrench|tool|spanner", before)
    denied = said.torque is not None and words.negated(said.start)
    return bool(denied or tool or (said.low is None and _SIGNED.search(before)))


def statements(words: Words, asked: list[Question]) -> list[Said]:
    """Every statement of a torque, with what has two readings added to `asked`."""
    out, at, begins = [], 0, re.compile(rf"(?:between\s+|from\s+)?{NUMBER}")
    while (found := begins.search(words.text, at)) is not None:
        said = None
        try:
            for read in (_range, _with_tolerance, _plain):
                said = said or read(words, found.start(), asked)
        except OrthotorqError:
            said = None
        at = max(found.end(), found.start() + 1) if said is None else said.end
        # of “increments of 50 N·m” nothing is a figure for the bolt, and nothing of zero is one
        if said is None or not any(q.base for q in (said.torque, said.low, said.high) if q):
            continue
        if re.search(rf"(?<![\w]){english()['steps_of']}", words.text[: said.start]):
            continue
        bounded = _bounded(words, said)
        if not _denied(words, bounded):
            out.append(bounded)
    return out


def _same(first: Said, second: Said) -> bool | None:
    """Whether two statements in two units are one figure; None where they are not of one form."""
    pairs = [(getattr(first, k), getattr(second, k)) for k in ("torque", "low", "high")]
    if any((a is None) != (b is None) for a, b in pairs):
        return None
    return all(
        pair_difference(a, b)[1] for a, b in pairs if a is not None and b is not None and a.base
    )


def written(one: Quantity) -> str:
    """A torque as a plan writes it."""
    return f"{one.value:g} {one.unit}"


def _figure(one: Said) -> Figure:
    return Figure(
        torque=one.torque.base if one.torque else None,
        low=one.low_base,
        high=one.high_base,
        texts=(written(one.torque),) if one.torque else (),
        ends=tuple(written(q) for q in (one.low, one.high) if q),
        start=one.start,
        end=one.end,
    )


def _closes(last: Figure, one: Figure) -> bool:
    """Whether a figure that is only a least follows one that is only a most."""
    ends = last.torque is None and last.low is None and last.high is not None
    return ends and one.torque is None and one.high is None and one.low is not None


def paired(words: Words, said: list[Said]) -> list[Figure]:
    """Statements as figures: the same in a second unit, and the two ends of one range, are one."""
    out = list[tuple[Figure, Said]]()
    for one in said:
        last = out[-1] if out else None
        between = words.text[last[0].end : one.start] if last else ""
        joined = _JOINED.fullmatch(between)
        if (
            last
            and joined
            and one.unit != last[1].unit
            and (agrees := _same(last[1], one)) is not None
        ):
            end = one.end + (1 if words.text[one.end : one.end + 1] in (")", "]") else 0)
            both = agrees and last[0].pair_agrees is not False
            texts = last[0].texts + _figure(one).texts
            out[-1] = replace(last[0], pair_agrees=both, end=end, texts=texts), last[1]
            continue
        figure = _figure(one)
        # at least so much, at most so much: one figure
        lower = last is not None and last[0].torque is None and last[0].low is not None
        if last and _closes(last[0], figure) and _AND_SO.fullmatch(between):
            # at most so much, at least so much
            ends = figure.ends + last[0].ends
            out[-1] = replace(last[0], low=figure.low, ends=ends, end=figure.end), one
            continue
        upper = figure.torque is None and figure.low is None
        if last and lower and last[0].high is None and upper and _AND_SO.fullmatch(between):
            ends = last[0].ends + figure.ends
            figure = replace(figure, low=last[0].low, ends=ends, start=last[0].start)
            out.pop()
        again = (
            last is not None and figure.plain and last[0].plain and figure.torque == last[0].torque
        )
        if again and not re.search(r"[:=]|m\d|\d/\d", between):
            # the same torque once more is the same figure
            words.take("figure", figure.start, figure.end)
            continue
        out.append((figure, one))
    return [figure for figure, _ in out]
