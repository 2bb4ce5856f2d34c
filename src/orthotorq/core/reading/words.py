"""The words of a line while it is read: what was understood is blanked out, so that nothing is read twice."""
from __future__ import annotations

import json
import re
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files
from typing import Any

GONE = "\0"
_PLAIN = str.maketrans({"–": "-", "—": "-", "−": "-", "‑": "-", "×": "x", "’": "'", "“": '"', "”": '"', "\u00a0": " ",
                        "\u2009": " ", "\u202f": " ", "º": "°", "˚": "°"})


@lru_cache(maxsize=1)
def english() -> dict[str, Any]:
    """The patterns of English manuals."""
    found: dict[str, Any] = json.loads((files(__package__) / "english.json").read_text(encoding="utf-8"))
    return found


def any_of(patterns: list[str]) -> str:
    """One pattern of several, the longest first."""
    return "|".join(sorted(patterns, key=len, reverse=True))


@dataclass(frozen=True, slots=True)
class Part:
    """Words that were understood: what they are about, and from where to where in the line they stand."""

    about: str
    start: int
    end: int


class Words:
    """A line; `text` is what is left of it in small letters, in the same places."""

    def __init__(self, line: str) -> None:
        self.line = line
        self.text = "".join(c.lower() if len(c.lower()) == 1 else c for c in line.translate(_PLAIN))
        self.parts: list[Part] = []

    def take(self, about: str, start: int, end: int) -> None:
        """Words that were understood."""
        while start < end and self.text[start] in " ,;(":
            start += 1
        while end > start and self.text[end - 1] in " ,;":
            end -= 1
        self.parts.append(Part(about, start, end))
        self.text = self.text[:start] + GONE * (end - start) + self.text[end:]

    def find(self, pattern: str, start: int = 0) -> re.Match[str] | None:
        """The next match of whole words among what is left."""
        return re.compile(rf"(?<![\w])(?:{pattern})(?![\w])").search(self.text, start)

    def sentence(self, at: int) -> tuple[int, int]:
        """From where to where the sentence goes in which a place lies; a full stop inside a unit ends none."""
        ends = [m.end() for m in re.finditer(r"[;\n]|\.(?=\s+[A-Z0-9]|\s*$)", self.line)]
        start = max((e for e in ends if e <= at), default=0)
        return start, min((e for e in ends if e > at), default=len(self.line))

    def left(self, understood: set[str]) -> list[str]:
        """The words that nobody understood, in their order, as they are written."""
        # the numbers of a list of steps say nothing
        text = self.text
        for step in re.finditer(r"(?:(?<=^)|(?<=[.;:]\s)|(?<=\n))\s*\(?\d{1,2}[.)](?=\s)", self.line):
            text = text[:step.start()] + GONE * len(step[0]) + text[step.end():]
        out = []
        for found in re.finditer(rf"[^\s{GONE}]+", text):
            start, end = found.span()
            word = found[0].strip(".,;:()[]{}!?\"'/=+-*•")
            if word and word not in understood and word.strip("()'") not in understood:
                out.append(self.line[start:end].strip(".,;:()[]{}!?\"'/=*•“”"))
        return [word for word in out if word]
