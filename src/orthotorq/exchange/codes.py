"""QR codes for paper."""

from __future__ import annotations

import io

import segno


def qr_svg(text: str, width_mm: float = 18) -> str:
    """A QR code as SVG, so wide with its quiet zone."""
    out = io.BytesIO()
    code = segno.make(text, error="m", micro=False)
    code.save(
        out, kind="svg", xmldecl=False, svgns=True, nl=False, border=2, dark="#000", omitsize=True
    )
    return (
        out.getvalue()
        .decode()
        .replace("<svg ", f'<svg style="width:{width_mm}mm;height:{width_mm}mm" ', 1)
    )


def qr_address(text: str) -> str:
    """A QR code as an address that a page shows as a picture."""
    uri: str = segno.make(text, error="m", micro=False).svg_data_uri(
        scale=4, border=2, dark="#000", light="#fff"
    )
    return uri
