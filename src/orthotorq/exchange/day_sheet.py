"""The shift on paper: what is due, half done, waiting and blocked, with boxes to tick."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Any

from ..core.planning.cautions import ALWAYS
from .pdf import render_html, to_pdf, when


def render_day_sheet(
    person: str,
    day: str,
    dues: Sequence[Any],
    lists: Sequence[Any],
    *,
    paper: str,
    printed_at: datetime,
    seal: str = "",
) -> bytes:
    """PDF of a day: `dues` have equipment_name, joint_name, occasion_text, day, state and why;
    `lists` a title and lines of title, where and words; `seal` is the last one, so that it stands
    on paper too."""
    html = render_html(
        "day.html",
        title=f"Shift of {day}",
        person=person,
        day=day,
        dues=dues,
        lists=lists,
        paper=paper,
        always=ALWAYS,
        calculated=False,
        seal=seal,
        foot=f"Orthotorq · shift of {day} · printed {when(printed_at)}",
    )
    return to_pdf(html)
