"""Every remedy closes its finding when it is taken over."""

from __future__ import annotations

import copy

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.forms.result import FindingOut
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.editing import edit
from orthotorq.demo.load import plan_document, plan_names
from tests.core.loaded_plans import (
    STACK,
    Raw,
    angled,
    plan,
)


def closes(document: Raw, one: FindingOut) -> bool:
    """Whether the figure of a remedy, taken over as on the Bench, closes its finding."""
    after, _ = edit(document, "take_remedy", one.sets)
    return not any((f.code, f.where) == (one.code, one.where) for f in compute(after).findings)


@pytest.mark.parametrize("name", plan_names())
def test_every_remedy_of_the_demo_closes_its_finding(name: str) -> None:
    document = plan_document(name)
    for one in compute(document).findings:
        if one.sets:
            assert closes(document, one), (one.text, one.remedy)


BOUNDS = st.fixed_dictionaries(
    {},
    optional={
        "required_clamp": st.integers(5, 140).map(lambda kn: f"{kn} kN"),
        "limits": st.fixed_dictionaries(
            {},
            optional={
                "yield_fraction": st.floats(0.1, 0.9),
                "nu": st.floats(0.2, 1.0),
                "soft_part": st.integers(3, 90).map(lambda kn: f"{kn} kN"),
            },
        ),
        "into": st.integers(4, 30).map(
            lambda mm: {"kind": "tapped", "material": "aluminium", "engaged": f"{mm} mm"}
        ),
        "stack": st.just(STACK),
    },
)


@settings(max_examples=150, deadline=None)
@given(
    st.integers(8, 400),
    BOUNDS,
    st.sampled_from(["0.1 N·m", "1 N·m", "7 N·m"]),
    st.sampled_from([100, 104, 110]),
    st.sampled_from(["0 N·m", "6 N·m"]),
)
def test_every_remedy_closes_its_finding(
    torque: int, bounds: Raw, increment: str, over: float, prevailing: str
) -> None:
    document = plan(
        {"kind": "torque", "torque": f"{torque} N·m"},
        [
            {"id": "over", "do": "torque", "percent": over},
            {"id": "full", "do": "torque", "percent": 100, "falls": "back to the figure"},
        ],
        **copy.deepcopy(bounds),
    )
    document["tools"]["w"]["increment"] = increment
    document["groups"][0]["fastener"]["prevailing"] = prevailing
    try:
        result = compute(document)
    except DocumentErrors:
        return
    for one in result.findings:
        if one.sets:
            assert closes(document, one), (one.text, one.remedy)


@settings(max_examples=60, deadline=None)
@given(st.integers(20, 120), st.integers(5, 120), st.integers(20, 200))
def test_every_remedy_of_an_angle_closes_its_finding(torque: int, angle: int, need: int) -> None:
    document = angled(
        f"{torque} N·m", f"{angle} deg", required_clamp=f"{need} kN", limits={"yield_fraction": 0.7}
    )
    document["stages"][0]["passes"][1].update(
        turn=f"{angle} deg", window=[f"{angle - 2} deg", f"{angle + 3} deg"]
    )
    for one in compute(document).findings:
        if one.sets:
            assert closes(document, one), (one.text, one.remedy)
