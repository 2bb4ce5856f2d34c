"""Field errors by path: every one found, in our codes and sentences, whoever found it."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from ..errors import OrthotorqError, UnknownName
from ..messages import Message, render


@dataclass(frozen=True, slots=True)
class FieldError:
    """One thing wrong at one field: path in the document, code and sentence."""

    path: tuple[str | int, ...]
    code: str
    text: str

    def pointer(self) -> str:
        """The path as text, `groups/0/layout/count`."""
        return "/".join(str(part) for part in self.path)


class DocumentErrors(ValueError):
    """A document that is refused: every field error found, never just the first."""

    def __init__(self, errors: list[FieldError]) -> None:
        self.errors = errors
        super().__init__("; ".join(f"{e.pointer()}: {e.text}" for e in errors))

    @classmethod
    def one(cls, error: OrthotorqError, *path: str | int) -> DocumentErrors:
        """A single field error from an error of the core."""
        return cls([FieldError(path or error.path, error.code.value, str(error))])


_EXPECTED = {
    "string_type": "text",
    "int_type": "a whole number",
    "float_type": "a number",
    "bool_type": "true or false",
    "list_type": "a list",
    "dict_type": "an object",
    "model_type": "an object",
    "int_from_float": "a whole number",
    "finite_number": "a finite number",
    "model_attributes_type": "an object",
    "is_instance_of": "an object",
}


def _sentence(
    kind: str, context: dict[str, Any], value: object, field: str
) -> tuple[Message, dict[str, object]]:
    """Our code and parameters for one of pydantic's own complaints."""
    shown = str(value)[:60]
    if kind == "missing":
        return Message.MISSING_FIELD, {}
    if kind == "extra_forbidden":
        return Message.UNKNOWN_FIELD, {"field": field}
    if kind in _EXPECTED:
        return Message.WRONG_TYPE, {"expected": _EXPECTED[kind]}
    if kind in ("literal_error", "enum"):
        return Message.CHOICE, {"value": shown, "choices": context.get("expected", "")}
    if kind in ("union_tag_invalid", "union_tag_not_found"):
        tag = str(context.get("tag", "~"))[1:41]
        choices = str(context.get("expected_tags", "")).replace("~", "")
        return (
            (Message.CHOICE, {"value": tag, "choices": choices})
            if tag
            else (Message.MISSING_FIELD, {})
        )
    bounds = {
        "greater_than": "more than {gt}",
        "greater_than_equal": "at least {ge}",
        "less_than": "less than {lt}",
        "less_than_equal": "at most {le}",
    }
    if kind in bounds:
        return Message.OUT_OF_RANGE, {"value": shown, "range": bounds[kind].format(**context)}
    lengths = {
        "too_short": "at least {min_length}",
        "too_long": "at most {max_length}",
        "string_too_short": "at least {min_length}",
        "string_too_long": "at most {max_length}",
    }
    if kind == "string_too_short" and not shown.strip("“” "):
        return Message.MISSING_FIELD, {}
    if kind in lengths:
        code = Message.TEXT_LENGTH if kind.startswith("string") else Message.LIST_LENGTH
        return code, {"range": lengths[kind].format(**context)}
    return Message.BAD_VALUE, {"reason": "This value cannot be used here"}


def field_errors(error: ValidationError) -> list[FieldError]:
    """Pydantic's errors as ours: same paths, our codes and sentences, never an echo of long
    input."""
    out = []
    for item in error.errors(include_url=False):
        # pydantic puts the tag of a union into the path; a reader of the file does not have it
        # there
        path = tuple(p for p in item["loc"] if not (isinstance(p, str) and p.startswith("~")))
        cause = item.get("ctx", {}).get("error")
        if isinstance(cause, OrthotorqError):
            out.append(FieldError((*path, *cause.path), cause.code.value, str(cause)))
            continue
        if item["type"].startswith("union_tag"):
            path = (*path, str(item["ctx"]["discriminator"]).removesuffix("()").split("_")[0])
        code, params = _sentence(
            item["type"], item.get("ctx", {}), item.get("input"), str(path[-1]) if path else ""
        )
        out.append(FieldError(path, code.value, render(code, **params)))
    return out


def unknown(kind: str, identifier: str, known: list[str], *path: str | int) -> FieldError:
    """The field error for an id that is not in the plan."""
    error = UnknownName(
        Message.UNKNOWN_REFERENCE, id=identifier, kind=kind, known=", ".join(known) or "none"
    )
    return FieldError(path, error.code.value, str(error))


class FieldErrors:
    """Errors found while a document is worked through, with the path of their field; work on other
    fields goes on."""

    def __init__(self) -> None:
        self.found: list[FieldError] = []

    @contextmanager
    def at(self, *path: str | int) -> Iterator[None]:
        """Errors of the core raised inside become field errors at a path."""
        try:
            yield
        except OrthotorqError as error:
            self.found.append(FieldError((*path, *error.path), error.code.value, str(error)))

    def raise_found(self) -> None:
        """Raise DocumentErrors when anything was found."""
        if self.found:
            raise DocumentErrors(self.found)
