"""Kinds of joint are files: what depends on the kind is one of its traits, and nowhere compared."""

from __future__ import annotations

import ast
from pathlib import Path
from typing import Any, get_args

import pytest

from orthotorq.core.documents.plan import JOINT_KINDS, JointKind
from orthotorq.core.kinds import joints
from orthotorq.core.kinds.joints.registry import JOINTS
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.templates import blank_plan

CORE = Path(joints.__file__).parents[2]
#: files of the folder that are no kind
SHARED = {"__init__", "axis", "joint_traits", "registry"}


def codes(document: dict[str, Any]) -> set[str]:
    """Codes of all findings."""
    return {one.code for one in compute(document).findings}


def without(document: dict[str, Any], kind: str) -> dict[str, Any]:
    """A plan without its stages of a kind."""
    return {**document, "stages": [s for s in document["stages"] if s["kind"] != kind]}


def test_every_kind_is_a_file_in_the_registry_and_a_word_of_documents() -> None:
    files = {path.stem for path in Path(joints.__file__).parent.glob("*.py")} - SHARED
    assert files == set(JOINTS) == set(get_args(JointKind)) == set(JOINT_KINDS)
    assert len({one.words for one in JOINTS.values()}) == len(JOINTS)


def test_no_other_file_compares_the_kind_of_a_joint() -> None:
    found = []
    for path in CORE.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            sides = [node.left, *node.comparators] if isinstance(node, ast.Compare) else []
            kinds = any(isinstance(s, ast.Attribute) and s.attr == "joint_kind" for s in sides)
            words = [c for s in sides for c in ast.walk(s) if isinstance(c, ast.Constant)]
            if kinds and any(c.value in JOINTS for c in words):
                found.append(f"{path.name}:{node.lineno}")
    assert found == []


@pytest.mark.parametrize("kind", ["bolt_circle", "cylinder_head", "plain_group"])
def test_an_example_of_a_new_kind_is_a_plan_to_work_by(kind: str) -> None:
    result = compute(blank_plan(kind, "New", "a/b"))
    assert not [f for f in result.findings if f.severity == "stop"]
    assert len([f for f in result.findings if f.severity == "caution"]) <= 2
    assert result.groups[0].window is not None
    assert result.groups[0].window.verdict in ("fine", "tight")


@pytest.mark.parametrize(
    ("kind", "wanted"), [("bolt_circle", True), ("machine_mount", True), ("plain_group", False)]
)
def test_the_far_side_is_asked_for_where_the_kind_has_one(kind: str, wanted: bool) -> None:
    document = without(blank_plan(kind, "New", "a/b"), "counter_hold")
    document["groups"][0]["into"] = {"kind": "nut"}
    assert ("no_counter_hold" in codes(document)) is wanted


@pytest.mark.parametrize(
    ("kind", "wanted"), [("wheel", True), ("bolt_circle", True), ("cylinder_head", False)]
)
def test_an_early_recheck_is_asked_for_where_the_kind_settles(kind: str, wanted: bool) -> None:
    document = {**blank_plan(kind, "New", "a/b"), "rechecks": []}
    assert ("no_early_recheck" in codes(document)) is wanted


def test_a_head_under_pressure_is_never_turned_and_a_plain_group_has_none_to_speak_of() -> None:
    head = blank_plan("cylinder_head", "New", "a/b")
    for stage in head["stages"]:
        if stage["kind"] == "tighten":
            stage["condition"] = {"pressure": "on", "temperature": "cold"}
    assert "under_pressure" in codes(head)
    plain = blank_plan("plain_group", "New", "a/b")
    assert not {"under_pressure", "condition_not_chosen"} & codes(plain)
