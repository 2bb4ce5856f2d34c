"""JavaScript that the browser really loads, compressed, by screen."""

from __future__ import annotations

from collections.abc import Iterator

from .core import Figure
from .live import signed_in


def measure() -> Iterator[Figure]:
    """Transferred JavaScript of the shell and with the Bench."""
    with signed_in() as page:
        seen: dict[str, int] = {}
        page.on(
            "response",
            lambda r: (
                seen.__setitem__(r.url, int(r.headers.get("content-length", "0")))
                if r.url.endswith(".js")
                else None
            ),
        )
        page.goto(page.url.replace("/equipment", "/sign-in"), wait_until="networkidle")
        page.goto(page.url.replace("/sign-in", "/equipment"), wait_until="networkidle")
        yield (
            "JavaScript of sign-in and shell, gzip",
            f"{sum(seen.values()) / 1e3:.0f} kB",
            "at most 130 kB",
        )
        page.get_by_role("link", name="Bench").first.click()
        page.get_by_label("Pass tape, step").wait_for()
        page.wait_for_load_state("networkidle")
        yield (
            "JavaScript with the Bench, gzip",
            f"{sum(seen.values()) / 1e3:.0f} kB",
            "at most 250 kB",
        )
