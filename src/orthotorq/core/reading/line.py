"""A line of a manual, read by patterns; what was not understood is said, never guessed."""
from __future__ import annotations

import re
from dataclasses import dataclass

from ..errors import OrthotorqError
from ..rechecking import Schedule, scan_schedule
from ..thresholds import MOST_PERCENT
from ..units import read_number
from .torques import Figure, angles_of, figures_of
from .words import GONE, Part, Words, any_of, english

_PERCENT = r"\d+(?:\.\d+)?"


@dataclass(frozen=True, slots=True)
class Line:
    """What a line says. Shares in percent; `order` of the passes, `check_round` whether one proves them; `left` are the words
    that were not understood, `parts` those that were, with their places."""

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


def _rechecks(words: Words) -> list[Schedule]:
    """Readings and intervals in a sentence that speaks of checking again."""
    patterns, out, at = english(), list[Schedule](), 0
    verbs = any_of(patterns["recheck"])
    while (found := words.find(rf"{any_of(patterns['recheck_from'])}|\d", at)) is not None:
        at = found.end()
        start, end = words.sentence(found.start())
        verb = re.compile(rf"(?<![\w])(?:{verbs})(?![\w])").search(words.text[start:end])
        if verb is None:
            continue
        try:
            schedule, stop = scan_schedule(words.text[:end], found.start())
        except OrthotorqError:
            continue
        if schedule is None:
            continue
        out.append(schedule)
        words.take("recheck", found.start(), stop)
        words.take("recheck", start + verb.start(), start + verb.end())
        at = stop
    return out


def _shares(words: Words) -> tuple[list[float], bool]:
    """Shares of the torque in their order: percent, fractions, or a number of steps taken as equal."""
    out, patterns = list[tuple[int, float]](), english()
    several = (rf"{_PERCENT}(?:\s*%)?(?:\s*(?:,|/|-|;|>|→|\band\b|\bthen\b)\s*(?:(?:and|then|to|finally)\s+)*"
               rf"{_PERCENT}(?:\s*%)?)*")
    listed = re.compile(rf"(?<![\w.,±])(?P<list>{several})\s*(?:%|percent\b|per cent\b)|(?<![\w.,±])(?P<one>{_PERCENT}\s*%)")
    at = 0
    while (found := listed.search(words.text, at)) is not None:
        at = found.end()
        if re.search(r"(?:±|\+/-)\s*$", words.text[:found.start()]) or re.match(
                rf"\s*(?:{any_of(patterns['no_share_after'])})(?![\w])", words.text[found.end():]):
            continue
        values = [read_number(t)[0] for t in re.findall(_PERCENT, found[0])]
        if not all(0 < v <= MOST_PERCENT.value for v in values):
            continue
        out += [(found.start() + i, v) for i, v in enumerate(values)]
        words.take("shares", *found.span())
    out += _fractions(words, bool(out))
    steps = (rf"(?:in|by|with)\s+(?P<n>\d|{'|'.join(patterns['numbers'])})\s+(?:(?:or more|equal|even|progressive|successive|"
             r"rising|increasing|gradual|approximately equal)\s+)*(?:steps?|stages?|passes|pass|increments?|rounds?|goes)")
    found = words.find(steps)
    equal = False
    if found is not None and not found[0].count("or more"):
        count = int(found["n"]) if found["n"].isdecimal() else int(patterns["numbers"][found["n"]])
        words.take("shares", *found.span())
        if not out and count > 1:
            out, equal = [(i, 100.0 * (i + 1) / count) for i in range(count)], True
    return [value for _, value in sorted(out)], equal


def _fractions(words: Words, some: bool) -> list[tuple[int, float]]:
    """“One third, two thirds and full torque”: a full torque alone is no step."""
    shares = english()["shares"]
    one = "|".join(f"(?:{p})" for p in shares)
    of = r"(?:\s+of)?(?:\s+the)?(?:\s+(?:final|full|specified|rated|stated|given))?"
    apart = r"(?:\s*(?:,|and|then|to|finally|;)\s*)*"
    pattern = re.compile(rf"(?<![\w/])(?:{one}){of}{apart}(?:(?:{one}){of}{apart})*"
                         r"(?:\s*(?:the\s+)?(?:torque|value|figure)(?![\w])|(?=\s*$|\s*[.;]))")
    spans, at = list[tuple[re.Match[str], list[float]]](), 0
    while (found := pattern.search(words.text, at)) is not None:
        at = max(found.end(), at + 1)
        values = [float(next(v for p, v in shares.items() if re.fullmatch(p, m[0]))) for m in re.finditer(one, found[0])]
        # in “half of full torque” the full one is what the half is of
        if len(values) > 1 and re.search(rf"of (?:the )?(?:full|final)\b(?!.*\b(?:{one})\b)", found[0]):
            values = values[:-1]
        spans.append((found, values))
    if not some and all(values == [100] for _, values in spans):
        return []
    for found, _ in spans:
        words.take("shares", *found.span())
    return [(found.start() + i, value) for found, values in spans for i, value in enumerate(values)]


def _about(words: Words) -> None:
    """What is said of the joint: by hand, snug, how many, which thread and grade."""
    for about in ("hand", "snug", "count", "grade", "thread"):
        spelled = english()[about]
        while (found := words.find(spelled if isinstance(spelled, str) else any_of(spelled))) is not None:
            words.take(about, *found.span())


def _check_round(words: Words) -> bool:
    """Whether a round proves the passes; its own order and its full torque go with it."""
    checks, at = False, 0
    own = (rf"[\s,]*(?:(?:once|going|then|all|the way)\s+)*(?:(?:{_any_order()})|"
           r"(?:at|to) (?:the )?(?:full|final|same|100 ?%)(?: torque| value)?)(?![\w])")
    while (found := words.find(any_of(english()["check_round"]), at)) is not None:
        checks, end = True, found.end()
        while (behind := re.match(own, words.text[end:])) is not None:
            end += behind.end()
        words.take("check round", found.start(), end)
        at = end
    return checks


def _order(words: Words) -> str | None:
    """The order of the passes: the first that is named."""
    named = [(found.start(), kind) for kind, spelled in english()["orders"].items() if (found := words.find(any_of(spelled)))]
    order = min(named)[1] if named else None
    while order is not None and (found := words.find(any_of(english()["orders"][order]))) is not None:
        words.take("order", *found.span())
    return order


def _any_order() -> str:
    return any_of([p for spelled in english()["orders"].values() for p in spelled])


def _lubricant(words: Words) -> str | None:
    """A compound of the table; two of them are not decided here."""
    found = list[tuple[str, int, int]]()
    for name, spelled in english()["lubricants"].items():
        while (match := words.find(any_of(spelled))) is not None:
            found.append((name, *match.span()))
            words.text = words.text[:match.start()] + GONE * len(match[0]) + words.text[match.end():]
    names = {name for name, _, _ in found}
    for _, start, end in found:
        if len(names) == 1:
            words.take("lubricant", start, end)
        else:
            words.text = words.text[:start] + words.line[start:end].lower() + words.text[end:]
    return found[0][0] if len(names) == 1 else None


def read_line(text: str) -> Line:
    """Read a line of a manual.

    >>> line = read_line("Torque to 120 Nm in a star pattern, recheck after 40 h")
    >>> round(line.figures[0].torque), line.order, line.rechecks[0].at[0].words(), line.left
    (120000, 'star', '40 h', ())
    """
    words = Words(text[:4000])
    rechecks = _rechecks(words)
    figures = figures_of(words)
    figures = angles_of(words, figures)
    checks = _check_round(words)
    shares, equal = _shares(words)
    order = _order(words)
    lubricant = _lubricant(words)
    _about(words)
    understood = set(english()["fillers"].split())
    if lubricant is not None:
        understood |= set(english()["with_lubricant"].split())
    return Line(tuple(figures), tuple(shares), order, checks, tuple(rechecks), lubricant, tuple(words.left(understood)),
                tuple(sorted(words.parts, key=lambda p: p.start)), equal)
