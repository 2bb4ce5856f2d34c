"""Numbers and units of torque as they stand in a text."""

from __future__ import annotations

import re

from ..errors import BadQuantity
from ..messages import Message
from ..units import Quantity, find_unit, parse

#: a number, also with thousands apart by a blank
NUMBER = (
    r"(?<![\w.,])(?<!\d/)(?:\d{1,3}(?:[ '](?=\d{3}(?!\d))\d{3})+|\d+(?:[.,]\d+)*|\.\d+)(?![\d])"
)
_FIRST = (
    r"(?:k|da|c|m)?n(?:ewtons?)?|ft|foot|feet|lbf?s?|pounds?|pound-force|in|inch(?:es)?|kgf?|kp|"
    r"mkp|mkg|"
    r"kpm|m|oz|ozf|cnm|nm|knm|nmm|ncm|danm|ftlbs?|ftlbf|inlbs?|inlbf|kgm|kgcm|kpcm|kgfm|kgfcm"
)
_SECOND = (
    r"mm|cm|m|met(?:re|er)s?|ft|foot|feet|lbf?s?|pounds?|pounds?-force|in|inch(?:es)?|kgf?|kp|"
    r"ozf?|n"
)
#: what may be a unit of torque, in the spellings of manuals; what it is is decided by `torque_unit`
MAYBE_UNIT = rf"(?:{_FIRST})(?:\.?\s?[·⋅∙.\-*x/]?\s?(?:{_SECOND}))?\.?(?![\w])"
_POUNDS, _FEET, _INCHES = (
    r"(?:lbf?s?|pounds?(?:-force)?)",
    r"(?:ft|foot|feet)",
    r"(?:in|inch(?:es)?)",
)
_BY = r"\.?\s?[·⋅∙.\-*x/]?\s?"
#: what is a unit of torque for certain
UNIT = (
    rf"(?:(?:k|da|c|m)?n{_BY}(?:mm|cm|m|met(?:re|er)s?)|newton[ -]?met(?:re|er)s?"
    rf"|{_POUNDS}{_BY}(?:{_FEET}|{_INCHES})|(?:{_FEET}|{_INCHES}){_BY}{_POUNDS}"
    rf"|(?:kgf?|kp){_BY}(?:cm|m)|m{_BY}(?:kgf?|kp)|(?:{_INCHES}{_BY}ozf?|"
    rf"ozf?{_BY}{_INCHES}))(?![\w])"
)


def torque_unit(text: str | None) -> str | None:
    """The symbol of a unit of torque, or None."""
    if not text:
        return None
    plain = text.strip()
    dotted = re.search(r"\.\s|\.$", plain)
    found = find_unit(re.sub(r"\.", "", plain) if dotted else plain)
    found = found or find_unit(re.sub(r"[.\s]+", " ", plain))
    return found[1] if found is not None and found[0] == "torque" else None


def torque(number: str, unit: str) -> Quantity:
    """A torque from its number and unit. Raises BadQuantity."""
    return parse(f"{number} {unit}", "torque")


def two_readings(number: str, unit: str) -> tuple[str, ...]:
    """Both readings of a number like 1,250; nothing where it has one or none.

    >>> two_readings("1,250", "N·m"), two_readings("12,5", "N·m")
    (('1.25 N·m', '1250 N·m'), ())
    """
    try:
        torque(number, unit)
    except BadQuantity as error:
        if error.code is Message.QUANTITY_AMBIGUOUS:
            small, large = number.replace(",", "."), number.replace(",", "")
            return f"{float(small):g} {unit}", f"{float(large):g} {unit}"
    return ()
