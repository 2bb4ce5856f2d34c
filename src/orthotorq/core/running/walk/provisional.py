"""Why a run is provisional: what it leaves is as it were tightened, and only a proper run makes it
known."""

from __future__ import annotations

from ...forms.result import Result
from ..log.event_log import Log
from ..log.setup import tools_needed
from .step_walker import Walk

#: occasions after which bolts are taken for tight
_TIGHTENS = ("install", "recheck")


def provisional_why(result: Result, walk: Walk, log: Log) -> list[str]:
    """Every reason in words; none for a proper run."""
    setup, out = log.setup, list[str]()
    if setup.occasion not in _TIGHTENS:
        return out
    if walk.provisional:
        out.append("tightened by feel")
    out += walk.left_out
    if setup.makeshift:
        out.append(f"with a makeshift part ({setup.makeshift})")
    out += [f"with {t.serial}, out of calibration" for t, _ in log.hands if t.expired]
    bound = {t.tool for t in setup.tools}
    names = {t.id: t.name for t in result.tools}
    if log.start is not None:
        out += [
            f"with a wrench that is not on the register ({names.get(tool, tool)})"
            for tool in tools_needed(result, setup.occasion, setup.variants)
            if tool not in bound
        ]
    return out
