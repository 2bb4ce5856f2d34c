"""Shares of the torque, of yield, and in how many steps."""

from __future__ import annotations

import re
from dataclasses import replace

from ..thresholds import MOST_PERCENT
from ..units import read_number
from .torques import Figure
from .words import Words, any_of, english

#: more shares one after the other are none of passes
_MOST_SHARES = 12
_PERCENT = r"\d+(?:\.\d+)?"
_AND = r"\s*(?:,|/|-|;|>|→|\band\b|\bthen\b)\s*(?:(?:and|then|to|finally)\s+)*"
_YIELD = (
    r"(?:of\s+|x\s+|times\s+)?(?:the\s+)?(?:(?:bolt|stud|screw|fastener|material|minimum|"
    r"specified|guaranteed|its|their)(?:'s|s')?\s+)*"
    r"(?:yield(?:\s*(?:strength|point|stress|limit|load))?|rp ?0[.,]2|reh|sy)"
)
_NO_SHARE_BEFORE = re.compile(
    r"(?:±|\+/-|within|by|accura\w+(?: of)?|tolerance(?: of)?|less|exceed|above|below|take|"
    r"only)\s*$"
)


def yields_of(words: Words, figures: list[Figure]) -> list[Figure]:
    """Shares of yield [percent], each with the figure beside it, or as a figure of their own."""
    one = rf"{_PERCENT}(?:\s*%)?"
    several = rf"(?P<list>{one}(?:{_AND}{one}){{0,{_MOST_SHARES}}})"
    shares = rf"{several}\s*(?:%|percent|per cent)\s*{_YIELD}"
    fraction = rf"(?P<fraction>0?[.,]\d+)\s*{_YIELD}"
    out, at = list(figures), 0
    pattern = re.compile(rf"(?<![\w.,])(?:{shares}|{fraction})(?![\w])")
    while (found := pattern.search(words.text, at)) is not None:
        at = found.end()
        if found["fraction"]:
            values = [float(found["fraction"].replace(",", ".")) * 100]
        else:
            values = [read_number(t)[0] for t in re.findall(_PERCENT, found["list"])]
        denied = words.negated(found.start()) or _NO_SHARE_BEFORE.search(
            words.text[: found.start()]
        )
        limit = re.search(
            rf"(?<![\w])(?:{any_of(english()['most'])})\s*(?:to\s*)?$", words.text[: found.start()]
        )
        if denied or limit or not all(0 < v <= MOST_PERCENT.value for v in values):
            continue
        start, end = words.sentence(found.start())
        beside = [i for i, f in enumerate(out) if start <= f.start < end and f.torque is not None]
        words.take("yield", *found.span())
        if beside:
            out[beside[-1]] = replace(out[beside[-1]], yields=tuple(values))
        else:
            out.append(Figure(yields=tuple(values), start=found.start(), end=found.end()))
    return sorted(out, key=lambda f: f.start)


def shares_of(words: Words) -> tuple[list[float], bool]:
    """Shares of the torque in their order: percent, fractions, or a number of steps taken as
    equal."""
    out, patterns = list[tuple[int, float]](), english()
    several = rf"{_PERCENT}(?:\s*%)?(?:{_AND}{_PERCENT}(?:\s*%)?){{0,{_MOST_SHARES}}}"
    listed = re.compile(
        rf"(?<![\w.,±])(?P<list>{several})\s*(?:%|percent\b|per cent\b)|"
        rf"(?<![\w.,±])(?P<one>{_PERCENT}\s*%)"
    )
    at = 0
    while (found := listed.search(words.text, at)) is not None:
        at = found.end()
        behind = re.match(rf"\s*(?:{any_of(patterns['no_share_after'])})(?![\w])", words.text[at:])
        if (
            _NO_SHARE_BEFORE.search(words.text[: found.start()])
            or behind
            or words.negated(found.start())
        ):
            continue
        # “in steps of 30 %” says how large each is, not which there are
        if re.search(rf"(?<![\w]){patterns['steps_of']}", words.text[: found.start()]):
            continue
        values = [read_number(t)[0] for t in re.findall(_PERCENT, found[0])]
        if not all(0 < v <= MOST_PERCENT.value for v in values):
            continue
        out += [(found.start() + i, v) for i, v in enumerate(values)]
        words.take("shares", *found.span())
    out += _fractions(words, bool(out))
    equal = _equal_steps(words)
    if out or equal < 2:
        return [value for _, value in sorted(out)], False
    return [100.0 * (i + 1) / equal for i in range(equal)], True


def _equal_steps(words: Words) -> int:
    """In how many steps, where a line says it and not from how many on; 0 where it does not."""
    patterns = english()
    steps = (
        rf"(?:in|by|with|using|over)\s+(?P<n>\d|{'|'.join(patterns['numbers'])})\s+"
        r"(?:(?:equal|even|progressive|successive|rising|increasing|gradual|separate|"
        r"approximately equal)\s+)*"
        r"(?:steps?|stages?|pass(?:es)?|increments?|rounds?|goes)"
    )
    found = words.find(steps)
    if found is None or words.negated(found.start()):
        return 0
    words.take("shares", *found.span())
    return int(found["n"]) if found["n"].isdecimal() else int(patterns["numbers"][found["n"]])


def _fractions(words: Words, some: bool) -> list[tuple[int, float]]:
    """“One third, two thirds and full torque”: a full torque alone is no step."""
    shares = english()["shares"]
    one = "|".join(f"(?:{p})" for p in shares)
    of = r"(?:\s+of)?(?:\s+the)?(?:\s+(?:final|full|specified|rated|stated|given))?"
    apart = r"(?:\s*(?:,|and|then|to|finally|;)\s*)*"
    pattern = re.compile(
        rf"(?<![\w/])(?:{one}){of}{apart}(?:(?:{one}){of}{apart})*"
        r"(?:\s*(?:the\s+)?(?:torque|value|figure)(?![\w])|(?=\s*$|\s*[.;]))"
    )
    spans, at = list[tuple[re.Match[str], list[float]]](), 0
    while (found := pattern.search(words.text, at)) is not None:
        at = max(found.end(), at + 1)
        if words.negated(found.start()):
            continue
        values = [
            float(next(v for p, v in shares.items() if re.fullmatch(p, m[0])))
            for m in re.finditer(one, found[0])
        ]
        # in “half of full torque” the full one is what the half is of
        whole = rf"of (?:the )?(?:full|final)\b(?!.*\b(?:{one})\b)"
        if len(values) > 1 and re.search(whole, found[0]):
            values = values[:-1]
        spans.append((found, values))
    if not some and all(values == [100] for _, values in spans):
        return []
    for found, _ in spans:
        words.take("shares", *found.span())
    return [(found.start() + i, value) for found, values in spans for i, value in enumerate(values)]
