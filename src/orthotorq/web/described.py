"""The OpenAPI document with the terms of the glossary at the fields that carry their names."""

from __future__ import annotations

from typing import Any

from flask_openapi3.openapi import OpenAPI

from ..core.glossary import glossary

#: names of fields that mean something else, or something wider, than the term of that name
_WIDER = frozenset(
    {"error", "joint", "kit", "note", "plan", "record", "release", "run", "source", "warning"}
)


def describe(document: dict[str, Any]) -> None:
    """Give every field without a description the meaning of the term that it is named by."""
    named = {term.name.lower().replace(" ", "_"): term for term in glossary()}
    terms = {name: term for name, term in named.items() if name not in _WIDER}
    schemas: dict[str, dict[str, Any]] = document.get("components", {}).get("schemas", {})
    for schema in schemas.values():
        for name, field in schema.get("properties", {}).items():
            term = terms.get(name)
            if term is not None and "description" not in field:
                standard = f" ({term.standard})" if term.standard else ""
                field["description"] = f"{term.meaning}{standard}"


class DescribedOpenAPI(OpenAPI):
    """An application whose document is described by the glossary."""

    @property
    def api_doc(self) -> dict[str, Any]:
        """The OpenAPI document."""
        document: dict[str, Any] = super().api_doc
        describe(document)
        return document
