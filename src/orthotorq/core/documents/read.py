"""Reading a plan: format and version first, then every field, then every reference between fields."""
from __future__ import annotations

import hashlib
import json
import math
import re
from collections.abc import Iterable
from typing import Any

import rfc8785
from pydantic import ValidationError

from ..errors import BadDocument, Impossible, OrthotorqError
from ..messages import Message, render
from ..tables.threads import parse_thread
from .base import DocumentErrors, FieldError, field_errors, unknown
from .plan import VERSION, Plan
from .stages import NEEDS_CONDITION, TightenStage

MAX_BYTES = 2_000_000


def parse_json(text: str | bytes) -> Any:
    """JSON as Python values; NaN and Infinity are refused. Raises BadDocument when it is none or too large."""
    if len(text) > MAX_BYTES:
        raise BadDocument(Message.BAD_VALUE, reason=f"The file is larger than {MAX_BYTES // 1_000_000} MB")

    def refuse(name: str) -> float:
        raise ValueError(f"{name} is not a number")

    try:
        data = json.loads(text, parse_constant=refuse)
    except (ValueError, RecursionError) as error:
        raise BadDocument(Message.NOT_JSON, reason=str(error)[:120]) from None
    check_characters(text, data)
    return data


def check_characters(text: str | bytes, data: Any) -> None:
    """Refuse escaped NUL and halves of surrogate pairs: they are JSON, but no text that can be kept or hashed.

    Raises BadDocument.
    """
    raw = text.decode(errors="replace") if isinstance(text, bytes) else text
    folded = raw.lower()
    # an odd number of backslashes: the escape itself, not somebody writing about it
    nul = re.search(r"(?<!\\)(?:\\\\)*\\u0000", folded) is not None
    if "\\ud" in folded:
        try:
            json.dumps(data, ensure_ascii=False).encode()
        except UnicodeEncodeError:
            nul = True
    if nul:
        raise BadDocument(Message.NOT_JSON, reason="a text holds NUL or half of a surrogate pair")


def canonical(document: Any) -> str:
    """The canonical text of a JSON value (RFC 8785)."""
    return rfc8785.dumps(document).decode()


def document_hash(document: Any) -> str:
    """SHA-256 of the canonical text."""
    return hashlib.sha256(canonical(document).encode()).hexdigest()


def read_plan(data: Any) -> Plan:
    """A checked plan from JSON values. Raises DocumentErrors with every field error found."""
    if not isinstance(data, dict) or data.get("format") != "orthotorq.plan":
        raise DocumentErrors.one(BadDocument(Message.NOT_A_PLAN), "format")
    version = data.get("version")
    if type(version) is int and version > VERSION:
        raise DocumentErrors.one(BadDocument(Message.LATER_VERSION, version=version, known=VERSION), "version")
    try:
        plan = Plan.model_validate(data)
    except ValidationError as error:
        raise DocumentErrors(field_errors(error)) from None
    except RecursionError:
        raise DocumentErrors.one(BadDocument(Message.BAD_VALUE, reason="The document is nested too deeply")) from None
    if errors := [*_references(plan), *_geometry(plan)]:
        raise DocumentErrors(errors)
    return plan


def _duplicates(ids: Iterable[str], kind: str, *path: str | int) -> list[FieldError]:
    seen: set[str] = set()
    out = []
    for index, one in enumerate(ids):
        if one in seen:
            text = render(Message.DUPLICATE_ID, id=one, kind=kind)
            out.append(FieldError((*path, index, "id"), Message.DUPLICATE_ID.value, text))
        seen.add(one)
    return out


def _references(plan: Plan) -> list[FieldError]:
    groups = [g.id for g in plan.groups]
    errors = _duplicates(groups, "group", "groups")
    errors += _duplicates((p.id for p in plan.positions), "position", "positions")
    errors += _duplicates((s.id for s in plan.sources), "source", "sources")
    errors += _duplicates((s.id for s in plan.stages), "stage", "stages")
    for name, target in plan.targets.items():
        if name not in groups:
            errors.append(unknown("group", name, groups, "targets", name))
        source = getattr(target, "source", None)
        if source is not None and source not in {s.id for s in plan.sources}:
            errors.append(unknown("source", source, [s.id for s in plan.sources], "targets", name, "source"))
    for i, one in enumerate(plan.sources):
        errors += [unknown("group", g, groups, "sources", i, "groups", j)
                   for j, g in enumerate(one.groups) if g not in groups]
    errors += _chain_errors(plan)
    for i, stage in enumerate(plan.stages):
        errors += _stage_errors(plan, i, stage, groups)
    return errors


def _chain_errors(plan: Plan) -> list[FieldError]:
    errors = []
    for name, chain in plan.chains.items():
        for i, link in enumerate(chain):
            path = ("chains", name, i)
            if isinstance(link, str) and link not in plan.tools:
                errors.append(unknown("tool", link, list(plan.tools), *path))
            if isinstance(link, str) != (i == 0):
                reason = "A chain begins with one tool; adapters and multipliers follow it"
                errors.append(FieldError(path, Message.BAD_VALUE.value, render(Message.BAD_VALUE, reason=reason)))
            if hasattr(link, "adapter") and any(hasattr(before, "multiplier") for before in chain[:i]):
                reason = ("No adapter on a multiplier's output: the bolt torque would depend on where the reaction "
                          "rests; put the adapter on the wrench")
                text = render(Message.CHAIN_IMPOSSIBLE, what=reason)
                errors.append(FieldError(path, Message.CHAIN_IMPOSSIBLE.value, text))
    return errors


def _stage_errors(plan: Plan, i: int, stage: Any, groups: list[str]) -> list[FieldError]:
    path = ("stages", i)
    errors = []
    if stage.kind in NEEDS_CONDITION and not stage.condition:
        errors.append(FieldError((*path, "condition"), Message.CONDITION_MISSING.value,
                                 render(Message.CONDITION_MISSING)))
    for field in ("items", "checks", "passes"):
        errors += _duplicates((x.id for x in getattr(stage, field, [])), field.removesuffix("s"), *path, field)
    named = getattr(stage, "groups", [])
    errors += [unknown("group", g, groups, *path, "groups", j) for j, g in enumerate(named) if g not in groups]
    if isinstance(stage, TightenStage):
        errors += [unknown("chain", c, list(plan.chains), *path, "chains", j)
                   for j, c in enumerate(stage.chains) if c not in plan.chains]
        for group in named:
            if group in groups and group not in plan.targets:
                errors.append(FieldError(("targets",), Message.NO_TARGET.value,
                                         render(Message.NO_TARGET, group=group)))
    return errors


def _geometry(plan: Plan) -> list[FieldError]:
    """Two bolts cannot stand in one place: the chord must leave room for the thread itself."""
    errors = []
    for i, group in enumerate(plan.groups):
        try:
            thread = parse_thread(group.fastener.thread)
        except OrthotorqError as error:
            errors.append(FieldError(("groups", i, "fastener", "thread"), error.code.value, str(error)))
            continue
        chord = group.layout.diameter.base * math.sin(math.pi / group.layout.count)
        if group.layout.count > 1 and chord < thread.diameter:
            problem = Impossible(Message.PLACES_OVERLAP, count=group.layout.count,
                                 diameter=str(group.layout.diameter), spacing=f"{chord:.1f}",
                                 head=f"{thread.diameter:g}")
            errors.append(FieldError(("groups", i, "layout"), problem.code.value, str(problem)))
    return errors
