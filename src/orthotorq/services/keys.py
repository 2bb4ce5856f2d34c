"""The keys behind the codes of the chain: kept outside the database, so that who holds the database
cannot write a record.

A key file has a line for each key, `name hex`; the last one is used, the older ones still verify
what they have signed. Without a file the key is made from the secret of the sessions, under the
name `secret`.
"""

from __future__ import annotations

import hashlib
import hmac
import re
from functools import lru_cache
from pathlib import Path

from .. import settings

#: name of the key that is made from the session secret
FROM_SECRET = "secret"
_LINE = re.compile(r"([A-Za-z0-9.\-]{1,24}) ([0-9a-fA-F]{64,})")


class KeyFileError(RuntimeError):
    """The key file cannot be read, or a line of it is no key."""


@lru_cache(maxsize=8)
def _keys(path: str, secret: str) -> dict[str, bytes]:
    """Keys by name, the one in use last. Raises KeyFileError."""
    out = (
        {FROM_SECRET: hmac.digest(secret.encode(), b"orthotorq chain", hashlib.sha256)}
        if secret
        else {}
    )
    if not path:
        return out
    try:
        lines = Path(path).read_text(encoding="utf-8").splitlines()
    except (OSError, UnicodeDecodeError) as error:
        raise KeyFileError(f"The key file cannot be read: {error}.") from None
    for number, line in enumerate(lines, 1):
        if not line.strip() or line.startswith("#"):
            continue
        found = _LINE.fullmatch(line.strip())
        if found is None:
            raise KeyFileError(
                f"Line {number} of the key file is no key: a name, a blank, and at least 64 "
                "hexadecimal digits."
            )
        out[found.group(1)] = bytes.fromhex(found.group(2)[: len(found.group(2)) // 2 * 2])
    return out


def keys() -> dict[str, bytes]:
    """Keys by name, the one in use last. Raises KeyFileError, MissingSetting."""
    try:
        secret = settings.read("ORTHOTORQ_SECRET_KEY")
    except settings.MissingSetting:
        if not settings.read("ORTHOTORQ_KEYS"):
            raise
        secret = ""
    return _keys(settings.read("ORTHOTORQ_KEYS"), secret)


def _of(key: bytes, text: str) -> str:
    return hmac.digest(key, text.encode(), hashlib.sha256).hex()


def code_of(text: str) -> str:
    """The code of a text by the key in use: `name:hex`."""
    name, key = list(keys().items())[-1]
    return f"{name}:{_of(key, text)}"


def holds(code: str, text: str, known: dict[str, bytes] | None = None) -> str | None:
    """What is wrong with the code of a text, or None; who asks very often gives the keys."""
    name, _, value = code.partition(":")
    key = (keys() if known is None else known).get(name)
    if key is None:
        return f"its code is of the key “{name}”, which is not at hand"
    same = hmac.compare_digest(_of(key, text), value)
    return None if same else "its code is not the server's: it was written past the application"
