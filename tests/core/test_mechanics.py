"""Properties of the mechanics, and the form of every formula."""

from __future__ import annotations

import inspect
import math
import pkgutil

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orthotorq.core import mechanics
from orthotorq.core.errors import Impossible
from orthotorq.core.mechanics import formula, preload, strength, tools
from orthotorq.core.mechanics.window import Joint, preload_band
from orthotorq.core.tables.lubricants import Band
from orthotorq.core.tables.threads import parse_thread

MU = st.floats(min_value=0.04, max_value=0.5)
FORCE = st.floats(min_value=1e3, max_value=1e6)


def joint(mu: Band, prevailing: float = 0.0, factor: Band | None = None) -> Joint:
    thread = parse_thread("M24")
    return Joint(
        thread.diameter,
        thread.pitch,
        thread.pitch_diameter,
        29.805,
        mu,
        mu,
        factor,
        1.0,
        prevailing,
    )


@given(FORCE, MU, MU)
def test_torque_and_preload_return_to_each_other(
    force: float, mu_thread: float, mu_bearing: float
) -> None:
    k = preload.torque_per_preload(3, 22.051, mu_thread, mu_bearing, 29.805)
    assert preload.preload_from_torque(
        preload.torque_from_preload(force, k, 5e3), k, 5e3
    ) == pytest.approx(force)


@given(FORCE, MU, st.floats(min_value=1.001, max_value=1.5))
def test_more_friction_needs_more_torque(force: float, mu: float, more: float) -> None:
    assert preload.torque_per_preload(3, 22, mu * more, mu, 30) > preload.torque_per_preload(
        3, 22, mu, mu, 30
    )
    assert preload.torque_per_preload(3, 22, mu, mu * more, 30) > preload.torque_per_preload(
        3, 22, mu, mu, 30
    )


@given(MU, MU)
def test_shares_of_the_torque_add_to_one(mu_thread: float, mu_bearing: float) -> None:
    split = preload.torque_split(3, 22, mu_thread, mu_bearing, 30)
    assert split.pitch + split.thread + split.bearing == pytest.approx(1)


@given(MU)
def test_torsion_always_costs_preload(mu: float) -> None:
    assert strength.combined_preload(0.9, 640, 352.5, 3, 22.051, 21.185, mu) < 0.9 * 640 * 352.5


@given(st.floats(min_value=50e3, max_value=900e3), st.floats(min_value=0, max_value=0.1))
def test_band_is_ordered_and_root_sum_square_lies_inside(torque: float, accuracy: float) -> None:
    band = preload_band(torque, (accuracy, 0.03), joint(Band(0.09, 0.12, 0.16), 2e3))
    assert band.low <= band.low_rss <= band.typical <= band.high_rss <= band.high


def test_short_form_band_matches_its_definition() -> None:
    band = preload_band(450e3, (0.04,), joint(Band(0.1, 0.1, 0.1), 0, Band(0.15, 0.18, 0.22)))
    assert band.low == pytest.approx(450e3 * 0.96 / (0.22 * 24))
    assert band.high == pytest.approx(450e3 * 1.04 / (0.15 * 24))


def test_prevailing_torque_cannot_eat_the_torque() -> None:
    with pytest.raises(Impossible, match="prevailing"):
        preload_band(10e3, (), joint(Band(0.1, 0.12, 0.14), 12e3))


@given(st.floats(min_value=20, max_value=600), st.sampled_from([0.5, 1.0, 2.0, 5.0, 10.0]))
def test_settable_is_the_nearest_mark(torque: float, step: float) -> None:
    found = tools.settable(torque * 1e3, step * 1e3)
    assert abs(found.value - torque * 1e3) <= step * 500 * (1 + 1e-9)
    assert found.value / (step * 1e3) == pytest.approx(round(found.value / (step * 1e3)))


def test_halves_round_up_but_never_above_a_ceiling() -> None:
    assert tools.settable(12.5e3, 5e3).value == 15e3
    assert tools.settable(12.5e3, 5e3, 14.9e3).value == 10e3
    with pytest.raises(Impossible, match="too coarse"):
        tools.settable(1e3, 5e3)


def test_default_accuracy_by_standard() -> None:
    assert [
        tools.default_accuracy(10e3),
        tools.default_accuracy(10.1e3),
        tools.default_accuracy(50e3, coarse=True),
    ] == [0.06, 0.04, 0.06]


@pytest.mark.parametrize(
    "call",
    [
        lambda: preload.effective_diameter(20, 22),
        lambda: preload.effective_diameter(20, 0),
        lambda: strength.ring_area(100, 120),
        lambda: strength.clamp_at_bearing_pressure(700, 20, 20),
        lambda: tools.adapter_setting(100e3, 300, 290, math.pi),
    ],
)
def test_impossible_geometry_is_refused(call) -> None:
    with pytest.raises(Impossible):
        call()


def test_every_formula_documents_units_source_and_its_arguments() -> None:
    for module in pkgutil.iter_modules(mechanics.__path__):
        __import__(f"{mechanics.__name__}.{module.name}")
    assert len(formula.formulas()) >= 12
    for function, record in formula._REGISTRY.items():
        text = inspect.getdoc(function) or ""
        assert "[" in text, f"{record.name}: the docstring names no units"
        assert ">>>" in text, f"{record.name}: no worked example"
        assert record.source, record.name
        assert set(record.symbols) == set(inspect.signature(function).parameters)
