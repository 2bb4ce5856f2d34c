"""One file per resource; a handler does schema, operation and dump, and nothing else."""
from __future__ import annotations

from typing import Any

from flask_openapi3.openapi import OpenAPI


def register(app: OpenAPI) -> None:
    """Register every resource."""
    from . import bench, devices, equipment, exchange, plans, records, runs, session, sums, tables, tools

    for module in (session, equipment, bench, sums, tables, tools, plans, exchange, runs, records, devices):
        api: Any = module.api
        app.register_api(api)
