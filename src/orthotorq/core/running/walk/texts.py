"""What the run says of deviations and failures beside what the kinds of pass say of their own."""

from __future__ import annotations

from functools import lru_cache

from ...kinds.pass_kind import Sayings
from ...kinds.pulls import FAIL, SAYS
from ...kinds.registry import PASS_KINDS

#: hints that hold for any kind of step
REDO = "Done again, as the plan asks."
REPEAT = "Again: the last answer here was withdrawn."
RENEWED = "This bolt was loose, or is new: it goes through all passes again, from hand on."
FINISHES = "Finish the turn that was started, from its first mark. Never the whole turn again."
NEW_BOLT = "For the new bolt at this place."
BESIDE = (
    "The bolt beside it was tightened again and takes load from this one: tighten to the click "
    "again."
)
SET_RIGHT = "It was pulled with a wrong setting: again with the right one."
UNTIMED = (
    "The clock of the server has gone back during this run, so this wait cannot be timed "
    "here. Take the time yourself, "
    "and continue when it is over; the record notes it."
)
#: a position is gone to before anything is answered there
GO_TO = "Go to: {position}"
SET = "The compound has set: slacken, clean and apply new compound before you pull."

NO_IMPACT = "No impact tool here."

#: what a problem is about that stops the run -> (what to do, what is asked before it goes on)
STOPS: Sayings = {
    "unsafe": (
        (
            "Stop. Nobody works on this joint or beside it before it is made safe. Call the "
            "supervisor."
        ),
        "What was done to make it safe",
    ),
    "wrench": (
        "Stop pulling. Check the wrench on a tester or against a better one, or take "
        "another: what it tightened so far "
        "may be wrong, too.",
        "How it was checked, what it read, what is done with the bolts it pulled",
    ),
}

_DEVIATIONS: Sayings = {
    **{
        FAIL.format(code=code): (
            f"Bolt {{label}} at {{name}}: {wrong} ({{seen}}); left as it is: {{reason}}.",
            advice,
        )
        for code, (wrong, advice) in SAYS.items()
        if code != "good"
    },
    "not_good": (
        "“{text}” not good{note}; left as it is: {reason}.",
        "A supervisor accepts it by name.",
    ),
    "out_of_limit": (
        "“{text}”{place}: {value} is outside {limit}; left as it is: {reason}.",
        "A supervisor accepts it by name.",
    ),
    "does_not_come_off": (
        "“{text}”: it does not come off; left as it is: {reason}.",
        "Record it, and plan to cut and replace.",
    ),
    "part_cut_off": (
        "“{text}”: it refused and was cut off: {reason}.",
        "New parts; look at hole and seat.",
    ),
    "part_drilled_out": (
        "“{text}”: it refused and was drilled out: {reason}.",
        "The thread in the part is gauged over its whole depth before it is used again.",
    ),
    "repeats_apart": (
        "“{text}”{place}: readings {value} apart, more than {limit}; left as it is: {reason}.",
        "A supervisor accepts it by name.",
    ),
    "changed": (
        (
            "“{text}”{place}: changed by {value} from {before}, not by {limit}; left as it is: "
            "{reason}."
        ),
        "A supervisor accepts it by name.",
    ),
    "no_reading_before": (
        "“{text}”{place}: no earlier reading to compare with; left as it is: {reason}.",
        "The change is not known.",
    ),
    "spread": (
        (
            "“{text}”: {value} between the smallest and the largest, more than {limit}; left as "
            "it is: {reason}."
        ),
        "A supervisor accepts it by name.",
    ),
    "refuses": (
        "Bolt {label} refuses at {name}; left as it is: {reason}.",
        "Record it, and plan to cut and replace.",
    ),
    "heated": (
        "Bolt {label} was heated to get it loose: {reason}.",
        (
            "Heat takes the temper out of bolts and spoils seals, rubber, paint and grease "
            "nearby: look at them."
        ),
    ),
    "replaced": (
        "Bolt {label} was replaced at {name}{why}.",
        "Batch and part of the new one are recorded with its answers.",
    ),
    "wrench_changed": (
        "{old} was replaced by {new} during the run: {reason}.",
        "If the first one is not trusted, what it tightened is checked.",
    ),
    "cut_off": (
        "Bolt {label} refused at {name} and was cut off: {reason}.",
        "New parts; look at hole and seat.",
    ),
    "drilled_out": (
        "Bolt {label} refused at {name} and was drilled out: {reason}.",
        "The thread in the part is gauged over its whole depth before it is used again.",
    ),
    "stuck": (
        "Bolt {label} does not come loose at {name}; left as it is: {reason}.",
        "Record it, and plan to cut and replace.",
    ),
    "turns_on": (
        "Bolt {label} turns on without getting tight at {name}; left as it is: {reason}.",
        "It yields or strips: the joint must not be used before it is replaced.",
    ),
    "past_click": (
        "Bolt {label} was pulled past the click at {name}; left as it is: {reason}.",
        (
            "Its load is higher than planned, or it has yielded: slacken it and start again, or "
            "use a new one."
        ),
    ),
    "no_reach": (
        "Bolt {label} cannot be reached at {name}; left as it is: {reason}.",
        "A bolt that was not pulled is missing: find a socket or adapter that reaches it.",
    ),
    "turn_unsure": (
        "Bolt {label}: at {name} it is unknown how far it was turned; left as it is: {reason}.",
        "Its load is not known: back to loose, or a new bolt, and all passes again.",
    ),
    "turn_finished": (
        "Bolt {label}: the turn of {name} was measured and finished: {reason}.",
        "Reference and position were certain; look at the readings.",
    ),
    "past_mark": (
        "Bolt {label} was turned past the mark at {name}; left as it is: {reason}.",
        (
            "Its load is higher than planned, or it has yielded: slacken it and start again, or "
            "use a new one."
        ),
    ),
    "dropped": (
        "At bolt {label}, {name}, a part was dropped and not found: {reason}.",
        "Nothing is started before it is found: a loose part can jam or destroy the machine.",
    ),
    "wrong_setting": (
        "Bolt {label}: at {name} the wrench was set wrong; left as it is: {reason}.",
        "What was pulled with it has not the load that is planned.",
    ),
    "wrong_setting_mended": (
        (
            "Bolt {label}: at {name} the wrench was found set wrong; what was pulled with it was "
            "pulled again."
        ),
        "Look at the setting before the first bolt of every pass.",
    ),
    "another_bolt": (
        "Another bolt than {label} was pulled at {name}; left as it is: {reason}.",
        "It is unknown which bolt has what: tighten all of them again.",
    ),
    "other_bolt": (
        "Bolt {other} was pulled instead of bolt {label} at {name}.",
        "It was corrected during the run.",
    ),
    "order_lost": (
        "At bolt {label}, {name}, the order was lost; left as it is: {reason}.",
        "It is unknown which bolts were turned: slacken all and start again.",
    ),
    "order_found": (
        "At bolt {label}, {name}, the order was lost; marks showed which bolts were done.",
        "",
    ),
    "round_again": (
        "{name}: at bolt {label} the order was lost, and the round was started again.",
        "",
    ),
    "not_in_condition": (
        "The joint was not in the condition “{condition}”; worked all the same: {reason}.",
        "The figures hold in that condition only.",
    ),
    "set_too_late": (
        "Bolt {label} was pulled at {name} after “{what}” had set.",
        "Slacken, clean and apply new compound.",
    ),
    "skipped": ("“{text}” was skipped: {reason}.", "A supervisor accepts it by name."),
    "untimed": (
        "“{text}” was not timed here: the server's clock had gone back.",
        "Ask who was there whether the time was kept; else do the pass again.",
    ),
    "moved": (
        "“{text}”: {seen}; left as it is: {reason}.",
        "Stop the machine, lock it out. It must not be used before it is repaired.",
    ),
    "tool_expired": (
        "{name} ({serial}) was not good when the run started: {state}.",
        "Check the wrench and what it tightened.",
    ),
    "problem": ("{text}", ""),
}
#: stop condition -> (what is wrong in a few words, what to do next)
_FAILS: Sayings = {
    **{
        FAIL.format(code=code): (f"{wrong} ({{seen}})", advice)
        for code, (wrong, advice) in SAYS.items()
        if code != "good"
    },
    "not_good": (
        "not good{note}",
        "Repair or replace, then it is looked at again; what is left as it is needs a supervisor.",
    ),
    "out_of_limit": (
        "{value} is outside {limit}",
        "Repair or replace, then it is measured again; what is left as it is needs a supervisor.",
    ),
    "does_not_come_off": (
        "it does not come off",
        (
            "Penetrant and time first; a little tighter, then back, breaks rust. More force "
            "comes last."
        ),
    ),
    "repeats_apart": (
        "the readings are {value} apart, more than {limit}",
        (
            "Something moves: the gauge, its foot, dirt, or what is measured. Look, then read "
            "all again."
        ),
    ),
    "changed": (
        "it changed by {value} from {before}, not by {limit}",
        "Look at the gauge and its zero first. Then repair what moved, or read all again.",
    ),
    "no_reading_before": (
        "there is no earlier reading to compare with",
        "The change is not known: read the first one again, or leave it with a reason.",
    ),
    "spread": (
        "{value} between the smallest and the largest, more than {limit}",
        "It is not square. Loosen where it is tightest, tighten where it is widest as the "
        "plan says, "
        "then read all again.",
    ),
    "moved": (
        "{seen}",
        "Stop the machine and lock it out before anybody goes near. Then do again what the plan "
        "says, or repair the cause and watch again; what stays as it is must not be used.",
    ),
    "refuses": (
        "it refuses",
        "Turn it off again, look at both threads, clean or replace them: it must run by hand.",
    ),
    "stuck": (
        "it does not come loose",
        (
            "Penetrant and time first; a little tighter, then back, breaks rust. More force "
            "comes last."
        ),
    ),
    "past_click": (
        "it was pulled past the click",
        "Do not go on. Slacken it, look at it, run it on by hand, and take it through all "
        "passes again. A bolt near "
        "its yield is replaced.",
    ),
    "no_reach": (
        "the socket does not reach it",
        "Take a socket that reaches. An adapter changes the setting: take it under More.",
    ),
    "past_mark": (
        "it was turned past the mark",
        "Do not turn back to the mark: a nut turned back has lost its load. Slacken it and "
        "take it through all passes "
        "again; one for single use, or one turned into yield, is replaced.",
    ),
    "dropped": (
        "a part was dropped",
        "Find it before anything else is done; a magnet and a mirror help. Clean it and look "
        "at its thread and faces; one "
        "that is marked or bent is replaced.",
    ),
    "wrong_setting": (
        "the wrench was set wrong",
        "Set it right first. Set too low: what was pulled with it is pulled again. Set too "
        "high: slacken each of "
        "those bolts, look at it, and take it through all passes again.",
    ),
    "wrong_since": (
        "the wrench was set wrong",
        "In this pass. For an earlier pass, do its stage again under More.",
    ),
    "another_bolt": (
        "another bolt was pulled",
        "Of a torque the other bolt comes in its turn and clicks without turning. Of a turn "
        "it is slackened, and "
        "goes through all passes again.",
    ),
    "order_lost": (
        "the order was lost",
        "Look at the marks. Where they do not show each bolt that is done, slacken all bolts "
        "of this stage and start "
        "it again: a turn is never made twice.",
    ),
    "not_in_condition": (
        "the joint is not in this condition",
        "Bring it there first. The figures hold in this condition only: a joint tightened in "
        "another has not "
        "the load that is planned.",
    ),
    "turn_unsure": (
        "it is unknown how far it was turned",
        "Never the same turn on top. Where the mark is certain and nothing has slipped, "
        "measure what was turned and "
        "finish it. Else slacken this bolt; one for single use, or one turned into yield, is "
        "replaced.",
    ),
    "set_too_late": (
        "“{what}” has set",
        (
            "Stop: a pull now breaks the bond. Slacken what is pulled, clean both threads, apply "
            "new compound."
        ),
    ),
    "turns_on": (
        "it keeps turning",
        (
            "Stop: it yields, strips, or its seat sinks. Remove it and inspect; a bolt that has "
            "yielded is replaced."
        ),
    ),
}


@lru_cache(maxsize=1)
def deviation_texts() -> Sayings:
    """Every deviation by its code: what is said, and what to do about it."""
    return {
        **_DEVIATIONS,
        **{code: said for kind in PASS_KINDS.values() for code, said in kind.sayings.items()},
    }


@lru_cache(maxsize=1)
def fail_texts() -> Sayings:
    """Every stop condition by its code: what is wrong, and what to do next."""
    return {
        **_FAILS,
        **{
            code: said
            for kind in PASS_KINDS.values()
            for code, said in (kind.failures | kind.halts).items()
        },
    }
