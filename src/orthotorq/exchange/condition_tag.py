"""The tag that hangs on a machine whose joint must not be used, or only with limits."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from .codes import qr_svg
from .pdf import render_html, to_pdf
from .sandboxed_worker import apart


@dataclass(frozen=True, slots=True)
class TagLine:
    """One position on the tag: where, its condition in large words, why, what clears it."""

    where: str
    title: str
    stop: bool
    why: str
    clears: str


@dataclass(frozen=True, slots=True)
class Tag:
    """A tag: machine and joint, its lines, and the address of its joint page."""

    machine: str
    joint: str
    lines: Sequence[TagLine]
    address: str
    by: str
    at: datetime


def render_tag(tag: Tag, paper: str) -> bytes:
    """PDF of a tag on one page. Made in a process of its own."""
    return apart(_tag, tag, paper)


def _tag(tag: Tag, paper: str) -> bytes:
    html = render_html(
        "condition_tag.html",
        title=f"Tag: {tag.joint}",
        paper=paper,
        tag=tag,
        code=qr_svg(tag.address, 34),
        always="",
        calculated=False,
        foot="Orthotorq · condition tag",
    )
    return to_pdf(html)
