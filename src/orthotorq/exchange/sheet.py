"""The sheet to carry before a run."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any

from ..core.forms.group import PlacePoint
from ..core.forms.result import Result
from ..core.forms.stage import PassOut
from ..core.kinds.stage_kind import OCCASIONS
from ..core.kinds.stages.tighten import IMPACT
from ..core.planning.cautions import ALWAYS, CALCULATED, CAUTIONS
from ..core.planning.compute.output.working import WorkingOut
from ..core.running import first_variants, groups_of
from .codes import qr_svg
from .joint_face import joint_face_svg
from .pdf import lasting, render_html, to_pdf, when
from .sandboxed_worker import apart
from .typeset import formula_uri
from .work_page import work_page


@dataclass(frozen=True, slots=True)
class SheetHead:
    """Where a sheet belongs."""

    equipment: str
    joint: str
    revision: int
    released_by: str
    released_at: datetime


def face_of(result: Result, states: dict[str, str] | None = None, width_mm: float = 52) -> str:
    """The joint face of a result in its first way; of groups that stand in the same place only the
    first is drawn."""
    shown = groups_of(result, first_variants(result))
    if states is not None:
        # a record draws the bolts that it had
        shown = [g for g in result.groups if any(p.id in states for p in g.places)] or shown
    first = shown[0].thread
    taken: dict[tuple[float, float], PlacePoint] = {}
    for place in (p for g in shown for p in g.places):
        taken.setdefault((round(place.x_mm, 1), round(place.y_mm, 1)), place)
    ring = shown[0].layout == "circle"
    # on a sheet the way of a custom sequence is drawn; a record draws how its bolts stand
    path = _custom_path(result, {g.id for g in shown}) if states is None else ()
    return joint_face_svg(
        list(taken.values()),
        first.across_flats_mm or 1.5 * first.diameter_mm,
        states,
        width_mm,
        ring,
        path,
    )


def _custom_path(result: Result, groups: set[str]) -> list[str]:
    """Places in the order of the last pass that follows a custom sequence; none where no pass
    does."""
    own = [
        p for s in result.stages for p in s.passes if p.order_kind == "custom" and p.group in groups
    ]
    return [move[0] for move in own[-1].order] if own else []


def _face_width(result: Result) -> float:
    """How wide the joint is drawn [mm]: many bolts need room for their numbers."""
    most = max((len(g.places) for g in result.groups), default=1)
    return 52 if most <= 12 else 66 if most <= 24 else 84


def _ways(one: PassOut) -> str:
    """What a pass asks for besides a torque, in words."""
    words = ["custom sequence"] if one.order_kind == "custom" else []
    if one.turn_deg is not None:
        words.append(f"turn {one.turn_deg:g}°" + (f", by {one.read_by}" if one.read_by else ""))
    if one.wait_s is not None:
        words.append(f"wait {lasting(one.wait_s)}")
    if one.slacken_first:
        words.append("slacken first")
    if one.before_each:
        words.append(f"first: {one.before_each}")
    if one.until == "none_moves":
        words.append(f"rounds until none moves, at most {one.rounds_max}")
    elif one.until == "gap":
        words.append(
            f"rounds until the gap is even within {one.max_spread_mm:g} mm, at most "
            f"{one.rounds_max}"
        )
    elif one.rounds_max > 1:
        words.append(f"{one.rounds_max} rounds")
    if one.repeat_still:
        words.append(
            f"pull until it does not turn {one.repeat_still} times, at most {one.repeat_max}"
        )
    return "; ".join(words)


def _typeset(one: WorkingOut) -> dict[str, Any]:
    """A working with its formulas as pictures."""
    steps = [
        {
            "name": s.name,
            "picture": formula_uri(s.tex),
            "result": s.result,
            "words": s.result_words,
            "source": s.source,
            "approximation": s.approximation,
            "symbol": formula_uri(s.result_tex),
            "inputs": [
                {"symbol": formula_uri(i.tex), "words": i.words, "value": i.value} for i in s.inputs
            ],
        }
        for s in one.steps
    ]
    return {"title": one.title, "steps": steps, "notes": one.notes}


def _meters(result: Result) -> list[str]:
    """What is written down beside the date: the meters that rechecks count by."""
    return list(dict.fromkeys(one.meter for one in result.rechecks if one.meter != "d"))


def render_sheet(
    result: Result,
    head: SheetHead,
    workings: list[WorkingOut],
    *,
    made_at: datetime,
    link: str = "",
    paper: str = "A4",
) -> bytes:
    """PDF of a released plan: one page to work from, then pages to read (kit, stages with their
    cautions, findings, working).

    `link` leads to the joint, as a QR code; `paper` is A4 or Letter. Made in a process of its own;
    raises Impossible where that takes too long or too much memory.
    """
    return apart(_sheet, result, head, workings, made_at=made_at, link=link, paper=paper)


def _sheet(
    result: Result,
    head: SheetHead,
    workings: list[WorkingOut],
    *,
    made_at: datetime,
    link: str,
    paper: str,
) -> bytes:
    labels = {"-": "–", **{p.id: p.label for g in result.groups for p in g.places}}
    ways = {(s.id, p.id, p.group): _ways(p) for s in result.stages for p in s.passes}
    html = render_html(
        "sheet.html",
        paper=paper,
        work=work_page(result),
        meters=_meters(result),
        link=link,
        code=qr_svg(link) if link else "",
        occasion=lambda codes: ", ".join(OCCASIONS[code].lower() for code in codes),
        impact=IMPACT,
        calculated=result.calculated,
        calculated_text=CALCULATED,
        face=face_of(result, width_mm=_face_width(result)),
        title=result.title,
        result=result,
        head=head,
        labels=labels,
        ways=ways,
        cautions=CAUTIONS,
        always=ALWAYS,
        scaled=any(x.scale for s in result.stages for p in s.passes for x in p.settings),
        workings=[_typeset(w) for w in workings],
        foot=(
            f"Orthotorq · {head.equipment} › {head.joint} · revision {head.revision} · made "
            f"{when(made_at)}"
        ),
    )
    return to_pdf(html)
