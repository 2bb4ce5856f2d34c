"""A corpus of lines as manuals have them: each is read as it is meant, and no word of it is
lost."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

from orthotorq.core.reading import Figure, read_line
from orthotorq.core.reading.words import english

CORPUS = Path(__file__).parent / "manual_lines.txt"


def corpus() -> Iterator[tuple[str, str]]:
    """Lines of the corpus with their readings."""
    rows = [r for r in CORPUS.read_text(encoding="utf-8").splitlines() if not r.startswith("# ")]
    for line, reading in zip(rows[::2], rows[1::2], strict=True):
        yield line.replace("\\n", "\n"), reading.strip()


def reading_of(text: str) -> str:
    """What a line says, as the corpus writes it."""
    line = read_line(text)
    out = [f"F{[figure_words(f) for f in line.figures]}"]
    if line.percents:
        out.append(f"P{[round(p, 1) for p in line.percents]}{'=' if line.equal_steps else ''}")
    out += [line.order] if line.order else []
    out += ["CHECK"] if line.check_round else []
    if line.rechecks:
        every = [
            [p.words() for p in r.at] + ([f"every {r.every.words()}"] if r.every else [])
            for r in line.rechecks
        ]
        out.append(f"R{every}")
    out += [f"L:{line.lubricant}"] if line.lubricant else []
    out += [f"S{line.sequence}"] if line.sequence else []
    out += [f"B{math.degrees(line.back_off):g}"] if line.back_off else []
    out += [f"W{line.wait:g}"] if line.wait else []
    out += ["NEW"] if line.new_fasteners else []
    out += [f"ASK{[q.readings for q in line.asked]}"] if line.asked else []
    out += [f"left:{list(line.left)}"] if line.left else []
    return " ".join(out)


def figure_words(one: Figure) -> str:
    """A figure as the corpus writes it."""
    said = f"{one.torque / 1e3:g}" if one.torque else ""
    said += f"[{(one.low or 0) / 1e3:g}..{(one.high or 0) / 1e3:g}]" if one.low or one.high else ""
    said += "" if one.pair_agrees is None else f" pair={one.pair_agrees}"
    said += f" +{'+'.join(f'{math.degrees(a):g}°' for a in one.angles)}" if one.angles else ""
    said += f" @{one.thread}" if one.thread else ""
    said += f" ~{one.lubricant}" if one.lubricant else ""
    return said + (f" y{one.yields}" if one.yields else "")


@pytest.mark.parametrize(("line", "reading"), list(corpus()), ids=[line for line, _ in corpus()])
def test_a_line_of_the_corpus_is_read_as_it_is_meant(line: str, reading: str) -> None:
    assert reading_of(line) == reading


@pytest.mark.parametrize("line", [line for line, _ in corpus()])
def test_every_word_of_a_line_is_used_or_said_to_be_left(line: str) -> None:
    found, fillers = (
        read_line(line),
        set(english()["fillers"].split()) | set(english()["with_lubricant"].split()),
    )
    left = list(found.left)
    for word in re.finditer(r"[^\s]+", line):
        used = any(p.start < word.end() and word.start() < p.end for p in found.parts)
        bare = word[0].strip(".,;:()[]{}!?\"'/=+-*•|–—")
        if used or not bare or bare.lower() in fillers or re.fullmatch(r"\(?\d{1,2}[.)]?", word[0]):
            continue
        assert any(bare in one for one in left), (bare, left)
