"""What depends on the kind of a joint: one table of traits, the same questions for every kind."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from .axis import Axis


@dataclass(frozen=True, slots=True)
class JointTraits:
    """A kind of joint and what it asks for.

    Attributes:
        kind: its word in documents.
        words: the same for people.
        axes: the states that it can be in, of which a condition speaks.
        seat: the condition of the seats of several bolts, where the plan says nothing else.
        hub: whether the seat is that of a locking hub, on which a paste makes it slip.
        far_side: whether a nut's far side has to be held.
        settles_early: whether a first recheck belongs to it.
        one_click: whether one click a bolt is all that is meant, without a check.
        set_loose: whether its clamp is taken away again on purpose, as at a bearing.
        rises: whether a gasket in it is pressed in rising passes.
        shares_load: whether a bolt that is pulled anew takes load from those beside it.
    """

    kind: str
    words: str
    axes: tuple[Axis, ...] = ()
    seat: Literal["dry", "lightly oiled"] | None = None
    hub: bool = False
    far_side: bool = False
    settles_early: bool = False
    one_click: bool = False
    set_loose: bool = False
    rises: bool = False
    shares_load: bool = False
