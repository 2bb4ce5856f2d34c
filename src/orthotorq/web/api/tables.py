"""The tables: shipped entries with their sources, own entries, what is in store, help to identify a fastener."""
from __future__ import annotations

from typing import Annotated, Any

from flask import Response
from pydantic import BaseModel, Field

from ...core.planning.cautions import CAUTIONS
from ...core.planning.findings import RULES, Severity
from ...core.planning.methods import METHODS
from ...core.tables import EDITION, gaskets, grades, hexagons, lubricants, materials, threads
from ...core.tables.reader import source_of
from ...services.registers.tables import (
    OwnEntryView,
    list_own_entries,
    remove_own_entry,
    save_own_entry,
    set_in_store,
)
from ..operation import operation
from .bricks import IdPath, answer, blueprint
from .plans import Created

api = blueprint("tables", "Shipped and own tables")


class LubricantOut(BaseModel):
    """A friction condition with its bands, faces and prohibitions."""

    id: str
    name: str
    mu_thread: list[float]
    mu_bearing: list[float]
    nut_factor: list[float]
    faces: list[str]
    forbidden: list[str]
    notes: str


class FindingRule(BaseModel):
    """One row of the table of findings."""

    code: str
    severity: Severity
    waivable: bool
    role: str | None


class GasketTypeOut(BaseModel):
    """A gasket type with typical figures."""

    id: str
    name: str
    m: float
    y_MPa: float
    seating_MPa: float
    damage_MPa: float
    creep: float
    notes: str


class MethodOut(BaseModel):
    """A method with its passes, to be used by id or taken over and edited."""

    id: str
    name: str
    use: str
    passes: list[dict[str, Any]]


class TablesOut(BaseModel):
    """Names and rows the editor offers."""

    edition: str
    threads: list[str]
    grades: list[str]
    lubricants: list[LubricantOut]
    heads: list[str]
    materials: list[str]
    gaskets: list[GasketTypeOut]
    methods: list[MethodOut]
    cautions: dict[str, str]
    findings: list[FindingRule]


class Sheet(BaseModel):
    """One table for reading and searching: columns, rows, where it comes from."""

    id: str
    title: str
    source: str
    columns: list[str]
    rows: list[list[str]]


class SheetList(BaseModel):
    """Every shipped table."""

    edition: str
    items: list[Sheet]


class OwnList(BaseModel):
    """Own entries, and the lubricants in store."""

    items: list[OwnEntryView]
    in_store: list[str]


class OwnIn(BaseModel):
    """An own entry: `body` has the form of a plan's definition of that kind."""

    kind: Annotated[str, Field(max_length=20)]
    key: Annotated[str, Field(min_length=1, max_length=120)]
    body: dict[str, Any]


class StoreIn(BaseModel):
    """Whether a lubricant is in store."""

    lubricant: Annotated[str, Field(min_length=1, max_length=40)]
    in_store: bool


def _thread_names() -> list[str]:
    known = threads.series()
    metric = [f"M{d:g}" for d in known.metric_coarse] + [f"M{d:g}x{p:g}" for d, p in sorted(known.metric_fine)]
    return metric + [f"{size}-{n:g} {'UN' if s == '8-UN' else s}" for (size, s), n in known.unified.items()]


def _grade_names() -> list[str]:
    return list(dict.fromkeys(row.strength.name.replace(f":{row.standard.rpartition(':')[2]}", "") if ":" in row.standard
                              else row.strength.name for row in grades.table()))


@api.get("/tables", responses={"200": TablesOut})
def read_tables() -> Response:
    """Threads, grades, lubricants, materials, gaskets, methods, cautions, findings."""
    conditions = [LubricantOut(id=x.id, name=x.name, mu_thread=list(x.mu_thread), mu_bearing=list(x.mu_bearing),
                               nut_factor=list(x.nut_factor), faces=list(x.faces), forbidden=list(x.forbidden),
                               notes=x.notes) for x in lubricants.table().values()]
    rules = [FindingRule(code=c.value, severity=r.severity, waivable=r.waivable, role=r.role) for c, r in RULES.items()]
    kinds = [GasketTypeOut(id=g.id, name=g.name, m=g.m, y_MPa=g.y, seating_MPa=g.seating, damage_MPa=g.damage, creep=g.creep,
                           notes=g.notes) for g in gaskets.table().values()]
    methods = [MethodOut(id=k, name=name, use=use, passes=passes) for k, (name, use, passes) in METHODS.items()]
    return answer(TablesOut(edition=EDITION, threads=_thread_names(), grades=_grade_names(), lubricants=conditions,
                            heads=list(hexagons.head_kinds()), materials=list(materials.table()), gaskets=kinds,
                            methods=methods, cautions=CAUTIONS, findings=rules))


def _number(value: float | None) -> str:
    return "–" if value is None else f"{value:.5g}"


def _thread_rows() -> list[list[str]]:
    out = []
    for name in _thread_names():
        one = threads.parse_thread(name)
        head = hexagons.hexagon(one)
        out.append([one.designation, one.series, *map(_number, (
            one.diameter, one.pitch, one.pitch_diameter, one.minor_diameter, one.stress_area, one.root_area,
            head.across_flats if head else None, head.face_diameter if head else None, head.hole if head else None))])
    return out


def _band(band: lubricants.Band) -> str:
    return " – ".join(f"{x:g}" for x in band)


@api.get("/table-sheets", responses={"200": SheetList})
def read_sheets() -> Response:
    """Every shipped table as rows of text with its source and certainty."""
    grade_rows = [[r.standard, r.grade, f"{r.low:g} to {r.high:g}", _number(r.strength.proof), _number(r.strength.yield_),
                   _number(r.strength.tensile), r.strength.certainty, r.strength.note] for r in grades.table()]
    items = [
        Sheet(id="threads", title="Threads", source=source_of("threads.csv"), rows=_thread_rows(), columns=[
            "thread", "series", "d mm", "P mm", "d2 mm", "d3 mm", "A_s mm²", "root mm²", "across flats", "face mm", "hole mm"]),
        Sheet(id="grades", title="Grades", source=source_of("grades.csv") or "published standards as named in each row",
              rows=grade_rows, columns=[
                  "standard", "grade", "size mm", "proof MPa", "yield MPa", "tensile MPa", "certainty", "note"]),
        Sheet(id="lubricants", title="Friction", source=source_of("lubricants.csv"), columns=[
            "id", "condition", "thread friction", "bearing friction", "nut factor", "goes on", "not on", "notes"],
            rows=[[x.id, x.name, _band(x.mu_thread), _band(x.mu_bearing), _band(x.nut_factor), ", ".join(x.faces),
                   ", ".join(x.forbidden), x.notes] for x in lubricants.table().values()]),
        Sheet(id="materials", title="Part materials", source=source_of("materials.csv"), columns=[
            "material", "modulus MPa", "tensile MPa", "shear MPa", "bearing MPa", "certainty"],
            rows=[[m.name, *map(_number, (m.modulus, m.tensile, m.shear, m.bearing)), m.certainty]
                  for m in materials.table().values()]),
        Sheet(id="gaskets", title="Gaskets", source=source_of("gaskets.csv"), columns=[
            "id", "type", "m", "y MPa", "seats MPa", "damaged MPa", "creep %", "notes"],
            rows=[[g.id, g.name, *map(_number, (g.m, g.y, g.seating, g.damage, g.creep * 100)), g.notes]
                  for g in gaskets.table().values()]),
        Sheet(id="drives", title="Square drives", source=source_of("drives.csv"), columns=["drive", "usual most N·m"],
              rows=[[k, _number(v / 1e3)] for k, v in materials.drives().items()]),
        Sheet(id="marks", title="Head marks", source=source_of("head_marks.csv"), columns=[
            "standard", "grade", "mark", "where", "radial lines", "certainty", "notes"],
            rows=[[m.standard, m.grade, m.mark, m.where, str(m.lines or "–"), m.certainty, m.notes]
                  for m in gaskets.head_marks()]),
        Sheet(id="methods", title="Methods", source="schools of tightening as templates; edit a copy in the plan",
              columns=["id", "method", "for", "passes"],
              rows=[[k, name, use, ", ".join(str(p.get("name", p["do"])) for p in passes)]
                    for k, (name, use, passes) in METHODS.items()]),
        Sheet(id="findings", title="Findings", source="the one table of findings", columns=[
            "code", "severity", "who may waive it", "sentence", "remedy"],
            rows=[[c.value, r.severity, r.role or "nobody", r.text, r.remedy] for c, r in RULES.items()]),
    ]
    return answer(SheetList(edition=EDITION, items=items))


@api.get("/own-entries", responses={"200": OwnList})
def get_own_entries() -> Response:
    """Own entries and stock."""
    with operation() as ctx:
        items, in_store = list_own_entries(ctx)
    return answer(OwnList(items=items, in_store=in_store))


@api.post("/own-entries", responses={"201": Created})
def post_own_entry(body: OwnIn) -> Response:
    """Keep an own entry, or a new version of it."""
    with operation() as ctx:
        made = save_own_entry(ctx, body.kind, body.key, body.body)
    return answer(Created(id=made), 201)


@api.delete("/own-entries/<uuid:id>", responses={"204": None})
def delete_own_entry(path: IdPath) -> tuple[str, int]:
    """Take an own entry off the list."""
    with operation() as ctx:
        remove_own_entry(ctx, path.id)
    return "", 204


@api.post("/stock", responses={"200": OwnList})
def post_stock(body: StoreIn) -> Response:
    """Mark a lubricant as in store, or no longer."""
    with operation() as ctx:
        set_in_store(ctx, body.lubricant, body.in_store)
        items, in_store = list_own_entries(ctx)
    return answer(OwnList(items=items, in_store=in_store))


