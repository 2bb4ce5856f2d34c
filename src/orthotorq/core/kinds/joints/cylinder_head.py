"""A head or casing half: rows from the middle outwards, snug and then on by angles."""

from __future__ import annotations

from .axis import PRESSED
from .joint_traits import JointTraits

TRAITS = JointTraits(
    kind="cylinder_head",
    words="cylinder head or casing",
    axes=PRESSED,
    shares_load=True,
)
