"""The terms of the trade as screens, papers and messages use them: one word for one thing."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Term:
    """A term, what it means in one sentence, and the standard whose term it is; empty where
    none."""

    name: str
    meaning: str
    standard: str = ""


_ROWS: tuple[tuple[str, str, str], ...] = (
    (
        "Angle",
        "How far a bolt is turned on after the snug torque, in degrees or flats.",
        "VDI 2230-1",
    ),
    ("Assembly preload", "Clamp load of one bolt right after tightening.", "VDI 2230-1"),
    ("Back-off", "Turning a bolt back by a given angle.", ""),
    ("Bearing face", "The face under a head or nut that turns on the part or washer.", "ISO 16047"),
    ("Bolt capacity", "The largest preload and torque the bolt allows.", "VDI 2230-1"),
    ("Bolt pattern", "Where the bolts are: circle, row, grid or free points.", ""),
    ("Check round", "A round at full torque that finds bolts that still turn.", "ASME PCC-1"),
    ("Circular sequence", "Bolts in order round the pattern, one after the other.", "ASME PCC-1"),
    ("Clamp load", "Force with which a bolt presses the parts together.", "ISO 16047"),
    ("Click wrench", "A torque wrench that clicks at the set torque.", "ISO 6789"),
    (
        "Clamp load band",
        "Lowest and highest clamp load from friction, tool and method together.",
        "VDI 2230-1",
    ),
    (
        "Condition of a joint",
        "What its runs prove: proven, moved, limited use, provisional, unknown, "
        "taken apart or do not use.",
        "",
    ),
    ("Cross sequence", "Opposite bolts one after the other, then the pair across.", "ASME PCC-1"),
    ("Custom sequence", "A tightening sequence entered bolt by bolt.", ""),
    ("Damage limit", "Gasket stress above which the gasket is crushed.", "EN 1591"),
    ("Deviation", "What was done or found other than planned; a supervisor accepts it or not.", ""),
    ("Draft", "A plan that is being edited and is not released.", ""),
    ("Embedment", "Loss of clamp load as rough faces settle.", "VDI 2230-1"),
    ("Error", "A finding that blocks the release of a plan.", ""),
    ("Finding", "What the program found in a plan: an error, a warning or a note.", ""),
    ("Flange", "The part of a pipe or vessel that is bolted to its counterpart.", "EN 1591"),
    (
        "Friction coefficient",
        "Friction force over normal force in the thread or on the bearing face.",
        "ISO 16047",
    ),
    ("Gasket stress", "Clamp load of all bolts over the gasket area.", "EN 1591"),
    ("Grip length", "Thickness of the clamped parts between head and nut.", "VDI 2230-1"),
    ("Hand-tight", "Run down by hand until the parts touch.", "ASME PCC-1"),
    ("Joint", "Parts held together by one or more groups of bolts.", "VDI 2230-1"),
    ("Kit", "Tools, parts and compounds to bring to the joint.", ""),
    ("Lubrication", "What is applied to the thread and the bearing face.", "ISO 16047"),
    ("Multiplier", "A gearbox between wrench and bolt that raises the torque.", ""),
    ("Note", "A finding to know; nothing has to be done.", ""),
    ("Nut factor", "Torque over preload times diameter, all friction in one value.", "ASME PCC-1"),
    ("Pass", "One round of all bolts of a group at one torque or angle.", "ASME PCC-1"),
    ("Plan", "How one joint is tightened: bolts, torque target, sequence, tools and rechecks.", ""),
    ("Preload", "Tension in a bolt from tightening.", "VDI 2230-1"),
    ("Proof load", "Tension that a bolt takes without lasting stretch.", "ISO 898"),
    ("Prevailing torque", "Torque that turns a locking nut before it seats.", "ISO 16047"),
    ("Recheck", "Looking at or pulling bolts again after a time or a distance.", "ASME PCC-1"),
    ("Recheck interval", "When the next recheck is due.", ""),
    ("Record", "All that was done in a run, with its signatures.", ""),
    ("Release", "Freezing a draft as a revision that runs may use.", ""),
    ("Revision", "A released state of a plan; it never changes.", ""),
    ("Run", "Carrying out a plan at a joint, step by step.", ""),
    ("Seating stress", "Smallest gasket stress that makes the gasket tight.", "EN 1591"),
    ("Snug torque", "A small torque that brings the parts together before an angle.", "VDI 2230-1"),
    ("Source", "Where a figure comes from: maker, standard, manual or own test.", ""),
    ("Stage", "A part of the work: make safe, prepare, tighten, check, hand back.", ""),
    ("Star sequence", "Each bolt as far as possible from the one before.", "ASME PCC-1"),
    ("Tensile strength", "Stress at which a bolt breaks.", "ISO 898"),
    ("Thread engagement", "Length over which bolt and nut thread hold each other.", "VDI 2230-1"),
    ("Tightening factor", "Highest over lowest preload of a tightening method.", "VDI 2230-1"),
    ("Torque target", "The torque a bolt is tightened to, with where it comes from.", "ISO 16047"),
    ("Waive", "Release a plan in spite of a warning, with a reason and a name.", ""),
    ("Warning", "A finding that has to be fixed or waived with a reason.", ""),
    (
        "Wrench setting",
        "What the wrench is set to, after adapter, multiplier and correction.",
        "ISO 6789",
    ),
    ("Yield strength", "Stress at which a bolt starts to stretch for good.", "ISO 898"),
)
TERMS: tuple[Term, ...] = tuple(Term(*row) for row in _ROWS)
