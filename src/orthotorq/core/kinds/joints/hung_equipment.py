"""Equipment that hangs from rods: on the hoist until every rod bears."""

from __future__ import annotations

from .axis import HUNG
from .joint_traits import JointTraits

TRAITS = JointTraits(
    kind="hung_equipment",
    words="hung equipment",
    axes=(HUNG,),
)
