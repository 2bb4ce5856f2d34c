"""Every term with its meaning: those of the trade, and the conditions of a joint in their own
words."""

from __future__ import annotations

from .joint_condition import CONDITIONS
from .messages.terms import TERMS, Term


def glossary() -> tuple[Term, ...]:
    """Terms in the order of their names."""
    conditions = (Term(one.title, one.when) for one in CONDITIONS.values())
    return tuple(sorted((*TERMS, *conditions), key=lambda term: term.name.lower()))
