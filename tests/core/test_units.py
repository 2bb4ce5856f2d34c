"""Quantities as people type them; pint is the judge of the factors."""

from __future__ import annotations

import pint
import pytest
from hypothesis import given
from hypothesis import strategies as st

from orthotorq.core.errors import BadQuantity
from orthotorq.core.messages import Message
from orthotorq.core.unit_table import FACTORS
from orthotorq.core.units import convert, find_unit, parse, read_number, show

JUDGE = pint.UnitRegistry()
SPELLED = {
    "N·m": "N*m",
    "N·mm": "N*mm",
    "N·cm": "N*cm",
    "kN·m": "kN*m",
    "daN·m": "daN*m",
    "ft·lbf": "ft*lbf",
    "in·lbf": "in*lbf",
    "kgf·m": "kgf*m",
    "kgf·cm": "kgf*cm",
    "in·ozf": "in*ozf",
    "kip": "kip",
    "N/mm²": "N/mm**2",
    "°": "degree",
    "flat": "60*degree",
    "deg": "degree",
    "µm": "um",
    "d": "day",
    "°C": None,
    "kip ": None,
    "cN·m": "cN*m",
    "mN·m": "mN*m",
    "mil": "thou",
    "mi": "mile",
    "kgf/cm²": "kgf/cm**2",
    "kgf/mm²": "kgf/mm**2",
    "mm²": "mm**2",
    "cm²": "cm**2",
    "m²": "m**2",
    "in²": "in**2",
    "tf": "kgf",
}
TIMES = {"tf": 1000}
BASE = {
    "torque": "N*mm",
    "force": "N",
    "length": "mm",
    "stress": "MPa",
    "angle": "rad",
    "time": "s",
    "area": "mm**2",
}


@pytest.mark.parametrize(("kind", "unit"), [(k, u) for k in BASE for u in FACTORS[k]])
def test_factors_agree_with_an_independent_table(kind: str, unit: str) -> None:
    judged = (
        JUDGE.Quantity(1, JUDGE.parse_expression(SPELLED.get(unit) or unit).units)
        if unit not in ("flat",)
        else None
    )
    value = (
        judged.to(BASE[kind]).magnitude
        if judged is not None
        else JUDGE("60*degree").to("rad").magnitude
    )
    assert FACTORS[kind][unit] == pytest.approx(value * TIMES.get(unit, 1), rel=1e-12)


@pytest.mark.parametrize(
    ("text", "kind", "base"),
    [
        ("480 N·m", "torque", 480e3),
        ("480Nm", "torque", 480e3),
        ("480 n.m", "torque", 480e3),
        ("0,5 kN", "force", 500.0),
        ("1-1/8 in", "length", 28.575),
        ('1 1/8"', "length", 28.575),
        ("3/4 in", "length", 19.05),
        ("25.1mm", "length", 25.1),
        ("1,200.5 N", "force", 1200.5),
        ("1,200,000 N", "force", 1.2e6),
        ("0,200 N", "force", 0.2),
        ("1e3 N", "force", 1e3),
        ("−5 mm", "length", -5.0),
        ("2 MN", "force", 2e6),
        ("1 flat", "angle", 1.0471975511965976),
        (".5 mm", "length", 0.5),
    ],
)
def test_reads_what_people_type(text: str, kind: str, base: float) -> None:
    assert parse(text, kind).base == pytest.approx(base, rel=1e-12)


@pytest.mark.parametrize(
    ("text", "kind", "same"),
    [
        ("20 oz-in", "torque", "20 in·ozf"),
        ("50 cNm", "torque", "0.5 N·m"),
        ("30 lbs-in", "torque", "30 in·lbf"),
        ("30 ft/lbs", "torque", "30 ft·lbf"),
        ("30 foot-pounds", "torque", "30 ft·lbf"),
        ("30 inch-pounds", "torque", "30 in·lbf"),
        ("3 mkp", "torque", "3 kgf·m"),
        ("3 kgfcm", "torque", "3 kgf·cm"),
        ("500 mN·m", "torque", "0.5 N·m"),
        ("1 250 N·m", "torque", "1250 N·m"),
        ("1\u2009250 N·m", "torque", "1250 N·m"),
        ("1'250 Nm", "torque", "1250 N·m"),
        ("3 t", "force", "29.41995 kN"),
        ("3 tf", "force", "3000 kgf"),
        ("5 thou", "length", "0.005 in"),
        ("5 mil", "length", "5 thou"),
        ("½ in", "length", "0.5 in"),
        ("1½ in", "length", "1.5 in"),
        ("1 ¼''", "length", "1.25 in"),
        ("⅛ in", "length", "0.125 in"),
        ("3 miles", "length", "4.828032 km"),
        ("6 barg", "stress", "6 bar"),
        ("100 psig", "stress", "100 psi"),
        ("5 kg/cm²", "stress", "0.4903325 MPa"),
        ("5 kgf/mm²", "stress", "49.03325 MPa"),
        ("100 lb/in²", "stress", "100 psi"),
        ("324 mm2", "area", "3.24 cm²"),
        ("1 in2", "area", "645.16 mm²"),
        ("5 mN", "force", "0.005 N"),
        ("640 mpa", "stress", "640 MPa"),
    ],
)
def test_spellings_people_type_mean_what_they_mean(text: str, kind: str, same: str) -> None:
    assert parse(text, kind).base == pytest.approx(parse(same, kind).base, rel=1e-9)


@pytest.mark.parametrize(
    ("text", "kind"),
    [("5 mPa", "stress"), ("5 MN·m", "torque"), ("5 mn", "force"), ("5 Mm", "length")],
)
def test_a_prefix_is_never_taken_for_another(text: str, kind: str) -> None:
    with pytest.raises(BadQuantity):
        parse(text, kind)


@pytest.mark.parametrize(
    ("text", "kind", "code"),
    [
        ("", "torque", Message.QUANTITY_EMPTY),
        ("   ", "torque", Message.QUANTITY_EMPTY),
        ("480", "torque", Message.UNIT_MISSING),
        ("480 furlong", "torque", Message.UNIT_UNKNOWN),
        ("12 mm", "torque", Message.UNIT_WRONG_KIND),
        ("1,200 N·m", "torque", Message.QUANTITY_AMBIGUOUS),
        ("abc", "torque", Message.QUANTITY_NOT_READ),
        ("nan N·m", "torque", Message.QUANTITY_NOT_READ),
        ("1/0 in", "length", Message.QUANTITY_NOT_READ),
        ("1e99 N", "force", Message.OUT_OF_RANGE),
        ("1 20 N·m", "torque", Message.UNIT_UNKNOWN),
        ("1.2.3 mm", "length", Message.QUANTITY_NOT_READ),
        ("9" * 90 + " mm", "length", Message.QUANTITY_NOT_READ),
    ],
)
def test_refuses_the_rest_by_name(text: str, kind: str, code: Message) -> None:
    with pytest.raises(BadQuantity) as caught:
        parse(text, kind)
    assert caught.value.code is code


def test_a_comma_is_asked_back_with_both_readings() -> None:
    with pytest.raises(BadQuantity, match=r"1\.200 or as 1200"):
        parse("1,200 N·m", "torque")


@given(
    st.floats(min_value=1e-3, max_value=1e6),
    st.sampled_from([(k, u) for k in BASE for u in FACTORS[k]]),
)
def test_every_unit_round_trips(value: float, unit: tuple[str, str]) -> None:
    kind, symbol = unit
    found = parse(f"{value!r} {symbol}", kind)
    assert convert(found.base, kind, symbol) == pytest.approx(value, rel=1e-12)


@given(st.text(max_size=40))
def test_any_text_is_read_or_refused_never_worse(text: str) -> None:
    for kind in BASE:
        try:
            parse(text, kind)
        except BadQuantity as error:
            assert str(error)


def test_units_in_usual_spellings() -> None:
    for text in ("ft-lb", "ft lb", "ft.lbs", "lb-ft", "ft·lbf", "FT-LB"):
        assert find_unit(text) == ("torque", "ft·lbf")


def test_written_digits_are_kept() -> None:
    assert read_number("148 ft·lbf")[1] == 0.5
    assert read_number("1.50 kN")[1] == pytest.approx(0.005)


def test_shown_figures_have_no_exponent_and_no_false_digits() -> None:
    assert [show(x) for x in (0, 450.06, 0.000123456, 1234567.0, 99.996)] == [
        "0",
        "450.1",
        "0.0001235",
        "1235000",
        "100",
    ]
