"""Resilience of fastener and clamped parts (VDI 2230-1): how far they give per newton."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..errors import Impossible, in_range
from ..messages import Message
from .formula import Formula, Step, Symbol, formula

STEEL = 205_000.0
_GRIP = ("l_K", "length", "clamped length")
_FACE = ("d_w", "length", "outer diameter of the bearing face")
_OUTER = ("D_A", "length", "outside diameter of the parts")


@formula(
    r"\delta_s = \frac{1}{E_s}\left[\frac{k_h d}{A} + \frac{l_s}{A_s'} + \frac{l_K - l_s + "
    r"k_e d}{A_{d3}}\right]"
    r" + \frac{k_m d}{E_m A}",
    (r"\delta_s", "resilience", "resilience of the fastener"),
    "VDI 2230-1, section 5.1.1",
    diameter=("d", "length", "nominal diameter"),
    minor_area=("A_{d3}", "area", "core area"),
    grip=_GRIP,
    shank=("l_s", "length", "shank length"),
    modulus=("E_s", "stress", "modulus of the fastener"),
    head=("k_h", "-", "head factor"),
    mate=("k_m", "-", "nut or tapped factor"),
    mate_modulus=("E_m", "stress", "modulus of nut or tapped part"),
    shank_area=("A_s'", "area", "area of the shank"),
    engaged=("k_e", "-", "engaged thread, 0.5 at each end"),
)
def fastener_resilience(
    diameter: float,
    minor_area: float,
    grip: float,
    shank: float,
    modulus: float,
    head: float,
    mate: float,
    mate_modulus: float,
    shank_area: float | None = None,
    engaged: float = 0.5,
) -> float:
    """Resilience of a fastener [mm/N]; lengths [mm], core area [mm²], moduli [MPa], factors [-].

    `head` is 0.5 for hexagons, 0.4 for socket heads and for the second nut of a stud; `mate` is 0.4
    for a nut and 0.33 for a tapped part. Head and mate count over pi/4 d², the shank over its own
    area [mm²], free and engaged thread over the core area; a stud has engaged thread at both ends.
    Source: VDI 2230-1.

    >>> f"{fastener_resilience(16.0, 144.12, 50.0, 20.0, 205000.0, 0.5, 0.4, 205000.0):.4e}"
    '2.1208e-06'
    """
    in_range(grip, 0.1, 1e5, "a clamped length of 0.1 mm to 100 m")
    in_range(shank, 0.0, grip, "a shank between zero and the clamped length")
    area = math.pi / 4 * diameter**2
    waist = shank / (shank_area or area)
    return (
        head * diameter / area + waist + (grip - shank + engaged * diameter) / minor_area
    ) / modulus + mate * diameter / (mate_modulus * area)


@formula(
    r"\tan\varphi = 0.362 + 0.032\ln\frac{l_K}{2 d_w} + 0.153\ln\frac{D_A}{d_w}",
    (r"\tan\varphi", "-", "slope of the deformation cone"),
    "VDI 2230-1, through-bolted joint",
    approximation="fitted to finite-element results",
    grip=_GRIP,
    face_diameter=_FACE,
    outer_diameter=_OUTER,
)
def cone_slope_through(grip: float, face_diameter: float, outer_diameter: float) -> float:
    """tan of the cone angle [-] of a through-bolted joint; lengths [mm]. Source: VDI 2230-1.

    >>> round(cone_slope_through(50.0, 22.49, 60.0), 5)
    0.51552
    """
    return (
        0.362
        + 0.032 * math.log(grip / face_diameter / 2)
        + 0.153 * math.log(outer_diameter / face_diameter)
    )


@formula(
    r"\tan\varphi = 0.348 + 0.013\ln\frac{l_K}{d_w} + 0.193\ln\frac{D_A}{d_w}",
    (r"\tan\varphi", "-", "slope of the deformation cone"),
    "VDI 2230-1, tapped joint",
    approximation="fitted to finite-element results",
    grip=_GRIP,
    face_diameter=_FACE,
    outer_diameter=_OUTER,
)
def cone_slope_tapped(grip: float, face_diameter: float, outer_diameter: float) -> float:
    """tan of the cone angle [-] of a tapped joint; lengths [mm]. Source: VDI 2230-1.

    >>> round(cone_slope_tapped(30.0, 14.63, 30.0), 5)
    0.49593
    """
    return (
        0.348
        + 0.013 * math.log(grip / face_diameter)
        + 0.193 * math.log(outer_diameter / face_diameter)
    )


@dataclass(frozen=True, slots=True)
class Layer:
    """One clamped layer: thickness [mm], modulus [MPa], its own outside diameter [mm] where it
    differs from the others."""

    thickness: float
    modulus: float
    outside: float | None = None


def parts_resilience(
    layers: tuple[Layer, ...],
    face_diameter: float,
    hole: float,
    outer_diameter: float,
    slope: float,
    tapped: bool,
) -> float:
    """Resilience of the clamped parts [mm/N] along the deformation cone; lengths [mm].

    The cone widens from the head (and from the nut, when not tapped) by twice its slope until it
    meets the outside of the parts; each layer counts with its own modulus and its own outside where
    it lies. For one material this is VDI 2230-1's closed form, both for cone alone and for cone
    with sleeve. Raises Impossible for an outside diameter within the bearing face.

    >>> f"{parts_resilience((Layer(50.0, 205000.0),), 22.49, 17.5, 60.0, 0.51552, False):.4e}"
    '4.5489e-07'
    """
    if not 0 < hole < face_diameter:
        raise Impossible(Message.FACE_IMPOSSIBLE, hole=f"{hole:g}", face=f"{face_diameter:g}")
    if outer_diameter <= face_diameter:
        raise Impossible(
            Message.OUT_OF_RANGE,
            value=f"An outside diameter of {outer_diameter:g} mm",
            range=f"more than the bearing face ({face_diameter:g} mm)",
        )
    grip = sum(layer.thickness for layer in layers)
    total, at = 0.0, 0.0
    for layer in layers:
        outside = layer.outside or outer_diameter
        meets = (outside - face_diameter) / (2 * slope)
        total += (
            _between(
                at, at + layer.thickness, grip, meets, face_diameter, hole, outside, slope, tapped
            )
            / layer.modulus
        )
        at += layer.thickness
    return total


_PARTS = Formula(
    "parts_resilience",
    r"\delta_p = \sum_i \frac{1}{E_i}\int_{z_{i-1}}^{z_i}\frac{4\,dz}{\pi\,(D(z)^2 - d_h^2)},\quad "
    r"D(z) = \min(d_w + 2 z \tan\varphi,\ D_A)",
    Symbol(r"\delta_p", "resilience", "resilience of the parts"),
    {},
    "VDI 2230-1, section 5.1.2: deformation cone and sleeve",
    "the load spreads in a cone; layers count at their place",
)


def explain_parts(
    layers: tuple[Layer, ...],
    face_diameter: float,
    hole: float,
    outer_diameter: float,
    slope: float,
    tapped: bool,
) -> Step:
    """parts_resilience with its numbers kept for the working; lengths [mm].

    >>> step = explain_parts((Layer(50.0, 205000.0),), 22.49, 17.5, 60.0, 0.51552, False)
    >>> f"{step.value:.4e}", len(step.inputs)
    ('4.5489e-07', 6)
    """
    value = parts_resilience(layers, face_diameter, hole, outer_diameter, slope, tapped)
    inputs = [
        (Symbol("d_w", "length", "outer diameter of the bearing face"), face_diameter),
        (Symbol("d_h", "length", "hole diameter"), hole),
        (Symbol("D_A", "length", "outside diameter"), outer_diameter),
        (Symbol(r"\tan\varphi", "-", "slope of the cone"), slope),
    ]
    for i, layer in enumerate(layers, 1):
        inputs += [
            (Symbol(f"l_{{{i}}}", "length", f"thickness of layer {i}"), layer.thickness),
            *(
                [(Symbol(f"D_{{{i}}}", "length", f"outside of layer {i}"), layer.outside)]
                if layer.outside
                else []
            ),
            (Symbol(f"E_{{{i}}}", "stress", f"modulus of layer {i}"), layer.modulus),
        ]
    return Step(_PARTS, tuple(inputs), value)


def _between(
    start: float,
    end: float,
    grip: float,
    meets: float,
    face: float,
    hole: float,
    outer: float,
    slope: float,
    tapped: bool,
) -> float:
    """Integral of dz/area from start to end of the clamped length, 1/mm."""
    if not tapped and start < grip / 2 < end:
        return _between(start, grip / 2, grip, meets, face, hole, outer, slope, False) + _between(
            grip / 2, end, grip, meets, face, hole, outer, slope, False
        )
    near, far = start, end
    if not tapped and start >= grip / 2:
        near, far = grip - end, grip - start
    cone_near, cone_far = min(near, meets), min(far, meets)

    def antiderivative(z: float) -> float:
        width = face + 2 * z * slope
        return math.log((width - hole) / (width + hole)) / (math.pi * hole * slope)

    sleeve = (far - cone_far) - (near - cone_near)
    return (
        antiderivative(cone_far)
        - antiderivative(cone_near)
        + sleeve / (math.pi / 4 * (outer**2 - hole**2))
    )


@formula(
    r"f = F\,\delta_s",
    ("f", "length", "elongation of the fastener"),
    "VDI 2230-1",
    preload=("F", "force", "preload"),
    resilience=(r"\delta_s", "resilience", "resilience of the fastener"),
)
def elongation(preload: float, resilience: float) -> float:
    """Elongation of the fastener [mm] at a preload [N] for a length gauge; resilience [mm/N].

    >>> round(elongation(100e3, 2.1208e-6), 4)
    0.2121
    """
    return preload * resilience


@formula(
    r"\delta_g = \frac{n\,t}{E_g\,A_g}",
    (r"\delta_g", "resilience", "resilience of the gasket, for one bolt"),
    "elastic layer shared by the bolts",
    approximation="a gasket is stiffer when it goes back than when it is pressed",
    thickness=("t", "length", "gasket thickness"),
    modulus=("E_g", "stress", "modulus of the gasket"),
    area=("A_g", "area", "gasket contact area"),
    bolts=("n", "-", "number of bolts"),
)
def gasket_resilience(thickness: float, modulus: float, area: float, bolts: float) -> float:
    """Resilience [mm/N] that a gasket adds to the parts of one bolt; [mm], [MPa], [mm²].

    >>> f"{gasket_resilience(1.5, 1000.0, 28274.0, 16.0):.3e}"
    '8.488e-07'
    """
    return bolts * thickness / (modulus * area)
