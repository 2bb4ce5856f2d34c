"""Losses of preload after tightening: embedding of faces (VDI 2230-1, axial load), creep of
gaskets."""

from __future__ import annotations

import math

from .formula import formula

#: R_z range -> embedding [µm] of thread, bearing face, joint face. Source: VDI 2230-1, table 5,
#: axial load.
ROUGHNESS: dict[str, tuple[float, float, float]] = {
    "below 10 µm": (3.0, 2.5, 1.5),
    "10 to 40 µm": (3.0, 3.0, 2.0),
    "40 to 160 µm": (3.0, 4.0, 3.0),
}


def embedding(per_face: tuple[float, float, float], bearing_faces: int, joint_faces: int) -> float:
    """Embedding f_Z [mm] summed over thread, bearing faces and joint faces; table values [µm].
    Source: VDI 2230-1.

    >>> round(embedding(ROUGHNESS["10 to 40 µm"], 2, 1), 4)
    0.011
    """
    thread, bearing, joint = per_face
    return (thread + bearing_faces * bearing + joint_faces * joint) / 1e3


@formula(
    r"F_Z = \frac{f_Z}{\delta_s + \delta_p}",
    ("F_Z", "force", "loss of preload by embedding"),
    "VDI 2230-1",
    approximation="typical embedding of the roughness class",
    amount=("f_Z", "length", "embedding of all faces"),
    fastener=(r"\delta_s", "resilience", "resilience of the fastener"),
    parts=(r"\delta_p", "resilience", "resilience of the parts"),
)
def embedding_loss(amount: float, fastener: float, parts: float) -> float:
    """Loss of preload [N] by an embedding [mm] at the resiliences of fastener and parts [mm/N].

    >>> round(embedding_loss(0.011, 2.1208e-6, 4.5489e-7))
    4271
    """
    return amount / (fastener + parts)


@formula(
    r"\varepsilon(t) = \varepsilon_1\,\frac{\log_{10}(1 + t)}{\log_{10}(1 + t_1)}",
    (r"\varepsilon", "-", "share of load lost by creep"),
    "creep runs in the logarithm of time",
    approximation="typical creep of the gasket type",
    total=(r"\varepsilon_1", "-", "creep at the reference time"),
    hours=("t", "-", "hours since tightening"),
    reference=("t_1", "-", "reference time in hours"),
)
def creep_share(total: float, hours: float, reference: float) -> float:
    """Share of the load [-] lost by gasket creep after so many hours [h]; `total` is lost at the
    reference time [h].

    >>> round(creep_share(0.05, 10.0, 1000.0), 4)
    0.0174
    """
    return total * math.log10(1 + hours) / math.log10(1 + reference)
