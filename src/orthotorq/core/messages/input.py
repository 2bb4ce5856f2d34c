"""Sentences about bad input: a code with parameters and its text."""

from __future__ import annotations

from enum import StrEnum


class Message(StrEnum):
    """Codes of sentences about bad input. The text is in TEXTS, with named parameters."""

    QUANTITY_EMPTY = "quantity_empty"
    QUANTITY_NOT_READ = "quantity_not_read"
    QUANTITY_AMBIGUOUS = "quantity_ambiguous"
    UNIT_MISSING = "unit_missing"
    UNIT_UNKNOWN = "unit_unknown"
    UNIT_WRONG_KIND = "unit_wrong_kind"
    OUT_OF_RANGE = "out_of_range"
    THREAD_NOT_READ = "thread_not_read"
    THREAD_PITCH_MISSING = "thread_pitch_missing"
    THREAD_IMPOSSIBLE = "thread_impossible"
    HEXAGON_UNKNOWN = "hexagon_unknown"
    GRADE_UNKNOWN = "grade_unknown"
    GRADE_AMBIGUOUS = "grade_ambiguous"
    GRADE_BARE = "grade_bare"
    GRADE_OUT_OF_RANGE = "grade_out_of_range"
    LUBRICANT_UNKNOWN = "lubricant_unknown"
    MATERIAL_UNKNOWN = "material_unknown"
    NO_FRICTION = "no_friction"
    FRICTION_NEEDED = "friction_needed"
    FACE_IMPOSSIBLE = "face_impossible"
    BAND_ORDER = "band_order"
    ORDER_IMPOSSIBLE = "order_impossible"
    SEQUENCE_STRANGE = "sequence_strange"
    SEQUENCE_MISSING = "sequence_missing"
    SEQUENCE_TWICE = "sequence_twice"
    SEQUENCE_UNREAD = "sequence_unread"
    NO_REPEATS = "no_repeats"
    CHAIN_IMPOSSIBLE = "chain_impossible"
    PREVAILING_EATS_TORQUE = "prevailing_eats_torque"
    UNKNOWN_REFERENCE = "unknown_reference"
    DUPLICATE_ID = "duplicate_id"
    RESERVED_ID = "reserved_id"
    RANGE_REVERSED = "range_reversed"
    NOT_A_PLAN = "not_a_plan"
    NOT_JSON = "not_json"
    LATER_VERSION = "later_version"
    OVER_110_PERCENT = "over_110_percent"
    CONDITION_MISSING = "condition_missing"
    PLACES_OVERLAP = "places_overlap"
    PASS_FORM = "pass_form"
    RAW_FILE = "raw_file"
    TABLE_FILE = "table_file"
    STAGE_CYCLE = "stage_cycle"
    NO_TARGET = "no_target"
    NO_VALID_SOURCE = "no_valid_source"
    SOURCE_WITHOUT_FIGURE = "source_without_figure"
    STRETCH_NEEDS_GRIP = "stretch_needs_grip"
    ANGLE_NEEDS_STACK = "angle_needs_stack"
    WORK_NEEDS_STACK = "work_needs_stack"
    NOTHING_LEFT = "nothing_left"
    TOO_HOT_FOR_TABLE = "too_hot_for_table"
    COMPONENT_NEEDS_GASKET = "component_needs_gasket"
    TOOL_DOES_NOT_FIT = "tool_does_not_fit"
    MISSING_FIELD = "missing_field"
    UNKNOWN_FIELD = "unknown_field"
    WRONG_TYPE = "wrong_type"
    TEXT_LENGTH = "text_length"
    LIST_LENGTH = "list_length"
    CHOICE = "choice"
    BAD_VALUE = "bad_value"
    TOO_HEAVY = "too_heavy"
    TOO_BUSY = "too_busy"


TEXTS: dict[Message, str] = {
    Message.QUANTITY_EMPTY: (
        "Expected {kind:a} with its unit, for example {example}; nothing was written."
    ),
    Message.QUANTITY_NOT_READ: (
        "“{text}” is not {kind:a}; write a number and a unit, for example {example}."
    ),
    Message.QUANTITY_AMBIGUOUS: (
        "“{text}” can be read as {first} or as {second}; write it without the comma."
    ),
    Message.UNIT_MISSING: "“{text}” has no unit; write for example {example}.",
    Message.UNIT_UNKNOWN: "“{unit}” is not a unit known here; for {kind:a} use one of {units}.",
    Message.UNIT_WRONG_KIND: "“{text}” is {found:a}; expected {kind:a}, for example {example}.",
    Message.OUT_OF_RANGE: "{value} is outside what is possible here: expected {range}.",
    Message.THREAD_NOT_READ: (
        "“{text}” is not a thread; write for example M24, M24x2, 1-1/8-8 or #10-24."
    ),
    Message.THREAD_PITCH_MISSING: (
        "“{text}” leaves the pitch open or does not fit its series; write it out, for example "
        "{example}."
    ),
    Message.THREAD_IMPOSSIBLE: (
        "“{text}”: the pitch is too coarse for the diameter; expected a pitch of at most {limit}."
    ),
    Message.HEXAGON_UNKNOWN: (
        "No hexagon table covers {thread}; enter the bearing face and hole diameters of the part."
    ),
    Message.GRADE_UNKNOWN: (
        "“{text}” is not a grade in the tables; write standard and grade, for example ISO 898-1 "
        "8.8."
    ),
    Message.GRADE_AMBIGUOUS: (
        "“{text}” is in several standards ({standards}); enter the standard too."
    ),
    Message.GRADE_BARE: (
        "“{text}” alone can be {grades}, the class of a nut, or half of a class such as 8.8; "
        "write the standard too."
    ),
    Message.GRADE_OUT_OF_RANGE: (
        "{grade} is tabulated for {low} to {high} mm, not for {diameter} mm; enter the strengths "
        "as an own grade."
    ),
    Message.LUBRICANT_UNKNOWN: (
        "“{text}” is not a friction condition in the tables or in this plan's definitions."
    ),
    Message.MATERIAL_UNKNOWN: (
        "“{text}” is not a material in the tables or definitions; use one of {known}."
    ),
    Message.FRICTION_NEEDED: "Friction is needed: the thread's friction, or a nut factor instead.",
    Message.NO_FRICTION: (
        "Friction is not given; name a lubricant, or give mu_thread, or give nut_factor."
    ),
    Message.FACE_IMPOSSIBLE: (
        "The hole ({hole} mm) must be smaller than the bearing face ({face} mm)."
    ),
    Message.BAND_ORDER: (
        "A band is low, typical, high in rising order; got {low}, {typical}, {high}."
    ),
    Message.ORDER_IMPOSSIBLE: "{what}; expected {expected}.",
    Message.SEQUENCE_STRANGE: "The sequence names {bolts}; {group} has {count} bolts.",
    Message.SEQUENCE_MISSING: "The sequence of {group} leaves out bolt {bolts}.",
    Message.SEQUENCE_TWICE: (
        "The sequence takes bolt {bolts} more than once; tick that bolts repeat on purpose, or "
        "remove one."
    ),
    Message.SEQUENCE_UNREAD: (
        "The sequence cannot be read: {text}. Enter numbers of bolts, as 1 5 3 7 or 1-4, 9-12."
    ),
    Message.NO_REPEATS: "Only a torque pass without a check and without rounds may repeat bolts.",
    Message.CHAIN_IMPOSSIBLE: "{what}.",
    Message.PREVAILING_EATS_TORQUE: (
        "The torque ({torque} N·m) must be greater than the prevailing torque ({prevailing} N·m)."
    ),
    Message.UNKNOWN_REFERENCE: "“{id}” is not the id of {kind:a} in this plan; known: {known}.",
    Message.DUPLICATE_ID: "The id “{id}” is used twice; every {kind} needs its own.",
    Message.RESERVED_ID: "“{id}” is reserved for the program; choose another id.",
    Message.RANGE_REVERSED: (
        "A range runs from the smaller to the greater figure; got {low} to {high}."
    ),
    Message.NOT_A_PLAN: "This is not an Orthotorq plan: “format” must be “orthotorq.plan”.",
    Message.NOT_JSON: "The file is not JSON: {reason}.",
    Message.LATER_VERSION: (
        "This file has version {version}; this program reads up to version {known}. Update first."
    ),
    Message.OVER_110_PERCENT: "{percent} % is over 110 % of the chosen torque and is refused.",
    Message.CONDITION_MISSING: (
        "A stage that tightens, checks or measures names the condition it is valid in, for "
        "example “wheel hanging”."
    ),
    Message.PLACES_OVERLAP: (
        "{count} bolts are {spacing} mm apart at their nearest: less than their own thread "
        "({head} mm)."
    ),
    Message.PASS_FORM: "{what}.",
    Message.TABLE_FILE: "{what}.",
    Message.RAW_FILE: "Line {line} of the pull: {what}. Nothing of the file is used.",
    Message.STAGE_CYCLE: (
        "These stages wait for each other on the occasion {occasion}: {loop}. Break the circle "
        "in “after”."
    ),
    Message.NO_TARGET: "The group “{group}” is tightened but has no target.",
    Message.NO_VALID_SOURCE: "No source of this plan is valid for “{group}” and gives a figure.",
    Message.SOURCE_WITHOUT_FIGURE: (
        "The source “{source}” gives no figure for “{group}”; choose another."
    ),
    Message.NOTHING_LEFT: "“{group}”: with this value the bound “{bound}” "
    "allows no preload at all. Check the "
    "value and "
    "its unit; if it is right, the bolt is too small.",
    Message.WORK_NEEDS_STACK: (
        "Loads and temperature at work on “{group}” need the clamped stack, to know who takes what."
    ),
    Message.TOO_HOT_FOR_TABLE: (
        "{temperature} is above what the table of materials covers; the joint cannot be judged "
        "there."
    ),
    Message.COMPONENT_NEEDS_GASKET: (
        "“{group}” has no gasket: a flange is judged by component with one."
    ),
    Message.STRETCH_NEEDS_GRIP: (
        "Enter the load transfer factor from the tool's sheet, or the clamped stack of the group: "
        "without them nobody knows what is left."
    ),
    Message.ANGLE_NEEDS_STACK: (
        "Torque plus angle on “{group}” needs the clamped stack, to know what an angle gives."
    ),
    Message.TOOL_DOES_NOT_FIT: (
        "{serial} goes from {low} to {high} N·m and cannot be set to {setting} for “{step}”."
    ),
    Message.MISSING_FIELD: "This field is needed.",
    Message.UNKNOWN_FIELD: "“{field}” is not a field here.",
    Message.WRONG_TYPE: "Expected {expected}.",
    Message.TEXT_LENGTH: "The text must have {range} characters.",
    Message.LIST_LENGTH: "The list must have {range} entries.",
    Message.CHOICE: "“{value}” is not possible here; use one of {choices}.",
    Message.BAD_VALUE: "{reason}.",
    Message.TOO_HEAVY: (
        "That took longer than {seconds} s or more memory than it is given. Nothing was saved."
    ),
    Message.TOO_BUSY: "Others are printing or sending photos at the moment. Try again in a minute.",
}
