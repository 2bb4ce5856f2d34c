"""One bolt in the middle of a shaft, often turned on by an angle."""

from __future__ import annotations

from .axis import LOAD, PARTS
from .joint_traits import JointTraits

TRAITS = JointTraits(
    kind="centre_bolt",
    words="centre bolt",
    axes=(LOAD, PARTS),
)
