"""Commands about the web application."""

from __future__ import annotations

import json
import os
import sys
import urllib.error
import urllib.request
from pathlib import Path

import click


@click.command()
@click.option("-o", "output", type=click.Path(path_type=Path), required=True, help="File to write.")
def openapi(output: Path) -> None:
    """Write the OpenAPI document; no database is opened."""
    os.environ.setdefault("ORTHOTORQ_DATABASE_URL", "postgresql+psycopg://nobody@127.0.0.1:1/none")
    os.environ.setdefault("ORTHOTORQ_SECRET_KEY", "only for writing the document, never served")
    from ..web import create_app

    document = create_app().api_doc  # type: ignore[attr-defined]
    output.parent.mkdir(parents=True, exist_ok=True)
    output.write_text(
        json.dumps(document, indent=1, ensure_ascii=False, default=str), encoding="utf-8"
    )


@click.command()
@click.argument("address")
def health(address: str) -> None:
    """Exit 0 when the application at ADDRESS answers and has its database."""
    try:
        with urllib.request.urlopen(f"{address}/health", timeout=3) as answer:
            sys.exit(0 if answer.status == 200 else 1)
    except (urllib.error.URLError, OSError) as error:
        click.echo(str(error), err=True)
        sys.exit(1)
