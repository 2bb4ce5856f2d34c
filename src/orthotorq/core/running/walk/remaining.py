"""What of a plan a run does, and what of it is still to do: what a wrench has to reach."""

from __future__ import annotations

from collections.abc import Callable, Collection

from ...forms.result import Result
from ...forms.stage import PassOut, StageOut
from ..log.event_log import Log
from ..log.setup import Setup
from .state import walk_run


def done_on(result: Result, occasion: str, variants: Collection[str]) -> Result:
    """A result with what is done on an occasion, in its variants, and nothing else."""
    setup = Setup(occasion=occasion, variants=tuple(variants))
    return _only(result, [setup.of_stage(stage) for stage in result.stages if setup.takes(stage)])


def still_to_do(result: Result, log: Log, now: float) -> Result:
    """A result with the passes of which a bolt has no answer yet, of the run's occasion and
    variants."""
    doing = done_on(result, log.setup.occasion, log.setup.variants)
    walk, pending, _ = walk_run(result, log, now)
    # `position/stage/pass/…` of every band of the tape that has steps left
    left = {tuple(band.id.split("/")[1:3]) for band in walk.tape if band.done < band.total}
    if pending is not None and pending.segment.one is not None:
        left.add((pending.segment.stage.id, pending.segment.one.id))
    return _only(doing, doing.stages, lambda stage, one: (stage.id, one.id) in left)


def _only(
    result: Result,
    stages: list[StageOut],
    takes: Callable[[StageOut, PassOut], bool] = lambda stage, one: True,
) -> Result:
    kept = [s.model_copy(update={"passes": [p for p in s.passes if takes(s, p)]}) for s in stages]
    return result.model_copy(update={"stages": kept})
