"""Findings about the condition of a joint and its bolts."""

from __future__ import annotations

from .codes import Finding
from .rule import Rule, caution, note, stop, stop_unless

RULES: dict[Finding, Rule] = {
    Finding.GALLING: caution(
        (
            "{group}: stainless bolts in {mate} with “{lubricant}” gall: the nut seizes, and its "
            "click proves nothing."
        ),
        (
            "Nickel anti-seize or another paste for stainless on thread and face, turned slowly "
            "by hand."
        ),
    ),
    Finding.COMPOUND_UNNAMED: note(
        "{group}: the friction is given as figures, and what is on thread and face is not named.",
        "Name it: whether it galls, may be on this seat or harms the service depends on it.",
    ),
    Finding.ALUMINIUM_DRY: caution(
        "{group}: an unlubricated head wears into {part}: friction rises with every use.",
        "A washer, or oil under the head with its own torque.",
    ),
    Finding.DRY_SEAT_LUBRICATED: caution(
        "{group}: wheel threads and seats stay dry unless the maker requires otherwise; with "
        "{lubricant} the same torque gives "
        "{typical} instead of {dry} ({rise} %).",
        "Keep them dry, or set {torque} for the clamp of the dry thread.",
    ),
    Finding.PASTE_ON_HUB: stop(
        (
            "{group}: “{lubricant}” has solid lubricant in it; on a friction hub it takes away "
            "the grip."
        ),
        "Clean everything and oil lightly.",
    ),
    Finding.HUB_NOT_OILED: caution(
        "{group}: the screws of a locking hub are lightly oiled; “{lubricant}” gives another "
        "clamp at the "
        "same torque.",
        "Oil lightly unless the hub's maker requires otherwise.",
    ),
    Finding.WRONG_CONDITION: caution(
        "{group}: the seat must be {must}, but the plan has “{lubricant}”.",
        "Change the condition, or what the seat asks for.",
    ),
    Finding.COMPOUND_NOT_HERE: stop_unless(
        "planner",
        "{group}: “{lubricant}” does not belong {place}.",
        "Take a compound whose sheet allows it, or waive this with its maker's word.",
    ),
    Finding.COMPOUND_TOO_HOT: caution(
        (
            "{group}: at {temperature} “{lubricant}” is above what it is used for (about "
            "{limit}): it dries out or burns."
        ),
        "A compound for that temperature; else expect seized nuts and another friction next time.",
    ),
    Finding.GASKET_TOO_HOT: stop_unless(
        "planner",
        (
            "{group}: at {temperature} the gasket “{gasket}” is above the limit of its kind "
            "(about {limit})."
        ),
        "Another gasket, or waive this with its maker's word.",
    ),
    Finding.TEMPERATURE_TYPICAL: note(
        "{group}: at work bolts are at {bolt}, parts at {parts}: the typical {cold} after "
        "losses become {hot} there. Typical "
        "figures of a table{unsure}.",
        "Steady temperatures; look at start, stop and wash-down too.",
    ),
    Finding.SINGLE_USE_REUSED: stop(
        "{group}: these parts are for single use, and the plan takes used ones.",
        "New parts; put them on the part list.",
    ),
    Finding.REUSED_TOO_OFTEN: stop(
        "{group}: tightened {uses} times so far; the maker allows {most}.", "New bolts."
    ),
    Finding.LAST_USE: note(
        "{group}: this is the last of {most} uses that the maker allows.",
        "Have new bolts ready for the next time.",
    ),
    Finding.FRICTION_TYPICAL: note(
        (
            "{group}: the friction of “{lubricant}” is a typical band (thread {band}), not the "
            "maker's figure."
        ),
        "Enter the band of the compound's sheet, or one measured here.",
    ),
    Finding.TESTED_ELSEWHERE: caution(
        "{group}: the nut factor of “{lubricant}” was tested on {threads}, these bolts are "
        "{thread}: it holds for the size and "
        "seat that were tested.",
        (
            "Test on this size, or measure torque and clamp load: friction carries over, the nut "
            "factor does not."
        ),
    ),
    Finding.FRICTION_UNKNOWN: caution(
        "{group}: the friction of “{lubricant}” is a guess: the load scatters 1 : {spread}.",
        "Clean or replace, lubricate, or measure the friction.",
    ),
    Finding.HISTORY_UNKNOWN: caution(
        (
            "{group}: the history of these bolts is unknown. A click proves only that this "
            "torque does not move the nut."
        ),
        "Slacken each bolt first, one at a time, then follow the passes.",
    ),
    Finding.NO_COUNTER_HOLD: note(
        "{group}: a bolt with a nut turns on the far side unless it is held.",
        "Add a counter-hold, or enter why it cannot turn.",
    ),
    Finding.SOCKET_ROOM: caution(
        (
            "{group}: {count} bolts are {spacing} mm apart; a head of {flats} mm across flats "
            "leaves no room for a socket."
        ),
        "Check layout and thread.",
    ),
}
