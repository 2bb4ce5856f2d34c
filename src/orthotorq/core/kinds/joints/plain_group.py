"""Bolts that fit no other kind: nothing is asked but what holds for every bolt."""

from __future__ import annotations

from .axis import LOAD
from .joint_traits import JointTraits

TRAITS = JointTraits(
    kind="plain_group",
    words="plain group",
    axes=(LOAD,),
)
