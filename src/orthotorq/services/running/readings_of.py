"""What of an answer is a reading: quantities with the text as typed."""

from __future__ import annotations

from typing import Any

from ...core.units import find_unit, read_number


def typed_of(payload: dict[str, Any]) -> dict[str, str]:
    """Readings of an answer's payload by quantity, as typed."""
    typed = dict((payload.get("reading") or {}).items())
    value = payload.get("value")
    if isinstance(value, str) and (unit := find_unit(read_number(value)[2])) is not None:
        typed[unit[0]] = value
    return typed
