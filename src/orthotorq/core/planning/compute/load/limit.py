"""One bound of the clamp load: what it is called, where it lies, which steps led to it."""

from __future__ import annotations

from dataclasses import dataclass

from ....mechanics.formula import Step
from ....mechanics.window import Ends


@dataclass(frozen=True, slots=True)
class Bound:
    """One bound: id, code of its kind, words, side, clamp load [N], the field that sets it, the
    steps that end at the load.

    `ends` are the loads at each end where friction moves the bound itself; `torque` [N·mm] where it
    is a torque.
    """

    id: str
    code: str
    name: str
    upper: bool
    clamp: float
    input: str
    steps: tuple[Step, ...] = ()
    notes: tuple[str, ...] = ()
    ends: Ends | None = None
    torque: float | None = None
    #: whether the limit is typical of a table, and nobody's own figure
    typical: bool = False

    @property
    def clamps(self) -> Ends:
        """The clamp load [N] of the bound at each end of the load."""
        return self.ends or Ends(self.clamp, self.clamp, self.clamp)


def bound_from(
    code: str, name: str, upper: bool, field: str, steps: list[Step], *notes: str, own: str = ""
) -> Bound:
    """A bound whose clamp load is where its steps end."""
    return Bound(
        f"{code}:{own}" if own else code,
        code,
        name,
        upper,
        steps[-1].value,
        field,
        tuple(steps),
        notes,
    )
