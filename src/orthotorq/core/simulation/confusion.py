"""How often each fault of a simulated joint is judged as what it is: measured over many pulls, not
assumed."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Mapping

import numpy as np

from .judging import MEANT, MEANT_ON, Expected, judged
from .pull import FAULTS, Fault, Pull, trace_of

#: joints of several sizes: target and snug torque [N·m], rise after snug [N·m/deg], run-down [deg]
Joint = tuple[float, float, float, float]
JOINTS: tuple[Joint, ...] = (
    (450.0, 60.0, 4.5, 120.0),
    (120.0, 20.0, 1.5, 200.0),
    (60.0, 10.0, 0.9, 90.0),
    (1200.0, 180.0, 14.0, 150.0),
)
#: the stiffness that a plan expects is off by up to this share
OFF = 0.15

_PAGE = """# Judging a pull

Made by `./torq cli pulls`. Every fault of the simulated joint (`core/simulation/pull.py`) is pulled
with the simulated torque-and-angle wrench on {joints} joints with {seeds} seeds each, and judged
(`core/simulation/judging.py`) against a stiffness that is off by up to {off:.0%}. The joint varies
by itself: run-down, stiffness, where a fault begins, tremor. Simulated pulls are judged more easily
than real ones: this proves the rules, not a wrench.
"""

_ON = """## Bolts that are tight already

The same faults where the bolt has 40 % of its torque: half of the pulls go on to the torque, half
by the angle. A thread that is crossed shows only as too little turn here.
"""


def confusion(seeds: int) -> dict[str, Counter[str]]:
    """By fault, how often each verdict was given, over all joints and so many seeds each, from the
    run-down on."""
    return _counted(seeds, lambda joint, fault, seed: Pull(*joint, 0.01 * joint[0], fault, seed))


def confusion_on(seeds: int) -> dict[str, Counter[str]]:
    """The same for bolts that have 40 % already: pulled on to the torque, and turned on by an
    angle."""

    def made(joint: Joint, fault: Fault, seed: int) -> Pull:
        target, _, slope, _ = joint
        turn = 0.6 * target / slope if seed % 2 else None
        return Pull(*joint, 0.01 * target, fault, seed, 0.4 * target, turn)

    return _counted(seeds, made)


def _counted(seeds: int, made: Callable[[Joint, Fault, int], Pull]) -> dict[str, Counter[str]]:
    """Verdicts by fault of the pulls that are made of a joint, a fault and a seed."""
    out: dict[str, Counter[str]] = {fault: Counter() for fault in FAULTS}
    for fault in FAULTS:
        for joint in JOINTS:
            for seed in range(seeds):
                pull = made(joint, fault, seed)
                off = 1 + float(np.random.default_rng(seed + 10_000).uniform(-OFF, OFF))
                expected = Expected(
                    pull.target, pull.snug, pull.slope * off, pull.rundown, pull.standing
                )
                out[fault][judged(trace_of(pull), expected).code] += 1
    return out


def page(seeds: int = 100) -> str:
    """The table as a page of the handbook."""
    return "\n".join(
        [
            _PAGE.format(joints=len(JOINTS), seeds=seeds, off=OFF),
            *_table(confusion(seeds), MEANT),
            "",
            _ON,
            *_table(confusion_on(seeds), MEANT_ON),
        ]
    )


def _table(found: dict[str, Counter[str]], meant: Mapping[str, str]) -> list[str]:
    """Rows of faults, columns of verdicts, what it should be in bold."""
    codes = list(dict.fromkeys([*meant.values(), *(c for count in found.values() for c in count)]))
    lines = ["| fault | " + " | ".join(codes) + " |", "|---|" + "---|" * len(codes)]
    for fault, count in found.items():
        total = sum(count.values())
        cells = [f"{count[c] / total:.1%}" if count[c] else "" for c in codes]
        cells = [
            f"**{cell}**" if cell and meant[fault] == c else cell
            for c, cell in zip(codes, cells, strict=True)
        ]
        lines.append(f"| {fault} | " + " | ".join(cells) + " |")
    return lines
