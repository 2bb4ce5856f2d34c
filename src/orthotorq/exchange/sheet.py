"""The sheet to carry before a run."""
from __future__ import annotations

from datetime import datetime

from ..core.documents.result import Result
from ..core.planning.cautions import ALWAYS, CALCULATED, CAUTIONS
from .joint_face import joint_face_svg
from .pdf import render_html, to_pdf, when


def _number(place: str) -> str:
    return place.rpartition(".")[2]


def face_of(result: Result, states: dict[str, str] | None = None, width_mm: float = 62) -> str:
    """The joint face of a result: all groups together, to the first group's hexagon."""
    first = result.groups[0].thread
    places = [p for g in result.groups for p in g.places]
    return joint_face_svg(places, first.across_flats_mm or 1.5 * first.diameter_mm, states, width_mm)


def render_sheet(result: Result, *, equipment: str, joint: str, revision: int, released_by: str, released_at: datetime,
                 printed_at: datetime) -> bytes:
    """PDF of a released plan: figures, order, settings, cautions at their stage, findings."""
    shown = result.model_dump()
    for stage in shown["stages"]:
        for one in stage["passes"]:
            one["order"] = [[{"number": _number(p)} for p in move] for move in one["order"]]
    html = render_html(
        "sheet.html", title=result.title, result={**shown, "findings": result.findings}, equipment=equipment, joint=joint,
        revision=revision, released_by=released_by, released_at=released_at, cautions=CAUTIONS, always=ALWAYS,
        calculated=result.calculated, calculated_text=CALCULATED, face=face_of(result),
        foot=f"Orthotorq · {equipment} › {joint} · revision {revision} · printed {when(printed_at)}")
    return to_pdf(html)
