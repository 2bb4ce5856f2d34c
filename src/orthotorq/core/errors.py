"""One family of errors: each has a code, parameters, a sentence and, where known, the path of the
field."""

from __future__ import annotations

from functools import partial

from .messages import Message, render


class OrthotorqError(Exception):
    """Base of everything this package refuses. `path` is the field's path in the document, if there
    is one."""

    def __init__(self, code: Message, path: tuple[str | int, ...] = (), **params: object) -> None:
        self.code = code
        self.params = params
        self.path = path
        super().__init__(render(code, **params))

    def __reduce__(self) -> tuple[object, ...]:
        # it travels from the process that finds it to the one that says it
        return partial(type(self), self.code, self.path, **self.params), ()


class BadQuantity(OrthotorqError, ValueError):
    """Text that is not the quantity expected."""


class BadThread(OrthotorqError, ValueError):
    """Text that is no thread, or a thread that cannot exist."""


class UnknownName(OrthotorqError, LookupError):
    """A grade, lubricant, material or id that is not known."""


class Impossible(OrthotorqError, ValueError):
    """Values that are well formed each but physically impossible."""


class Occupied(OrthotorqError, RuntimeError):
    """All places for this work are taken at the moment."""


class BadDocument(OrthotorqError, ValueError):
    """A document that cannot be read as a plan at all."""


def in_range(value: float, low: float, high: float, words: str) -> float:
    """Return value when low <= value <= high, else raise Impossible with the allowed range in
    words.

    >>> in_range(0.12, 0.01, 1, "a friction coefficient from 0.01 to 1")
    0.12
    """
    if not low <= value <= high:
        raise Impossible(Message.OUT_OF_RANGE, value=f"{value:g}", range=words)
    return value
