"""Every row of every table that ships can stand in a plan."""

from __future__ import annotations

from typing import Any

import pytest

from orthotorq.core.forms.result import Result
from orthotorq.core.planning.compute import compute
from orthotorq.core.tables import gaskets, grades, lubricants, materials, threads
from tests.plans import small


def of(**group: Any) -> Result:
    document = small()
    document["groups"][0].update(group)
    return compute(document)


@pytest.mark.parametrize("name", sorted(gaskets.table()))
def test_every_gasket(name: str) -> None:
    found = of(gasket={"name": "Ring", "outside": "180 mm", "inside": "150 mm", "type": name})
    assert any(bound.code.startswith("gasket") for bound in found.groups[0].limits)


@pytest.mark.parametrize("name", sorted(lubricants.table()))
def test_every_lubricant(name: str) -> None:
    assert of(friction={"lubricant": name}).groups[0].preload is not None


@pytest.mark.parametrize("name", sorted(materials.table()))
def test_every_material(name: str) -> None:
    found = of(stack=[{"material": name, "thickness": "60 mm", "outside": "60 mm"}])
    assert any(bound.code == "bearing" for bound in found.groups[0].limits)


@pytest.mark.parametrize(
    "row", grades.table(), ids=lambda row: f"{row.standard} {row.grade} from {row.low:g}"
)
def test_every_grade(row: grades.GradeRow) -> None:
    known = threads.series()
    sizes = [
        *(f"M{d:g}" for d in known.metric_coarse),
        *(f"{size} {name}" for size, name in known.unified),
    ]
    inside = [
        one for one in map(threads.parse_thread, sizes) if row.low <= one.diameter <= row.high
    ]
    thread = inside[len(inside) // 2]
    # large inch sizes have no hexagon in the tables: the face is given, as the planner is asked to
    face = {
        "kind": "flat",
        "face_diameter": f"{1.5 * thread.diameter:.3f} mm",
        "hole": f"{1.1 * thread.diameter:.3f} mm",
    }
    found = of(
        fastener={
            "thread": thread.designation,
            "grade": f"{row.standard} {row.grade}",
            "condition": "new",
            "face": face,
        }
    )
    assert found.groups[0].strength.grade and found.groups[0].preload is not None
