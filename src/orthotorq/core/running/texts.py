"""What the run says of deviations and failures beside what the kinds of pass say of their own."""
from __future__ import annotations

from functools import lru_cache

from ..kinds.pass_kind import Sayings
from ..kinds.pulls import FAIL, SAYS
from ..kinds.registry import PASS_KINDS

#: hints that hold for any kind of step
REDO = "Done again, as the plan asks."
REPEAT = "Repeated because the last answer was not sure or was taken back."
RENEWED = "A new bolt: it goes through what the old one had, from hand on."
UNTIMED = ("The clock of the server has gone back during this run, so this wait cannot be timed here. Take the time yourself, "
           "and go on when it is over; the record says so.")
SET = "The compound has set: slacken, clean and apply anew before you pull."

#: what a problem is about that stops the run -> (what to do, what is asked before it goes on)
STOPS: Sayings = {
    "unsafe": ("Stop. Nobody works on this joint or beside it before it is made safe. Call the supervisor.",
               "What was done to make it safe"),
    "wrench": ("Stop pulling. Check the wrench on a tester or against a better one, or take another: what it tightened so far "
               "may be wrong, too.", "How it was checked, what it read, what is done with the bolts it pulled")}

_DEVIATIONS: Sayings = {
    **{FAIL.format(code=code): (f"Bolt {{label}} at {{name}}: {wrong} ({{seen}}); left as it is: {{reason}}.", advice)
       for code, (wrong, advice) in SAYS.items() if code != "good"},
    "not_good": ("“{text}” was answered with not good{note}; left as it is: {reason}.", "A supervisor accepts it by name."),
    "out_of_limit": ("“{text}”{place}: {value} is outside {limit}; left as it is: {reason}.", "A supervisor accepts it by name."),
    "refuses": ("Bolt {label} refuses at {name}; left as it is: {reason}.", "Record it, and plan to cut and replace."),
    "heated": ("Bolt {label} was heated to get it loose: {reason}.",
               "Heat takes the temper out of bolts and spoils seals, rubber, paint and grease nearby: look at them."),
    "cut_off": ("Bolt {label} refused at {name} and was cut off: {reason}.", "New parts; look at hole and seat."),
    "drilled_out": ("Bolt {label} refused at {name} and was drilled out: {reason}.",
                    "The thread in the part is gauged over its whole depth before it is used again."),
    "stuck": ("Bolt {label} does not come loose at {name}; left as it is: {reason}.", "Record it, and plan to cut and replace."),
    "turns_on": ("Bolt {label} turns on without getting tight at {name}; left as it is: {reason}.",
                 "It yields or strips: the joint must not be used before it is replaced."),
    "set_too_late": ("Bolt {label} was pulled at {name} after “{what}” had set.", "Slacken, clean and apply anew."),
    "skipped": ("“{text}” was skipped: {reason}.", "A supervisor accepts it by name."),
    "untimed": ("“{text}” was not timed here: the server's clock had gone back.",
                "Ask who was there whether the time was kept; else do the pass again."),
    "moved": ("“{text}”: {seen}.", "Stop, and do again what the plan says; a supervisor decides."),
    "tool_expired": ("{name} ({serial}) was out of calibration when the run started ({until}).",
                     "Check the wrench and what it tightened."),
    "problem": ("{text}", ""),
}
#: stop condition -> (what is wrong in a few words, what to do next)
_FAILS: Sayings = {
    **{FAIL.format(code=code): (f"{wrong} ({{seen}})", advice) for code, (wrong, advice) in SAYS.items() if code != "good"},
    "not_good": ("not good{note}",
                 "Repair or replace, then it is looked at again; what stays as it is needs a supervisor's word."),
    "out_of_limit": ("{value} is outside {limit}",
                     "Repair or replace, then it is measured again; what stays as it is needs a supervisor's word."),
    "refuses": ("it refuses", "Turn it off again, look at both threads, clean or replace them: it must run by hand."),
    "stuck": ("it does not come loose",
              "Penetrant and time first; a little tighter, then back, breaks rust. More force comes last."),
    "set_too_late": ("“{what}” has set",
                     "Stop: a pull now breaks the bond. Slacken what is pulled, clean both threads, apply it anew."),
    "turns_on": ("it turns on and on",
                 "Stop: it yields, strips, or its seat sinks. Take it out and look; a bolt that has yielded is replaced."),
}


@lru_cache(maxsize=1)
def deviation_texts() -> Sayings:
    """Every deviation by its code: what is said, and what to do about it."""
    return {**_DEVIATIONS, **{code: said for kind in PASS_KINDS.values() for code, said in kind.sayings.items()}}


@lru_cache(maxsize=1)
def fail_texts() -> Sayings:
    """Every stop condition by its code: what is wrong, and what to do next."""
    return {**_FAILS, **{code: said for kind in PASS_KINDS.values() for code, said in (kind.failures | kind.halts).items()}}
