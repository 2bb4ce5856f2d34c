"""A plan as somebody types it: any object, right or wrong, published with the schema of a right
one."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic_core import CoreSchema, core_schema

from .plan import Plan


class _AsTyped:
    """Pydantic annotation: nothing is checked here; reading (documents.read) names every field that
    is wrong."""

    def __get_pydantic_core_schema__(
        self, source: Any, handler: GetCoreSchemaHandler
    ) -> CoreSchema:
        return core_schema.dict_schema(core_schema.str_schema(), core_schema.any_schema())

    def __get_pydantic_json_schema__(
        self, schema: CoreSchema, handler: GetJsonSchemaHandler
    ) -> dict[str, Any]:
        return handler(Plan.__pydantic_core_schema__)


PlanAsTyped = Annotated[dict[str, Any], _AsTyped()]
