"""Every shipped table as rows of text, for reading and searching, with its source and certainty;
and the table of thresholds."""

from __future__ import annotations

from pydantic import BaseModel

from ...core.glossary import glossary
from ...core.number_formats import band_text
from ...core.planning.findings import RULES
from ...core.planning.findings.rule import SEVERITIES
from ...core.planning.methods import METHODS
from ...core.tables import (
    EDITION,
    flanges,
    gaskets,
    grades,
    hexagons,
    lubricants,
    materials,
    thermal,
    threads,
)
from ...core.tables.reader import source_of
from ...core.thresholds import TABLE as THRESHOLDS
from ..context import Ctx
from ..permissions import use_case
from .tables import thread_names


class Sheet(BaseModel):
    """One table for reading and searching: columns, rows, where it comes from; `certainty` is the
    column that says how certain a row is, `stock` whether its rows can be in store."""

    id: str
    title: str
    source: str
    columns: list[str]
    rows: list[list[str]]
    certainty: int | None = None
    stock: bool = False


class SheetList(BaseModel):
    """Every shipped table."""

    edition: str
    items: list[Sheet]


def _number(value: float | None) -> str:
    return "–" if value is None else f"{value:.5g}"


def _thread_rows() -> list[list[str]]:
    out = []
    for name in thread_names():
        one = threads.parse_thread(name)
        head = hexagons.hexagon(one)
        out.append(
            [
                one.designation,
                one.series,
                *map(
                    _number,
                    (
                        one.diameter,
                        one.pitch,
                        one.pitch_diameter,
                        one.minor_diameter,
                        one.stress_area,
                        one.root_area,
                        head.across_flats if head else None,
                        head.face_diameter if head else None,
                        head.hole if head else None,
                    ),
                ),
            ]
        )
    return out


def _temperature() -> Sheet:
    """What expansion, modulus and yield become at temperature."""
    rows = [
        [
            family,
            f"{celsius:g}",
            f"{one.expansion * 1e6:g}",
            *map(_number, (one.modulus, one.yield_)),
            one.certainty,
        ]
        for family, found in thermal.table().items()
        for celsius, one in found
    ]
    return Sheet(
        id="temperature",
        title="Temperature",
        source=source_of("thermal.csv"),
        rows=rows,
        certainty=5,
        columns=[
            "family",
            "°C",
            "mean expansion from 20 °C, 1/MK",
            "modulus over that at 20 °C",
            "yield over that at 20 °C",
            "certainty",
        ],
    )


def _threads() -> Sheet:
    return Sheet(
        id="threads",
        title="Threads",
        source=source_of("threads.csv"),
        rows=_thread_rows(),
        columns=[
            "thread",
            "series",
            "d mm",
            "P mm",
            "d2 mm",
            "d3 mm",
            "A_s mm²",
            "root mm²",
            "across flats",
            "face mm",
            "hole mm",
        ],
    )


def _grades() -> Sheet:
    grade_rows = [
        [
            r.standard,
            r.grade,
            f"{r.low:g} to {r.high:g}",
            _number(r.strength.proof),
            _number(r.strength.yield_),
            _number(r.strength.tensile),
            r.strength.certainty,
            r.strength.note,
        ]
        for r in grades.table()
    ]
    return Sheet(
        id="grades",
        title="Grades",
        source=source_of("grades.csv") or "published standards as named in each row",
        rows=grade_rows,
        columns=[
            "standard",
            "grade",
            "size mm",
            "proof MPa",
            "yield MPa",
            "tensile MPa",
            "certainty",
            "note",
        ],
        certainty=6,
    )


def _lubricants() -> Sheet:
    return Sheet(
        id="lubricants",
        title="Friction",
        stock=True,
        source=source_of("lubricants.csv"),
        columns=[
            "id",
            "condition",
            "thread friction",
            "bearing friction",
            "nut factor",
            "goes on",
            "not on",
            "used to °C",
            "notes",
        ],
        rows=[
            [
                x.id,
                x.name,
                band_text(x.mu_thread),
                band_text(x.mu_bearing),
                band_text(x.nut_factor),
                ", ".join(x.faces),
                ", ".join(x.forbidden),
                _number(x.hottest),
                x.notes,
            ]
            for x in lubricants.table().values()
        ],
    )


def _materials() -> Sheet:
    return Sheet(
        id="materials",
        title="Part materials",
        source=source_of("materials.csv"),
        columns=[
            "material",
            "modulus MPa",
            "tensile MPa",
            "shear MPa",
            "bearing MPa",
            "certainty",
        ],
        rows=[
            [m.name, *map(_number, (m.modulus, m.tensile, m.shear, m.bearing)), m.certainty]
            for m in materials.table().values()
        ],
    )


def _gaskets() -> Sheet:
    return Sheet(
        id="gaskets",
        title="Gaskets",
        source=source_of("gaskets.csv"),
        columns=[
            "id",
            "type",
            "m",
            "y MPa",
            "seating MPa",
            "maximum MPa",
            "creep %",
            "used to °C",
            "notes",
        ],
        rows=[
            [
                g.id,
                g.name,
                *map(_number, (g.m, g.y, g.seating, g.damage, g.creep * 100, g.hottest)),
                g.notes,
            ]
            for g in gaskets.table().values()
        ],
    )


def _flanges() -> Sheet:
    return Sheet(
        id="flanges",
        title="Flanges",
        source=source_of("flanges.csv"),
        columns=[
            "standard",
            "DN",
            "PN",
            "bolts",
            "thread",
            "bolt circle mm",
            "hole mm",
            "gasket outside mm",
            "inside mm",
        ],
        rows=[
            [
                f.standard,
                str(f.dn),
                str(f.pn),
                str(f.count),
                f.thread,
                *map(_number, (f.circle, f.hole, f.gasket_outside, f.gasket_inside)),
            ]
            for f in flanges.table().values()
        ],
    )


def _drives() -> Sheet:
    return Sheet(
        id="drives",
        title="Square drives",
        source=source_of("drives.csv"),
        columns=["drive", "usual most N·m"],
        rows=[[k, _number(v / 1e3)] for k, v in materials.drives().items()],
    )


def _marks() -> Sheet:
    return Sheet(
        id="marks",
        title="Head marks",
        source=source_of("head_marks.csv"),
        columns=["standard", "grade", "mark", "where", "radial lines", "certainty", "notes"],
        rows=[
            [m.standard, m.grade, m.mark, m.where, str(m.lines or "–"), m.certainty, m.notes]
            for m in gaskets.head_marks()
        ],
    )


def _methods() -> Sheet:
    return Sheet(
        id="methods",
        title="Methods",
        source="schools of tightening as templates; edit a copy in the plan",
        columns=["id", "method", "for", "passes"],
        rows=[
            [k, name, use, ", ".join(str(p.get("name", p["do"])) for p in passes)]
            for k, (name, use, passes) in METHODS.items()
        ],
    )


def _findings() -> Sheet:
    return Sheet(
        id="findings",
        title="Findings",
        source="the one table of findings",
        columns=["code", "severity", "who may waive it", "sentence", "remedy"],
        rows=[
            [c.value, SEVERITIES[r.severity], r.role or "nobody", r.text, r.remedy]
            for c, r in RULES.items()
        ],
    )


def _terms() -> Sheet:
    return Sheet(
        id="terms",
        title="Glossary",
        source="the one file of terms, with the standard each is taken from",
        columns=["term", "meaning", "standard"],
        rows=[[t.name, t.meaning, t.standard or "–"] for t in glossary()],
    )


def _thresholds() -> Sheet:
    return Sheet(
        id="thresholds",
        title="Thresholds",
        source="every number that decides, in one table",
        columns=["name", "value", "what it decides", "source"],
        rows=[[t.name, t.text, t.decides, t.source] for t in THRESHOLDS.values()],
    )


@use_case
def read_sheets(ctx: Ctx) -> SheetList:
    """Every shipped table as rows of text with its source and certainty."""
    return SheetList(
        edition=EDITION,
        items=[
            _threads(),
            _grades(),
            _lubricants(),
            _materials(),
            _gaskets(),
            _temperature(),
            _flanges(),
            _drives(),
            _marks(),
            _methods(),
            _findings(),
            _terms(),
            _thresholds(),
        ],
    )
