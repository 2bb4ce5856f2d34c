"""Torque figures in a line: one, a range, a tolerance, a bound, the same in a second unit, an angle after it."""
from __future__ import annotations

import math
import re
from dataclasses import dataclass, replace

from ..errors import OrthotorqError
from ..units import Quantity, find_unit, pair_difference, parse, read_number
from .words import GONE, Words, any_of, english

_N = r"(?<![\w.,])(?<!\d/)(?:\d{1,3}(?:[ '](?=\d{3}(?!\d))\d{3})+|\d+(?:[.,]\d+)*|\.\d+)(?![\d])"
#: two halves of a unit of torque, in the spellings of manuals; what they are is decided by the table of units
_FIRST = (r"(?:k|da|c|m)?n(?:ewtons?)?|ft|foot|feet|lbf?s?|pounds?|pound-force|in|inch(?:es)?|kgf?|kp|mkp|mkg|kpm|m|oz|ozf|"
          r"cnm|nm|knm|nmm|ncm|danm|ftlbs?|ftlbf|inlbs?|inlbf|kgm|kgcm|kpcm|kgfm|kgfcm")
_SECOND = (r"mm|cm|m|met(?:re|er)s?|ft|foot|feet|lbf?s?|pounds?|pounds?-force|in|inch(?:es)?|kgf?|kp|ozf?|n")
_U = rf"(?:{_FIRST})(?:\.?\s?[·⋅∙.\-*x/]?\s?(?:{_SECOND}))?\.?(?![\w])"
_TO = r"\s*(?:-|to|\.{2,3}|…|through|thru)\s*"
_OFF = r"\s*,?\s*[\(\[]?\s*(?:±|\+\s?/\s?-|\+-|plus or minus|plus/minus|\+ or -)\s*"


#: what may stand between one figure and the same in another unit
_JOINED = re.compile(r"\s*[(\[/=,|]?\s*(?:(?:or|equals|approx(?:imately|\.)?|about|ca\.?|i\.e\.)\s*)?[(\[]?\s*")


@dataclass(frozen=True, slots=True)
class Figure:
    """A figure as a line states it: torque and its ends [N·mm], angle [rad]; None where not said. `pair_agrees` is whether
    the second statement of it, in another unit, is the same figure. `texts` are the torques as a plan writes them."""

    torque: float | None = None
    low: float | None = None
    high: float | None = None
    pair_agrees: bool | None = None
    angle: float | None = None
    texts: tuple[str, ...] = ()
    ends: tuple[str, ...] = ()
    start: int = 0
    end: int = 0


@dataclass(frozen=True, slots=True)
class _Said:
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


def _unit(text: str | None) -> str | None:
    """The symbol of a unit of torque, or None."""
    if not text:
        return None
    found = find_unit(re.sub(r"\.", "", text.strip()) if re.search(r"\.\s|\.$", text.strip()) else text.strip())
    found = found or find_unit(re.sub(r"[.\s]+", " ", text.strip()))
    return found[1] if found is not None and found[0] == "torque" else None


def _quantity(number: str, unit: str) -> Quantity:
    return parse(f"{number} {unit}", "torque")


def _range(words: Words, at: int) -> _Said | None:
    found = re.compile(rf"(?:between\s+(?P<a>{_N})\s*(?P<ua>{_U})?\s*and\s*|(?:from\s+)?(?P<b>{_N})\s*(?P<ub>{_U})?{_TO})"
                       rf"(?P<c>{_N})\s*(?P<u>{_U})").match(words.text, at)
    unit = _unit(found["u"]) if found else None
    if not found or unit is None:
        return None
    first_unit = _unit(found["ua"] or found["ub"]) or unit
    low, high = _quantity(found["a"] or found["b"], first_unit), _quantity(found["c"], unit)
    if low.base > high.base:
        return None
    return _Said(None, low, high, low.base, high.base, *found.span())


def _with_tolerance(words: Words, at: int) -> _Said | None:
    found = re.compile(rf"(?P<n>{_N})\s*(?P<u>{_U})?{_OFF}(?P<t>{_N})\s*(?P<p>%|percent)?\s*(?P<v>{_U})?\s*[\)\]]?").match(
        words.text, at)
    if found:
        unit = _unit(found["u"]) or _unit(found["v"])
        if unit is None or (not found["p"] and found["v"] and _unit(found["v"]) is None):
            return None
        torque = _quantity(found["n"], unit)
        off = torque.base * read_number(found["t"])[0] / 100 if found["p"] else \
            _quantity(found["t"], _unit(found["v"]) or unit).base
        return None if off >= torque.base else _Said(torque, None, None, torque.base - off, torque.base + off, *found.span())
    found = re.compile(rf"(?P<n>{_N})\s*(?P<u>{_U})\s*[\(\[]?\s*\+\s*(?P<h>[\d.]+)\s*(?P<p>%)?\s*[/,]?\s*-\s*(?P<l>[\d.]+)"
                       rf"\s*(?P<q>%)?\s*(?P<v>{_U})?\s*[\)\]]?").match(words.text, at)
    unit = _unit(found["u"]) if found else None
    if not found or unit is None:
        return None
    torque, share = _quantity(found["n"], unit), found["p"] or found["q"]
    up, down = (torque.base * read_number(found[k])[0] / 100 if share else
                _quantity(found[k], _unit(found["v"]) or unit).base for k in ("h", "l"))
    return _Said(torque, None, None, torque.base - down, torque.base + up, *found.span())


def _bounded(words: Words, said: _Said) -> _Said:
    """A figure that is only a bound: at most, at least, before it or behind it."""
    if said.torque is None or said.low_base is not None:
        return said
    patterns = english()
    for kind in ("most", "least"):
        before = re.compile(rf"(?<![\w])(?:{any_of(patterns[kind])})(?:\s+(?:a|the|of|is|to|torque))*[\s:=(]*$").search(
            words.text[:said.start])
        behind = None if kind == "most" and before else re.compile(
            r"\s*\(?(?:max(?:imum|\.)?|at (?:the )?most)(?![\w])\)?" if kind == "most" else
            r"\s*\(?(?:min(?:imum|\.)?|at least|or more)(?![\w])\)?").match(words.text, said.end)
        if before or behind:
            span = (before.start() if before else said.start, behind.end() if behind else said.end)
            low, high = (None, said.torque) if kind == "most" else (said.torque, None)
            return _Said(None, low, high, low.base if low else None, high.base if high else None, *span)
    return said


def _statements(words: Words) -> list[_Said]:
    out, at = [], 0
    while (found := re.compile(rf"(?:between\s+|from\s+)?{_N}").search(words.text, at)) is not None:
        said = None
        try:
            for read in (_range, _with_tolerance, _plain):
                said = said or read(words, found.start())
        except OrthotorqError:
            said = None
        # of “increments of 50 N·m” nothing is a figure for the bolt, and nothing of zero is one
        if said is None or not any(q.base for q in (said.torque, said.low, said.high) if q) or re.search(
                rf"(?<![\w]){english()['steps_of']}", words.text[:said.start]):
            at = max(found.end(), found.start() + 1)
            continue
        out.append(_bounded(words, said))
        at = said.end
    return out


def _plain(words: Words, at: int) -> _Said | None:
    found = re.compile(rf"(?P<n>{_N})\s*-?\s*(?P<u>{_U})").match(words.text, at)
    unit = _unit(found["u"]) if found else None
    if not found or unit is None:
        return None
    return _Said(_quantity(found["n"], unit), None, None, None, None, *found.span())


def _same(first: _Said, second: _Said) -> bool | None:
    """Whether two statements in two units are one figure; None where they are not of one form."""
    pairs = [(getattr(first, k), getattr(second, k)) for k in ("torque", "low", "high")]
    if any((a is None) != (b is None) for a, b in pairs):
        return None
    return all(pair_difference(a, b)[1] for a, b in pairs if a is not None and b is not None and a.base)


def figures_of(words: Words) -> list[Figure]:
    """Every torque figure of a line, with the words taken out of it."""
    said, out = _statements(words), list[tuple[Figure, _Said]]()
    for one in said:
        last = out[-1] if out else None
        between = words.text[last[0].end:one.start] if last else ""
        joined = _JOINED.fullmatch(between)
        if last and joined and one.unit != last[1].unit and (agrees := _same(last[1], one)) is not None:
            end = one.end + (1 if words.text[one.end:one.end + 1] in (")", "]") else 0)
            both = agrees and last[0].pair_agrees is not False
            out[-1] = replace(last[0], pair_agrees=both, end=end, texts=last[0].texts + _texts(one)), last[1]
            continue
        figure = Figure(one.torque.base if one.torque else None, one.low_base, one.high_base, None, None, _texts(one),
                        tuple(_written(q) for q in (one.low, one.high) if q), one.start, one.end)
        # at least so much, at most so much: one figure
        if last and last[0].torque is None and figure.torque is None and last[0].low is not None and last[0].high is None \
                and figure.low is None and re.fullmatch(r"[\s,;/()]*(?:and|to|but)?[\s,(]*", between):
            figure = replace(figure, low=last[0].low, ends=last[0].ends + figure.ends, start=last[0].start)
            out.pop()
        out.append((figure, one))
    for figure, _ in out:
        words.take("figure", figure.start, figure.end)
    return [figure for figure, _ in out]


def _written(one: Quantity) -> str:
    return f"{one.value:g} {one.unit}"


def _texts(one: _Said) -> tuple[str, ...]:
    return (_written(one.torque),) if one.torque else ()


def _turn_of(found: re.Match[str], shares: dict[str, float]) -> float | None:
    """A turn [rad] from its words."""
    if found["n"]:
        number = english()["numbers"].get(found["n"])
        value = float(number) if number is not None else read_number(found["n"])[0]
        unit = found["unit"]
        if unit.startswith(("°", "deg")):
            return math.radians(value)
        return value * (math.pi / 3 if unit.startswith("flat") else 2 * math.pi)
    share = next((s for words, s in shares.items() if re.fullmatch(words, found["share"].strip())), None)
    return None if share is None else share * 2 * math.pi


def angles_of(words: Words, figures: list[Figure]) -> list[Figure]:
    """The figures with the angles that are turned after them; an angle alone is a figure of its own."""
    patterns = english()
    shares, counted = patterns["turns"], "|".join(patterns["numbers"])
    pattern = re.compile(
        rf"(?<![\w./,])(?:(?P<n>\d+\s+\d/\d|\d/\d|\d+(?:\.\d+)?|{counted})\s*-?\s*(?P<unit>°(?!\s*[cf]\b)|deg(?:rees?)?\b\.?(?!\s*[cf]\b)"
        rf"|turns?\b|rev(?:olution)?s?\b|flats?\b)|(?P<share>{any_of(list(shares))})\s*(?:turns?|rev(?:olution)?s?|rotations?)\b)")
    out, at = list(figures), 0
    while (found := pattern.search(words.text, at)) is not None:
        at = found.end()
        before = words.text[max(words.sentence(found.start())[0], found.start() - 40):found.start()]
        behind = words.text[found.end():found.end() + 24]
        if re.search(rf"(?<![\w])(?:{any_of(patterns['back_off'])})(?![\w])[^,;{GONE}]*$", before) \
                or re.search(r"\d\s*(?:°|deg(?:rees?)?)?\s*(?:-|to)\s*$", before) \
                or re.match(rf"[\s-]*(?:{any_of(patterns['no_turn_after'])})(?![\w])", behind):
            continue
        if between := re.match(r"\s*(?:-|to)\s*\d[\d.]*\s*\S*", behind):
            # between two angles nobody chooses here
            at += between.end()
            continue
        try:
            angle = _turn_of(found, shares)
        except OrthotorqError:
            continue
        if not angle:
            continue
        index = max((i for i, f in enumerate(out) if f.start <= found.start()), default=-1)
        if index >= 0 and out[index].end <= found.start():
            out[index] = replace(out[index], angle=(out[index].angle or 0.0) + angle)
        else:
            out.insert(index + 1, Figure(angle=angle, start=found.start(), end=found.end()))
        off = re.match(r"\s*(?:±|\+\s?/\s?-|plus or minus)\s*\d[\d.]*\s*(?:°|deg(?:rees?)?)?", words.text[found.end():])
        at = found.end() + (off.end() if off else 0)
        words.take("angle", found.start(), at)
    return out
