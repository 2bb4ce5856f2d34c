"""Findings about the states of a joint, what is put in for the work, and its main parts."""

from __future__ import annotations

from .codes import Finding
from .rule import Rule, caution, stop, stop_unless

RULES: dict[Finding, Rule] = {
    Finding.TEMPORARY_STAYS: stop(
        "“{what}” is put in for the work, and nothing takes it out again ({when}).",
        "Add a stage that undoes it, with its own look around.",
    ),
    Finding.REMOVED_BEFORE_FITTED: stop(
        "Stage “{stage}” takes out “{what}”, which is not in at that point.",
        "Put the stages in order.",
    ),
    Finding.STATE_NOT_BROUGHT: caution(
        (
            "Stage “{stage}” is valid only in the state “{state}”, and no stage before it brings "
            "that about ({when})."
        ),
        "Name the stage that does it: raise, lower, vent, isolate, remove the load.",
    ),
    Finding.STATE_FORBIDDEN: stop(
        "Stage “{stage}” must not be done in the state “{state}”: {why}.",
        "Bring the joint into another state first.",
    ),
    Finding.STATE_NOT_LEFT: caution(
        "Stage “{stage}” brings about “{state}”, and the work ends with it ({when}).",
        "Add the stage that ends it: lowered to the ground, weight set down.",
    ),
    Finding.WATCHED_LOCKED: stop(
        "Stage “{stage}” watches the start while the drive is locked out.",
        "First the lock off, with everybody clear; then the start.",
    ),
    Finding.SAFEGUARD_UNNAMED: caution(
        (
            "Stage “{stage}” mentions a lock, but the plan does not list “{what}” as fitted: "
            "nothing asks for its removal."
        ),
        "Name it under “puts in”, and the stage that undoes it.",
    ),
    Finding.BARE_FACES: caution(
        "Before “{stage}” no stage fits the part itself: the plan goes from bare faces to nuts.",
        "Add a stage that fits it: gasket, cover, wheel, hub, coupling half.",
    ),
    Finding.PART_STAYS_ON: caution(
        "Taking apart ends with “{stage}”: nuts loosened, and nothing comes off.",
        "Add what comes off, in its order.",
    ),
    Finding.NOT_SEEN_EMPTY: stop_unless(
        "planner",
        "“{stage}” opens the joint before it was seen to be empty.",
        "Loosen with all nuts on, look, then choose that it brings “seen to be empty”.",
    ),
}
