"""From friction to the torque that one newton of preload takes, step by step."""

from __future__ import annotations

from ....documents.joint import ConeFace
from ....mechanics import preload as pre
from ....mechanics.formula import Step, explain
from .facts import Facts


def bracket(facts: Facts, end: str) -> list[Step]:
    """The steps up to k at the low, typical or high end of the friction band; none in the short
    form."""
    joint = facts.joint
    if joint.nut_factor is not None:
        return []
    steps = []
    if facts.face_diameter is not None and facts.hole is not None:
        steps.append(
            explain(pre.effective_diameter, face_diameter=facts.face_diameter, hole=facts.hole)
        )
    mu_t, mu_b = getattr(joint.mu_thread, end), getattr(joint.mu_bearing, end)
    face = facts.group.fastener.face
    if isinstance(face, ConeFace):
        steps.append(explain(pre.cone_friction, mu_bearing=mu_b, half_angle=face.half_angle.base))
        mu_b = steps[-1].value
    steps.append(
        explain(
            pre.torque_per_preload,
            pitch=joint.pitch,
            pitch_diameter=joint.pitch_diameter,
            mu_thread=mu_t,
            mu_bearing=mu_b,
            bearing_diameter=joint.bearing_diameter,
        )
    )
    return steps


def per_preload(facts: Facts, steps: list[Step], end: str) -> float:
    """k [mm] of a bracket's steps, or of the nut factor."""
    value: float = steps[-1].value if steps else getattr(facts.joint.band_per_preload(), end)
    return value
