"""Cautions as sentences; they stand at the step where they matter, on screen and on paper."""

from __future__ import annotations

CAUTIONS: dict[str, str] = {
    "stored_pressure": (
        "Pressure off, drained, cold and proved so: never turn a nut on a joint under pressure."
    ),
    "trapped_hot_fluid": "Hot fluid may be trapped behind the joint: stay out of line with it.",
    "lockout": "Lock out and tag whatever could start, move or open; test it before you start.",
    "supported_load": "Machine on stands and chocked, never on a jack alone; nobody under it.",
    "spring_energy": "Springs or compressed air may be loaded: release them first.",
    "pinch_reaction": "Keep hands out from between the reaction arm and what it rests on.",
    "dropped_objects": "Secure tools and parts against falling; keep the area below clear.",
    "eye_hand": "Eye protection and gloves.",
    "strong_magnets": "Strong magnets: keep medical implants, data carriers and loose steel away.",
    "compound_sheet": "Read the compound's data sheet; gloves, no skin contact.",
    "hot_work": "Heat or cutting needs a permit and may spoil the temper of bolts.",
    "overhead": "Overhead work: stand firmly, secure the tool, nobody below.",
    "stay_out_of_line": (
        "Stay out of line with the joint while it is cracked or fills; nuts stay on until it is "
        "seen empty."
    ),
    "heavy_lift": "Heavy part: lifting gear in test, eyes where the maker says, nobody under it.",
    "two_persons": "Two persons: agree on signs before you start.",
    "lock_off": (
        "Before the lock comes off: everybody clear, guards back on, tools counted. Only who "
        "hung it takes it off."
    ),
    "lower_down": (
        "Before lowering: nobody under it or beside it, hands away from the supports; remove "
        "them one by one."
    ),
    "sling_off": (
        "Slings come off only when the part hangs on its own bolts or stands firmly; nobody "
        "under it."
    ),
    "tool_out": "What was fitted to hold comes out before anything is driven: it would be thrown.",
    "road_vehicle": "On public roads the vehicle maker's figures and local law come first.",
}
ALWAYS = (
    "Planning aid. The equipment maker's instructions, the code in force and a qualified "
    "person come first; pressure "
    "equipment, lifting gear, road vehicles and structures are under local law and licensed "
    "practice."
)
CALCULATED = "At least one torque on this sheet was calculated and does not come from a maker."
