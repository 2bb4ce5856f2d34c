"""The words of a line while it is read: what was understood is blanked out and not read twice."""

from __future__ import annotations

import json
import re
from bisect import bisect_right
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files
from typing import Any

GONE = "\0"
#: signs around a word that are not of it
_AROUND = ".,;:()[]{}!?\"'/=*•|“”"
_PLAIN = str.maketrans(
    {
        "–": "-",
        "—": "-",
        "−": "-",
        "‑": "-",
        "×": "x",
        "’": "'",
        "“": '"',
        "”": '"',
        "\u00a0": " ",
        "\u2009": " ",
        "\u202f": " ",
        "º": "°",
        "˚": "°",
    }
)


def _plain(line: str) -> str:
    """A line in small letters and plain signs, each in its place; dots between numbers are a
    dash."""
    text = "".join(c.lower() if len(c.lower()) == 1 else c for c in line.translate(_PLAIN))
    return re.sub(r"(?<=\d)\.{2,3}(?=\d)", lambda dots: "-".center(len(dots[0])), text)


@lru_cache(maxsize=1)
def english() -> dict[str, Any]:
    """The patterns of English manuals."""
    found: dict[str, Any] = json.loads(
        (files(__package__) / "english.json").read_text(encoding="utf-8")
    )
    return found


def any_of(patterns: list[str]) -> str:
    """One pattern of several, the longest first."""
    return "|".join(sorted(patterns, key=len, reverse=True))


_NEGATIONS = (
    r"(?:no|not|never|without|don't|avoid|neither|nor|cannot|mustn't|isn't|aren't|"
    r"instead of|rather than)"
)
#: how far before a word its negation can stand
_FAR = 120
_DENIAL_ENDS = re.compile(r"[,;:()\n]|\.(?=\s)|(?<![\w])(?:but|then)(?![\w])")
_CLAUSE_ENDS = re.compile(r"[,;:()\n/]|\.(?=\s)|(?<![\w])(?:but|then|and|or)(?![\w])")
_SENTENCE_ENDS = re.compile(r"[;\n]|\.(?=\s+[A-Z0-9]|\s*$)")


@dataclass(frozen=True, slots=True)
class Part:
    """Words that were understood: what they are about, and where in the line they begin and end."""

    about: str
    start: int
    end: int


class Words:
    """A line; `text` is what is left of it in small letters, in the same places."""

    def __init__(self, line: str) -> None:
        self.line = line
        self.text = _plain(line)
        self.parts: list[Part] = []
        self._sentences = [found.end() for found in _SENTENCE_ENDS.finditer(line)]
        self._clauses = [found.end() for found in _CLAUSE_ENDS.finditer(line.lower())]

    def take(self, about: str, start: int, end: int) -> None:
        """Words that were understood."""
        while start < end and self.text[start] in " ,;(":
            start += 1
        while end > start and self.text[end - 1] in " ,;":
            end -= 1
        self.parts.append(Part(about, start, end))
        self.text = self.text[:start] + GONE * (end - start) + self.text[end:]

    def give_back(self, start: int, end: int) -> None:
        """Words that were taken and are of no use after all."""
        self.parts = [one for one in self.parts if not (start <= one.start and one.end <= end)]
        self.text = self.text[:start] + _plain(self.line)[start:end] + self.text[end:]

    def find(self, pattern: str, start: int = 0) -> re.Match[str] | None:
        """The next match of whole words among what is left."""
        return re.compile(rf"(?<![\w])(?:{pattern})(?![\w])").search(self.text, start)

    def wanted(self, pattern: str, across: bool = False) -> Iterator[re.Match[str]]:
        """Every match of whole words that is not denied; what was matched may be taken
        meanwhile."""
        at = 0
        while (found := self.find(pattern, at)) is not None:
            at = found.end()
            if not self.negated(found.start(), across):
                yield found

    def clause_of(self, at: int) -> int:
        """Where the clause of the line begins in which a place lies; its number names the
        clause."""
        return max((end for end in self._clauses if end <= at), default=0)

    def clause_text(self, start: int, end: int) -> str:
        """The whole clause of the line around a place, in small letters, whatever was read of
        it."""
        last = min((stop for stop in self._clauses if stop > end), default=len(self.line))
        return self.line[self.clause_of(start) : last].lower()

    def negated(self, at: int, across: bool = False) -> bool:
        """Whether what begins at a place is denied: a negation stands at most three words before it
        in its clause; `across` lets it reach over an “or” (“no oil or grease”)."""
        before = self.text[max(0, at - _FAR) : at]
        ends = _DENIAL_ENDS.finditer(before)
        before = before[max((found.end() for found in ends), default=0) :]
        stop = "" if across else r"(?!(?:and|or)(?![\w]))"
        denial = rf"(?<![\w']){_NEGATIONS}(?:[ -]+{stop}[\w'-]+){{0,3}}[\s-]*$"
        return re.search(denial, before) is not None

    def sentence(self, at: int) -> tuple[int, int]:
        """From where to where the sentence goes in which a place lies; a full stop inside a unit
        ends none."""
        number = bisect_right(self._sentences, at)
        start = self._sentences[number - 1] if number else 0
        end = self._sentences[number] if number < len(self._sentences) else len(self.line)
        return start, end

    def left(self, understood: set[str]) -> list[Part]:
        """The words that nobody understood, in their order."""
        # the numbers of a list of steps say nothing
        text = self.text
        numbers = r"(?:(?<=^)|(?<=[.;:]\s)|(?<=\n))\s*\(?\d{1,2}[.)](?=\s)"
        for step in re.finditer(numbers, self.line):
            text = text[: step.start()] + GONE * len(step[0]) + text[step.end() :]
        out = []
        for found in re.finditer(rf"[^\s{GONE}]+", text):
            word = found[0].strip(".,;:()[]{}!?\"'/=+-*•|")
            if not word or word in understood or word.strip("()'") in understood:
                continue
            written = self.line[found.start() : found.end()]
            bare = written.strip(_AROUND)
            start = found.start() + len(written) - len(written.lstrip(_AROUND))
            if bare:
                out.append(Part("", start, start + len(bare)))
        return out
