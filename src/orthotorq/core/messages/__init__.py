"""The one table of sentences: a code with parameters and its text, for input, runs and use cases.

Screens, sheets and the command line all use these texts. Findings have a table of their own beside it, with severity and
remedy (planning/findings).
"""
from __future__ import annotations

from enum import StrEnum

from . import input, refusals
from .input import Message
from .origin import Origin
from .refusals import Refusal

__all__ = ["TEXTS", "Message", "Origin", "Refusal", "render"]

TEXTS: dict[StrEnum, str] = dict([*input.TEXTS.items(), *refusals.TEXTS.items()])


def render(code: StrEnum, **params: object) -> str:
    """The sentence for a code with its parameters filled in.

    >>> render(Message.OVER_110_PERCENT, percent=140)
    '140 % is over 110 % of the chosen torque and is refused.'
    """
    return TEXTS[code].format(**params)
