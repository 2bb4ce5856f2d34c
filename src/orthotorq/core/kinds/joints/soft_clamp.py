"""A clamp over a soft part, whose limit is far below that of the bolts."""

from __future__ import annotations

from .axis import PRESSED
from .joint_traits import JointTraits

TRAITS = JointTraits(
    kind="soft_clamp",
    words="soft clamp",
    axes=PRESSED,
    shares_load=True,
)
