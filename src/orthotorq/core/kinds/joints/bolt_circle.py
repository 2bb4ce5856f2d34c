"""A slewing ring, coupling or tower flange: many bolts on one circle, metal on metal."""

from __future__ import annotations

from .axis import LOAD, PARTS
from .joint_traits import JointTraits

TRAITS = JointTraits(
    kind="bolt_circle",
    words="bolt circle",
    axes=(LOAD, PARTS),
    far_side=True,
    settles_early=True,
    shares_load=True,
)
