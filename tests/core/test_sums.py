"""Quick sums: fields that are wrong are named, properties hold, the command line answers and loads
little."""

from __future__ import annotations

import json
import math
import subprocess
import sys
from typing import Any

import pytest
from click.testing import CliRunner
from hypothesis import given
from hypothesis import strategies as st

from orthotorq.cli import cli
from orthotorq.core.errors import OrthotorqError
from orthotorq.core.mechanics.stiffness import Layer, parts_resilience
from orthotorq.core.planning import layouts
from orthotorq.core.sums import SUMS, answer

GOOD: dict[str, dict[str, Any]] = {
    "thread": {"thread": "M24x2"},
    "grade": {"grade": "ISO 898-1 8.8", "diameter": "24 mm"},
    "torque": {"thread": "M20", "preload": "100 kN", "mu-thread": "0.12"},
    "preload": {
        "thread": "M20",
        "torque": "300 N·m",
        "mu-thread": "0.1,0.12,0.15",
        "accuracy": "0.04",
    },
    "limit": {
        "thread": "M20",
        "grade": "ISO 898-1 8.8",
        "mu-thread": "0.12",
        "yield-fraction": "0.6",
    },
    "tool": {
        "torque": "430 N·m",
        "length": "750 mm",
        "adapter": "90 mm",
        "ratio": ["5"],
        "efficiency": ["0.9"],
    },
    "angle": {
        "thread": "M16",
        "grade": "ISO 898-1 8.8",
        "grip": "50 mm",
        "snug": "20 N·m",
        "angle": "10",
        "mu-thread": "0.12",
    },
    "backoff": {"thread": "M30x1.5", "preload": "30 kN", "flats": "1", "grip": "60 mm"},
    "units": {"first": "355 ft-lb"},
    "lubricant": {"thread": "M24", "torque": "430 N·m", "from": "dry-steel", "to": "moly-paste"},
    "pair": {"first": "250 N·m", "second": "148 ft·lbf"},
    "order": {"count": "8", "kind": "cross"},
    "engagement": {
        "thread": "M16",
        "grade": "ISO 898-1 8.8",
        "into": "carbon steel",
        "length": "16 mm",
    },
    "gasket": {"outside": "120 mm", "inside": "100 mm", "bolts": "8", "preload": "50 kN"},
    "identify": {"flats": "36 mm", "outside": "23.8 mm", "ten": "30 mm"},
    "working": {
        "thread": "M16",
        "grade": "ISO 898-1 8.8",
        "preload": "60 kN",
        "axial": "20 kN",
        "delta-s": "2.12e-6",
        "delta-p": "4.5e-7",
        "introduction": "0.5",
        "transverse": "3 kN",
        "slip-friction": "0.15",
    },
    "flange": {
        "bolts": "16",
        "root-area": "324 mm2",
        "gasket-area": "31 in2",
        "target-stress": "80 MPa",
    },
    "thermal": {
        "preload": "50 kN",
        "grip": "60 mm",
        "delta-s": "2e-6 mm/N",
        "delta-p": "5e-7",
        "alpha-bolt": "1.2e-5",
        "alpha-parts": "1e-5",
        "rise-bolt": "100",
        "rise-parts": "100 K",
    },
    "stripping": {
        "thread": "M16",
        "grade": "ISO 898-1 8.8",
        "length": "13 mm",
        "shear-internal": "300 MPa",
    },
    "friction": {"thread": "M20", "torque": ["317 N·m"], "preload": ["100 kN"]},
    "line": {"text": "Tighten to 110 N·m in a star"},
    "schedule": {"text": "first 20 h, then every 200 h"},
    "calibration": {"setting": "100 N·m", "readings": "99 N·m", "class": "II A"},
    "scale": {"torque": "128 N·m", "mark": "20 N·m", "increment": "1 N·m"},
}


@pytest.mark.parametrize("name", list(SUMS))
def test_every_sum_answers_and_every_field_refuses_nonsense(name: str) -> None:
    assert answer(name, GOOD[name]).figures
    for field in SUMS[name].fields:
        if field.kind in ("flag", "text", "statement"):
            continue
        for nonsense in ("nonsense", "-1", "0 furlong", "nan", "1e99 kN"):
            given = [nonsense] if field.repeat else nonsense
            try:
                answer(name, {**GOOD[name], field.name: given})
            except OrthotorqError as error:
                assert str(error)
            else:
                assert nonsense == "-1" and field.kind in ("degrees", "rise"), (
                    name,
                    field.name,
                    nonsense,
                )
        if field.required:
            with pytest.raises(OrthotorqError):
                answer(name, {**GOOD[name], field.name: None})


@pytest.mark.parametrize(
    ("name", "change"),
    [
        ("torque", {"mu-thread": "0"}),
        ("torque", {"mu-thread": "1.2"}),
        ("torque", {"k": "0.2"}),
        ("torque", {"mu-thread": None}),
        ("torque", {"face-diameter": "20 mm", "hole": "22 mm"}),
        ("torque", {"thread": "M90x6"}),
        ("preload", {"prevailing": "400 N·m"}),
        ("preload", {"mu-thread": "0.2,0.1,0.3"}),
        ("limit", {"grade": "ISO 898-1 9.9"}),
        ("limit", {"nu": "1.5"}),
        ("tool", {"length": None}),
        ("tool", {"efficiency": ["0.9", "0.8"]}),
        ("tool", {"ratio": ["0.5"]}),
        ("angle", {"grip": "0 mm"}),
        ("angle", {"shank-length": "60 mm"}),
        ("angle", {"outer-diameter": "20 mm"}),
        ("angle", {"material": "cheese"}),
        ("backoff", {"back": "60"}),
        ("backoff", {"flats": None}),
        ("pair", {"second": "12 mm"}),
        ("pair", {"second": "148"}),
        ("order", {"count": "401"}),
        ("order", {"count": "8.5"}),
        ("order", {"tools": "3"}),
        ("order", {"kind": "grid"}),
        ("engagement", {"into": "cheese"}),
        ("gasket", {"inside": "130 mm"}),
        ("gasket", {"bolts": "0"}),
    ],
)
def test_impossible_input_is_refused_by_name(name: str, change: dict[str, Any]) -> None:
    with pytest.raises(OrthotorqError) as caught:
        answer(name, {**GOOD[name], **change})
    assert len(str(caught.value)) > 15


@given(st.floats(min_value=5, max_value=400), st.floats(min_value=0.05, max_value=0.4))
def test_torque_and_preload_are_inverse_sums(force: float, mu: float) -> None:
    torque = answer(
        "torque", {"thread": "M24", "preload": f"{force!r} kN", "mu-thread": f"{mu!r}"}
    ).figures["torque_Nm"]
    back = answer(
        "preload", {"thread": "M24", "torque": f"{torque!r} N·m", "mu-thread": f"{mu!r}"}
    ).figures["preload_N"]
    assert back == pytest.approx(force * 1e3, rel=1e-9)


@given(
    st.floats(min_value=5, max_value=300),
    st.floats(min_value=25, max_value=200),
    st.integers(min_value=1, max_value=5),
)
def test_layers_of_one_material_are_one_layer(grip: float, outer: float, pieces: int) -> None:
    whole = parts_resilience((Layer(grip, 2e5),), 22.5, 17.5, outer, 0.5, False)
    split = parts_resilience(
        tuple(Layer(grip / pieces, 2e5) for _ in range(pieces)), 22.5, 17.5, outer, 0.5, False
    )
    assert split == pytest.approx(whole, rel=1e-9)
    softer = parts_resilience((Layer(grip, 1e5),), 22.5, 17.5, outer, 0.5, False)
    assert softer == pytest.approx(2 * whole)


def test_beyond_yield_there_is_no_figure() -> None:
    found = answer("angle", {**GOOD["angle"], "angle": "180"}).figures
    assert (found["yields"], found["preload_N"], found["torque_end_Nm"]) == (True, None, None)


def test_the_four_questions_of_practice() -> None:
    tool = answer("tool", {**GOOD["tool"], "torque": "1700 N·m", "efficiency": ["1"]}).figures
    assert tool["setting_Nm"] == pytest.approx(1700 / 5 * 750 / 840)
    dry, moly = (
        answer("preload", {"thread": "M24", "torque": "430 N·m", "mu-thread": mu}).figures[
            "preload_N"
        ]
        for mu in ("0.16", "0.10")
    )
    assert moly / dry == pytest.approx(1.53, abs=0.02)
    assert not answer("pair", GOOD["pair"]).figures["agree"]
    play = answer("backoff", GOOD["backoff"]).figures
    assert play["preload_left_N"] == 0
    assert play["end_play_mm"] == pytest.approx(1.5 * (60 - play["elastic_angle_deg"]) / 360)


def test_another_lubricant_both_ways() -> None:
    found = answer("lubricant", GOOD["lubricant"]).figures
    assert found["preload_after_N"] > found["preload_before_N"]
    again = answer(
        "lubricant", {**GOOD["lubricant"], "torque": f"{found['same_clamp_torque_Nm']!r} N·m"}
    ).figures
    assert again["preload_after_N"] == pytest.approx(found["preload_before_N"])


def test_one_figure_in_every_unit() -> None:
    assert answer("units", {"first": "1 ft·lbf"}).figures["N·m"] == pytest.approx(1.3558179483314)


@pytest.mark.parametrize("count", range(1, 30))
def test_rows_go_from_the_middle_out(count: int) -> None:
    order = layouts.row_order(count)
    assert sorted(order) == list(range(1, count + 1))
    far = [abs(i - (count + 1) / 2) for i in order]
    assert far == sorted(far)


@pytest.mark.parametrize(("rows", "columns"), [(1, 1), (2, 3), (3, 3), (4, 5), (1, 7), (20, 20)])
def test_grids_go_from_the_centre_out_with_opposite_bolts_in_turn(rows: int, columns: int) -> None:
    order, count = layouts.grid_order(rows, columns), rows * columns
    assert sorted(order) == list(range(1, count + 1))
    pairs = order[count % 2 :]
    assert all(a + b == count + 1 for a, b in zip(pairs[::2], pairs[1::2], strict=True))
    middle = [
        math.hypot((i - 1) // columns - (rows - 1) / 2, (i - 1) % columns - (columns - 1) / 2)
        for i in order
    ]
    assert middle == pytest.approx(sorted(middle))


def run(*arguments: str) -> Any:
    return subprocess.run(
        [sys.executable, "-m", "orthotorq.cli", *arguments],
        capture_output=True,
        text=True,
        check=False,
    )


def test_calc_prints_json_or_words_or_the_working() -> None:
    done = run(
        "calc", "torque", "--thread", "M20", "--preload", "100 kN", "--mu-thread", "0.12", "--json"
    )
    assert json.loads(done.stdout)["torque_Nm"] == pytest.approx(317.67, abs=0.005)
    words = run(
        "calc",
        "torque",
        "--thread",
        "M20",
        "--preload",
        "100 kN",
        "--mu-thread",
        "0.12",
        "--working",
    ).stdout
    assert "torque: 317.67 N·m" in words
    assert "source: ISO 16047" in words


def test_a_bad_argument_is_one_sentence_and_exit_2() -> None:
    for arguments in (
        ("calc", "torque", "--thread", "M20"),
        ("calc", "torque", "--nonsense"),
        ("calc", "nothing"),
        ("calc", "thread", "M17"),
        ("calc", "pair", "1 mm"),
        ("compute", "no-such-file.json"),
        ("nonsense",),
        ("calc", "torque", "--thread", "M20", "--preload", "1,200 N", "--mu-thread", "0.1"),
    ):
        done = run(*arguments)
        assert (done.returncode, done.stdout) == (2, ""), arguments
        assert len(done.stderr.strip().splitlines()) == 1, done.stderr
        assert "Traceback" not in done.stderr


def test_calc_loads_no_web_database_pydantic_or_numpy() -> None:
    code = (
        "import sys; sys.argv = ['orthotorq', 'calc', 'thread', 'M20', '--json']\n"
        "from orthotorq.cli import main\ntry:\n    main()\nexcept SystemExit as end:\n    "
        "assert not end.code\n"
        "heavy = {'flask', 'sqlalchemy', 'psycopg', 'pydantic', 'numpy', 'scipy', "
        "'weasyprint', 'alembic'}\n"
        "assert not heavy & set(sys.modules), heavy & set(sys.modules)"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr


def test_every_command_has_help() -> None:
    for name in ("calc", "compute", "schema", "verify", "migrate", "openapi"):
        done = CliRunner().invoke(cli, [name, "--help"])
        assert done.exit_code == 0, done.output
        assert len(done.output) > 60


@pytest.mark.parametrize(
    ("measured", "thread"),
    [
        ({"flats": "36 mm", "outside": "23.8 mm", "ten": "30 mm"}, "M24"),
        ({"outside": "19.8 mm", "ten": "15 mm"}, "M20x1.5"),
        ({"outside": "15.8 mm", "ten": "20 mm"}, "M16"),
    ],
)
def test_a_measured_thread_is_named(measured: dict[str, str], thread: str) -> None:
    assert answer("identify", measured).figures["likeliest"] == thread


def test_what_fits_nothing_names_nothing() -> None:
    found = answer("identify", {"outside": "23.8 mm", "ten": "9 mm"})
    assert found.figures == {"threads": [], "likeliest": None}
    assert "measure again" in found.notes[-1]
    with pytest.raises(OrthotorqError, match="at least one"):
        answer("identify", {})
