"""What the run says: instructions, answers and deviations, used on screen, on paper and in tests."""
from __future__ import annotations

ANSWERS: dict[str, str] = {
    "done": "Done", "good": "Good", "not_good": "Not good", "turned": "Clicked, it turned",
    "did_not_turn": "Clicked, did not turn", "not_sure": "Not sure", "value": "Reading", "refuses": "It refuses",
    "turns_on": "It turns on and on", "stopped_early": "Stopped before the angle", "cap": "The cap clicked first",
    "free": "It is free", "not_yet": "Not yet free", "moved": "It moved", "still": "Nothing moved", "repair": "Repaired",
    "replace": "Replaced", "accept": "Leave it, with a reason", "skip": "Skipped",
}
#: kind of step -> words that differ there
WORDS: dict[str, dict[str, str]] = {
    "condition": {"done": "Yes, it is", "not_good": "No"},
    "check_pull": {"turned": "It moved", "did_not_turn": "Did not move"},
    "angle": {"turned": "Turned to the mark"},
    "hand": {"done": "Runs by hand, seated", "refuses": "Does not run by hand"},
    "loosen": {"done": "Loosened", "refuses": "It does not come loose"},
    "back_off": {"done": "Backed off"}, "snug": {"done": "Snug"}, "feel": {"done": "As tight as I can"},
    "wait": {"done": "Go on"}, "gap": {"value": "Gap"},
    "decision": {"repair": "Repaired, look again", "replace": "Replaced, look again"},
}
KEYS: dict[str, str] = {"done": "space", "good": "space", "not_good": "g", "turned": "space", "did_not_turn": "d",
                        "not_sure": "n", "value": "enter", "refuses": "r", "turns_on": "o", "stopped_early": "e", "cap": "p",
                        "free": "f", "not_yet": "space", "moved": "m", "still": "space", "repair": "1", "replace": "2",
                        "accept": "3", "skip": "k"}

INSTRUCTIONS: dict[str, str] = {
    "condition": "Is the joint in this condition now?", "item": "Do this, then confirm.",
    "check": "Look, then say what you see.", "reading": "Measure and enter the reading.",
    "hand": "Run it up by hand until it seats.", "snug": "Snug, without a figure: to its stop, no more.",
    "feel": "As tight as you can with what you have.", "pull": "Pull steadily, stop at the click.",
    "pull_check": "Pull steadily to the click. Did it move before the click?",
    "pull_repeat": "Pull again to the click. Did it turn?",
    "angle": "Turn on by {turn}, in one pull if you can.", "back_off": "Turn back by {turn}.",
    "gap": "Turn by {turn}, then measure the gap here.", "loosen": "Loosen by {turn}, no more.",
    "jack": "Turn every jacking screw by {turn}, one after the other.", "wait": "Nothing is turned until then.",
    "watch": "Watch, then say what you saw.", "decision": "What was done about it?",
}
HINTS: dict[str, str] = {
    "condition": "If not, bring it there first: the work is valid in this condition only.",
    "hand": "It must run freely. If it resists, take it off and look at both threads.",
    "pull": "One click. Do not pull on after it.",
    "pull_check": "A click without movement proves only that this torque does not move the nut.",
    "repeat": "Repeated because the last answer was not sure or was taken back.",
    "redo": "Done again, as the plan asks.",
    "slacken": "Slacken this one first, about a quarter turn, then pull: its history is unknown.",
    "angle_disc": "Set the disc to zero at the snug torque, hold its arm against something that does not turn.",
    "angle_marks": "Mark socket and part before you turn; the marks must meet.",
    "angle_flats": "One flat of a hexagon is 60°.",
    "angle_electronic": "The wrench counts the angle; start from a standing nut.",
    "loosen": "A little at a time, in this order. Stay out of line with the joint; never with the torque wrench.",
    "gap": "Small turns all the way round; the largest gap comes first.",
    "feel": "Provisional: it forces a recheck with the right tool.",
    "jack": "Small equal turns, so that the part comes off straight.",
    "set": "The compound has set: slacken, clean and apply anew before you pull.",
}
DEVIATIONS: dict[str, tuple[str, str]] = {
    "did_not_turn": ("Bolt {label} did not turn at {name}, though the torque rose: seized, cross-threaded, bottomed or already "
                     "tight?", "Slacken it, look at the thread, run it on by hand, pull again."),
    "rounds_exhausted": ("{name}: after {max} rounds bolts still moved. The joint has not settled.",
                         "Stop. Look for a soft part, a wrong gasket or dirt; ask before pulling on."),
    "pulls_exhausted": ("Bolt {label} still turned after {max} pulls at {name}.",
                        "It yields, strips or its seat sinks: take it out and look."),
    "not_good": ("“{text}” was answered with not good{note}; left as it is: {reason}.", "A supervisor accepts it by name."),
    "out_of_limit": ("“{text}”{place}: {value} is outside {limit}; left as it is: {reason}.", "A supervisor accepts it by name."),
    "refuses": ("Bolt {label} refuses at {name}; left as it is: {reason}.", "Record it, and plan to cut and replace."),
    "turns_on": ("Bolt {label} turns on without getting tight at {name}; left as it is: {reason}.",
                 "It yields or strips: the joint must not be used before it is replaced."),
    "out_of_window": ("Bolt {label} turned {value} at {name}, outside {window}; left as it is: {reason}.",
                      "Too little: seized or bottomed; too much: yield or a soft part."),
    "stopped_early": ("Bolt {label} stopped before the angle at {name}; left as it is: {reason}.",
                      "Already tight, seized or bottomed."),
    "gap_uneven": ("{name}: the gaps end {spread} mm apart, more than {limit} mm.",
                   "Slacken the tight side a little and go round again."),
    "gap_open": ("{name}: after {max} rounds the gap is still {gap} mm at bolt {label}.",
                 "Something is between the parts, or the part is too hard."),
    "cap_reached": ("{name}: the cap clicked at bolt {label} with a gap of {gap} mm.",
                    "Torque rises and clamp does not: look where the halves meet."),
    "not_free": ("{name}: not free after {max} rounds.",
                 "Stop: something still holds it. Never take out a retaining bolt before it is free."),
    "set_too_late": ("Bolt {label} was pulled at {name} after “{what}” had set.", "Slacken, clean and apply anew."),
    "skipped": ("“{text}” was skipped: {reason}.", "A supervisor accepts it by name."),
    "moved": ("“{text}”: it moved.", "Stop and do it again."),
    "tool_expired": ("{name} ({serial}) was out of calibration when the run started ({until}).",
                     "Check the wrench and what it tightened."),
    "problem": ("{text}", ""),
}
#: stop condition -> (what is wrong in a few words, what to do next)
FAILS: dict[str, tuple[str, str]] = {
    "not_good": ("not good{note}",
                 "Repair or replace, then it is looked at again; what stays as it is needs a supervisor's word."),
    "out_of_limit": ("{value} is outside {limit}",
                     "Repair or replace, then it is measured again; what stays as it is needs a supervisor's word."),
    "refuses": ("it refuses", "Turn it off again, look at both threads, clean or replace them: it must run by hand."),
    "turns_on": ("it turns on and on",
                 "Stop: it yields, strips, or its seat sinks. Take it out and look; a bolt that has yielded is replaced."),
    "stopped_early": ("it stopped before the angle", "Do not force it: slacken, look for a seized or bottomed thread."),
    "out_of_window": ("{value} is outside {window}",
                      "Too little: seized or bottomed. Too much: beyond yield, or a soft part; then the bolt is replaced."),
}
