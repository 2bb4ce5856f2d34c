"""Labels with QR codes for joints and tools: a sheet to cut, or to print on self-adhesive paper."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from .codes import qr_svg
from .pdf import render_html, to_pdf
from .sandboxed_worker import apart


@dataclass(frozen=True, slots=True)
class Label:
    """One label: what is read first, what below it, and the address that its code opens."""

    title: str
    words: str
    below: str
    address: str


def render_labels(labels: Sequence[Label], paper: str) -> bytes:
    """PDF of labels of 62 x 34 mm, three in a row, each with its code of 24 mm. Made in a
    process of its own."""
    return apart(_labels, labels, paper)


def _labels(labels: Sequence[Label], paper: str) -> bytes:
    html = render_html(
        "labels.html",
        title="Labels",
        paper=paper,
        labels=[(one, qr_svg(one.address, 24)) for one in labels],
        always="",
        calculated=False,
        foot="Orthotorq · labels · print at 100 %",
    )
    return to_pdf(html)
