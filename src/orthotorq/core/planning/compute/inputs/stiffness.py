"""Resiliences of a group whose clamped stack is given."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ....documents.joint import Group
from ....documents.plan import Plan
from ....errors import Impossible, UnknownName
from ....forms.errors import FieldErrors
from ....mechanics import stiffness as stiff
from ....mechanics.formula import Step, explain
from ....mechanics.strength import ring_area
from ....messages import Message
from ....tables import materials
from ....tables.grades import Strength
from ....tables.hexagons import hexagon
from ....tables.materials import Material
from ....tables.threads import Thread

#: modulus of a fastener [MPa] by what it is made of: stainless is a little softer than steel
FASTENER_MODULUS = {"stainless": 200_000.0}


@dataclass(frozen=True, slots=True)
class Stiffness:
    """Resilience of fastener and parts [mm/N], clamped length [mm], slope of the cone, layers, the
    face and hole [mm] that the cone begins at, the shank's area [mm²], engaged thread in diameters,
    and what a gasket adds to the parts."""

    fastener: float
    parts: float
    grip: float
    slope: float
    outside: float
    layers: tuple[stiff.Layer, ...]
    tapped: bool
    mate_modulus: float
    head: float
    shank: float
    face: float
    hole: float
    shank_area: float
    engaged: float
    gasket: Step | None = None

    @property
    def both(self) -> float:
        """Sum of the resiliences [mm/N]."""
        return self.fastener + self.parts


def material_of(plan: Plan, name: str) -> Material:
    """A material of the plan's own or of the table. Raises UnknownName."""
    own = plan.definitions.materials.get(name)
    if own is not None:
        shear = own.shear.base if own.shear else 0.6 * own.tensile.base
        bearing = own.bearing.base if own.bearing else own.tensile.base
        return Material(
            name, own.modulus.base, own.tensile.base, shear, bearing, "own entry", own.family
        )
    found = materials.table().get(name)
    if found is None:
        known = ", ".join([*plan.definitions.materials, *materials.table()])
        raise UnknownName(Message.MATERIAL_UNKNOWN, text=name[:60], known=known)
    return found


def fastener_modulus(strength: Strength) -> float:
    """Modulus of a fastener [MPa]."""
    return FASTENER_MODULUS.get(strength.family, stiff.STEEL)


def stiffness_of(
    plan: Plan,
    index: int,
    thread: Thread,
    strength: Strength,
    face: float | None,
    hole: float | None,
    errors: FieldErrors,
) -> Stiffness | None:
    """Resiliences of a group whose stack is given; None where it is not, or where the seat is no
    flat face."""
    group = plan.groups[index]
    if not group.stack:
        return None
    path = ("groups", index, "stack")
    if face is None or hole is None:
        # a cone seat: the cone of pressure starts about at the hexagon's own face
        hexa = hexagon(thread, group.fastener.head)
        face, hole = (
            (hexa.face_diameter, hexa.hole)
            if hexa
            else (1.5 * thread.diameter, 1.1 * thread.diameter)
        )
    layers = []
    for j, layer in enumerate(group.stack):
        with errors.at(*path, j, "material"):
            modulus = material_of(plan, layer.material).modulus
        outside = layer.outside.base if layer.outside else 3 * face
        if outside <= face:
            with errors.at(*path, j, "outside"):
                raise Impossible(
                    Message.OUT_OF_RANGE,
                    value=f"An outside diameter of {outside:g} mm",
                    range=f"more than the bearing face ({face:g} mm)",
                )
        elif not any(e.path[:4] == (*path, j) for e in errors.found):
            layers.append(stiff.Layer(layer.thickness.base, modulus, outside))
    if len(layers) < len(group.stack):
        return None
    return _resiliences(plan, index, thread, strength, tuple(layers), (face, hole), errors)


def _gasket(group: Group) -> Step | None:
    """What a gasket of known thickness and modulus adds to the parts of one bolt."""
    gasket = group.gasket
    if gasket is None or gasket.thickness is None or gasket.modulus is None:
        return None
    return explain(
        stiff.gasket_resilience,
        thickness=gasket.thickness.base,
        modulus=gasket.modulus.base,
        area=ring_area(gasket.outside.base, gasket.inside.base),
        bolts=float(group.layout.count),
    )


def _shank(group: Group, thread: Thread, grip: float) -> tuple[float, float]:
    """(length, area) of the shank [mm], [mm²]. Raises Impossible for one that is thicker than the
    bolt."""
    fastener = group.fastener
    length = min(fastener.shank_length.base, grip) if fastener.shank_length else 0.0
    diameter = fastener.shank_diameter.base if fastener.shank_diameter else thread.diameter
    if diameter > thread.diameter * (1 + 1e-9):
        raise Impossible(
            Message.OUT_OF_RANGE,
            value=f"A shank of {diameter:g} mm",
            range=f"at most the thread ({thread.diameter:g} mm)",
        )
    return length, math.pi / 4 * diameter**2


def _resiliences(
    plan: Plan,
    index: int,
    thread: Thread,
    strength: Strength,
    layers: tuple[stiff.Layer, ...],
    seat: tuple[float, float],
    errors: FieldErrors,
) -> Stiffness | None:
    group = plan.groups[index]
    face, hole = seat
    gasket, tapped = _gasket(group), group.into is not None and group.into.kind == "tapped"
    parts_grip = sum(layer.thickness for layer in layers)
    outside = sum((layer.outside or 0.0) * layer.thickness for layer in layers) / parts_grip
    grip = parts_grip + (
        group.gasket.thickness.base if gasket and group.gasket and group.gasket.thickness else 0.0
    )
    modulus, mate = fastener_modulus(strength), stiff.STEEL
    if group.into is not None and group.into.material is not None:
        with errors.at("groups", index, "into", "material"):
            mate = material_of(plan, group.into.material).modulus
    slope = (stiff.cone_slope_tapped if tapped else stiff.cone_slope_through)(
        parts_grip, face, outside
    )
    head = 0.4 if group.fastener.head == "socket head" or group.fastener.stud else 0.5
    engaged = 1.0 if group.fastener.stud and not tapped else 0.5
    with errors.at("groups", index, "fastener", "shank_diameter"):
        shank, area = _shank(group, thread, grip)
        with errors.at("groups", index, "stack"):
            if slope <= 0.01:
                raise Impossible(
                    Message.BAD_VALUE, reason="This stack is too short for a deformation cone"
                )
            bolt = stiff.fastener_resilience(
                thread.diameter,
                thread.minor_area,
                grip,
                shank,
                modulus,
                head,
                0.33 if tapped else 0.4,
                mate if tapped else modulus,
                area,
                engaged,
            )
            parts = stiff.parts_resilience(layers, face, hole, outside, slope, tapped) + (
                gasket.value if gasket else 0.0
            )
            under = mate if tapped else modulus
            cone, bore = (grip, slope, outside, layers, tapped, under), (shank, face, hole)
            return Stiffness(bolt, parts, *cone, head, *bore, area, engaged, gasket)
    return None
