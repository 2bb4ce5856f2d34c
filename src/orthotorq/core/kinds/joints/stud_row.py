"""Studs in a row that hold one part."""

from __future__ import annotations

from .axis import LOAD
from .joint_traits import JointTraits

TRAITS = JointTraits(
    kind="stud_row",
    words="row of studs",
    axes=(LOAD,),
)
