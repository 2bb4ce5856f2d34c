"""A nut that sets the play of a bearing: tightened, then taken back."""

from __future__ import annotations

from .axis import LOAD
from .joint_traits import JointTraits

TRAITS = JointTraits(
    kind="bearing_nut",
    words="bearing nut",
    axes=(LOAD,),
    set_loose=True,
)
