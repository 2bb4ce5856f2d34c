"""A workpiece in a fixture against its stops: one click a bolt."""

from __future__ import annotations

from .axis import STOPS
from .joint_traits import JointTraits

TRAITS = JointTraits(
    kind="fixture",
    words="fixture",
    axes=(STOPS,),
    one_click=True,
)
