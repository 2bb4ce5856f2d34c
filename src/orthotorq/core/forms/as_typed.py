"""Parts of a document as somebody typed it, right or wrong: what has another shape than it should
is taken as not there.

Reading (documents.read) names every such place; what is only shown on the way goes through here.
"""

from __future__ import annotations

from typing import Any

Raw = dict[str, Any]


def mapping(value: Any) -> Raw:
    """An object, or an empty one."""
    return value if isinstance(value, dict) else {}


def listed(value: Any) -> list[Any]:
    """A list, or an empty one."""
    return value if isinstance(value, list) else []


def mappings(value: Any) -> list[Raw]:
    """A list of objects; what is none keeps its place as an empty one."""
    return [mapping(one) for one in listed(value)]


def words(value: Any) -> list[str]:
    """A list of texts; anything else in it is left out."""
    return [one for one in listed(value) if isinstance(one, str)]
