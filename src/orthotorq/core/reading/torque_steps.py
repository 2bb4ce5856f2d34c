"""All torques of a line: which are steps to one figure, and which size each is said for."""

from __future__ import annotations

import re
from dataclasses import replace
from itertools import pairwise

from .designations import Size
from .torque_lists import chain_of, list_by_size
from .torques import LEAST_STEPS, Figure, Question, Torques, paired, statements
from .words import Words

#: words that say that one torque comes after the other at the same bolts
_STEPS = re.compile(
    r"(?<![\w])(?:then|finally|final|steps?|stages?|pass(?:es)?|rounds?|increas\w+|first|second|"
    r"third|initial(?:ly)?|"
    r"follow\w*|next|after(?:wards)?|subsequent\w*|pre-?tighten\w*|pre-?torque\w*)(?![\w])|→|>|"
    r"(?:^|\s)\(?\d[.)]\s"
)
_FIRST = re.compile(r"(?<![\w])(?:pre-?(?:tighten|torque|load)\w*|initial(?:ly)?|first)(?![\w])")
_INSTEAD = re.compile(
    r"(?<![\w])(?:or|alternatively|versus|vs|compared|loosen\w*|back\w*|slacken\w*|release\w*|"
    r"undo)(?![\w])"
)
_PARTS = re.compile(
    r"(?<![\w])(?:inner|outer|upper|lower|front|rear|left|right|top|bottom|cover|cap|flange|"
    r"foot|side|wheel|gland|lock|jam|"
    r"drain|guard|body|head|base|long|short|large|small)(?![\w])"
)


def _steps(words: Words, figures: list[Figure]) -> Torques | None:
    """Torques one after the other at the same bolts, each higher: the last is the figure."""
    plain = [f for f in figures if f.plain]
    torques = [f.torque or 0.0 for f in plain]
    rising = all(a < b for a, b in pairwise(torques))
    if len(plain) < LEAST_STEPS or not rising or len({f.thread for f in plain}) > 1:
        return None
    between = [words.line[a.end : b.start].lower() for a, b in pairwise(plain)]
    before = words.line[: plain[0].start].lower()
    if any(_INSTEAD.search(text) for text in between):
        return None
    marked = (
        all(_STEPS.search(text) for text in between)
        or bool(_FIRST.search(before))
        or bool(
            _STEPS.search(before)
            and all(re.fullmatch(r"[\s,;]*(?:and|to)?\s*(?:to)?\s*", t) for t in between)
        )
    )
    named = [frozenset(_PARTS.findall(text)) for text in (before, *between)]
    if not marked or (any(named[1:]) and len(set(named)) > 1):
        return None
    last = plain[-1]
    rest = [f for f in figures if f not in plain[:-1]]
    return Torques(rest, [100 * t / (last.torque or 1.0) for t in torques])


def _said_for(words: Words, figures: list[Figure], sizes: list[Size]) -> list[Figure]:
    """Each figure with the size it is said for: the one before it, else the one behind it."""
    if len({s.name for s in sizes}) == 1:
        return [replace(f, thread=f.thread or sizes[0].name) for f in figures]
    out = list[Figure]()
    for number, one in enumerate(figures):
        since = figures[number - 1].end if number else 0
        until = figures[number + 1].start if number + 1 < len(figures) else len(words.text)
        ahead = [s for s in sizes if since <= s.start < one.start]
        behind = [s for s in sizes if one.end <= s.start < until]
        near = ahead[-1:] or (
            behind[:1] if not number or not out[-1].thread or len(figures) == 1 else []
        )
        out.append(replace(one, thread=one.thread or (near[0].name if near else None)))
    # “450 Nm for M20, 780 Nm for M24”: the size stands behind each
    if len(figures) > 1 and figures[0].start < min((s.start for s in sizes), default=0):
        pairs = [next((s for s in sizes if f.end <= s.start), None) for f in figures]
        if all(pairs):
            return [replace(f, thread=s.name) for f, s in zip(figures, pairs, strict=True) if s]
    return out


def torques_of(words: Words, sizes: list[Size]) -> Torques:
    """Every torque figure of a line, with the words taken out of it."""
    rows = list_by_size(words, sizes)
    for row in rows:
        words.take("figure", row.start, row.end)
    chain = None if rows else chain_of(words)
    asked = list[Question]()
    figures = paired(words, statements(words, asked))
    for figure in figures:
        words.take("figure", figure.start, figure.end)
    figures = sorted([*rows, *(chain.figures if chain else []), *figures], key=lambda f: f.start)
    figures = _said_for(words, figures, sizes)
    stepped = None if chain else _steps(words, figures)
    shares = chain.shares if chain else stepped.shares if stepped else []
    return Torques(stepped.figures if stepped else figures, shares, asked)
