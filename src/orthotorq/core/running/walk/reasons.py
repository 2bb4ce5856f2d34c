"""Why a step is done so, in a sentence for a learner: shown folded, at the first step of a pass or
stage."""

from __future__ import annotations

from .pending import Pending

#: by what a step is
REASONS: dict[str, str] = {
    "opposite": (
        "Opposite bolts in turn bring the faces together evenly; side by side they would tilt."
    ),
    "check": (
        "A click without movement shows that the bolt holds at least this torque; it does not "
        "measure its load."
    ),
    "rising": (
        "Each bolt that is pulled takes load from its neighbours; several rising passes even "
        "that out."
    ),
    "angle": (
        "After snug the turn stretches the bolt by a known amount; friction no longer decides "
        "its load."
    ),
    "back_off": (
        "The bearing was seated with load; turned back by this much it keeps the play that it "
        "needs."
    ),
    "hand": (
        "A bolt that does not run by hand has a damaged or dirty thread; a tool would hide that."
    ),
    "gap": (
        "A soft part is drawn by its gap, since torque says little about how far it was pressed."
    ),
    "loosen": (
        "A little at each bolt lets the parts go evenly; one bolt alone would carry all that "
        "is left."
    ),
    "apply": (
        "Torque becomes load through friction; the figures hold for this compound on these "
        "faces only."
    ),
    "dry": "Compound on faces that must stay dry lets them slip or creep, or makes a gasket fail.",
    "wait": (
        "Materials settle or set in this time; what is pulled earlier loses its load or "
        "breaks the bond."
    ),
    "condition": (
        "The figures hold in this condition only: heat, pressure and weight change what a "
        "bolt carries."
    ),
    "watch": (
        "What was not tight shows itself in the first minutes; later it shows itself by failing."
    ),
}


def reason_of(pending: Pending) -> str:
    """The reason of the first step of a pass or stage; empty for the others, and where something
    failed."""
    if (
        pending.fail is not None
        or pending.number != 1
        or (pending.round or 1) > 1
        or pending.attempt > 1
    ):
        return ""
    return REASONS.get(_about(pending), "")


def _about(pending: Pending) -> str:
    """What a step is, for its reason."""
    one, stage = pending.segment.one, pending.unit.stage
    if one is None:
        if pending.kind == "condition" or stage.kind in ("wait", "watch"):
            return "condition" if pending.kind == "condition" else stage.kind
        return (
            ("dry" if "keep dry" in pending.segment.item.text else "apply")
            if (stage.kind == "apply" and pending.segment.item is not None)
            else ""
        )
    if one.do != "torque":
        return {"gap_round": "gap"}.get(one.do, one.do)
    if one.check:
        return "check"
    return (
        "rising"
        if (one.percent or 0) >= 100
        else "opposite"
        if one.order_kind in ("star", "cross")
        else "rising"
    )
