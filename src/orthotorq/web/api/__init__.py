"""One file per resource; a handler does schema, operation and dump, and nothing else."""

from __future__ import annotations

from typing import Any

from flask_openapi3.openapi import OpenAPI


def register(app: OpenAPI, documented: bool) -> None:
    """Register every resource; whether they are documented the first application of a process
    decides, they are made once. Raises RuntimeError where a document is wanted of resources that
    were made without."""
    from . import helpers

    if not helpers.decided(documented) and documented:
        raise RuntimeError(
            "the first application of this process was made without the API's document"
        )
    from . import (
        bench,
        conditions,
        devices,
        equipment,
        exchange,
        factors,
        people,
        plans,
        rechecks,
        records,
        registers,
        runs,
        session,
        sums,
        tables,
        tools,
    )

    for module in (
        session,
        factors,
        people,
        rechecks,
        conditions,
        equipment,
        registers,
        bench,
        sums,
        tables,
        tools,
        plans,
        exchange,
        runs,
        records,
        devices,
    ):
        api: Any = module.api
        app.register_api(api)
    app.register_blueprint(rechecks.feed)
