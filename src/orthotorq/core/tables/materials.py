"""Part materials and square drives (typical figures, editable in the plan)."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from .reader import rows


@dataclass(frozen=True, slots=True)
class Material:
    """Modulus, tensile, shear and bearing-pressure limits of a part, MPa; `family` is what rules
    ask for."""

    name: str
    modulus: float
    tensile: float
    shear: float
    bearing: float
    certainty: str
    family: str = "other"


FAMILIES = ("steel", "stainless", "iron", "aluminium", "bronze", "other")


@lru_cache(maxsize=1)
def table() -> dict[str, Material]:
    """All shipped materials by name."""
    return {
        r["name"]: Material(
            r["name"],
            float(r["modulus_MPa"]),
            float(r["tensile_MPa"]),
            float(r["shear_MPa"]),
            float(r["bearing_MPa"]),
            r["certainty"],
            r["family"],
        )
        for r in rows("materials.csv")
    }


@lru_cache(maxsize=1)
def drives() -> dict[str, float]:
    """Usual greatest torque of each square drive, N·mm."""
    return {r["drive"]: float(r["usual_max_Nm"]) * 1e3 for r in rows("drives.csv")}
