"""A hub that holds by friction: lightly oiled screws, never a paste."""

from __future__ import annotations

from .axis import LOAD, PARTS
from .joint_traits import JointTraits

TRAITS = JointTraits(
    kind="locking_hub",
    words="locking hub",
    axes=(LOAD, PARTS),
    seat="lightly oiled",
    hub=True,
)
