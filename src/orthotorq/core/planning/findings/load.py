"""Findings about load and strength."""

from __future__ import annotations

from .codes import Finding
from .rule import Rule, caution, note, stop, stop_unless

RULES: dict[Finding, Rule] = {
    Finding.YIELDS: stop(
        (
            "{group}: already at typical friction this torque loads the bolt to {high}, beyond "
            "yield with torsion ({limit})."
        ),
        "Take {torque} or less{but}; or a higher grade.",
    ),
    Finding.MAY_YIELD: caution(
        (
            "{group}: {at} this torque may load the bolt to {high}, beyond yield with torsion "
            "({limit})."
        ),
        "A measured friction band, a finer tool, or {torque}, keeps it inside{but}.",
    ),
    Finding.ANGLE_YIELDS: stop_unless(
        "planner",
        "{group}: after the angle the bolt is beyond yield ({limit}); beyond it no load can "
        "be given, and "
        "the bolt is used once.",
        "Take the angle from the maker and new bolts, and enter it here, or {torque}{but}.",
    ),
    Finding.ANGLE_MAY_YIELD: caution(
        "{group}: at the far end of its friction, its window or its stiffness the bolt goes "
        "beyond yield with torsion "
        "({limit}); beyond it no load can be given.",
        "Take new bolts each time; {torque} keeps every end inside{but}.",
    ),
    Finding.OVER_SHARE: stop(
        "{group}: the typical preload {typical} is above the chosen {share} of yield ({limit}).",
        "Take {torque} or less{but}, or choose another share with a reason.",
    ),
    Finding.MAY_EXCEED_SHARE: caution(
        (
            "{group}: with the low friction of the band the load may reach {high}, above the "
            "chosen {share} of yield ({limit})."
        ),
        "A measured friction band, or {torque}, keeps it inside{but}.",
    ),
    Finding.OVER_COMBINED: stop(
        (
            "{group}: the typical preload {typical} is above the combined limit at assembly "
            "({limit}, {nu} of yield)."
        ),
        "Take {torque} or less{but}.",
    ),
    Finding.MAY_EXCEED_COMBINED: caution(
        (
            "{group}: at low friction the load may reach {high}, above the combined limit at "
            "assembly ({limit}, {nu} of yield)."
        ),
        "A measured friction band, or {torque}, keeps it inside{but}.",
    ),
    Finding.OVER_PUMPED: stop(
        "{group}: the bolt carries {typical}, above {nu} of yield in tension ({limit}).",
        "Pump to {torque} or less{but}.",
    ),
    Finding.MAY_EXCEED_PUMPED: caution(
        "{group}: while pumped the load may reach {high}, above {nu} of yield in tension "
        "({limit}).",
        "A gauge that is less far off, or {torque}, keeps it inside{but}.",
    ),
    Finding.OVER_PROOF: stop(
        "{group}: the typical preload {typical} is above the proof load ({limit}).",
        "Take {torque} or less{but}.",
    ),
    Finding.MAY_EXCEED_PROOF: caution(
        "{group}: the load may reach {high}, above the proof load ({limit}).",
        "Take {torque} or less{but}, unless the maker requires otherwise.",
    ),
    Finding.STRIPS: stop(
        (
            "{group}: the typical preload {typical} strips the {which} thread ({limit} over "
            "{engaged} engaged)."
        ),
        "Engage more thread, or take {torque} or less{but}.",
    ),
    Finding.MAY_STRIP: caution(
        (
            "{group}: at low friction the load may reach {high}, above what the {which} thread "
            "carries ({limit})."
        ),
        "Engage more thread, or take {torque}{but}.",
    ),
    Finding.STRIPS_FIRST: caution(
        "{group}: the {which} thread would strip before the bolt breaks: {engaged} engaged, "
        "{required} "
        "needed (and {pitch} for incomplete threads).",
        "Engage more thread; a stripped part costs more than a bolt.",
    ),
    Finding.FEW_TURNS: caution(
        (
            "{group}: only {turns} turns of thread are engaged; the plain rule for {material} "
            "asks {rule}."
        ),
        "A longer bolt, a thinner spacer, or the maker's word.",
    ),
    Finding.NO_THREAD: stop(
        "{group}: no thread is left engaged: the spacer takes all of it.",
        "A longer bolt or a thinner spacer.",
    ),
    Finding.BOTTOMS: stop(
        (
            "{group}: the bolt reaches {reach} into a hole with {depth} of thread: it bottoms "
            "and clamps nothing."
        ),
        "A shorter bolt or a washer under the head; measure the hole.",
    ),
    Finding.PRESSES_IN: stop(
        (
            "{group}: the typical preload {typical} presses the head into {part} (its limit is "
            "{limit})."
        ),
        "A washer that spreads the load, or {torque} or less{but}.",
    ),
    Finding.PRESSES_IN_BY_TABLE: caution(
        "{group}: the typical preload {typical} is above the limit of {part} under the head by the "
        "table ({limit}; typical of the material).",
        (
            "Enter the limit of this part, or add a washer that spreads the load, or take "
            "{torque} or less{but}."
        ),
    ),
    Finding.MAY_PRESS_IN: caution(
        "{group}: at low friction the load may reach {high}, above the limit of {part} under the "
        "head ({limit}).",
        "A washer that spreads the load, or {torque}{but}.",
    ),
    Finding.SOFT_PART_OVER: stop(
        (
            "{group}: the typical preload {typical} is above the limit of the soft part ({limit} "
            "a bolt)."
        ),
        "Take {torque} or less{but}; let the gap decide, not the torque.",
    ),
    Finding.MAY_EXCEED_SOFT_PART: caution(
        (
            "{group}: at low friction the load may reach {high}; the limit of the soft part is "
            "{limit} a bolt."
        ),
        "Stop at the gap; {torque} keeps the load inside{but}.",
    ),
    Finding.BELOW_REQUIRED: stop(
        "{group}: the typical preload {typical} does not reach the clamp load needed ({limit}).",
        "Take {torque} or more{but}.",
    ),
    Finding.MAY_FALL_BELOW_REQUIRED: caution(
        (
            "{group}: with high friction and after losses the load may be only {low}, below the "
            "clamp load needed ({limit})."
        ),
        "Less friction scatter, a finer tool, or {torque} closes the gap{but}.",
    ),
    Finding.GASKET_TOO_LITTLE: stop(
        (
            "{group}: the typical preload {typical} does not give the gasket what its sheet asks "
            "({limit} a bolt)."
        ),
        "Take {torque} or more{but}.",
    ),
    Finding.GASKET_MAY_GET_TOO_LITTLE: caution(
        (
            "{group}: with high friction a bolt may give only {low}; the gasket's sheet asks "
            "{limit} a bolt."
        ),
        "Lubricate thread and nut face, or take {torque}{but}.",
    ),
    Finding.GASKET_TOO_MUCH: stop(
        "{group}: the typical preload {typical} damages the gasket ({limit} a bolt on its sheet).",
        "Take {torque} or less{but}.",
    ),
    Finding.GASKET_MAY_GET_TOO_MUCH: caution(
        (
            "{group}: at low friction a bolt may give {high}; the gasket is damaged from {limit} "
            "a bolt."
        ),
        "A measured friction band, or {torque}, keeps it inside{but}.",
    ),
    Finding.SHORT_GRIP: caution(
        "{group}: grip length is {ratio} × the diameter: settling of the faces takes {share} "
        "of the "
        "preload.",
        "A sleeve or a longer bolt; tighten again after settling.",
    ),
    Finding.STRENGTH_UNSURE: caution(
        "{group}: the strength of {grade} in the table is marked {certainty}: {note}.",
        "Confirm it on the certificate and enter it as an own grade.",
    ),
    Finding.STRENGTH_ASSUMED: caution(
        "{group}: {grade} sets no {assumed} strength; {value} is assumed.",
        "Ask for the certificate, or enter the strength as an own grade.",
    ),
    Finding.CALCULATED: note(
        "{group}: {torque} was calculated and does not come from a maker.",
        "Ask the equipment maker; until then every sheet shows this warning.",
    ),
    Finding.SIZES_OUT_OF_LINE: caution(
        "{group} is loaded to {share} of yield, {other} to {other_share}: one size in this "
        "joint is out of "
        "line.",
        "Compare the figures: the smaller bolts often carry a figure meant for the larger.",
    ),
}
