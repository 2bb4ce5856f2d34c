"""The page to work from, sheets on both papers, templates 1:1."""

from __future__ import annotations

import io
import re
from itertools import pairwise

import pytest
from pypdf import PdfReader

from orthotorq.core.errors import Impossible
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.compute.output.working import working
from orthotorq.demo.load import plan_document, plan_names
from orthotorq.exchange.sheet import SheetHead, render_sheet
from orthotorq.exchange.template_sheet import render_template, tiles_of
from orthotorq.exchange.work_page import work_page
from tests.golden import sheets
from tests.golden.sheets import HEAD, NOW
from tests.plans import small

#: two positions with three groups each take more than a page
TWO_PAGES = ("twin-drive-wheel",)
CODE_WORDS = re.compile(r"\b[a-z]+_[a-z_]+\b|\bg\d\b")


def pages(pdf: bytes) -> list[str]:
    return [" ".join(page.extract_text().split()) for page in PdfReader(io.BytesIO(pdf)).pages]


@pytest.mark.parametrize("name", plan_names())
def test_one_page_is_worked_from_and_no_code_word_stands_on_the_sheet(name: str) -> None:
    result = compute(plan_document(name))
    found = [" ".join(page.split()) for page in sheets.pages(name)]
    first = found[0] if name not in TWO_PAGES else found[0] + found[1]
    assert "pages to read" in found[2 if name in TWO_PAGES else 1]
    for row in work_page(result).rows:
        assert row.name.split(",")[0] in first and row.set in first
    assert "calibrated until" in first and "works.example" in first
    assert CODE_WORDS.findall(" ".join(found)) == []


@pytest.mark.parametrize("name", plan_names())
def test_every_demo_plan_has_a_sheet_with_its_kit_order_and_working(name: str) -> None:
    document = plan_document(name)
    result = compute(document)
    workings = [
        working(document, f"{g.id}/preload") for g in result.groups if g.target and g.preload
    ]
    text = " ".join(" ".join(sheets.pages(name)).split())
    for stage in result.stages:
        assert stage.title in text
        for one in stage.passes:
            assert one.name in text
            assert all(s.text in text for s in one.settings)
    # a line may end behind a hyphen
    joined = text.replace("- ", "-")
    assert all(re.sub(r"\s+", " ", k.text).replace("- ", "-") in joined for k in result.kit)
    assert all(s.source in text for w in workings for s in w.steps)
    assert all(f.text in text for f in result.findings if f.severity != "note")


@pytest.mark.parametrize("name", plan_names())
def test_a_sheet_says_what_was_read_and_agreed(name: str) -> None:
    assert sheets.printed(name) == (sheets.HERE / f"{name}.txt").read_text(encoding="utf-8")


@pytest.mark.parametrize("name", plan_names())
def test_every_bolt_of_every_pass_has_its_box_in_the_order_of_the_pass(name: str) -> None:
    result = compute(plan_document(name))
    labels = {p.id: p.label for g in result.groups for p in g.places}
    boxes = {
        (
            s.title,
            p.name,
            tuple(" + ".join(labels[place] for place in move) for move in p.order if move != ["-"]),
        )
        for s in result.stages
        for p in s.passes
    }
    rows = work_page(result).rows
    assert rows and all((row.stage, row.name, tuple(row.boxes)) in boxes for row in rows)


@pytest.mark.parametrize("name", ["gearbox-foot", "evaporator-cover", "drum-locking-hub"])
def test_every_box_is_drawn(name: str) -> None:
    result = compute(plan_document(name))
    work = work_page(result)
    boxes = sum(len(row.boxes) or 1 for row in work.rows) + sum(
        len(m.bolts) or 1 for m in work.measured
    )
    page = PdfReader(io.BytesIO(render_sheet(result, HEAD, [], made_at=NOW))).pages[0]
    contents = page.get_contents()
    # a box is an outer and an inner rectangle
    assert contents is not None and contents.get_data().count(b" re") >= 2 * boxes


def test_names_of_people_who_write_odd_things_hide_nothing_on_the_sheet() -> None:
    head = SheetHead('Line "1"\n} body { display: none } {', "Cover", 3, "Mira", NOW)
    text = " ".join(
        pages(render_sheet(compute(plan_document("evaporator-cover")), head, [], made_at=NOW))
    )
    assert "Lock out" in text and "body { display: none }" in text and "page 1 of" in text


def test_the_torque_at_the_nut_stands_beside_a_multiplier() -> None:
    rows = work_page(compute(plan_document("rail-stop-anchors"))).rows
    geared = [row for row in rows if row.at_nut]
    assert geared and all(
        float(row.at_nut.split()[0]) > 3 * float(row.set.split()[0]) for row in geared
    )


@pytest.mark.parametrize(("paper", "size"), [("A4", (595, 842)), ("Letter", (612, 792))])
def test_a_sheet_and_a_template_have_the_size_of_their_paper(
    paper: str, size: tuple[int, int]
) -> None:
    result = compute(small())
    for pdf in (
        render_sheet(result, HEAD, [], made_at=NOW, paper=paper),
        render_template(result, "Cover", paper=paper),
    ):
        box = PdfReader(io.BytesIO(pdf)).pages[0].mediabox
        assert (round(box.width), round(box.height)) == size


@pytest.mark.parametrize("name", ["evaporator-cover", "twin-drive-wheel", "valve-block-fixture"])
def test_a_template_carries_every_bolt_of_the_first_way(name: str) -> None:
    result = compute(plan_document(name))
    text = " ".join(pages(render_template(result, "Template")))
    for label in {p.label for g in result.groups if not g.variants for p in g.places}:
        assert label in text, label
    assert "100 mm: measure it" in text


def test_sheets_of_a_template_cover_the_drawing_and_share_a_strip() -> None:
    tiles = tiles_of(700, 480, "A4")
    assert [t.mark for t in tiles] == ["A1", "A2", "A3", "A4", "A5", "B1", "B2", "B3", "B4", "B5"]
    rows = sorted({t.top for t in tiles})
    columns = sorted({t.left for t in tiles})
    assert columns[-1] + 180 >= 700 and rows[-1] + 250 >= 480
    assert all(b - a == 170 for a, b in pairwise(columns))
    assert [t.right_neighbour for t in tiles if t.top == 0] == [True] * (len(columns) - 1) + [False]
    with pytest.raises(Impossible, match="sheets"):
        tiles_of(5000, 5000, "A4")
