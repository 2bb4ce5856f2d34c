"""The one table of findings: code, severity, who may waive it, sentence, remedy. Shown in the handbook."""
from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

Severity = Literal["stop", "caution", "note"]


class Finding(StrEnum):
    """Codes of everything a plan can be found to have."""

    YIELDS = "yields"
    OVER_SHARE = "over_share"
    MAY_EXCEED_SHARE = "may_exceed_share"
    OVER_COMBINED = "over_combined"
    MAY_EXCEED_COMBINED = "may_exceed_combined"
    OVER_PROOF = "over_proof"
    BELOW_REQUIRED = "below_required"
    MAY_FALL_BELOW_REQUIRED = "may_fall_below_required"
    GASKET_TOO_LITTLE = "gasket_too_little"
    GASKET_MAY_GET_TOO_LITTLE = "gasket_may_get_too_little"
    GASKET_TOO_MUCH = "gasket_too_much"
    GASKET_MAY_GET_TOO_MUCH = "gasket_may_get_too_much"
    DRY_SEAT_LUBRICATED = "dry_seat_lubricated"
    FRICTION_TYPICAL = "friction_typical"
    STRENGTH_UNSURE = "strength_unsure"
    STRENGTH_ASSUMED = "strength_assumed"
    HISTORY_UNKNOWN = "history_unknown"
    CALCULATED = "calculated"
    PAIR_MISMATCH = "pair_mismatch"
    PAIR_AGREES = "pair_agrees"
    NO_TOOL = "no_tool"
    TOOL_OVER_RANGE = "tool_over_range"
    TOOL_UNDER_RANGE = "tool_under_range"
    TOOL_UNDER_20 = "tool_under_20"
    TOOL_TOO_COARSE = "tool_too_coarse"
    SETTING_IMPOSSIBLE = "setting_impossible"
    HAND_FORCE = "hand_force"
    DRIVE_TOO_SMALL = "drive_too_small"
    REACTION = "reaction"
    NO_CHECK_ROUND = "no_check_round"
    ENDS_BELOW_FULL = "ends_below_full"
    PERCENT_FALLS = "percent_falls"
    NO_RISING_PASSES = "no_rising_passes"
    SOCKET_ROOM = "socket_room"


@dataclass(frozen=True, slots=True)
class Rule:
    """One row: `role` may waive it when `waivable`; a stop that is not waivable keeps a plan from release."""

    severity: Severity
    waivable: bool
    role: str | None
    text: str
    remedy: str


def _stop(text: str, remedy: str) -> Rule:
    return Rule("stop", False, None, text, remedy)


def _caution(text: str, remedy: str) -> Rule:
    return Rule("caution", True, "planner", text, remedy)


def _note(text: str, remedy: str) -> Rule:
    return Rule("note", True, "planner", text, remedy)


RULES: dict[Finding, Rule] = {
    Finding.YIELDS: _stop(
        "{group}: at low friction this torque may load the bolt to {high}, beyond yield with torsion ({limit}).",
        "Take a lower torque, a higher grade, or a measured friction band."),
    Finding.OVER_SHARE: _stop(
        "{group}: the typical preload {typical} is above the chosen {share} of yield ({limit}).",
        "Take {torque} or less, or choose another share with a reason."),
    Finding.MAY_EXCEED_SHARE: _caution(
        "{group}: with the low friction of the band the load may reach {high}, above the chosen {share} of yield ({limit}).",
        "A measured friction band, or {torque}, keeps it inside."),
    Finding.OVER_COMBINED: _stop(
        "{group}: the typical preload {typical} is above the combined limit at assembly ({limit}, {nu} of yield).",
        "Take {torque} or less."),
    Finding.MAY_EXCEED_COMBINED: _caution(
        "{group}: at low friction the load may reach {high}, above the combined limit at assembly ({limit}, {nu} of yield).",
        "A measured friction band, or {torque}, keeps it inside."),
    Finding.OVER_PROOF: _caution(
        "{group}: the load may reach {high}, above the proof load ({limit}).",
        "Take {torque} or less unless the maker says otherwise."),
    Finding.BELOW_REQUIRED: _stop(
        "{group}: the typical preload {typical} does not reach the clamp load needed ({limit}).",
        "Take {torque} or more, if the bolt allows it."),
    Finding.MAY_FALL_BELOW_REQUIRED: _caution(
        "{group}: with high friction the load may be only {low}, below the clamp load needed ({limit}).",
        "Less friction scatter, a finer tool, or {torque} closes the gap."),
    Finding.GASKET_TOO_LITTLE: _stop(
        "{group}: the typical preload {typical} does not give the gasket what its sheet asks ({limit} a bolt).",
        "Take {torque} or more, if the bolt allows it."),
    Finding.GASKET_MAY_GET_TOO_LITTLE: _caution(
        "{group}: with high friction a bolt may give only {low}; the gasket's sheet asks {limit} a bolt.",
        "Lubricate thread and nut face, or take {torque}."),
    Finding.GASKET_TOO_MUCH: _stop(
        "{group}: the typical preload {typical} damages the gasket ({limit} a bolt on its sheet).",
        "Take {torque} or less."),
    Finding.GASKET_MAY_GET_TOO_MUCH: _caution(
        "{group}: at low friction a bolt may give {high}; the gasket is damaged from {limit} a bolt.",
        "A measured friction band, or {torque}, keeps it inside."),
    Finding.DRY_SEAT_LUBRICATED: _caution(
        "{group}: wheel threads and seats stay dry unless the maker says otherwise; with {lubricant} the same torque gives "
        "{typical} instead of {dry} ({rise} %).",
        "Keep them dry, or set {torque} for the clamp of the dry thread."),
    Finding.FRICTION_TYPICAL: _note(
        "{group}: the friction of “{lubricant}” is a typical band (thread {band}), not the maker's figure.",
        "Enter the band of the compound's sheet, or one measured here."),
    Finding.STRENGTH_UNSURE: _caution(
        "{group}: the strength of {grade} in the table is marked {certainty}: {note}.",
        "Confirm it on the certificate and enter it as an own grade."),
    Finding.STRENGTH_ASSUMED: _caution(
        "{group}: {grade} sets no {assumed} strength; {value} is assumed.",
        "Ask for the certificate, or enter the strength as an own grade."),
    Finding.HISTORY_UNKNOWN: _caution(
        "{group}: the history of these bolts is unknown. A click proves only that this torque does not move the nut.",
        "Slacken each bolt first, one at a time, then follow the passes."),
    Finding.CALCULATED: _note(
        "{group}: {torque} was calculated and does not come from a maker.",
        "Ask the equipment maker; until then every sheet says so."),
    Finding.PAIR_MISMATCH: _caution(
        "{group}: “{first}” and “{second}” are not one figure: the second is {difference} % off the first.",
        "Find out which one is misprinted; {taken} is taken here."),
    Finding.PAIR_AGREES: _note("{group}: “{first}” and “{second}” agree ({difference} %).", "Nothing to do."),
    Finding.NO_TOOL: _caution(
        "Stage “{stage}” tightens to a torque but names no tool: nothing can be set.",
        "Choose the wrench in Tools."),
    Finding.TOOL_OVER_RANGE: _stop(
        "Stage “{stage}”: {setting} is above what {tool} can be set to ({maximum}).",
        "Take a larger wrench or a multiplier."),
    Finding.TOOL_UNDER_RANGE: _stop(
        "Stage “{stage}”, {percent} %: {setting} is below the scale of {tool} ({minimum}).",
        "Take a smaller wrench for this pass, or raise its share."),
    Finding.TOOL_UNDER_20: _caution(
        "Stage “{stage}”, {percent} %: {setting} is below 20 % of the maximum of {tool} ({minimum}); its accuracy is not "
        "stated there.", "Take a smaller wrench for this pass."),
    Finding.TOOL_TOO_COARSE: _caution(
        "Stage “{stage}”, {percent} %: {tool} can only be set to {settable}, {error} % off.",
        "Take a wrench with a finer scale."),
    Finding.SETTING_IMPOSSIBLE: _stop("Stage “{stage}”, {percent} %: {reason}.", "Take another wrench or another chain."),
    Finding.HAND_FORCE: _caution(
        "Stage “{stage}”: hand force {force} for {pulls} pulls.",
        "Above {limit} take a longer wrench, a multiplier or a second person; never a pipe."),
    Finding.DRIVE_TOO_SMALL: _caution(
        "Stage “{stage}”: {setting} is above what a {drive} drive usually carries ({limit}).", "Take a larger drive."),
    Finding.REACTION: _note(
        "Stage “{stage}”: the multiplier's housing reacts with {reaction}{arm}.",
        "Rest the arm squarely on something that carries it, padded; keep hands out from between."),
    Finding.NO_CHECK_ROUND: _caution(
        "{group}: there is no round that checks after the last full pass.",
        "Add a check round at 100 %, in circle or in cross."),
    Finding.ENDS_BELOW_FULL: _stop(
        "{group}: the last pass is at {percent} %: the bolts never get the chosen torque.", "End with 100 %."),
    Finding.PERCENT_FALLS: _caution(
        "{group}: the pass at {percent} % follows one at {before} %: a wrench never lowers a load.",
        "Put the passes in rising order."),
    Finding.NO_RISING_PASSES: _caution(
        "{group}: the first torque pass is at {percent} %: the gasket closes unevenly.",
        "Add rising passes, for example 30 and 70 %."),
    Finding.SOCKET_ROOM: _caution(
        "{group}: {count} bolts stand {spacing} mm apart; a head of {flats} mm across flats leaves no room for a socket.",
        "Check layout and thread."),
}
