"""Sheets on paper: the drawing to scale, what stands on them, and that nothing is fetched."""

from __future__ import annotations

import base64
import io
import json
import math
import re
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from datetime import UTC, datetime
from typing import Any
from xml.etree import ElementTree

import pytest
from pypdf import PdfReader

from orthotorq.core.mechanics.formula import formulas
from orthotorq.core.planning.cautions import CAUTIONS
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.compute.output.working import working
from orthotorq.core.running import Fact, record_of
from orthotorq.demo.load import plan_document, plan_names
from orthotorq.exchange.joint_face import joint_face_svg
from orthotorq.exchange.pdf import clock, to_pdf, when
from orthotorq.exchange.record_sheet import RecordHead, render_record
from orthotorq.exchange.sheet import SheetHead, render_sheet
from orthotorq.exchange.typeset import formula_uri
from tests.core.test_running import Play
from tests.golden import path_of
from tests.plans import cover, small, wheel

NOW = datetime(2026, 11, 24, 14, 2, tzinfo=UTC)

HEAD = SheetHead("Pump 4", "Casing", 3, "Mira Oslund", NOW)


def text_of(pdf: bytes) -> str:
    return re.sub(
        r"\s+", " ", " ".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages)
    )


def sheet(document: dict[str, Any]) -> str:
    return text_of(render_sheet(compute(document), HEAD, [], made_at=NOW))


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
    for words in (
        "Positions: left, right",
        "at every position before the next stage",
        "Condition: wheel hanging",
        "Condition: wheel touching",
        "1 4 2 5 3 6",
        "320 N·m",
        "rounds until none moves, at most 3",
    ):
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
    head = RecordHead(412, "Small", "Pump 4", "Casing", 3, "a" * 64, "b" * 64, len(play.facts), "")
    facts = [replace(one, at=f"2026-11-24T07:{i % 60:02}:00Z") for i, one in enumerate(play.facts)]
    text = text_of(render_record(head, record_of(play.result, facts), play.result, printed_at=NOW))
    for words in (
        "not accepted",
        "did not turn at 100 %",
        "salt crust on stud 3",
        "b" * 20,
        "verified",
        "Not signed",
        "run 412",
    ):
        assert words in text


def test_a_broken_chain_is_said_on_paper() -> None:
    play = Play(small())
    head = RecordHead(
        1,
        "Small",
        "Pump 4",
        "Casing",
        1,
        "a" * 64,
        "b" * 64,
        1,
        "an entry is not the one that was signed",
    )
    sheet = render_record(head, record_of(play.result, play.facts), play.result, printed_at=NOW)
    assert "DOES NOT HOLD: an entry is not the one" in text_of(sheet)


def test_nothing_but_the_own_fonts_is_opened(tmp_path) -> None:
    secret = tmp_path / "secret.svg"
    secret.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg"><text y="20">SECRET</text></svg>', encoding="utf-8"
    )
    assert "SECRET" not in text_of(to_pdf(f'<p>hello</p><img src="{secret.as_uri()}">'))


def test_times_are_written_with_their_zone() -> None:
    assert when(NOW) == "24 Nov 2026, 14:02 UTC"
    assert clock("2026-11-24T14:02:59.1Z") == "14:02"


def test_the_formulas_of_the_working_are_drawn(caplog: pytest.LogCaptureFixture) -> None:
    document = cover()
    result, found = compute(document), working(document, "studs/preload")
    pdf = render_sheet(result, HEAD, [found], made_at=NOW)
    assert not [r.message[:80] for r in caplog.records if "load image" in r.message]
    drawn = [
        len(page["/Resources"].get("/XObject", {})) for page in PdfReader(io.BytesIO(pdf)).pages
    ]
    assert sum(drawn) >= len(found.steps), "a picture for every formula"


@pytest.mark.parametrize("name", plan_names())
def test_every_golden_run_has_a_record_on_paper(name: str) -> None:
    found = json.loads(path_of(name).read_text(encoding="utf-8"))
    result = Play(plan_document(name)).result
    facts = [
        Fact(
            i,
            f"e{i}",
            e["step"],
            e["kind"],
            e["payload"],
            "Tam",
            f"2026-11-24T07:{i % 60:02}:00Z",
            happened=e["happened"],
        )
        for i, e in enumerate(found["events"], 1)
    ]
    record = record_of(result, facts)
    head = RecordHead(7, result.title, "Machine", "Joint", 1, "a" * 64, "b" * 64, len(facts), True)
    text = text_of(render_record(head, record, result, printed_at=NOW))
    assert all(row.label in text for t in record.tables for row in t.rows)
    assert all(line.text in text for line in record.lines)


def test_every_formula_can_be_set_on_paper() -> None:
    found = formulas()
    assert len(found) > 30
    for one in found:
        for tex in (one.tex, one.result.tex, *(s.tex for s in one.symbols.values())):
            assert formula_uri(tex).startswith("data:image/svg+xml")


def test_a_row_gets_a_plate_and_painted_labels() -> None:
    result = compute(plan_document("rail-stop-anchors"))
    group = result.groups[0]
    svg = joint_face_svg(group.places, 24, ring=False)
    assert len(shapes(svg, "rect")) == 1 and shapes(svg, "circle") == []
    left, top, width, height = map(float, ElementTree.fromstring(svg).get("viewBox", "").split())
    for polygon in shapes(svg, "polygon"):
        for x, y in (map(float, p.split(",")) for p in polygon.get("points").split()):
            assert left <= x <= left + width and top <= y <= top + height


def test_formulas_set_at_the_same_time_are_those_set_one_by_one() -> None:
    def drawn(tex: str) -> str:
        svg = base64.b64decode(formula_uri(tex).partition(",")[2]).decode()
        return re.sub(r"<dc:date>.*?</dc:date>", "", svg)

    wanted = [one.tex for one in formulas()][:24]
    formula_uri.cache_clear()
    with ThreadPoolExecutor(8) as pool:
        at_once = list(pool.map(drawn, wanted))
    formula_uri.cache_clear()
    assert at_once == [drawn(tex) for tex in wanted]
    assert len(set(at_once)) > 20
