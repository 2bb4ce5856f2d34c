"""Findings about tools."""

from __future__ import annotations

from .codes import Finding
from .rule import Rule, caution, note, stop

RULES: dict[Finding, Rule] = {
    Finding.NO_TOOL: caution(
        "Stage “{stage}” tightens to a torque but names no tool: nothing can be set.",
        "Choose the wrench in Tools.",
    ),
    Finding.TOOL_OVER_RANGE: stop(
        "Stage “{stage}”: {setting} is above what {tool} can be set to ({maximum}).",
        "Take a larger wrench or a multiplier.",
    ),
    Finding.TOOL_UNDER_RANGE: stop(
        "Stage “{stage}”, {percent} %: {setting} is below the scale of {tool} ({minimum}).",
        "Take a smaller wrench for this pass, or raise its share.",
    ),
    Finding.TOOL_UNDER_20: caution(
        "Stage “{stage}”, {percent} %: {setting} is below 20 % of the maximum of {tool} "
        "({minimum}); its accuracy is not "
        "stated there.",
        "Take a smaller wrench for this pass.",
    ),
    Finding.TOOL_TOO_COARSE: caution(
        "Stage “{stage}”, {percent} %: {tool} can only be set to {settable}, {error} % off.",
        "Take a wrench with a finer scale.",
    ),
    Finding.PRESET_OFF: stop(
        "Stage “{stage}”, {percent} %: {tool} is preset to {preset}, and {setting} is wanted.",
        "Another driver, or the figure it is preset to.",
    ),
    Finding.SETTING_IMPOSSIBLE: stop(
        "Stage “{stage}”, {percent} %: {reason}.", "Take another wrench or another chain."
    ),
    Finding.HAND_FORCE: caution(
        "Stage “{stage}”: hand force {force}, pulls: {pulls}.",
        "Above {limit} take a longer wrench, a multiplier or a second person; never a pipe.",
    ),
    Finding.DRIVE_TOO_SMALL: caution(
        "Stage “{stage}”: {setting} is above what a {drive} drive usually carries ({limit}).",
        "Take a larger drive.",
    ),
    Finding.EFFICIENCY_TAKEN: caution(
        (
            "Stage “{stage}”: the multiplier {ratio}:1 has no efficiency given; {low} to {high} "
            "% is taken, which is typical."
        ),
        "Use the one of the multiplier's sheet or its plate.",
    ),
    Finding.REACTION: note(
        "Stage “{stage}”: the multiplier's housing reacts with {reaction}{arm}.",
        "Rest the arm squarely on something that carries it, padded; keep hands out from between.",
    ),
    Finding.REACTION_HIGH: caution(
        "Stage “{stage}”: {force} at the reaction arm: what it rests on must carry that, and "
        "hands stay "
        "clear.",
        "A longer reaction bar, padding, a stop made for it.",
    ),
}
