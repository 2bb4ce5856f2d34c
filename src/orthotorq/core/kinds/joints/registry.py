"""All kinds of joint, in the order in which they are offered."""

from __future__ import annotations

from . import (
    axle_nut,
    bearing_nut,
    bolt_circle,
    casting_studs,
    centre_bolt,
    cylinder_head,
    fixture,
    gasketed_cover,
    hung_equipment,
    locking_hub,
    machine_mount,
    plain_group,
    soft_clamp,
    stud_row,
    twin_wheel,
    wheel,
)
from .joint_traits import JointTraits

JOINTS: dict[str, JointTraits] = {
    module.TRAITS.kind: module.TRAITS
    for module in (
        wheel,
        twin_wheel,
        gasketed_cover,
        machine_mount,
        stud_row,
        locking_hub,
        centre_bolt,
        bearing_nut,
        axle_nut,
        soft_clamp,
        fixture,
        casting_studs,
        hung_equipment,
        bolt_circle,
        cylinder_head,
        plain_group,
    )
}
