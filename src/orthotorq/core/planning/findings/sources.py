"""Findings about sources of figures."""

from __future__ import annotations

from .codes import Finding
from .rule import Rule, caution, note, stop, stop_unless

RULES: dict[Finding, Rule] = {
    Finding.EXAMPLE_VALUES: Rule(
        "stop",
        False,
        None,
        "{part}: {count}: {values}.",
        "Change them, or press Confirm values.",
        "confirm_examples",
        "Confirm values",
    ),
    Finding.SOURCE_STRUCK: note(
        "{source} is not taken for {group}: {reason}.",
        "Nothing to do, or correct what it is valid for.",
    ),
    Finding.SOURCE_RANGE: note(
        "{group}: the source gives {low} to {high}; its middle is {middle}.",
        "Where another figure of the range is better, type it with a reason.",
    ),
    Finding.SOURCE_TWO_FIGURES: caution(
        "{group}: one source gives two figures: {figures}. {taken} is taken.",
        "Ask its maker which one holds.",
    ),
    Finding.SOURCE_SILENT: note("{source} has no value for {group}.", "Nothing to do."),
    Finding.SOURCE_CONFLICT: caution(
        "{group}: {second} is {difference} % off {first}, which {rank}.",
        "Ask the maker; both stay with the plan.",
    ),
    Finding.STRUCK_SOURCE_TAKEN: stop_unless(
        "planner",
        "{group}: the chosen source does not hold here: {reason}.",
        "Choose a valid source, or waive this with a reason.",
    ),
    Finding.ANGLE_LEFT_OUT: stop_unless(
        "planner",
        (
            "{group}: {taken} is taken and {first} turns the bolts on by an angle after its "
            "torque: most of the clamp comes from it."
        ),
        (
            "Take the source's figure with its angle, or waive this with the reason why a torque "
            "alone is enough."
        ),
    ),
    Finding.OWN_FIGURE: caution(
        "{group}: {taken} is the planner's own value: {source} has {says} ({difference}).",
        "Take the source's figure, or take the source away from it and give the reason.",
    ),
    Finding.OVERRULED: note(
        "{group}: {taken} is taken and not {first}, because: {reason}.",
        "Nothing to do; it is printed on the sheet.",
    ),
    Finding.OVERRULED_WITHOUT_REASON: caution(
        "{group}: {first} ranks higher and is not taken; no reason is given.",
        "Use it, or write the reason.",
    ),
    Finding.BOUND_EXCEEDED: stop(
        "{group}: {torque} is above the bound of {source} ({limit}).", "Take {limit} or less."
    ),
    Finding.BELOW_BOUND: stop(
        "{group}: {torque} is below the bound of {source} ({limit}).",
        "Take {limit} or more, if the bolt allows it.",
    ),
    Finding.PAIR_UNDECIDED: stop(
        "{group}: “{first}” and “{second}” do not agree: ratio {ratio}{guess}. The first "
        "would give {does_first}; "
        "the second {does_second}. No other source shows which holds; {taken} is computed "
        "until one is chosen.",
        "Ask the maker, then choose at the source which of the two applies, and why.",
    ),
    Finding.PAIR_MISMATCH: caution(
        "{group}: “{first}” and “{second}” do not agree: the second is {difference} % off "
        "the first. {supports} supports "
        "{taken}, which is taken.",
        "Tell the maker which one is misprinted.",
    ),
    Finding.PAIR_DECIDED: note(
        (
            "{group}: of “{first}” and “{second}”, {difference} % apart, {taken} holds, because: "
            "{reason}."
        ),
        "Nothing to do; it is printed on the sheet.",
    ),
    Finding.PAIR_AGREES: note(
        "{group}: “{first}” and “{second}” agree ({difference} %).", "Nothing to do."
    ),
}
