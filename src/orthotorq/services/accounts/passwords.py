"""What a password has to be: long, not one that everybody tries, not the person's own name (NIST SP
800-63B).

No rule of signs and figures: those make passwords that are hard to keep in mind and easy to try."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable
from functools import cache

from zxcvbn.frequency_lists import FREQUENCY_LISTS

from ...core.messages import Refusal
from ...core.thresholds import PASSWORD_LEAST, PASSWORD_MOST
from ..errors import BadField
from .commands import DEMO_PASSWORD, HASHER


@cache
def _common() -> frozenset[str]:
    return frozenset(FREQUENCY_LISTS["passwords"]) | {DEMO_PASSWORD}


def _beside(password: str, words: Iterable[str]) -> str:
    """What of a password is neither one of the person's own words, however often it stands there,
    nor a sign between them.

    >>> _beside("tam hollis tam hollis 1", ["tam", "hollis"])
    '1'
    """
    for word in sorted(words, key=len, reverse=True):
        password = password.replace(word, "")
    return re.sub(r"[\W_]+", "", password)


def checked_hash(password: str, *names: str, field: str = "password") -> str:
    """The hash of a new password. Raises BadField for one that is too short, too long, common, or
    made of the person's names."""
    text = unicodedata.normalize("NFKC", password)
    least, most = int(PASSWORD_LEAST.value), int(PASSWORD_MOST.value)
    if not least <= len(text) <= most:
        raise BadField(Refusal.PASSWORD_LENGTH, field, least=least, most=most)
    low = text.lower()
    words = {word for name in names for word in re.split(r"[\W_]+", name.lower()) if len(word) > 2}
    bare = low.strip("0123456789!?.-_ ")
    if low in _common() or bare in _common() or len(set(low)) < 4:
        raise BadField(Refusal.PASSWORD_COMMON, field)
    if len(_beside(low, words)) < least / 2:
        raise BadField(Refusal.PASSWORD_NAME, field)
    return HASHER.hash(password)
