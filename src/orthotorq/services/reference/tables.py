"""What the tables offer to the screens: names, rows, forms."""

from __future__ import annotations

from functools import lru_cache
from typing import Any, get_args

from pydantic import BaseModel

from ...core.documents.plan import JOINT_KINDS, METER_WORDS
from ...core.documents.targets import SAYING
from ...core.documents.tooling import Drive, ToolKind
from ...core.forms.condition import STATES
from ...core.forms.order import ORDER_WORDS
from ...core.kinds.fields import FieldSpec, field
from ...core.kinds.registry import PASS_KINDS
from ...core.kinds.stage_kind import OCCASIONS
from ...core.kinds.stage_registry import STAGE_KINDS
from ...core.planning.cautions import CAUTIONS
from ...core.planning.compute.output.order_choice import OFFERED
from ...core.planning.editing.group_parts import BOLT_FIELDS, LAYER_FIELDS, PARTS
from ...core.planning.editing.more_fields import MORE, PLAN_FIELDS
from ...core.planning.editing.sources import SAYS
from ...core.planning.findings import RULES, Severity
from ...core.planning.methods import METHODS
from ...core.planning.states import AXES, EVERYWHERE, SAFEGUARDS
from ...core.tables import (
    EDITION,
    flanges,
    gaskets,
    grades,
    hexagons,
    lubricants,
    materials,
    threads,
)
from ..context import Ctx
from ..permissions import use_case

#: orders that a layout takes, the usual first
_BAND_EXAMPLE = "0.10 0.12 0.14"


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


class StageKindOut(BaseModel):
    """A kind of stage: its words on the list of new ones, its fields on the Bench, whether it names
    its condition and whether it goes over bolts in an order of its own."""

    kind: str
    words: str
    fields: list[FieldSpec]
    needs_condition: bool
    ordered: bool


class PassKindOut(BaseModel):
    """A kind of pass: its fields on the Bench, the words under which new ones are listed."""

    do: str
    words: str
    fields: list[FieldSpec]
    listed: list[str]
    ordered: bool


class NamedOut(BaseModel):
    """A code with its words."""

    value: str
    words: str


class OwnFormOut(BaseModel):
    """What is entered for an own entry of a kind."""

    kind: str
    words: str
    fields: list[FieldSpec]


class GroupPartOut(BaseModel):
    """A part that a group may have: words to add and to take it out, its section on the Bench, its
    fields, what it needs."""

    name: str
    add: str
    drop: str
    section: str
    fields: list[FieldSpec]
    needs: str


class AxisOut(BaseModel):
    """A choice of a condition: its name in the document, in words, what can be chosen; whether a
    figure may stand instead."""

    name: str
    words: str
    choices: list[NamedOut]
    figure: bool


class FlangeOut(BaseModel):
    """A flange of a standard: its name in an act, in words, its bolt circle [mm]."""

    id: str
    words: str
    circle_mm: float


class TablesOut(BaseModel):
    """Names, rows and forms that the screens offer."""

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
    joint_kinds: list[NamedOut]
    occasions: list[NamedOut]
    stage_kinds: list[StageKindOut]
    pass_kinds: list[PassKindOut]
    own_forms: list[OwnFormOut]
    group_parts: list[GroupPartOut]
    bolt_fields: list[FieldSpec]
    layer_fields: list[FieldSpec]
    plan_fields: list[FieldSpec]
    #: fields that most plans do not need, by what they are about
    more_fields: dict[str, list[FieldSpec]]
    #: orders that a kind of bolt pattern offers, the usual one first
    orders: dict[str, list[NamedOut]]
    meters: list[NamedOut]
    #: flanges of a standard, by the bolt circle they have
    flanges: list[FlangeOut]
    source_kinds: list[str]
    #: what a source may say
    source_forms: list[NamedOut]
    tool_kinds: list[str]
    drives: list[str]
    #: choices of a condition, by kind of joint
    conditions: dict[str, list[AxisOut]]
    #: states by kind of joint, and what is put in for safety
    states: dict[str, list[str]]
    safeguards: list[str]


def thread_names() -> list[str]:
    """Designations of every thread of the tables, metric first."""
    known = threads.series()
    metric = [f"M{d:g}" for d in known.metric_coarse] + [
        f"M{d:g}x{p:g}" for d, p in sorted(known.metric_fine)
    ]
    return metric + [
        f"{size}-{n:g} {'UN' if s == '8-UN' else s}" for (size, s), n in known.unified.items()
    ]


def _grade_names() -> list[str]:
    return list(
        dict.fromkeys(
            row.strength.name.replace(f":{row.standard.rpartition(':')[2]}", "")
            if ":" in row.standard
            else row.strength.name
            for row in grades.table()
        )
    )


def _named(codes: dict[str, str]) -> list[NamedOut]:
    return [NamedOut(value=code, words=words) for code, words in codes.items()]


@lru_cache(maxsize=1)
def _stage_kinds() -> list[StageKindOut]:
    return [
        StageKindOut(
            kind=k.kind,
            words=k.listed,
            fields=list(k.fields),
            needs_condition=k.needs_condition,
            ordered="order" in k.form.model_fields,
        )
        for k in STAGE_KINDS.values()
    ]


@lru_cache(maxsize=1)
def _pass_kinds() -> list[PassKindOut]:
    return [
        PassKindOut(
            do=k.do,
            words=k.word,
            fields=list(k.all_fields),
            listed=list(k.listed),
            ordered=not k.pause,
        )
        for k in PASS_KINDS.values()
        if k.form is not None
    ]


@lru_cache(maxsize=1)
def _group_parts() -> list[GroupPartOut]:
    return [
        GroupPartOut(
            name=p.name,
            add=p.add,
            drop=p.drop,
            section=p.section,
            fields=list(p.fields),
            needs=p.needs,
        )
        for p in PARTS
    ]


@lru_cache(maxsize=1)
def _own_forms() -> list[OwnFormOut]:
    source = field("source", "Where it comes from", example="maker’s sheet, certificate, measured")
    made_of = field("family", "Made of", "choice", choices={f: f for f in materials.FAMILIES})
    return [
        OwnFormOut(
            kind="lubricant",
            words="friction condition",
            fields=[
                field("name", "Name", example="White paste"),
                field("mu_thread", "Thread friction, low typical high", "band", _BAND_EXAMPLE),
                field("mu_bearing", "Bearing friction", "band", "as the thread"),
                field("nut_factor", "or the nut factor", "band", "from friction"),
                source,
                field("dry", "dry: nothing is put on", "tick"),
                field("solid", "has solid lubricant in it", "tick"),
                field("tests", "Tests on a rig", "tests"),
            ],
        ),
        OwnFormOut(
            kind="grade",
            words="grade",
            fields=[
                field("yield_strength", "Yield", "quantity", "640 MPa"),
                field("tensile", "Tensile", "quantity", "800 MPa"),
                field("proof", "Proof", "quantity", "none"),
                made_of,
                source,
            ],
        ),
        OwnFormOut(
            kind="material",
            words="part material",
            fields=[
                field("modulus", "Modulus", "quantity", "205 GPa"),
                field("tensile", "Tensile", "quantity", "490 MPa"),
                field("shear", "Shear", "quantity", "0.6 of tensile"),
                field("bearing", "Limit of pressure", "quantity", "as tensile"),
                made_of,
                source,
            ],
        ),
    ]


_AXIS_WORDS = {
    "pressure": "Pressure",
    "temperature": "Temperature",
    "load": "Load",
    "wheel": "Wheel",
    "inside": "Inside",
    "joint": "Joint",
    "parts": "Parts",
    "weight": "Weight",
    "held": "Turning parts",
}


def _axes(kind: str) -> list[AxisOut]:
    """The choices of a joint of a kind: its own, then those that every joint may have."""
    own = {axis.name: axis.choices for axis in AXES[kind]}
    names = [*own, *(name for name in EVERYWHERE if name not in own)]
    return [
        AxisOut(
            name=name,
            words=_AXIS_WORDS[name],
            figure=name == "temperature",
            choices=_named({c: STATES[name][c] for c in own.get(name, tuple(STATES[name]))}),
        )
        for name in names
    ]


def _lubricants() -> list[LubricantOut]:
    return [
        LubricantOut(
            id=x.id,
            name=x.name,
            mu_thread=list(x.mu_thread),
            mu_bearing=list(x.mu_bearing),
            nut_factor=list(x.nut_factor),
            faces=list(x.faces),
            forbidden=list(x.forbidden),
            notes=x.notes,
        )
        for x in lubricants.table().values()
    ]


def _finding_rules() -> list[FindingRule]:
    return [
        FindingRule(code=c.value, severity=r.severity, waivable=r.waivable, role=r.role)
        for c, r in RULES.items()
    ]


def _gasket_types() -> list[GasketTypeOut]:
    return [
        GasketTypeOut(
            id=g.id,
            name=g.name,
            m=g.m,
            y_MPa=g.y,
            seating_MPa=g.seating,
            damage_MPa=g.damage,
            creep=g.creep,
            notes=g.notes,
        )
        for g in gaskets.table().values()
    ]


def _methods() -> list[MethodOut]:
    return [
        MethodOut(id=k, name=name, use=use, passes=passes)
        for k, (name, use, passes) in METHODS.items()
    ]


@use_case
def read_tables(ctx: Ctx) -> TablesOut:
    """Threads, grades, lubricants, materials, gaskets, methods, cautions, findings; kinds of joint,
    stage and pass; forms."""
    return TablesOut(
        edition=EDITION,
        threads=thread_names(),
        grades=_grade_names(),
        lubricants=_lubricants(),
        heads=list(hexagons.head_kinds()),
        materials=list(materials.table()),
        gaskets=_gasket_types(),
        methods=_methods(),
        cautions=CAUTIONS,
        findings=_finding_rules(),
        joint_kinds=_named(JOINT_KINDS),
        occasions=_named(OCCASIONS),
        stage_kinds=_stage_kinds(),
        pass_kinds=_pass_kinds(),
        own_forms=_own_forms(),
        group_parts=_group_parts(),
        bolt_fields=list(BOLT_FIELDS),
        layer_fields=list(LAYER_FIELDS),
        plan_fields=list(PLAN_FIELDS),
        more_fields={about: list(fields) for about, fields in MORE.items()},
        orders={
            layout: _named({kind: ORDER_WORDS[kind] for kind in kinds_})
            for layout, kinds_ in OFFERED.items()
        },
        meters=_named(METER_WORDS),
        flanges=[
            FlangeOut(id=f.id, words=f.words, circle_mm=f.circle) for f in flanges.table().values()
        ],
        source_kinds=list(SAYING),
        source_forms=_named({k: words for k, (words, _) in SAYS.items()}),
        tool_kinds=list(get_args(ToolKind)),
        drives=list(get_args(Drive)),
        conditions={kind: _axes(kind) for kind in AXES},
        states={kind: [w for axis in axes for w in axis.states] for kind, axes in AXES.items()},
        safeguards=list(SAFEGUARDS),
    )
