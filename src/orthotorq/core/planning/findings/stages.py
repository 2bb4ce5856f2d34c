"""Findings about passes, stages and rechecks."""

from __future__ import annotations

from .codes import Finding
from .rule import Rule, caution, note, stop, stop_unless

RULES: dict[Finding, Rule] = {
    Finding.COMPOUND_FORBIDDEN: stop_unless(
        "planner",
        "Stage “{stage}”: “{lubricant}” does not belong on {face}.",
        "Take another compound, or waive this with the maker's word.",
    ),
    Finding.COMPOUND_ON_GASKET: stop(
        "Stage “{stage}”: nothing is applied to a gasket or its faces unless its maker allows it; "
        "“{what}” is no exception.",
        "Leave them dry, or write the maker's word as the reason of the stage.",
    ),
    Finding.COMPOUND_DIFFERS: stop_unless(
        "planner",
        "{group}: stage “{stage}” puts on {applied}, and the figure is computed for “{lubricant}”.",
        "Make the two one: another compound gives another clamp at the same torque.",
    ),
    Finding.COMPOUND_NOT_APPLIED: caution(
        "{group}: the figure is computed for “{lubricant}”, and no stage puts it on.",
        "Add a stage that does, or waive this where the bolts come with it.",
    ),
    Finding.STRETCH_DIFFERS: caution(
        "{group}: the pressure leaves {left} in each bolt; the target is {wanted}.",
        "Pump to {pressure}, or enter the load that is wanted as the target.",
    ),
    Finding.STRETCH_UNCHECKED: caution(
        "{group}: later bolts relieve those that were stretched before them, and no pass shows it.",
        "End with a pass at the final pressure in which no nut may be found loose.",
    ),
    Finding.NO_CHECK_ROUND: caution(
        "{group}: there is no round that checks after the last full pass.",
        "Add a check round at 100 %, in circle or in cross.",
    ),
    Finding.ENDS_BELOW_FULL: stop(
        "{group}: the last pass is at {percent} %: the bolts never get the chosen torque.",
        "End with 100 %.",
    ),
    Finding.ENDS_ABOVE_FULL: caution(
        "{group}: the last pass is at {percent} %: the bolts end above the chosen torque.",
        "End with a round at 100 % that shows that none moves, or choose the higher torque.",
    ),
    Finding.PERCENT_FALLS: caution(
        "{group}: the pass at {percent} % follows one at {before} %: a wrench never lowers a load.",
        "Put the passes in rising order.",
    ),
    Finding.NO_RISING_PASSES: caution(
        "{group}: the first torque pass is at {percent} %: the gasket closes unevenly.",
        "Add rising passes, for example 35 and 70 %.",
    ),
    Finding.ANGLE_WITHOUT_SNUG: stop(
        "Stage “{stage}”: the angle “{name}” has no torque before it to count from.",
        "Put a snug torque before the angle.",
    ),
    Finding.ANGLE_DIFFERS: stop(
        (
            "{group}: the target is computed with {said} after the snug torque, but the passes "
            "turn {turned} in all."
        ),
        "Make the two one: the angle of the figure, or of the passes.",
    ),
    Finding.NEVER_TIGHTENED: stop_unless(
        "planner",
        "{group}: no stage tightens these bolts.",
        "Put them into a tighten stage, or enter why they are not tightened here.",
    ),
    Finding.FIGURE_NOT_SET: stop_unless(
        "planner",
        "{group}: no pass sets the figure {torque}.",
        "Add a pass at 100 %, or choose “by hand” as the target.",
    ),
    Finding.ENDS_BACKED_OFF: stop_unless(
        "planner",
        "{group}: the last pass turns the bolts back by {turn}; what they clamped is loose again.",
        "Tighten after it, or enter why they stay backed off.",
    ),
    Finding.PROVISIONAL: caution(
        "{group}: tightened by feel is provisional.",
        "Recheck with the right tool at once; the joint counts as of unknown history until then.",
    ),
    Finding.BOLT_NOT_THERE: stop(
        "Stage “{stage}” speaks of bolt {number} (“{text}”), and no bolt has this number.",
        "Enter a bolt that exists, or describe the place in words.",
    ),
    Finding.SPREAD_OF_ONE: caution(
        (
            "Stage “{stage}”: “{what}” has a limit for the difference between places, and is "
            "read at one place."
        ),
        "Read it at every bolt of a group, or several times at the one place.",
    ),
    Finding.READING_NOT_BEFORE: stop_unless(
        "planner",
        (
            "Stage “{stage}”: “{what}” has a limit for its change, and in a {occasion} nothing "
            "is read before it."
        ),
        "Read it earlier in the same run, or leave this stage out of the {occasion}.",
    ),
    Finding.STAGE_ORDER: caution(
        "Stage “{stage}” is before “{other}” in the plan but has to come after it.",
        "Move it, so that paper and run show one order.",
    ),
    Finding.CHECK_AFTER_SET: stop(
        (
            "Stage “{stage}” pulls bolts whose threadlocker (“{what}”) has set: the pull breaks "
            "the bond."
        ),
        "Check the marks, or slacken, clean and apply new compound.",
    ),
    Finding.SETS_TOO_SOON: caution(
        "Stage “{stage}” takes about {needs}; “{what}” sets in {sets}.",
        "Apply to fewer bolts at a time, or take a slower compound.",
    ),
    Finding.APPLIED_TOO_LATE: caution(
        "“{what}” is applied after “{stage}” has tightened the same bolts.", "Apply it before."
    ),
    Finding.CONDITION_NOT_NAMED: caution(
        "Stage “{stage}” has no condition under which it is done.",
        "Choose it: pressure off, cold, load off, wheel standing.",
    ),
    Finding.CONDITION_NOT_CHOSEN: caution(
        "Stage “{stage}” has “{says}” in words, but {what} is not chosen.",
        "Choose it: no rule reads own words.",
    ),
    Finding.UNDER_PRESSURE: stop(
        "Stage “{stage}” would turn bolts with {condition}: a joint under pressure is never "
        "tightened.",
        "Pressure off and cold, drained and proved so.",
    ),
    Finding.HOT_RETIGHTENING: stop(
        "Stage “{stage}” tightens {group} again hot: the gasket maker {word}.",
        "Cold and without pressure, and only with the gasket maker's word.",
    ),
    Finding.RETIGHTENING_NOT_SAID: caution(
        "Stage “{stage}” tightens {group} again after service; the gasket maker has not "
        "stated whether that is "
        "allowed.",
        "Ask the gasket maker: many gaskets crack when tightened after heat.",
    ),
    Finding.NO_EARLY_RECHECK: caution(
        "This joint settles early, and no recheck is planned soon after fitting.",
        "Add an early recheck: wheels after the first kilometres, covers after the first heat.",
    ),
    Finding.RECHECK_ODD: note(
        "Recheck “{recheck}”: {reason}.",
        "Cleaned up in the forecast; ask the maker what was meant.",
    ),
    Finding.RECHECK_WITHOUT_STAGES: caution(
        "Recheck “{recheck}” has no stage for the occasion “{occasion}”.",
        "Mark the stages that are done then.",
    ),
}
