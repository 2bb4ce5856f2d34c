"""Findings about the joint at work: loads, temperature, a flange judged by component."""

from __future__ import annotations

from .codes import Finding
from .rule import Rule, caution, note, stop, stop_unless

RULES: dict[Finding, Rule] = {
    Finding.SEPARATES: stop(
        "{group}: under its axial load the joint separates: the preload is {typical}, "
        "{limit} is needed. The bolt then carries "
        "the whole load and fails by fatigue.",
        "Take {torque} or more{but}; or more or larger bolts.",
    ),
    Finding.MAY_SEPARATE: caution(
        (
            "{group}: with high friction {low} is left after losses; under its axial load the "
            "joint separates below {limit}."
        ),
        "Less friction scatter, or {torque}{but}.",
    ),
    Finding.SLIPS: stop(
        (
            "{group}: the preload {typical} does not hold the transverse load by friction: "
            "{limit} is needed with the wanted safety."
        ),
        "Take {torque} or more{but}; or dowels, more faces, cleaner faces.",
    ),
    Finding.MAY_SLIP: caution(
        (
            "{group}: with high friction {low} is left after losses; {limit} is needed to hold "
            "the transverse load."
        ),
        "Less friction scatter, dowels, or {torque}{but}.",
    ),
    Finding.LEAKS: stop(
        "{group}: the preload {typical} does not hold the pressure: {limit} is needed.",
        "Take {torque} or more{but}.",
    ),
    Finding.MAY_LEAK: caution(
        (
            "{group}: with high friction {low} is left after losses; {limit} is needed to hold "
            "the pressure."
        ),
        "Less friction scatter, or {torque}{but}.",
    ),
    Finding.YIELDS_AT_WORK: stop(
        (
            "{group}: the typical preload {typical} and what the load adds take the bolt beyond "
            "yield at work (from {limit} on)."
        ),
        "Take {torque} or less{but}; or a higher grade.",
    ),
    Finding.MAY_YIELD_AT_WORK: caution(
        (
            "{group}: at low friction the preload may reach {high}; with what the load adds the "
            "bolt yields at work from {limit} on."
        ),
        "A measured friction band, or {torque}{but}.",
    ),
    Finding.FATIGUE: stop_unless(
        "planner",
        (
            "{group}: the stress amplitude at work is ±{swing}; limit of the thread ±{limit} "
            "({thread})."
        ),
        (
            "A softer bolt (longer, reduced shank), stiffer parts, more bolts; a cut, plated or "
            "rusty thread has a lower limit."
        ),
    ),
    Finding.NOTHING_LEFT: stop_unless(
        "planner",
        "{group}: of the typical preload {typical} nothing is left {when}: the joint is open.",
        (
            "A longer grip, more preload, materials that expand alike; or enter why it need not "
            "stay closed."
        ),
    ),
    Finding.YIELDS_HOT: stop(
        "{group}: at working temperature the bolt yields: {typical}, limit {limit} there.",
        "Take {torque} or less{but}; or a grade for that temperature.",
    ),
    Finding.MAY_YIELD_HOT: caution(
        (
            "{group}: at low friction the bolt may reach {high} at working temperature, limit "
            "{limit} there."
        ),
        "A measured friction band, or {torque}{but}.",
    ),
    Finding.COMPONENT_TARGET: note(
        (
            "{group}: the gasket's target stress asks for {stress} in the bolts ({load} each); "
            "between {least} and {most}."
        ),
        "Use it as the wanted clamp where nothing speaks against it.",
    ),
    Finding.COMPONENT_IMPOSSIBLE: stop(
        (
            "{group}: judged by component nothing fits: “{least}” asks for {low}, “{most}” "
            "allows {high}."
        ),
        "Another gasket, other bolts, or figures of the flange from its maker.",
    ),
    Finding.COMPONENT_TOO_LITTLE: stop(
        (
            "{group}: the typical preload {typical} is below the component bound “{bound}” "
            "({limit} a bolt)."
        ),
        "Take {torque} or more{but}.",
    ),
    Finding.COMPONENT_MAY_GET_TOO_LITTLE: caution(
        (
            "{group}: with high friction a bolt may give only {low}, below the component bound "
            "“{bound}” ({limit})."
        ),
        "Less friction scatter, or {torque}{but}.",
    ),
    Finding.COMPONENT_TOO_MUCH: stop(
        (
            "{group}: the typical preload {typical} is above the component bound “{bound}” "
            "({limit} a bolt)."
        ),
        "Take {torque} or less{but}.",
    ),
    Finding.COMPONENT_MAY_GET_TOO_MUCH: caution(
        (
            "{group}: at low friction a bolt may give {high}, above the component bound "
            "“{bound}” ({limit})."
        ),
        "A measured friction band, or {torque}{but}.",
    ),
}
