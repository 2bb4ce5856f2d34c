"""Work for the helper process that a use case asks for.

A use case that needs a sheet drawn, a photo opened or a table read returns a HelperTask. Who called
it ends its transaction, does the work, and begins another one for what follows: no database
connection waits while the helper is busy.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Generic, TypeVar

from .context import Ctx

T = TypeVar("T")
R = TypeVar("R")


@dataclass(frozen=True, slots=True)
class HelperTask(Generic[T, R]):
    """`work` needs no database; `then` gets its answer in a transaction of its own."""

    work: Callable[[], T]
    then: Callable[[Ctx, T], R]

    def run(self, ctx: Ctx) -> R:
        """Both in one go, where nobody else waits for the connection (command line, tests)."""
        return self.then(ctx, self.work())


def named_file(name: str, work: Callable[[], T]) -> HelperTask[T, tuple[str, T]]:
    """A file that is made and not kept: (its name, its content)."""
    return HelperTask(work, lambda _ctx, data: (name, data))
