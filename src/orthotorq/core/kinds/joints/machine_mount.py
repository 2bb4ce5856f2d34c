"""A machine on its feet: brought into line, then tightened without moving it."""

from __future__ import annotations

from .axis import FEET, LOAD, PARTS
from .joint_traits import JointTraits

TRAITS = JointTraits(
    kind="machine_mount",
    words="machine mount",
    axes=(LOAD, PARTS, FEET),
    far_side=True,
    settles_early=True,
)
