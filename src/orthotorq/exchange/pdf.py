"""HTML templates to PDF; nothing is fetched but the fonts that ship with the package."""

from __future__ import annotations

from datetime import datetime
from pathlib import Path
from typing import Any
from urllib.parse import unquote, urlsplit

from jinja2 import Environment, FileSystemLoader, StrictUndefined, select_autoescape

from ..core.planning.findings.rule import SEVERITIES
from ..local_time import clock_text, moment_text
from .sandboxed_worker import apart

_HERE = Path(__file__).parent
_ENVIRONMENT = Environment(
    loader=FileSystemLoader(_HERE / "templates"),
    autoescape=select_autoescape(["html"]),
    undefined=StrictUndefined,
    trim_blocks=True,
    lstrip_blocks=True,
)


def lasting(seconds: float) -> str:
    """A time as one says it.

    >>> lasting(7200), lasting(1500), lasting(45)
    ('2 h', '25 min', '45 s')
    """
    if seconds >= 7200 and seconds % 1800 == 0:
        return f"{seconds / 3600:g} h"
    return f"{seconds / 60:g} min" if seconds >= 90 else f"{seconds:g} s"


def when(value: datetime | str) -> str:
    """A time for paper, at the place: 24 Nov 2026, 14:02 UTC."""
    return moment_text(datetime.fromisoformat(value) if isinstance(value, str) else value)


def clock(value: str) -> str:
    """The time of day of an ISO time, at the place."""
    return clock_text(datetime.fromisoformat(value))


_ENVIRONMENT.filters["when"] = when
_ENVIRONMENT.filters["lasting"] = lasting
_ENVIRONMENT.filters["clock"] = clock
_ENVIRONMENT.filters["severity"] = SEVERITIES.__getitem__


def render_html(template: str, **values: Any) -> str:
    """A template of this package filled in."""
    return _ENVIRONMENT.get_template(template).render(**values)


def is_own(url: str) -> bool:
    """Whether a page may refer to an address: a file of this package, or a picture inside the
    page."""
    if url.startswith(("data:image/svg+xml;", "data:image/jpeg;base64,")):
        return True
    parts = urlsplit(url)
    named = Path(unquote(parts.path))
    return parts.scheme == "file" and not parts.netloc and named.resolve().is_relative_to(_HERE)


def to_pdf(html: str) -> bytes:
    """The PDF of a page, made in a process of its own; only files of this package and pictures
    inside the page can be referred to. Raises Impossible where it takes too long or too much
    memory."""
    return apart(_written, html)


def _written(html: str) -> bytes:
    from weasyprint import HTML, URLFetcher  # only the process that prints loads it

    class Own(URLFetcher):  # type: ignore[misc]
        """Opens the package's fonts and the pictures that stand in the page itself, and nothing
        else."""

        def fetch(self, url: str, headers: dict[str, str] | None = None) -> Any:
            """Fetch one of the package's own files."""
            if not is_own(url):
                raise ValueError(f"not fetched: {url[:60]}")
            return super().fetch(url, headers)

    data: bytes = HTML(string=html, base_url=_HERE.as_uri() + "/", url_fetcher=Own()).write_pdf()
    return data
