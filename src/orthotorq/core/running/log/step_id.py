"""The id of a step as a type with parts: `position/stage/part/rROUND/place`, `/kPULL`, `/aATTEMPT`,
`/then` of a failure."""

from __future__ import annotations

import re
from dataclasses import dataclass

_WHOLE = "-"
#: where a stage is done again from when every step was answered
FINISH = "-"
_FORM = re.compile(
    r"(?P<position>[^/]+)/(?P<stage>[^/]+)/(?P<part>[^/]+)/(?P<round>r\d+|-|end)/(?P<place>[^/]+)"
    r"(?:/k(?P<pull>\d+))?(?:/a(?P<attempt>\d+))?(?P<then>/then(?:/a(?P<again>\d+))?)?"
)


@dataclass(frozen=True, slots=True)
class StepId:
    """Where a step is: position, stage, pass or item, round, place, pull, attempt; `then` counts
    what was done about a failure, 0 for the step itself. Parts that a step has not are None."""

    position: str | None
    stage: str
    part: str
    round: int | None
    place: str | None
    pull: int | None = None
    attempt: int = 1
    then: int = 0


def parse(text: str) -> StepId | None:
    """The parts of a step id, or None for what belongs to no step.

    >>> parse("L/full/again/r2/inner.3/a2").place, parse("-/row/full/r1/m30.2/k3").pull, parse("-")
    ('inner.3', 3, None)
    >>> parse("-/faces/flat/-/-/then/a2").then
    2
    """
    found = _FORM.fullmatch(text)
    if found is None:
        return None
    part = found.groupdict()
    round_, place = part["round"], part["place"]
    return StepId(
        None if part["position"] == _WHOLE else part["position"],
        part["stage"],
        part["part"],
        int(round_[1:]) if round_.startswith("r") else None,
        None if place == _WHOLE else place,
        int(part["pull"]) if part["pull"] else None,
        int(part["attempt"] or 1),
        (int(part["again"] or 1) if part["then"] else 0),
    )


def base_of(position: str | None, stage: str, part: str) -> str:
    """`position/stage/part`: what the steps of one pass or item share."""
    return f"{position or _WHOLE}/{stage}/{part}"


def step_id(
    base: str, round_: int | None, place: str | None, attempt: int = 1, pull: int | None = None
) -> str:
    """The text of a step id; `-` where there is none.

    >>> step_id("L/full/again", 1, "inner.3", 1), step_id("-/chock/stand", None, None, 2)
    ('L/full/again/r1/inner.3', '-/chock/stand/-/-/a2')
    >>> step_id("-/row/full", 1, "m30.2", 2, 3)
    '-/row/full/r1/m30.2/k3/a2'
    """
    text = f"{base}/{f'r{round_}' if round_ else _WHOLE}/{place or _WHOLE}"
    text = text if pull is None else f"{text}/k{pull}"
    return text if attempt == 1 else f"{text}/a{attempt}"


def end_of(base: str) -> str:
    """The id under which a whole pass is judged."""
    return f"{base}/end/{_WHOLE}"


def then_of(step: str, attempt: int = 1) -> str:
    """The id of what was done about a step that failed."""
    return f"{step}/then" if attempt == 1 else f"{step}/then/a{attempt}"
