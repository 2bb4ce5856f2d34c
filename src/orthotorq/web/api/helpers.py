"""Shared by the resources: paths, dumps, the usual answers."""

from __future__ import annotations

import uuid
from typing import Any
from urllib.parse import quote

from flask import Response, make_response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel
from werkzeug.http import dump_options_header

from ..errors import Problem

REFUSALS: dict[Any, Any] = {"401": Problem, "403": Problem, "404": Problem, "422": Problem}


#: whether the API's document is made of what is registered: half of what a server that only answers
#: would need to start. It is
#: decided once in a process, when the resources are made
DOCUMENTED: bool | None = None


class IdPath(BaseModel):
    """An id in the address."""

    id: uuid.UUID


def decided(documented: bool) -> bool:
    """Whether the resources are documented: as wanted, unless it was decided before."""
    global DOCUMENTED
    DOCUMENTED = documented if DOCUMENTED is None else DOCUMENTED
    return DOCUMENTED


def blueprint(name: str, description: str) -> APIBlueprint:
    """A resource under /api/v1."""
    return APIBlueprint(
        name,
        name,
        url_prefix="/api/v1",
        abp_tags=[Tag(name=name, description=description)],
        abp_responses=REFUSALS,
        abp_security=[{"session": []}],
        doc_ui=decided(documented=True),
    )


def answer(model: BaseModel, status: int = 200, **headers: str) -> Response:
    """A model as JSON."""
    response = make_response(model.model_dump_json(), status)
    response.content_type = "application/json"
    response.headers["Cache-Control"] = "no-store"
    response.headers.update(headers)
    return response


def attachment(name: str, data: bytes, kind: str) -> Response:
    """A file: pages and pictures are opened, everything else is kept; no address shows raw data."""
    response = make_response(data)
    response.content_type = kind
    shown = kind == "application/pdf" or kind.startswith("image/")
    # letters beyond ASCII go into a header in their own way
    named = {"filename": name} if name.isascii() else {"filename*": f"UTF-8''{quote(name)}"}
    response.headers["Content-Disposition"] = dump_options_header(
        "inline" if shown else "attachment", named
    )
    response.headers["Cache-Control"] = "no-store"
    return response
