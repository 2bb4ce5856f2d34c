"""The one table of sentences: a code with parameters and its text, for input, runs and use cases.

Screens, sheets and the command line all use these texts. Findings have a table of their own beside
it, with severity and remedy (planning/findings).
"""

from __future__ import annotations

from enum import StrEnum
from string import Formatter

from . import input, refusal_texts
from .input import Message
from .origin import Origin
from .refusals import Refusal

__all__ = ["TEXTS", "Message", "Origin", "Refusal", "a_word", "render"]

TEXTS: dict[StrEnum, str] = dict([*input.TEXTS.items(), *refusal_texts.TEXTS.items()])


def a_word(word: str) -> str:
    """A word with its article.

    >>> a_word("angle"), a_word("length")
    ('an angle', 'a length')
    """
    return f"{'an' if word[:1].lower() in set('aeio') else 'a'} {word}"


class _Sentences(Formatter):
    """Sentences in which `{kind:a}` is a word with its article."""

    def format_field(self, value: object, format_spec: str) -> str:
        return (
            a_word(str(value))
            if format_spec == "a"
            else str(super().format_field(value, format_spec))
        )


_SENTENCES = _Sentences()


def render(code: StrEnum, **params: object) -> str:
    """The sentence for a code with its parameters filled in.

    >>> render(Message.OVER_110_PERCENT, percent=140)
    '140 % is over 110 % of the chosen torque and is refused.'
    """
    return _SENTENCES.format(TEXTS[code], **params)
