"""Formulas for paper: TeX of the working to SVG, with the mathtext that matplotlib ships; no TeX
needs to be installed."""

from __future__ import annotations

import base64
import io
import threading
from functools import lru_cache

#: what the screen's typesetting knows and mathtext writes otherwise
_OTHER = {
    r"\tfrac": r"\frac",
    r"\dfrac": r"\frac",
    r"\lvert": "|",
    r"\rvert": "|",
    r"\text": r"\mathrm",
    r"\le ": r"\leq ",
    r"\ge ": r"\geq ",
}


#: the setter keeps its settings for all threads at once: one formula at a time, and one import of
#: it
_ONE = threading.Lock()


@lru_cache(maxsize=512)
def formula_uri(tex: str) -> str:
    """A data address of the formula as SVG, at 10 pt. Raises ValueError for TeX that mathtext does
    not know."""
    for theirs, ours in _OTHER.items():
        tex = tex.replace(theirs, ours)
    out = io.BytesIO()
    with _ONE:
        import matplotlib as mpl  # costs a second to import; only sheets with workings need it

        mpl.use("svg")
        from matplotlib.mathtext import math_to_image

        with mpl.rc_context(
            {"mathtext.fontset": "dejavusans", "svg.hashsalt": "orthotorq", "svg.fonttype": "path"}
        ):
            math_to_image(f"${tex}$", out, dpi=72, format="svg")
    return "data:image/svg+xml;base64," + base64.b64encode(out.getvalue()).decode()
