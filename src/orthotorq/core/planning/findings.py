"""The one table of findings: code, severity, who may waive it, sentence, remedy. Shown in the handbook."""
from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

Severity = Literal["stop", "caution", "note"]


class Finding(StrEnum):
    """Codes of everything a plan can be found to have."""

    YIELDS = "yields"
    ANGLE_YIELDS = "angle_yields"
    OVER_SHARE = "over_share"
    MAY_EXCEED_SHARE = "may_exceed_share"
    OVER_COMBINED = "over_combined"
    MAY_EXCEED_COMBINED = "may_exceed_combined"
    OVER_PROOF = "over_proof"
    STRIPS = "strips"
    MAY_STRIP = "may_strip"
    STRIPS_FIRST = "strips_first"
    FEW_TURNS = "few_turns"
    BOTTOMS = "bottoms"
    PRESSES_IN = "presses_in"
    MAY_PRESS_IN = "may_press_in"
    SOFT_PART_OVER = "soft_part_over"
    MAY_EXCEED_SOFT_PART = "may_exceed_soft_part"
    BELOW_REQUIRED = "below_required"
    MAY_FALL_BELOW_REQUIRED = "may_fall_below_required"
    GASKET_TOO_LITTLE = "gasket_too_little"
    GASKET_MAY_GET_TOO_LITTLE = "gasket_may_get_too_little"
    GASKET_TOO_MUCH = "gasket_too_much"
    GASKET_MAY_GET_TOO_MUCH = "gasket_may_get_too_much"
    GALLING = "galling"
    ALUMINIUM_DRY = "aluminium_dry"
    DRY_SEAT_LUBRICATED = "dry_seat_lubricated"
    PASTE_ON_HUB = "paste_on_hub"
    HUB_NOT_OILED = "hub_not_oiled"
    WRONG_CONDITION = "wrong_condition"
    COMPOUND_FORBIDDEN = "compound_forbidden"
    COMPOUND_ON_GASKET = "compound_on_gasket"
    COMPOUND_DIFFERS = "compound_differs"
    COMPOUND_NOT_APPLIED = "compound_not_applied"
    SINGLE_USE_REUSED = "single_use_reused"
    REUSED_TOO_OFTEN = "reused_too_often"
    LAST_USE = "last_use"
    SHORT_GRIP = "short_grip"
    FRICTION_TYPICAL = "friction_typical"
    FRICTION_UNKNOWN = "friction_unknown"
    STRENGTH_UNSURE = "strength_unsure"
    STRENGTH_ASSUMED = "strength_assumed"
    HISTORY_UNKNOWN = "history_unknown"
    CALCULATED = "calculated"
    SOURCE_STRUCK = "source_struck"
    SOURCE_RANGE = "source_range"
    SOURCE_TWO_FIGURES = "source_two_figures"
    SOURCE_SILENT = "source_silent"
    SOURCE_CONFLICT = "source_conflict"
    STRUCK_SOURCE_TAKEN = "struck_source_taken"
    OVERRULED = "overruled"
    OVERRULED_WITHOUT_REASON = "overruled_without_reason"
    BOUND_EXCEEDED = "bound_exceeded"
    BELOW_BOUND = "below_bound"
    PAIR_MISMATCH = "pair_mismatch"
    PAIR_AGREES = "pair_agrees"
    SIZES_OUT_OF_LINE = "sizes_out_of_line"
    NO_TOOL = "no_tool"
    TOOL_OVER_RANGE = "tool_over_range"
    TOOL_UNDER_RANGE = "tool_under_range"
    TOOL_UNDER_20 = "tool_under_20"
    TOOL_TOO_COARSE = "tool_too_coarse"
    PRESET_OFF = "preset_off"
    SETTING_IMPOSSIBLE = "setting_impossible"
    HAND_FORCE = "hand_force"
    DRIVE_TOO_SMALL = "drive_too_small"
    REACTION = "reaction"
    REACTION_HIGH = "reaction_high"
    NO_CHECK_ROUND = "no_check_round"
    ENDS_BELOW_FULL = "ends_below_full"
    PERCENT_FALLS = "percent_falls"
    NO_RISING_PASSES = "no_rising_passes"
    ANGLE_WITHOUT_SNUG = "angle_without_snug"
    ANGLE_DIFFERS = "angle_differs"
    NEVER_TIGHTENED = "never_tightened"
    FIGURE_NOT_SET = "figure_not_set"
    ENDS_BACKED_OFF = "ends_backed_off"
    PROVISIONAL = "provisional"
    NO_COUNTER_HOLD = "no_counter_hold"
    SOCKET_ROOM = "socket_room"
    STAGE_ORDER = "stage_order"
    TEMPORARY_STAYS = "temporary_stays"
    REMOVED_BEFORE_FITTED = "removed_before_fitted"
    CHECK_AFTER_SET = "check_after_set"
    SETS_TOO_SOON = "sets_too_soon"
    APPLIED_TOO_LATE = "applied_too_late"
    CONDITION_NOT_NAMED = "condition_not_named"
    UNDER_PRESSURE = "under_pressure"
    HOT_RETIGHTENING = "hot_retightening"
    RETIGHTENING_NOT_SAID = "retightening_not_said"
    NO_EARLY_RECHECK = "no_early_recheck"
    RECHECK_ODD = "recheck_odd"
    RECHECK_WITHOUT_STAGES = "recheck_without_stages"


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


def _stop_unless(role: str, text: str, remedy: str) -> Rule:
    return Rule("stop", True, role, text, remedy)


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
        "{group}: “{first}” and “{second}” are not one figure: the second is {difference} % off the first; {supports}.",
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
        "Stage “{stage}”: hand force {force}, pulls: {pulls}.",
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
    Finding.ANGLE_YIELDS: _stop_unless("planner",
        "{group}: after the angle the bolt is beyond yield ({limit}); beyond it no load can be given, and "
        "the bolt is used once.",
        "Take the angle from the maker and new bolts, and say so here, or turn less than {angle}."),
    Finding.STRIPS: _stop(
        "{group}: the typical preload {typical} strips the {which} thread ({limit} over {engaged} engaged).",
        "Engage more thread, or take {torque} or less."),
    Finding.MAY_STRIP: _caution(
        "{group}: at low friction the load may reach {high}, above what the {which} thread carries ({limit}).",
        "Engage more thread, or take {torque}."),
    Finding.STRIPS_FIRST: _caution(
        "{group}: the {which} thread would strip before the bolt breaks: {engaged} engaged, {required} "
        "needed (and {pitch} for incomplete threads).",
        "Engage more thread; a stripped part costs more than a bolt."),
    Finding.FEW_TURNS: _caution(
        "{group}: only {turns} turns of thread are engaged; the plain rule for {material} asks {rule}.",
        "A longer bolt, a thinner spacer, or the maker's word."),
    Finding.BOTTOMS: _stop(
        "{group}: the bolt reaches {reach} into a hole with {depth} of thread: it bottoms and clamps nothing.",
        "A shorter bolt or a washer under the head; measure the hole."),
    Finding.PRESSES_IN: _stop(
        "{group}: the typical preload {typical} presses the head into {part} (its limit is {limit}).",
        "A washer that spreads the load, or {torque} or less."),
    Finding.MAY_PRESS_IN: _caution(
        "{group}: at low friction the load may reach {high}, above what {part} bears under the head "
        "({limit}).",
        "A washer that spreads the load, or {torque}."),
    Finding.SOFT_PART_OVER: _stop(
        "{group}: the typical preload {typical} is above what the soft part bears ({limit} a bolt).",
        "Take {torque} or less; let the gap decide, not the torque."),
    Finding.MAY_EXCEED_SOFT_PART: _caution(
        "{group}: at low friction the load may reach {high}; the soft part bears {limit} a bolt.",
        "Stop at the gap; {torque} keeps the load inside."),
    Finding.GALLING: _caution(
        "{group}: stainless in stainless without a lubricant galls: the nut seizes, and its click says "
        "nothing.",
        "Nickel anti-seize or another paste for stainless on thread and face, turned slowly by hand."),
    Finding.ALUMINIUM_DRY: _caution(
        "{group}: an unlubricated head wears into {part}: friction rises with every use.",
        "A washer, or oil under the head with its own torque."),
    Finding.PASTE_ON_HUB: _stop(
        "{group}: “{lubricant}” has solid lubricant in it; on a friction hub it takes away the grip.",
        "Clean everything and oil lightly."),
    Finding.HUB_NOT_OILED: _caution(
        "{group}: the screws of a locking hub are lightly oiled; “{lubricant}” gives another clamp at the "
        "same torque.",
        "Oil lightly unless the hub's maker says otherwise."),
    Finding.WRONG_CONDITION: _caution(
        "{group}: the seat must be {must}, but the plan says “{lubricant}”.",
        "Change the condition, or what the seat asks for."),
    Finding.COMPOUND_FORBIDDEN: _stop_unless("planner",
        "Stage “{stage}”: “{lubricant}” does not belong on {face}.",
        "Take another compound, or waive this with the maker's word."),
    Finding.COMPOUND_ON_GASKET: _stop(
        "Stage “{stage}”: nothing goes on a gasket or its faces unless its maker says so; “{what}” is no "
        "exception by itself.",
        "Leave them dry, or write the maker's word as the reason of the stage."),
    Finding.COMPOUND_DIFFERS: _stop_unless("planner",
        "{group}: stage “{stage}” puts on {applied}, and the figure is computed for “{lubricant}”.",
        "Make the two one: another compound gives another clamp at the same torque."),
    Finding.COMPOUND_NOT_APPLIED: _caution(
        "{group}: the figure is computed for “{lubricant}”, and no stage puts it on.",
        "Add a stage that does, or waive this where the bolts come with it."),
    Finding.SINGLE_USE_REUSED: _stop(
        "{group}: these parts are for single use, and the plan takes used ones.",
        "New parts; put them on the part list."),
    Finding.REUSED_TOO_OFTEN: _stop(
        "{group}: tightened {uses} times so far; the maker allows {most}.",
        "New bolts."),
    Finding.LAST_USE: _note(
        "{group}: this is the last of {most} uses that the maker allows.",
        "Have new bolts ready for the next time."),
    Finding.SHORT_GRIP: _caution(
        "{group}: the grip is only {ratio} of the diameter: settling of the faces takes {share} of the "
        "preload.",
        "A sleeve or a longer bolt; tighten again after settling."),
    Finding.FRICTION_UNKNOWN: _caution(
        "{group}: the friction of “{lubricant}” is a guess: the load scatters 1 : {spread}.",
        "Clean or replace, lubricate, or measure the friction."),
    Finding.SOURCE_STRUCK: _note(
        "{source} is not taken for {group}: {reason}.",
        "Nothing to do, or correct what it is valid for."),
    Finding.SOURCE_RANGE: _note(
        "{group}: the source gives {low} to {high}; the middle, {taken}, is taken.",
        "Choose another figure of the range with a reason, if a limit asks for it."),
    Finding.SOURCE_TWO_FIGURES: _caution(
        "{group}: one source gives two figures: {figures}. {taken} is taken.",
        "Ask its maker which one holds."),
    Finding.SOURCE_SILENT: _note(
        "{source} says no figure for {group}.",
        "Nothing to do."),
    Finding.SOURCE_CONFLICT: _caution(
        "{group}: {second} is {difference} % off {first}, which ranks higher.",
        "Ask; both are kept with the plan."),
    Finding.STRUCK_SOURCE_TAKEN: _stop_unless("planner",
        "{group}: the chosen source does not hold here: {reason}.",
        "Choose a valid source, or waive this with a reason."),
    Finding.OVERRULED: _note(
        "{group}: {taken} is taken and not {first}, because: {reason}.",
        "Nothing to do; it stands on the sheet."),
    Finding.OVERRULED_WITHOUT_REASON: _caution(
        "{group}: {first} ranks higher and is not taken; no reason is given.",
        "Take it, or write the reason."),
    Finding.BOUND_EXCEEDED: _stop(
        "{group}: {torque} is above the bound of {source} ({limit}).",
        "Take {limit} or less."),
    Finding.BELOW_BOUND: _stop(
        "{group}: {torque} is below the bound of {source} ({limit}).",
        "Take {limit} or more, if the bolt allows it."),
    Finding.SIZES_OUT_OF_LINE: _caution(
        "{group} is loaded to {share} of yield, {other} to {other_share}: one size in this joint is out of "
        "line.",
        "Compare the figures: the smaller bolts often carry a figure meant for the larger."),
    Finding.PRESET_OFF: _stop(
        "Stage “{stage}”, {percent} %: {tool} is preset to {preset}, and {setting} is wanted.",
        "Another driver, or the figure it is preset to."),
    Finding.REACTION_HIGH: _caution(
        "Stage “{stage}”: {force} at the reaction arm: what it rests on must carry that, and hands stay "
        "clear.",
        "A longer reaction bar, padding, a stop made for it."),
    Finding.ANGLE_WITHOUT_SNUG: _stop(
        "Stage “{stage}”: the angle “{name}” has no torque before it to count from.",
        "Put a snug torque before the angle."),
    Finding.ANGLE_DIFFERS: _stop(
        "{group}: the figure is computed with {said} after the snug torque, and the passes turn {turned} in all.",
        "Make the two one: the angle of the figure, or of the passes."),
    Finding.NEVER_TIGHTENED: _stop_unless("planner",
        "{group}: no stage tightens these bolts.",
        "Put them into a tighten stage, or say why they are not tightened here."),
    Finding.FIGURE_NOT_SET: _stop_unless("planner",
        "{group}: no pass sets the figure {torque}.",
        "Add a pass at 100 %, or choose “by hand” as the target."),
    Finding.ENDS_BACKED_OFF: _stop_unless("planner",
        "{group}: the last pass turns the bolts back by {turn}; what they clamped is loose again.",
        "Tighten after it, or say why they stay backed off."),
    Finding.PROVISIONAL: _caution(
        "{group}: tightened by feel is provisional.",
        "Recheck with the right tool at once; the joint counts as of unknown history until then."),
    Finding.NO_COUNTER_HOLD: _note(
        "{group}: a bolt with a nut turns on the far side unless it is held.",
        "Add a counter-hold, or say why it cannot turn."),
    Finding.STAGE_ORDER: _caution(
        "Stage “{stage}” stands before “{other}” but comes after it.",
        "Move it, so that paper and run show one order."),
    Finding.TEMPORARY_STAYS: _stop(
        "“{what}” is fitted for the work and nothing takes it out again.",
        "Add a stage that removes it."),
    Finding.REMOVED_BEFORE_FITTED: _stop(
        "Stage “{stage}” takes out “{what}” before it is fitted.",
        "Put the stages in order."),
    Finding.CHECK_AFTER_SET: _stop(
        "Stage “{stage}” pulls bolts whose threadlocker (“{what}”) has set: the pull breaks the bond.",
        "Look at the marks, or slacken, clean and apply anew."),
    Finding.SETS_TOO_SOON: _caution(
        "Stage “{stage}” takes about {needs}; “{what}” sets in {sets}.",
        "Apply to fewer bolts at a time, or take a slower compound."),
    Finding.APPLIED_TOO_LATE: _caution(
        "“{what}” is applied after “{stage}” has tightened the same bolts.",
        "Apply it before."),
    Finding.CONDITION_NOT_NAMED: _caution(
        "Stage “{stage}” does not say in which condition it is valid.",
        "Name it: pressure off and cold, load off, lifted, wheel standing."),
    Finding.UNDER_PRESSURE: _stop(
        "Stage “{stage}” would turn bolts {condition}: a joint under pressure is never tightened.",
        "Pressure off and cold, drained and proved so."),
    Finding.HOT_RETIGHTENING: _stop(
        "Stage “{stage}” tightens {group} again hot: the gasket maker {word}.",
        "Cold and without pressure, and only with the gasket maker's word."),
    Finding.RETIGHTENING_NOT_SAID: _caution(
        "Stage “{stage}” tightens {group} again after service; its gasket's maker has not said whether that "
        "may be.",
        "Ask; many gaskets crack when tightened after heat."),
    Finding.NO_EARLY_RECHECK: _caution(
        "This joint settles early, and no recheck is planned soon after fitting.",
        "Add an early recheck: wheels after the first kilometres, covers after the first heat."),
    Finding.RECHECK_ODD: _note(
        "Recheck “{recheck}”: {reason}.",
        "Cleaned up in the forecast; ask the maker what was meant."),
    Finding.RECHECK_WITHOUT_STAGES: _caution(
        "Recheck “{recheck}” has no stage for the occasion “{occasion}”.",
        "Mark the stages that are done then."),
}
