"""Reading a plan: format and version first, then older versions brought up, every field, every
reference."""

from __future__ import annotations

import hashlib
import json
import re
from typing import Any

import rfc8785
from pydantic import ValidationError

from ..errors import BadDocument
from ..forms.errors import DocumentErrors, field_errors
from ..messages import Message
from .derived_groups import with_likes
from .plan import VERSION, Plan
from .references import plan_errors
from .upgrade import upgraded

MAX_BYTES = 2_000_000
#: a record is nested some fifteen deep; what is deeper was made by nobody who has something to say
MOST_DEEP = 60


def parse_json(text: str | bytes, most: int = MAX_BYTES) -> Any:
    """JSON as Python values; NaN and Infinity are refused. Raises BadDocument when it is none or
    larger than `most` bytes."""
    if len(text) > most:
        raise BadDocument(
            Message.BAD_VALUE, reason=f"The file is larger than {most // 1_000_000} MB"
        )

    def refuse(name: str) -> float:
        raise ValueError(f"{name} is not a number")

    try:
        data = json.loads(text, parse_constant=refuse)
    except (ValueError, RecursionError) as error:
        raise BadDocument(Message.NOT_JSON, reason=str(error)[:120]) from None
    if deeper_than(data, MOST_DEEP):
        raise BadDocument(Message.NOT_JSON, reason="it is nested too deeply")
    check_characters(text, data)
    return data


def check_characters(text: str | bytes, data: Any) -> None:
    """Refuse escaped NUL and halves of surrogate pairs: they are JSON, but no text that can be kept
    or hashed.

    Raises BadDocument.
    """
    raw = text.decode(errors="replace") if isinstance(text, bytes) else text
    folded = raw.lower()
    # an odd number of backslashes: the escape itself, not somebody writing about it
    nul = re.search(r"(?<!\\)(?:\\\\)*\\u0000", folded) is not None
    if "\\ud" in folded:
        try:
            json.dumps(data, ensure_ascii=False).encode()
        except UnicodeEncodeError:
            nul = True
    if nul:
        raise BadDocument(Message.NOT_JSON, reason="a text holds NUL or half of a surrogate pair")


def deeper_than(document: object, most: int) -> bool:
    """Whether a JSON value is nested deeper than so many levels; gone through level by level, not
    by recursion.

    >>> deeper_than({"a": [[1]]}, 3), deeper_than({"a": [[1]]}, 2)
    (False, True)
    """
    level = [document]
    for _ in range(most):
        level = [
            inner
            for one in level
            for inner in (
                one.values() if isinstance(one, dict) else one if isinstance(one, list) else ()
            )
            if isinstance(inner, dict | list)
        ]
        if not level:
            return False
    return True


#: integers that every reader of JSON keeps (RFC 8785, 3.2.2.3)
_SAFE = 2**53 - 1


class _Unlike(Exception):
    """A value that Python's own encoder would write otherwise."""


def _shaped(value: Any) -> Any:
    """A value as Python's own encoder writes it the way RFC 8785 wants it: whole numbers without
    “.0”. Raises _Unlike for large integers, numbers that need an exponent, keys beyond ASCII, and
    what is no JSON."""
    kind = type(value)
    if kind is str or kind is bool or value is None:
        return value
    if kind is float and value.is_integer():
        value, kind = int(value), int
    if kind is int and -_SAFE <= value <= _SAFE:
        return value
    if kind is float and 1e-4 <= abs(value) < 1e16:
        return value
    # words are most of a plan: they are taken without a call
    if kind is dict and all(map(_ascii, value)):
        return {key: one if type(one) is str else _shaped(one) for key, one in value.items()}
    if kind is list:
        return [one if type(one) is str else _shaped(one) for one in value]
    raise _Unlike


def _ascii(key: Any) -> bool:
    return type(key) is str and key.isascii()


def canonical(document: Any) -> str:
    """The canonical text of a JSON value (RFC 8785). Raises ValueError for what has none.

    The library is exact and slow (a fifth of a compute); where Python's encoder writes the same,
    that is taken. A test holds the two to each other.
    """
    try:
        text = json.dumps(
            _shaped(document), sort_keys=True, separators=(",", ":"), ensure_ascii=False
        )
    except _Unlike:
        return rfc8785.dumps(document).decode()
    # half of a surrogate pair has no canonical text
    text.encode()
    return text


def document_hash(document: Any) -> str:
    """SHA-256 of the canonical text."""
    return hashlib.sha256(canonical(document).encode()).hexdigest()


def read_plan(data: Any) -> Plan:
    """A checked plan from JSON values. Raises DocumentErrors with every field error found."""
    if not isinstance(data, dict) or data.get("format") != "orthotorq.plan":
        raise DocumentErrors.one(BadDocument(Message.NOT_A_PLAN), "format")
    version = data.get("version")
    if type(version) is int and version > VERSION:
        raise DocumentErrors.one(
            BadDocument(Message.LATER_VERSION, version=version, known=VERSION), "version"
        )
    try:
        plan = Plan.model_validate(with_likes(upgraded(data, VERSION)))
    except ValidationError as error:
        raise DocumentErrors(field_errors(error)) from None
    except RecursionError:
        raise DocumentErrors.one(
            BadDocument(Message.BAD_VALUE, reason="The document is nested too deeply")
        ) from None
    if errors := plan_errors(plan):
        raise DocumentErrors(errors)
    return plan
