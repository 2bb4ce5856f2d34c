"""The registry of pass kinds, built from their files; the union of their forms is what a plan's
passes are read by."""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Iterator
from functools import reduce
from operator import or_
from types import ModuleType
from typing import TYPE_CHECKING, Annotated, Any, TypeVar

from pydantic import Discriminator, Field, Tag

from ..forms.base import DO, Model, Name
from . import passes
from .pass_kind import PassForm, PassKind
from .prompts import (
    ACCEPT,
    BACK,
    CUT,
    DONE,
    DRILL,
    EASE,
    GOOD,
    HEAT,
    MOVED,
    NOT_GOOD,
    NOT_SURE,
    NOTHING_MOVED,
    PENETRANT,
    REFUSES,
    REPAIR,
    REPLACE,
    SKIP,
    STILL_THERE,
    TURNED,
    TURNS_ON,
    VALUE,
)

K = TypeVar("K")


def found_in(package: ModuleType, base: type[K]) -> Iterator[K]:
    """One of every subclass that a file of a package defines."""
    for info in pkgutil.iter_modules(package.__path__):
        module = importlib.import_module(f"{package.__name__}.{info.name}")
        for one in vars(module).values():
            if (
                isinstance(one, type)
                and issubclass(one, base)
                and one.__module__ == module.__name__
            ):
                yield one()


def union_of(forms: dict[str, type[Any]], by: Discriminator) -> Any:
    """The union of forms by their tag."""
    return Annotated[
        reduce(or_, (Annotated[form, Tag(f"~{tag}")] for tag, form in forms.items())), by
    ]


PASS_KINDS: dict[str, PassKind] = {
    k.do: k for k in sorted(found_in(passes, PassKind), key=lambda k: (k.place, k.do))
}

if TYPE_CHECKING:
    Pass = PassForm
else:
    Pass = union_of({k.do: k.form for k in PASS_KINDS.values() if k.form is not None}, DO)
Passes = Annotated[list[Pass], Field(min_length=1, max_length=40)]


class OwnMethod(Model):
    """A method of the planner's own, embedded in the plan."""

    name: Name
    passes: Passes


#: every answer in its plain words; a kind of step may say it differently
ANSWERS: dict[str, str] = {
    **{c.word: c.label for k in PASS_KINDS.values() for c in (*k.ask.choices, *k.ask.wrong)},
    **{
        c.word: c.label
        for c in (
            DONE,
            GOOD,
            NOT_GOOD,
            TURNED,
            STILL_THERE,
            NOT_SURE,
            VALUE,
            REFUSES,
            TURNS_ON,
            MOVED,
            NOTHING_MOVED,
            REPAIR,
            REPLACE,
            ACCEPT,
            SKIP,
            BACK,
            PENETRANT,
            EASE,
            HEAT,
            CUT,
            DRILL,
        )
    },
}
