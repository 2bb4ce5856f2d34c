"""The record as a table: every cell a row, nothing that a table program would run."""

from __future__ import annotations

import csv
import io

import pytest

from orthotorq.core.running import record_of
from orthotorq.exchange.record_csv import HEAD, record_csv, safe
from tests.core.play import Play
from tests.plans import small


def test_every_bolt_in_every_pass_is_a_row_with_figures_in_one_unit() -> None:
    play = Play(small())
    play.until("/full/")
    play.answer("turned", reading={"torque": "88 ft·lbf", "angle": "30 deg"}, whole=True)
    table = list(csv.DictReader(io.StringIO(record_csv(record_of(play.result, play.facts), {}))))
    assert tuple(table[0]) == HEAD and len(table) == 4 + 4 + 1
    last = next(row for row in table if row["torque_Nm"])
    assert (
        last["bolt"],
        last["pass"],
        last["torque_Nm"],
        last["angle_deg"],
        last["whole_round"],
    ) == ("1", "100 %", "119.312", "30", "yes")


@pytest.mark.parametrize("text", ["=HYPERLINK(1)", "+1", "-1", "@x", "\tx", "\rx"])
def test_no_cell_begins_like_a_formula(text: str) -> None:
    assert safe(text) == f"'{text}"
    play = Play(small())
    play.result.groups[0].name = text
    play.until("/half/")
    rows = list(csv.DictReader(io.StringIO(record_csv(record_of(play.result, play.facts), {}))))
    assert {row["group"] for row in rows} == {f"'{text}"}
