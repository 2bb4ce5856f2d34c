"""Every field of the plan document can be written on the Bench: described for a form, or written by
one; shown is not enough."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

from orthotorq.core.documents.plan import Plan
from orthotorq.core.forms.condition import STATES
from orthotorq.core.kinds.registry import PASS_KINDS
from orthotorq.core.kinds.stage_registry import STAGE_KINDS
from orthotorq.core.planning.editing.group_parts import BOLT_FIELDS, LAYER_FIELDS, PARTS
from orthotorq.core.planning.editing.more_fields import MORE, PLAN_FIELDS
from orthotorq.services.reference.tables import _own_forms

FRONT = Path(__file__).parents[2] / "frontend" / "src"
#: what acts of the server write, and what a file carries for other programs
BY_ACTS = {
    "Plan": {
        "waivers",
        "examples",
        "format",
        "version",
        "definitions",
        "chains",
        "groups",
        "stages",
        "targets",
        "tools",
        "rechecks",
        "sources",
        "parts",
        "variants",
        "joint",
        "joint_kind",
        "links",
    },
    "Definitions": {"grades", "materials", "lubricants", "methods"},
    "Waiver": {"finding", "where", "reason"},
    "Fastener": {"face"},
    "Group": {"like", "into", "fastener", "friction", "stack"},
    "Source": {"says", "valid_for"},
    "TightenStage": {"method", "passes"},
    "TorqueTarget": {"source"},
    "AngleTarget": {"source"},
    "Order": {"kind", "sequence", "repeats"},
    # the screen offers the choices that the tables name
    "Condition": {*STATES, "in_place"},
}
#: fields that only a file sets today, each a debt
BY_FILE = {
    "Group": {"body"},
    "Body": {"shape", "thickness", "width", "material"},
    "OwnMethod": {"name", "passes"},
}


#: how a screen writes a field: by name to one of the fields, by assignment, as an entry of a table
#: of fields
_WRITES = (
    'name="%s"',
    "name: '%s'",
    r"write\([^;]*['\"`]%s",
    r"\.%s!?(\[\w+\])? = ",
    r"delete \w+\.%s\b",
    r"\[\s*'%s',",
    r"\.%s!\.(splice|push)",
    r"\{[^}]*\b%s: ",
    "'%s'\\] as const",
)


def _written(name: str, source: str) -> bool:
    """Whether a screen writes a field; showing it is not enough."""
    return any(re.search(way % name, source) for way in _WRITES)


def test_no_field_of_the_schema_is_without_a_form() -> None:
    described = {
        part for k in PASS_KINDS.values() for f in k.all_fields for part in f.name.split(".")
    }
    described |= {
        part for k in STAGE_KINDS.values() for f in k.fields for part in f.name.split(".")
    }
    described |= {
        part
        for fields in (
            *MORE.values(),
            PLAN_FIELDS,
            BOLT_FIELDS,
            LAYER_FIELDS,
            *(p.fields for p in PARTS),
        )
        for f in fields
        for part in f.name.split(".")
    }
    described |= {p.name for p in PARTS} | {f.name for form in _own_forms() for f in form.fields}
    written = "\n".join(
        path.read_text(encoding="utf-8")
        for part in ("routes/plans", "lib/parts/Form")
        for path in (FRONT / part).rglob("*.svelte")
    )
    schema: dict[str, Any] = Plan.model_json_schema()
    missing = []
    for form, described_form in {"Plan": schema, **schema["$defs"]}.items():
        for name in described_form.get("properties", {}):
            known = {"id", "kind", "do", *described, *BY_ACTS.get(form, ()), *BY_FILE.get(form, ())}
            if name not in known and not _written(name, written):
                missing.append(f"{form}.{name}")
    assert missing == []


def test_a_field_that_is_only_shown_does_not_count() -> None:
    assert not _written("across", "{stage.across?.replaceAll('_', ' ')} {one.after.join(', ')}")
    assert _written("across", '<Typed part={stage} name="across" label="Across" />')
