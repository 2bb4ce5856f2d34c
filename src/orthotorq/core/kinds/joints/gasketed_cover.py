"""A cover or flange with a gasket: pressure behind it, rising passes, a far side to be held."""

from __future__ import annotations

from .axis import PRESSED
from .joint_traits import JointTraits

TRAITS = JointTraits(
    kind="gasketed_cover",
    words="gasketed cover",
    axes=PRESSED,
    far_side=True,
    settles_early=True,
    rises=True,
    shares_load=True,
)
