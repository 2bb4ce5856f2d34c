"""Two wheels on one hub, tightened through each other."""

from __future__ import annotations

from .axis import WHEEL
from .joint_traits import JointTraits

TRAITS = JointTraits(
    kind="twin_wheel",
    words="twin wheel",
    axes=(WHEEL,),
    seat="dry",
    settles_early=True,
    shares_load=True,
)
