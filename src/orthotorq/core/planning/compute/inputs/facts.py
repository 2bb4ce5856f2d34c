"""The facts of one group: thread, strength, friction, seat, stiffness; everything that does not
depend on its tools."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from functools import lru_cache

from ....documents.joint import ConeFace, FlatFace, Group
from ....documents.plan import Plan
from ....errors import BadThread, Impossible
from ....forms.errors import FieldErrors
from ....mechanics import preload as pre
from ....mechanics import strength as lim
from ....mechanics.window import Ends, Joint
from ....messages import Message
from ....tables.grades import Strength, strength_of
from ....tables.hexagons import Hexagon, flats_words, hexagon, key_width
from ....tables.lubricants import Band
from ....tables.threads import Thread, parse_thread
from .friction import Friction, friction_of
from .stiffness import Stiffness, material_of, stiffness_of

_FLAT = Band(0.1, 0.1, 0.1)
#: heads that are turned from inside, by what turns them
_KEYED = {"socket head": "hexagon key bit", "set screw": "hexagon key bit"}


@dataclass(frozen=True, slots=True)
class Facts:
    """Everything about a group that does not depend on its target or tools (mm, N, MPa, N·mm)."""

    group: Group
    thread: Thread
    hexagon: Hexagon | None
    strength: Strength
    friction: Friction
    joint: Joint
    face_diameter: float | None
    hole: float | None
    stiffness: Stiffness | None

    @property
    def waist(self) -> float | None:
        """Diameter [mm] of a shank that carries less than the thread, or None."""
        given = self.group.fastener.shank_diameter
        return (
            given.base if given is not None and given.base < self.thread.stress_diameter else None
        )

    @property
    def carrying(self) -> tuple[float, float]:
        """(area [mm²], diameter [mm]) of the section that gives way first: the thread's, or a
        reduced shank's."""
        if (waist := self.waist) is not None:
            return math.pi / 4 * waist**2, waist
        return self.thread.stress_area, self.thread.stress_diameter

    @property
    def area(self) -> float:
        """The area [mm²] that a share of yield stands on, as the planner chose; never more than
        what carries."""
        chosen = (
            self.thread.root_area if self.group.limits.area == "root" else self.thread.stress_area
        )
        return min(chosen, self.carrying[0])

    @property
    def area_words(self) -> str:
        """That area in words."""
        if self.waist is not None and self.area == self.carrying[0]:
            return "reduced shank"
        return "root area" if self.group.limits.area == "root" else "tensile stress area"

    @property
    def slender(self) -> tuple[float, float] | None:
        """(Diameter, clamped length) [mm], or None where the stack is not given."""
        return (self.thread.diameter, self.stiffness.grip) if self.stiffness else None

    def yields(self, fraction: float = 1.0) -> Ends:
        """Load [N] at which a share of yield is reached under tension with torsion, at each end of
        the load."""
        return _yields(self.joint, fraction, self.strength.yield_, *self.carrying)

    def tension_yields(self, fraction: float = 1.0) -> Ends:
        """Load [N] at which a share of yield is reached in tension alone, as in a bolt that is
        stretched."""
        load = lim.preload_at_fraction(fraction, self.strength.yield_, self.carrying[0])
        return Ends(load, load, load)


@lru_cache(maxsize=512)
def _yields(
    joint: Joint, fraction: float, yield_strength: float, area: float, diameter: float
) -> Ends:
    return Ends(
        *(
            lim.combined_preload(
                fraction, yield_strength, area, joint.pitch, joint.pitch_diameter, diameter, one
            )
            for one in reversed(joint.thread_friction())
        )
    )


def _strength(plan: Plan, group: Group, thread: Thread) -> Strength:
    own = plan.definitions.grades.get(group.fastener.grade)
    if own is None:
        return strength_of(group.fastener.grade, thread.diameter)
    return Strength(
        group.fastener.grade,
        own.proof.base if own.proof else None,
        own.yield_strength.base,
        own.tensile.base,
        "own entry",
        (),
        own.source,
        _family(group.fastener.grade, own.family),
    )


#: names by which stainless is known where nobody said what an own grade is made of
_STAINLESS = re.compile(
    (
        r"\b(A[1-5]|D[2468]|F1|C[134])[- "
        r"]?(50|70|80|100|110)\b|stainless|inox|duplex|\b(304|316|B8M?)\b"
    ),
    re.I,
)


def _family(name: str, said: str) -> str:
    """What an own grade is made of: as said, else stainless where its name says so."""
    return "stainless" if said == "other" and _STAINLESS.search(name) else said


def _faces(
    group: Group, thread: Thread, hexa: Hexagon | None
) -> tuple[float, float | None, float | None, float]:
    """(effective diameter, d_w, d_h, sin of the cone's half-angle) in mm."""
    face = group.fastener.face
    if isinstance(face, FlatFace):
        if face.hole.base < thread.minor_diameter:
            raise Impossible(
                Message.OUT_OF_RANGE,
                ("hole",),
                value=str(face.hole),
                range=f"at least the thread's core ({thread.minor_diameter:.2f} mm)",
            )
        found = pre.effective_diameter(face.face_diameter.base, face.hole.base)
        return found, face.face_diameter.base, face.hole.base, 1.0
    if isinstance(face, ConeFace):
        sine = math.sin(face.half_angle.base)
        if face.effective_diameter is not None:
            if face.effective_diameter.base <= thread.minor_diameter:
                raise Impossible(
                    Message.OUT_OF_RANGE,
                    ("effective_diameter",),
                    value=str(face.effective_diameter),
                    range=f"more than the thread's core ({thread.minor_diameter:.2f} mm)",
                )
            return face.effective_diameter.base, None, None, sine
        if hexa is None:
            raise BadThread(Message.HEXAGON_UNKNOWN, thread=thread.designation)
        return (hexa.hole + hexa.across_flats) / 2, None, None, sine
    if group.fastener.head == "set screw":
        # no head: it turns on its flat point, about 0.7 of the thread wide (ISO 4026), on half of
        # that in the mean
        return 0.35 * thread.diameter, None, None, 1.0
    if hexa is None:
        raise BadThread(Message.HEXAGON_UNKNOWN, thread=thread.designation)
    return pre.effective_diameter(hexa.face_diameter, hexa.hole), hexa.face_diameter, hexa.hole, 1.0


def gather(plan: Plan, index: int, errors: FieldErrors) -> Facts | None:
    """The facts of one group, or None when a field error keeps it from being computed."""
    group = plan.groups[index]
    path = ("groups", index)
    before = len(errors.found)
    thread = parse_thread(group.fastener.thread)
    hexa = hexagon(thread, group.fastener.head)
    with errors.at(*path, "fastener", "grade"):
        strength = _strength(plan, group, thread)
    with errors.at(*path, "friction"):
        friction = friction_of(plan, group.friction)
    with errors.at(*path, "fastener", "face"):
        effective, face_diameter, hole, sine = _faces(group, thread, hexa)
    if group.into is not None and group.into.material is not None:
        with errors.at(*path, "into", "material"):
            material_of(plan, group.into.material)
    if len(errors.found) > before:
        return None
    joint = Joint(
        thread.diameter,
        thread.pitch,
        thread.pitch_diameter,
        effective,
        friction.mu_thread or _FLAT,
        friction.mu_bearing or _FLAT,
        friction.nut_factor,
        sine,
        group.fastener.prevailing.base,
    )
    stiffness = stiffness_of(plan, index, thread, strength, face_diameter, hole, errors)
    if len(errors.found) > before:
        return None
    return Facts(group, thread, hexa, strength, friction, joint, face_diameter, hole, stiffness)


def socket_of(facts: Facts) -> str:
    """What goes on the heads of a group, with its width."""
    fastener = facts.group.fastener
    flats = fastener.across_flats
    size = (
        flats.base
        if flats
        else key_width(facts.thread, fastener.head)
        if fastener.head in _KEYED
        else (facts.hexagon.across_flats if facts.hexagon else None)
    )
    return (
        f"{_KEYED.get(fastener.head, 'socket')} "
        f"{flats_words(facts.thread, size) if size else 'to suit the head'}"
    )
