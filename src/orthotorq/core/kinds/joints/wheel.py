"""A wheel on its hub: dry seats, neighbours that share the load, settling on the first way."""

from __future__ import annotations

from .axis import WHEEL
from .joint_traits import JointTraits

TRAITS = JointTraits(
    kind="wheel",
    words="wheel",
    axes=(WHEEL,),
    seat="dry",
    settles_early=True,
    shares_load=True,
)
