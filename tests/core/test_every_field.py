"""Every field of the plan document is known to the Bench: described for a form, or named in one.

A name that a form only shows counts too: `across`, `after` and `variants` of a stage are shown there and not edited.
"""
from __future__ import annotations

import re
from pathlib import Path
from typing import Any

from orthotorq.core.documents.plan import Plan
from orthotorq.core.kinds.registry import PASS_KINDS
from orthotorq.core.kinds.stage_registry import STAGE_KINDS
from orthotorq.core.planning.editing.group_parts import BOLT_FIELDS, LAYER_FIELDS, PARTS
from orthotorq.core.planning.editing.more_fields import MORE, PLAN_FIELDS
from orthotorq.services.reference.tables import _own_forms

FRONT = Path(__file__).parents[2] / "frontend" / "src" / "routes" / "plans"
#: what acts of the server write, and what a file carries for other programs
BY_ACTS = {"Plan": {"waivers", "examples", "format", "version", "definitions", "chains", "groups", "stages", "targets", "tools",
                    "rechecks", "sources", "parts", "variants", "positions", "joint", "joint_kind", "links"},
           "Definitions": {"grades", "materials", "lubricants", "methods"}, "Waiver": {"finding", "where", "reason"},
           "Group": {"like", "variants", "body"}, "Body": {"shape", "thickness", "width", "material"}, "Place": {"name"},
           "OwnMethod": {"name", "passes"}}
#: fields that only a file sets today, each a debt
BY_FILE = {"OwnLubricant": {"nut_factor", "dry", "solid"}, "TightenStage": {"chain_for"}, "Variant": {"choice"},
           "WatchStage": {"if_moved"}, "PlacedTorque": {"at", "torque"}, "Says": {"places"}}


def test_no_field_of_the_schema_is_without_a_form() -> None:
    described = {part for k in PASS_KINDS.values() for f in k.all_fields for part in f.name.split(".")}
    described |= {part for k in STAGE_KINDS.values() for f in k.fields for part in f.name.split(".")}
    described |= {part for fields in (*MORE.values(), PLAN_FIELDS, BOLT_FIELDS, LAYER_FIELDS, *(p.fields for p in PARTS))
                  for f in fields for part in f.name.split(".")}
    described |= {p.name for p in PARTS} | {f.name for form in _own_forms() for f in form.fields}
    written = "\n".join(path.read_text(encoding="utf-8") for path in FRONT.rglob("*.svelte"))
    schema: dict[str, Any] = Plan.model_json_schema()
    missing = []
    for form, described_form in {"Plan": schema, **schema["$defs"]}.items():
        for name in described_form.get("properties", {}):
            known = {"id", "kind", "do", *described, *BY_ACTS.get(form, ()), *BY_FILE.get(form, ())}
            if name not in known and not re.search(rf'''['"]{name}['"]|\.{name}\b''', written):
                missing.append(f"{form}.{name}")
    assert missing == []
