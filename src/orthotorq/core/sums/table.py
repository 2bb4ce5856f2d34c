"""The table of sums; the order is that of the screen."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ..tables import lubricants, materials
from . import bolts, due_dates, engagement, identify, joints, manual, service, tools
from .fields import Answer, Field, Sum, read_values

_THREAD = Field("thread", "thread", "Thread, for example M24 or 1-1/8-8", required=True)
_FACE = (
    Field("effective-diameter", "length", "Effective bearing diameter"),
    Field("face-diameter", "length", "Outer diameter of the bearing face"),
    Field("hole", "length", "Hole diameter"),
)
_FRICTION = (
    Field("mu-thread", "friction", "Thread friction, or low,typical,high"),
    Field("mu-bearing", "friction", "Bearing friction; as the thread when left out"),
    Field("k", "friction", "Nut factor instead of friction"),
)
_PREVAILING = Field("prevailing", "torque", "Prevailing torque of a lock nut", zero=True)
_GRADE = Field("grade", "text", "Standard and grade, for example ISO 898-1 8.8", required=True)
_MATERIALS = tuple(materials.table())
_LUBRICANTS = tuple(lubricants.table())
_STIFF = (
    Field("grip", "length", "Clamped length", required=True),
    Field("shank-length", "length", "Shank without thread", zero=True),
    Field(
        "outer-diameter", "length", "Outside diameter of the parts; 3 times the face when left out"
    ),
    Field("material", "choice", "Material of the parts", choices=_MATERIALS),
    Field("tapped", "flag", "Screwed into a tapped part"),
    Field("fastener-modulus", "stress", "Modulus of the fastener"),
    Field("material-modulus", "stress", "Modulus of the parts"),
)

SUMS: dict[str, Sum] = {
    s.name: s
    for s in (
        Sum(
            "thread",
            "Geometry and hexagon of a thread",
            (
                Field(
                    "thread", "thread", "Thread, for example M24x2", required=True, positional=True
                ),
            ),
            bolts.thread_sum,
        ),
        Sum(
            "identify",
            "Identify a thread",
            (
                Field("flats", "length", "Measured width across flats"),
                Field("outside", "length", "Measured outside diameter"),
                Field("ten", "length", "Measured length of ten threads"),
            ),
            identify.identify_sum,
        ),
        Sum(
            "grade",
            "Strength of a grade at a size",
            (
                Field("grade", "text", "Standard and grade", required=True, positional=True),
                Field("diameter", "length", "Nominal diameter", required=True),
            ),
            bolts.grade_sum,
        ),
        Sum(
            "torque",
            "Torque for a wanted clamp load",
            (
                _THREAD,
                Field("preload", "force", "Wanted clamp load", required=True),
                *_FRICTION,
                *_FACE,
                _PREVAILING,
            ),
            bolts.torque_sum,
        ),
        Sum(
            "preload",
            "Clamp load that a torque gives",
            (
                _THREAD,
                Field("torque", "torque", "Torque", required=True),
                *_FRICTION,
                *_FACE,
                _PREVAILING,
                Field("accuracy", "share", "Tool accuracy as a share, 0.04 for 4 %", zero=True),
                Field("grade", "text", "Grade, to see the bounds"),
            ),
            bolts.preload_sum,
        ),
        Sum(
            "limit",
            "Greatest clamp load of a bolt at assembly",
            (
                _THREAD,
                _GRADE,
                *_FRICTION,
                *_FACE,
                _PREVAILING,
                Field("nu", "share", "Share of yield used at assembly, 0.9"),
                Field("yield-fraction", "share", "Share of yield in tension alone"),
                Field("area", "choice", "Area of the tension limit", choices=("tensile", "root")),
            ),
            bolts.limit_sum,
        ),
        Sum(
            "tool",
            "What to set through adapter and multiplier",
            (
                Field("torque", "torque", "Torque at the bolt", required=True),
                Field("length", "length", "Wrench, drive to grip centre"),
                Field("adapter", "length", "Offset adapter at the wrench"),
                Field(
                    "adapter-angle", "degrees", "Adapter off the handle's line; 0 is straight out"
                ),
                Field("ratio", "ratio", "Multiplier ratio", repeat=True),
                Field("efficiency", "share", "Multiplier efficiency", repeat=True),
                Field("arm", "length", "Reaction arm"),
                Field("increment", "torque", "Increment of the scale"),
                Field("mark", "torque", "Main mark every, of a two-part scale"),
                Field("max", "torque", "Setting that may not be passed"),
            ),
            tools.tool_sum,
        ),
        Sum(
            "scale",
            "How a setting reads on a two-part scale",
            (
                Field("torque", "torque", "Setting", required=True),
                Field("mark", "torque", "Main mark every", required=True),
                Field("increment", "torque", "One division of the collar"),
            ),
            tools.scale_sum,
        ),
        Sum(
            "angle",
            "Torque plus angle",
            (
                _THREAD,
                _GRADE,
                Field("snug", "torque", "Snug torque", required=True),
                Field("angle", "turn", "Angle after it", required=True),
                *_STIFF,
                *_FRICTION,
                *_FACE,
                _PREVAILING,
            ),
            joints.angle_sum,
        ),
        Sum(
            "backoff",
            "What a back-off leaves",
            (
                _THREAD,
                Field("preload", "force", "Preload before", required=True),
                Field("back", "turn", "Angle backed off"),
                Field("flats", "number", "Flats backed off", zero=True),
                *_STIFF,
                *_FACE,
                *_FRICTION,
                Field("grade", "text", "Grade, not needed here"),
            ),
            joints.backoff_sum,
        ),
        Sum(
            "pair",
            "Whether two statements agree",
            (
                Field("first", "statement", "First statement", required=True, positional=True),
                Field("second", "statement", "Second statement", required=True, positional=True),
            ),
            tools.pair_sum,
        ),
        Sum(
            "units",
            "One value in every unit",
            (Field("first", "statement", "Figure with its unit", required=True, positional=True),),
            tools.units_sum,
        ),
        Sum(
            "lubricant",
            "Change of lubricant, at the same torque and at the same clamp load",
            (
                _THREAD,
                Field("torque", "torque", "Torque", required=True),
                Field("from", "choice", "Lubricant now", required=True, choices=_LUBRICANTS),
                Field("to", "choice", "Lubricant instead", required=True, choices=_LUBRICANTS),
                *_FACE,
            ),
            bolts.lubricant_sum,
        ),
        Sum(
            "order",
            "A tightening order",
            (
                Field("count", "count", "Number of bolts"),
                Field(
                    "kind",
                    "choice",
                    "Kind of order",
                    required=True,
                    choices=("cross", "star", "circle", "row", "grid"),
                ),
                Field("start", "count", "First bolt"),
                Field("group", "count", "Neighbouring bolts taken as one"),
                Field("tools", "count", "Tools working at once"),
                Field("rows", "count", "Rows of a grid"),
                Field("columns", "count", "Columns of a grid"),
            ),
            joints.order_sum,
        ),
        Sum(
            "engagement",
            "Engaged thread and stripping",
            (
                _THREAD,
                _GRADE,
                Field("into", "text", "Material of the internal thread", required=True),
                Field("length", "length", "Engaged length", required=True),
                Field("shear", "stress", "Shear strength of the internal thread"),
                Field("preload", "force", "Preload to be transmitted"),
            ),
            engagement.engagement_sum,
        ),
        Sum(
            "gasket",
            "Gasket stress and loads",
            (
                Field("outside", "length", "Outside diameter", required=True),
                Field("inside", "length", "Inside diameter", required=True, zero=True),
                Field("bolts", "count", "Number of bolts", required=True),
                Field("preload", "force", "Clamp load of one bolt", required=True),
                Field("pressure", "stress", "Pressure", zero=True),
                Field("m", "number", "Gasket factor m", zero=True),
                Field("y", "stress", "Seating stress y", zero=True),
            ),
            joints.gasket_sum,
        ),
        Sum(
            "working",
            "What working loads do to bolt and clamp",
            (
                _THREAD,
                _GRADE,
                Field("preload", "force", "Preload at its low end", required=True),
                Field("axial", "force", "Axial load of one bolt", required=True, zero=True),
                Field("delta-s", "resilience", "Resilience of the fastener, mm/N", required=True),
                Field("delta-p", "resilience", "Resilience of the parts, mm/N", required=True),
                Field(
                    "introduction",
                    "share",
                    "Load introduction factor, 0 to 1",
                    required=True,
                    zero=True,
                ),
                Field("axial-low", "signed force", "Lowest axial load; zero when left out"),
                Field("loss", "signed force", "Losses by settling and temperature"),
                Field("transverse", "force", "Transverse load of one bolt"),
                Field("slip-friction", "share", "Friction between the parts, low end"),
                Field("faces", "count", "Friction faces; one when left out"),
            ),
            service.working_sum,
        ),
        Sum(
            "flange",
            "Assembly bolt stress of a flange by component",
            (
                Field("bolts", "count", "Number of bolts", required=True),
                Field("root-area", "area", "Root area of a bolt", required=True),
                Field("gasket-area", "area", "Gasket contact area", required=True),
                Field("target-stress", "stress", "Gasket stress wanted at assembly", required=True),
                Field("seating-stress", "stress", "Least gasket stress to seat"),
                Field("operating-stress", "stress", "Least gasket stress in operation"),
                Field("crush-stress", "stress", "Gasket stress that damages"),
                Field("pressure", "stress", "Pressure", zero=True),
                Field("gasket-inside", "length", "Inside diameter of the gasket"),
                Field("relaxation", "share", "Share that relaxation leaves; 0.7 when left out"),
                Field("bolt-min", "stress", "Least bolt stress"),
                Field("bolt-max", "stress", "Most bolt stress"),
                Field(
                    "flange-max", "stress", "Allowable bolt stress of the flange, from its maker"
                ),
                Field("gasket-rotation", "degrees", "Allowable rotation of the gasket"),
                Field("flange-rotation", "degrees", "Rotation of the flange at its most"),
            ),
            service.flange_sum,
        ),
        Sum(
            "thermal",
            "What temperature leaves of a clamp load",
            (
                Field("preload", "force", "Preload cold", required=True),
                Field("grip", "length", "Clamped length", required=True),
                Field("delta-s", "resilience", "Resilience of the fastener, mm/N", required=True),
                Field("delta-p", "resilience", "Resilience of the parts, mm/N", required=True),
                Field("alpha-bolt", "expansion", "Expansion of the bolt, 1/K", required=True),
                Field("alpha-parts", "expansion", "Expansion of the parts, 1/K", required=True),
                Field("rise-bolt", "rise", "Rise of the bolt's temperature, K", required=True),
                Field("rise-parts", "rise", "Rise of the parts' temperature, K", required=True),
                Field(
                    "modulus-ratio-bolt",
                    "share",
                    "Modulus of the bolt, hot over cold; 1 when left out",
                ),
                Field(
                    "modulus-ratio-parts",
                    "share",
                    "Modulus of the parts, hot over cold; 1 when left out",
                ),
            ),
            service.thermal_sum,
        ),
        Sum(
            "stripping",
            "Stripping with strength ratio and nut dilation",
            (
                _THREAD,
                _GRADE,
                Field("length", "length", "Engaged length", required=True),
                Field(
                    "shear-internal",
                    "stress",
                    "Shear strength of the internal thread",
                    required=True,
                ),
                Field(
                    "across-flats", "length", "Width across flats of the nut; a part when left out"
                ),
            ),
            service.stripping_sum,
        ),
        Sum(
            "friction",
            "Friction from own tests",
            (
                _THREAD,
                Field(
                    "torque", "torque", "Torque of each test; several with semicolons", repeat=True
                ),
                Field(
                    "preload", "force", "Clamp load of each test, in the same order", repeat=True
                ),
                Field("thread-torque", "torque", "Torque in the thread of each test", repeat=True),
                *_FACE,
            ),
            service.friction_sum,
        ),
        Sum(
            "line",
            "A line from a manual",
            (
                Field(
                    "text",
                    "text",
                    "The line as printed in the manual",
                    required=True,
                    positional=True,
                ),
            ),
            manual.line_sum,
        ),
        Sum(
            "schedule",
            "When rechecks fall due",
            (
                Field(
                    "text",
                    "text",
                    "Schedule, for example “first 50 h, then every 500 h or 12 months”",
                    required=True,
                    positional=True,
                ),
                Field(
                    "reading",
                    "text",
                    "The meter now, counted from the tightening, for example 45 km",
                ),
                Field("per-day", "text", "What the meter goes in a day, or low, typical, high"),
                Field("from", "text", "The day of that reading, for example 2028-02-29"),
            ),
            due_dates.schedule_sum,
        ),
        Sum(
            "calibration",
            "Result of a calibration check",
            (
                Field("setting", "torque", "What was set", required=True),
                Field(
                    "readings",
                    "text",
                    "What the reference showed, separated by commas or semicolons",
                    required=True,
                ),
                Field("class", "text", "Type and class of ISO 6789-1, for example II A"),
                Field("limit", "text", "Limit of your own instead, for example 4 %"),
                Field(
                    "reference-uncertainty", "text", "Uncertainty of the reference, for example 1 %"
                ),
            ),
            due_dates.calibration_sum,
        ),
    )
}


def answer(name: str, texts: Mapping[str, Any]) -> Answer:
    """Answer a sum of the table from texts by field name. Raises errors of the core with the field
    as path.

    >>> answer("pair", {"first": "250 N·m", "second": "148 ft·lbf"}).figures["agree"]
    False
    """
    asked = SUMS[name]
    return asked.function(read_values(asked, texts))
