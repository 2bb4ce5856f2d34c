"""Friction bands out of own tests (ISO 16047): every test as a point, the band as the tolerance
interval of all of them."""

from __future__ import annotations

from ....documents.plan import OwnLubricant
from ....forms.base import FRICTION
from ....forms.tested import RigBandOut, RigPointOut
from ....mechanics.friction_tests import tested_band


def tested(own: OwnLubricant) -> list[RigBandOut]:
    """The bands of a compound's own tests, each with its points; with too few tests a band has no
    ends and is not used."""
    points: dict[str, list[RigPointOut]] = {}
    for series in own.tests:
        for values in series.found:
            for what, value in values.items():
                points.setdefault(what, []).append(
                    RigPointOut(
                        value=round(value, 5),
                        thread=series.thread,
                        date=series.date,
                        sheet=series.sheet,
                    )
                )
    out = []
    for what, found in points.items():
        band = tested_band([p.value for p in found])
        ends = [round(max(FRICTION[0], end), 5) for end in band] if band else None
        out.append(
            RigBandOut(
                what=what,
                count=len(found),
                threads=list(dict.fromkeys(p.thread for p in found)),
                band=ends,
                points=found,
            )
        )
    return out
