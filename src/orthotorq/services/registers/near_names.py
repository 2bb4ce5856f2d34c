"""Tags and names that are written almost like one that is registered: asked about, never
guessed."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable, Mapping
from difflib import get_close_matches

from ...core.messages import Refusal
from ..context import Ctx
from ..errors import NeedsConfirmation

#: two names that agree so far may be one name, once mistyped
ALIKE = 0.72


def near_key(tag: str) -> str:
    """What of a tag is left when case, separators and leading zeros are.

    >>> near_key("P-006") == near_key("p6"), near_key("P-006-1") == near_key("P-61")
    (True, False)
    """
    plain = unicodedata.normalize("NFKC", tag).casefold()
    between_digits = re.sub(r"(?<=\d)[\s._\-/]+(?=\d)", "|", plain)
    return re.sub(r"(?<!\d)0+(?=\d)", "", re.sub(r"[\s._\-/]+", "", between_digits))


class NearTags:
    """Registered tags with the names of what they are on, by what a tag is likely to be mistaken
    for."""

    def __init__(self, names: Mapping[str, str]) -> None:
        self._by_key: dict[str, tuple[str, str]] = {}
        for tag, name in names.items():
            self.add(tag, name)

    def add(self, tag: str, name: str) -> None:
        """One more that is registered."""
        self._by_key.setdefault(near_key(tag), (tag, name))

    def find(self, tag: str) -> tuple[str, str] | None:
        """(tag, name) of the one that is this tag written differently, if there is one."""
        found = self._by_key.get(near_key(tag))
        return None if found is None or found[0] == tag else found

    def ask(self, ctx: Ctx, tag: str, what: str) -> None:
        """Ask whether a tag is meant that is registered already, written differently. Raises
        NeedsConfirmation."""
        found = None if ctx.confirmed else self.find(tag)
        if found is not None:
            raise NeedsConfirmation(
                Refusal.TAG_NEAR, "tag", tag=tag, near=found[0], name=found[1], what=what
            )


def nearest_name(name: str, known: Iterable[str]) -> str | None:
    """The known name that comes closest to a new one, if any comes close."""
    by_case = {one.casefold(): one for one in known}
    found = get_close_matches(name.casefold(), list(by_case), 1, ALIKE)
    return by_case[found[0]] if found else None
