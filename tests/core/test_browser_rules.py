"""What the browser still names must be what the core has: no rule, role or list of kinds stands in
TypeScript."""

from __future__ import annotations

import re
from pathlib import Path

from orthotorq.core.documents.plan import Plan
from orthotorq.core.kinds.registry import ANSWERS, PASS_KINDS
from orthotorq.core.kinds.stage_kind import OCCASIONS
from orthotorq.core.kinds.stage_registry import STAGE_KINDS
from orthotorq.core.messages import Message, Refusal
from orthotorq.core.planning.findings import RULES
from orthotorq.core.running.walk.actions import ACTIONS, STATUS
from orthotorq.core.thresholds import TABLE

SOURCE = Path(__file__).parents[2] / "frontend" / "src"
FILES = [
    p for p in sorted([*SOURCE.rglob("*.ts"), *SOURCE.rglob("*.svelte")]) if p.name != "schema.d.ts"
]
TEXTS = {p: p.read_text(encoding="utf-8") for p in FILES}


def quoted() -> dict[str, set[str]]:
    """Every word in single quotes, with the files it stands in."""
    found: dict[str, set[str]] = {}
    for path, text in TEXTS.items():
        for word in re.findall(r"'([a-z][a-z_+]*)'", text):
            found.setdefault(word, set()).add(path.name)
    return found


WORDS = quoted()


def remaining(names: object) -> dict[str, set[str]]:
    """Names of the core that stand in the browser, with their files."""
    return {name: WORDS[name] for name in sorted(set(map(str, names)) & set(WORDS))}  # type: ignore[call-overload]


def compared(field: str) -> list[str]:
    """Words that a field is compared with, or set to."""
    return [
        word
        for text in TEXTS.values()
        for word in re.findall(rf"\b{field}(?:: | === | !== )'(\w+)'", text)
    ]


def test_no_role_stands_in_the_browser() -> None:
    assert remaining(["planner", "fitter", "supervisor", "administrator"]) == {}


def test_kinds_of_stage_and_pass_stand_where_one_draws_something_of_its_own() -> None:
    # passes are drawn as a table; what a stage fitted is named where another takes it out. A note
    # is also a severity and a wish.
    assert set(remaining(STAGE_KINDS)) <= {"tighten", "fit", "note", "loosen"}
    assert WORDS["tighten"] == {"StageSection.svelte"} and WORDS["fit"] == {"StageField.svelte"}
    assert set(compared("do")) & set(PASS_KINDS) == set()


def test_no_answer_finding_refusal_or_threshold_is_judged_in_the_browser() -> None:
    # skipping is asked for by a button of its own; a lost lease, and a reading that is asked back,
    # are told by their codes
    assert set(compared("answer")) & set(ANSWERS) == {"skip"}
    assert remaining(code.value for code in RULES) == {}
    assert remaining([*Message, *Refusal]) in (
        {},
        {"lease_lost": {"run.svelte.ts"}, "reading_unlikely": {"run.svelte.ts"}},
    )
    assert set(remaining(TABLE)) <= {"full"}
    # “install” is also an event of a service worker, “recheck” a chapter of the guide
    assert remaining(set(OCCASIONS) | set(STATUS)) in (
        {},
        {"install": {"service-worker.ts"}, "recheck": {"helpPages.ts"}},
    )


def test_what_may_be_done_is_asked_by_names_that_the_server_has() -> None:
    asked = {name for text in TEXTS.values() for name in re.findall(r"run\.may\('(\w+)'\)", text)}
    assert asked and asked <= set(ACTIONS)
    from orthotorq.services.permissions import TABLE as USE_CASES

    called = {
        name for text in TEXTS.values() for name in re.findall(r"session\.may\('([\w.]+)'\)", text)
    }
    assert called and called <= set(USE_CASES)


FORMS = Plan.model_json_schema()


def kinds(union: dict[str, list[dict[str, str]]]) -> set[str]:
    """The kinds of a discriminated union of the document."""
    return {
        FORMS["$defs"][one["$ref"].rpartition("/")[2]]["properties"]["kind"]["const"]
        for one in union["oneOf"]
    }


def test_the_forms_of_layout_and_target_are_those_of_the_document() -> None:
    layout = TEXTS[SOURCE / "routes" / "plans" / "[id]" / "LayoutFields.svelte"]
    shown = set(re.findall(r"^    \['(\w+)', '[\w ]+'\],$", layout.split("ASKED")[0], re.M))
    assert shown == kinds(FORMS["$defs"]["Group"]["properties"]["layout"])
    target = TEXTS[SOURCE / "routes" / "plans" / "[id]" / "TargetFields.svelte"]
    offered = set(re.findall(r"^    \['([\w+]+)', '(?:the|a|torque)", target, re.M)) - {"source"}
    assert offered == kinds(FORMS["properties"]["targets"]["additionalProperties"])


def test_nothing_is_any_and_controls_are_those_of_the_library() -> None:
    for path, text in TEXTS.items():
        assert not re.search(r":\s*any\b|<any>|\bas any\b", text), path
        if "parts" not in path.parts:
            assert not re.search(r"<(button|input|select|textarea|table)\b", text), path
