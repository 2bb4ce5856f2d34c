"""Sheets on paper: the drawing to scale, what stands on them, and that nothing is fetched."""
from __future__ import annotations

import io
import math
import re
from datetime import UTC, datetime
from typing import Any
from xml.etree import ElementTree

import pytest
from pypdf import PdfReader

from orthotorq.core.planning.cautions import CAUTIONS
from orthotorq.core.planning.compute import compute
from orthotorq.core.running import record_of
from orthotorq.exchange.joint_face import joint_face_svg
from orthotorq.exchange.pdf import clock, to_pdf, when
from orthotorq.exchange.record_sheet import RecordHead, render_record
from orthotorq.exchange.sheet import render_sheet
from tests.core.test_running import Play
from tests.plans import cover, small, wheel

NOW = datetime(2026, 11, 24, 14, 2, tzinfo=UTC)


def text_of(pdf: bytes) -> str:
    return re.sub(r"\s+", " ", " ".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages))


def sheet(document: dict[str, Any]) -> str:
    return text_of(render_sheet(compute(document), equipment="Pump 4", joint="Casing", revision=3, released_by="Mira Oslund",
                                released_at=NOW, printed_at=NOW))


def shapes(svg: str, tag: str) -> list[Any]:
    return ElementTree.fromstring(svg).findall(f"{{http://www.w3.org/2000/svg}}{tag}")


@pytest.mark.parametrize("count", [1, 2, 5, 16, 64])
def test_the_face_draws_every_bolt_in_its_place_without_overlap(count: int) -> None:
    document = small(count)
    document["groups"][0]["layout"]["diameter"] = f"{max(200, count * 40)} mm"
    group = compute(document).groups[0]
    svg = joint_face_svg(group.places, 24)
    assert [t.text for t in shapes(svg, "text")] == [str(i) for i in range(1, count + 1)]
    centres, radius = [], 0.0
    for polygon in shapes(svg, "polygon"):
        points = [tuple(map(float, p.split(","))) for p in polygon.get("points").split()]
        x, y = (sum(p[i] for p in points) / 6 for i in (0, 1))
        centres.append((x, y))
        radius = math.dist(points[0], (x, y))
    for place, (x, y) in zip(group.places, centres, strict=True):
        assert (x, y) == pytest.approx((place.x_mm, -place.y_mm), abs=0.02)
    for i, one in enumerate(centres):
        assert all(math.dist(one, other) > 2 * radius * 0.86 for other in centres[i + 1 :])


def test_states_are_told_without_colour() -> None:
    group = compute(small(4)).groups[0]
    svg = joint_face_svg(group.places, 24, {"b.1": "checked", "b.2": "deviating", "b.3": "part"})
    fills = [p.get("fill") for p in shapes(svg, "polygon")]
    widths = [float(p.get("stroke-width")) for p in shapes(svg, "polygon")]
    assert len(set(fills)) == 3
    assert widths[1] > widths[0]


def test_the_sheet_of_a_wheel_says_what_is_done_at_both_positions_first() -> None:
    text = sheet(wheel())
    for words in ("Positions: left, right", "at every position before the next stage", "Only when: wheel hanging",
                  "Only when: wheel touching", "1 4 2 5 3 6", "320 N·m", "rounds until none moves, at most 3"):
        assert words in text


@pytest.mark.parametrize("make", [cover, wheel])
def test_every_caution_of_a_plan_stands_on_its_sheet(make) -> None:
    text, document = sheet(make()), make()
    for stage in document["stages"]:
        for caution in stage.get("cautions", []):
            assert re.sub(r"\s+", " ", CAUTIONS[caution]) in text
    assert "licensed practice" in text
    assert "Pump 4 › Casing" in text


def test_a_calculated_figure_says_so_on_every_sheet() -> None:
    assert "was calculated and does not come from a maker" not in sheet(cover())
    document = cover()
    document["targets"]["studs"] = {"kind": "yield_fraction", "fraction": 0.5}
    assert "was calculated and does not come from a maker" in sheet(document)


def test_text_from_a_plan_is_never_markup() -> None:
    document = small()
    document["title"] = "<script>alert(1)</script> & <b>bold</b>"
    assert "<script>alert(1)</script> & <b>bold</b>" in sheet(document)


def test_a_record_on_paper_names_deviations_corrections_and_hashes() -> None:
    play = Play(small())
    play.until("/full/")
    wrong = play.answer("did_not_turn")
    play.until("/check/")
    play.send("correct", wrong, {"voids": play.facts[-1].id, "answer": None})
    play.send("note", "-", {"text": "salt crust on stud 3"})
    play.finish()
    head = RecordHead(412, "Small", "Pump 4", "Casing", 3, "a" * 64, "b" * 64, len(play.facts), True)
    text = text_of(render_record(head, record_of(play.result, play.facts), play.result, printed_at=NOW))
    for words in ("not accepted", "did not turn at 100 %", "salt crust on stud 3", "b" * 20, "verified", "Not signed",
                  "run 412"):
        assert words in text


def test_a_broken_chain_is_said_on_paper() -> None:
    play = Play(small())
    head = RecordHead(1, "Small", "Pump 4", "Casing", 1, "a" * 64, "b" * 64, 1, False)
    assert "DOES NOT HOLD" in text_of(render_record(head, record_of(play.result, play.facts), play.result, printed_at=NOW))


def test_nothing_but_the_own_fonts_is_opened(tmp_path) -> None:
    secret = tmp_path / "secret.svg"
    secret.write_text('<svg xmlns="http://www.w3.org/2000/svg"><text y="20">SECRET</text></svg>', encoding="utf-8")
    assert "SECRET" not in text_of(to_pdf(f'<p>hello</p><img src="{secret.as_uri()}">'))


def test_times_are_written_in_utc() -> None:
    assert when(NOW) == "2026-11-24 14:02 UTC"
    assert clock("2026-11-24T14:02:59.1Z") == "14:02"
