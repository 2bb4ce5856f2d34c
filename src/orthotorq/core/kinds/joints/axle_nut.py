"""One large nut on an axle."""

from __future__ import annotations

from .axis import LOAD
from .joint_traits import JointTraits

TRAITS = JointTraits(
    kind="axle_nut",
    words="axle nut",
    axes=(LOAD,),
)
