"""Studs seated in a casting and let set, then their nuts."""

from __future__ import annotations

from .axis import PRESSED
from .joint_traits import JointTraits

TRAITS = JointTraits(
    kind="casting_studs",
    words="studs in a casting",
    axes=PRESSED,
    shares_load=True,
)
