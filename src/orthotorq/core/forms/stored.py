"""Results that were computed and kept, also by earlier versions of this program: their figures
stand as they were released."""

from __future__ import annotations

import json
from typing import Any

from .result import Result


def _when(line: dict[str, Any]) -> dict[str, Any]:
    """A line of the kit as it is said today: earlier ones said occasions and ways once for the
    whole line."""
    if "when" in line or "variants" not in line:
        return line
    rest = {name: value for name, value in line.items() if name != "variants"}
    return {
        **rest,
        "when": [{"occasions": line.get("occasions", []), "variants": line["variants"]}],
    }


def stored_result(text: str) -> Result:
    """A kept result. What an earlier version wrote beside and nobody asks for any more is passed
    over.

    Raises ValidationError for what is no result.
    """
    data = json.loads(text)
    if any("variants" in line for line in data.get("kit", ())):
        data["kit"] = [_when(line) for line in data["kit"]]
        return Result.model_validate(data, extra="ignore")
    return Result.model_validate_json(text, extra="ignore")
