"""Every field of the plan given a wrong type, unit, sign, zero, huge number or unknown name:
refused, never a crash."""

from __future__ import annotations

import copy
import math
from collections.abc import Iterator
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.planning.compute import compute
from tests.plans import cover, wheel

BAD = [
    None,
    True,
    -1,
    0,
    1e308,
    10**30,
    "",
    "nonsense",
    "-5 N·m",
    "0 mm",
    "5 furlong",
    "9e99 kN",
    [],
    {},
    [[]],
    {"kind": "no"},
    float("nan"),
    "\x00",
    "💥" * 200,
]


def paths(value: Any, at: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    if at:
        yield at
    items = (
        value.items()
        if isinstance(value, dict)
        else enumerate(value)
        if isinstance(value, list)
        else ()
    )
    for key, inner in items:
        yield from paths(inner, (*at, key))


def shapes(document: Any) -> dict[tuple[Any, ...], tuple[Any, ...]]:
    """One path of every shape: fields of alike list items, of stages and passes of one kind, are
    one."""
    found: dict[tuple[Any, ...], tuple[Any, ...]] = {}
    for path in paths(document):
        at, key = document, []
        for part in path:
            at = at[part]
            kind = at.get("kind") or at.get("do") if isinstance(at, dict) else None
            key.append(("*", kind) if isinstance(part, int) else part)
        found.setdefault(tuple(key), path)
    return found


def put(document: Any, path: tuple[Any, ...], value: Any) -> Any:
    out = copy.deepcopy(document)
    at = out
    for part in path[:-1]:
        at = at[part]
    at[path[-1]] = value
    return out


def finite(value: Any) -> bool:
    if isinstance(value, float):
        return math.isfinite(value)
    if isinstance(value, dict):
        return all(finite(v) for v in value.values())
    return all(finite(v) for v in value) if isinstance(value, list) else True


def at_work() -> Any:
    """The cover with everything that a group may have beside."""
    document = cover()
    document["service"] = ["food"]
    document["groups"][0].update(
        work={
            "axial": "9 kN",
            "axial_low": "-2 kN",
            "introduction": 0.4,
            "transverse": "1 kN",
            "slip_friction": 0.2,
            "faces": 1,
            "alternates": True,
            "pressure": "6 bar",
            "sealed_diameter": "400 mm",
            "thread": "cut",
        },
        at_work={"bolt": "90 °C", "parts": "120 °C"},
        component={
            "target_stress": "60 MPa",
            "relaxation": 0.8,
            "bolt_min": "90 MPa",
            "bolt_max": "400 MPa",
            "flange_max": "420 MPa",
            "gasket_rotation": "0.3 deg",
            "flange_rotation": "0.6 deg",
        },
    )
    document["groups"][0]["gasket"].update(thickness="3 mm", modulus="900 MPa")
    document["groups"][0]["fastener"].update(
        stud=True, shank_length="20 mm", shank_diameter="22 mm"
    )
    document["groups"][0]["stack"][0]["washer"] = True
    document["sources"][0].update(holds="first", because="a letter")
    return document


@pytest.mark.parametrize("make", [at_work, wheel])
def test_every_field_with_every_bad_value(make) -> None:
    document = make()
    tried = 0
    # what both have is tried in one of them
    known = shapes(at_work()) if make is wheel else {}
    for path in (path for shape, path in shapes(document).items() if shape not in known):
        for value in BAD:
            tried += 1
            try:
                result = compute(put(document, path, value))
            except DocumentErrors as error:
                assert all(e.text and e.code for e in error.errors)
                for one in error.errors:
                    assert len(one.text) < 600
            else:
                assert finite(result.model_dump())
    assert tried > (500 if known else 1500), tried


@settings(max_examples=150, deadline=None)
@given(
    st.recursive(
        st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=20),
        lambda inner: (
            st.lists(inner, max_size=4) | st.dictionaries(st.text(max_size=12), inner, max_size=4)
        ),
        max_leaves=20,
    ),
    st.data(),
)
def test_fuzzed_documents_are_refused_or_computed(value: Any, data: st.DataObject) -> None:
    document = cover()
    path = data.draw(st.sampled_from(list(paths(document))))
    try:
        compute(put(document, path, value))
    except DocumentErrors as error:
        assert error.errors
