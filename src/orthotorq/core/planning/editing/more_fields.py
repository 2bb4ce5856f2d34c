"""Fields that most plans do not need: folded on the Bench under “more”, by the part of the document
that holds them."""

from __future__ import annotations

from ...kinds.fields import FieldSpec, field
from ...kinds.stage_kind import OCCASIONS
from ...thresholds import RUN_BREAK

Fields = tuple[FieldSpec, ...]
_YES = {"": "Not specified"}

#: of bolts: head, reuse, seat, bounds, numbering
GROUP_FIELDS: Fields = (
    field("fastener.across_flats", "Across flats", "quantity", "by size"),
    field("fastener.prevailing", "Prevailing torque", "quantity", "none"),
    field("fastener.condition", "Bolts are", "choice", choices={"used": "used", "new": "new"}),
    field(
        "fastener.history", "History", "choice", choices={"known": "known", "unknown": "unknown"}
    ),
    field("fastener.single_use", "used once only", "tick"),
    field("fastener.uses", "Used so often", "count", "0"),
    field("fastener.max_uses", "At most", "count", "no limit"),
    field(
        "must_be",
        "The seat asks for",
        "choice",
        choices={**_YES, "dry": "dry", "lightly oiled": "light oil", "lubricated": "a lubricant"},
    ),
    field(
        "roughness",
        "Roughness of the faces",
        "choice",
        choices={x: x for x in ("10 to 40 µm", "below 10 µm", "40 to 160 µm")},
    ),
    field("limits.nu", "Share of yield at assembly", "count", "0.9"),
    field(
        "limits.area",
        "Yield bound on the",
        "choice",
        choices={"tensile": "stress area", "root": "root area"},
    ),
    field("limits.soft_part", "Limit of a soft part", "quantity", "no bound"),
    field("friction.nut_factor", "Nut factor, low typical high", "band", "from friction"),
    field("variants", "Only in", "variants"),
    field("layout.first_label", "First number", "count", "1"),
    field("note", "Note", example="none"),
)
SOURCE_FIELDS: Fields = (
    field("says.at_most", "Value: at most", "quantity", "no bound"),
    field("says.at_least", "at least", "quantity", "no bound"),
    field("valid_for.thread", "Valid only for thread", example="any"),
    field("valid_for.grade", "for grade", example="any"),
    field("valid_for.lubricant", "for friction condition", example="any"),
    field("valid_for.gasket", "for gasket", example="any"),
    field("valid_for.count", "for so many bolts", "count", "any"),
)
CHECK_FIELDS: Fields = (
    field(
        "reads",
        "Read without a limit, for the trend",
        "choice",
        choices={
            "": "nothing",
            "length": "length",
            "angle": "angle",
            "torque": "torque",
            "force": "force",
            "stress": "pressure",
            "time": "time",
            "temperature": "temperature",
        },
    ),
    field("zero", "gauge set to zero first", "tick"),
    field("repeats.count", "Readings at each place", "count", "one"),
    field("repeats.within", "Those no further apart than", "quantity", "not judged"),
    field("change.since", "Compared with", "check", "no earlier reading"),
    field("change.limit.min", "Changed by at least", "quantity", "not judged"),
    field("change.limit.max", "Changed by at most", "quantity", "not judged"),
    field("spread", "Between the places no more than", "quantity", "not judged"),
    field("per", "Once for each", "groups"),
    field("gauge", "Measured with", example="Not specified"),
    field(
        "on_fail",
        "When it fails",
        "boxes",
        choices={"repair": "repaired", "replace": "replaced", "accept": "left, with a name"},
    ),
    field(
        "asks",
        "Asks also for",
        "boxes",
        choices={"photo": "a photo", "second": "initials of a second person"},
    ),
)
TOOL_FIELDS: Fields = (field("prefer", "These by serial, if they are there", "list", "any"),)
RECHECK_FIELDS: Fields = (
    field(
        "season",
        "Every year from",
        example="none",
        note="month and day, such as 10-01 for 1 October",
    ),
    field(
        "after",
        "After",
        example="nothing",
        note="an event that a person reports, such as “a storm on the quay”",
    ),
    field(
        "occasion",
        "What is done then",
        "choice",
        choices={"recheck": "Recheck", **{k: v for k, v in OCCASIONS.items() if k != "recheck"}},
    ),
    field("reason", "Reason", example="Not specified"),
)
STAGE_FIELDS: Fields = (
    field(
        "across",
        "Where there are several positions",
        "choice",
        choices={
            "position_by_position": "with its neighbours, position by position",
            "all_positions_first": "at all positions before the next stage",
            "once": "once for all of them",
        },
    ),
    field("variants", "Only in", "variants"),
)
#: one of the ways in which a plan may be worked
WAY_FIELDS: Fields = (field("name", "Way"), field("choice", "It decides", example="how it is done"))
#: a figure of a source that stands in several places with several values
PLACED_FIELDS: Fields = (field("at", "It stands"), field("torque", "and says", "quantity"))
PART_FIELDS: Fields = (
    field("name", "Part"),
    field("count", "How many", "count"),
    field("per", "for", "choice", choices={"run": "the whole work", "position": "each position"}),
    field("quantity", "Quantity", example="pieces"),
    field("new", "new", "tick"),
    field("consumable", "used up", "tick"),
)
#: of the whole plan
PLAN_FIELDS: Fields = (
    field(
        "service",
        "What the machine handles, where compounds may harm it",
        "boxes",
        choices={"oxygen": "oxygen", "food": "food"},
    ),
    field(
        "longest_break",
        "Longest break, before condition and tools are asked for again",
        "quantity",
        RUN_BREAK.text,
    ),
    field("links.before", "Done before this", "list", "nothing", note="separated by commas"),
    field("links.after", "Done after it", "list", "nothing", note="separated by commas"),
    field("note", "Note", example="none"),
)
#: all of them, by what they are about
MORE: dict[str, Fields] = {
    "group": GROUP_FIELDS,
    "source": SOURCE_FIELDS,
    "check": CHECK_FIELDS,
    "tool": TOOL_FIELDS,
    "recheck": RECHECK_FIELDS,
    "part": PART_FIELDS,
    "stage": STAGE_FIELDS,
    "way": WAY_FIELDS,
    "placed": PLACED_FIELDS,
}
