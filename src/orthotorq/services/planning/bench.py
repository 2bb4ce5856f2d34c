"""The Bench: a document computed, explained, brought from a file; a draft edited, saved and
computed at once."""

from __future__ import annotations

import json
import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import select

from ...core.documents.plan import VERSION, OwnLubricant
from ...core.documents.read import parse_json
from ...core.documents.typed import PlanAsTyped
from ...core.documents.upgrade import upgraded
from ...core.errors import BadDocument
from ...core.forms.errors import DocumentErrors, FieldError
from ...core.forms.result import Result
from ...core.messages import Message, Refusal
from ...core.planning.compute import compute
from ...core.planning.compute.output.alternatives import AlternativeOut, alternatives
from ...core.planning.compute.output.custom_sequence import SequenceOut, sequence_out
from ...core.planning.compute.output.order_choice import OrderChoice, order_choices
from ...core.planning.compute.output.working import WorkingOut, working
from ...core.planning.editing import edit
from ...core.planning.from_manual import Proposed, propose
from ...core.planning.outline import (
    Mended,
    Section,
    fields_of_limits,
    mended_in,
    outline,
    wrong_in,
)
from ...core.planning.unconfirmed_defaults import left_of
from ...core.sums import SUMS, Answer, answer
from ...store.models import OwnEntry, Stock
from ..context import Ctx
from ..errors import NotFound, Refused
from ..permissions import use_case
from .commands import SavedAside, caution_id, keep_draft, locked_plan

#: acts after which an own friction condition that is named is embedded, so that the file stands
#: alone
_NAMES_A_LUBRICANT = ("take_lubricant",)


@dataclass(frozen=True, slots=True)
class BenchView:
    """A document as the Bench shows it: its result where it can be computed, else what is wrong;
    its sections; for every finding where it is mended; the places of values that are still the
    example's; cautions to be waived at release."""

    result: Result | None
    errors: list[FieldError]
    sections: list[Section]
    stops: int
    cautions: int
    opens: list[Mended]
    wrong: list[Mended]
    examples: list[str]
    to_take_on: list[TakeOn]
    #: by `group/limit`, the field that sets it
    limit_fields: dict[str, Mended]


@dataclass(frozen=True, slots=True)
class TakeOn:
    """A caution as it is waived at release: what it is named by, and its sentence."""

    id: str
    text: str


@dataclass(frozen=True, slots=True)
class Edited:
    """A document that takes the draft's place, and the section that should be open."""

    document: PlanAsTyped
    opens: str


@dataclass(frozen=True, slots=True)
class EditedDraft:
    """A draft after an edit: the document where acts changed it, the section that should be open,
    the version under which it is saved, when, and what it comes to."""

    document: PlanAsTyped | None
    opens: str
    version: int
    at: datetime
    view: BenchView


@use_case
def compute_plan(ctx: Ctx, document: Any) -> Result:
    """The result of a document; nothing is stored. Raises DocumentErrors."""
    return compute(document)


@use_case
def look_at_plan(ctx: Ctx, document: Any) -> BenchView:
    """A document as the Bench shows it, whatever is wrong with it."""
    return view_of(document)


def view_of(document: Any) -> BenchView:
    """The computing itself."""
    result, errors = None, list[FieldError]()
    try:
        result = compute(document)
    except DocumentErrors as error:
        errors = error.errors
    open_ = [f.severity for f in result.findings if f.waived is None] if result else []
    sections = outline(document, result, errors)
    examples = (
        ["/".join(map(str, place)) for place, _ in left_of(document).values()]
        if isinstance(document, dict)
        else []
    )
    cautions = (
        [f for f in result.findings if f.severity == "caution" and f.waived is None]
        if result
        else []
    )
    return BenchView(
        result,
        errors,
        sections,
        open_.count("stop"),
        len(cautions),
        [mended_in(f, document, sections) for f in result.findings] if result else [],
        wrong_in(errors, document, sections) if isinstance(document, dict) else [],
        examples,
        [TakeOn(caution_id(f), f.text) for f in cautions],
        fields_of_limits(result, document, sections) if result else {},
    )


@use_case
def edit_draft(
    ctx: Ctx,
    plan_id: uuid.UUID,
    base_version: int,
    document: Any,
    acts: Sequence[tuple[str, dict[str, Any]]],
) -> EditedDraft | SavedAside:
    """A draft as typed, changed by acts, saved and computed: one state, under one version.

    Without a document the acts are done on the draft that is kept. When the base is no longer the
    current version the text is kept aside. Raises errors of the core for an act that does not fit;
    nothing is saved then.
    """
    typed = document
    if typed is None:
        typed = upgraded(json.loads(locked_plan(ctx, plan_id).draft), VERSION)
    changed, opens = typed, ""
    for act, params in acts:
        changed, opens = edit(changed, act, params)
        if act in _NAMES_A_LUBRICANT:
            _embed(ctx, changed, str(params.get("lubricant")))
    if document is None and not acts:
        plan = locked_plan(ctx, plan_id)
        if plan.version != base_version:
            raise Refused(Refusal.DRAFT_MOVED)
        return EditedDraft(None, "", plan.version, plan.draft_at, view_of(changed))
    kept = keep_draft(ctx, plan_id, base_version, changed)
    if isinstance(kept, SavedAside):
        return kept
    return EditedDraft(changed if acts else None, opens, kept.version, kept.at, view_of(changed))


def _embed(ctx: Ctx, document: Any, lubricant: str) -> None:
    """Embed a copy of an own friction condition that a plan names."""
    own = ctx.session.scalar(
        select(OwnEntry).where(
            OwnEntry.kind == "lubricant", OwnEntry.key == lubricant, OwnEntry.active
        )
    )
    if own is not None:
        document.setdefault("definitions", {}).setdefault("lubricants", {}).setdefault(
            lubricant, json.loads(own.body)
        )


@use_case
def read_plan_file(ctx: Ctx, text: str, joint: str | None) -> Edited:
    """The document of a plan file, for a joint; what is wrong inside is named on the Bench. Raises
    BadDocument."""
    found = parse_json(text)
    if not isinstance(found, dict) or found.get("format") != "orthotorq.plan":
        raise BadDocument(Message.NOT_A_PLAN)
    if not all(
        isinstance(found.get(field), list) and found[field] for field in ("groups", "stages")
    ):
        raise BadDocument(
            Message.BAD_VALUE,
            reason="This plan file has no groups of bolts and no stages that could be shown",
        )
    whole = {"targets": {}, "tools": {}, "chains": {}, **upgraded(found, VERSION)}
    return Edited({**whole, "joint": joint} if joint else whole, "")


@use_case
def read_manual(ctx: Ctx, document: Any, group: str, text: str) -> Proposed:
    """A line from a manual to a group of a document; nothing is stored."""
    if not isinstance(document, dict) or not isinstance(document.get("stages"), list):
        raise BadDocument(Message.NOT_A_PLAN)
    return propose(document, group, text)


@use_case
def explain_figure(ctx: Ctx, document: Any, figure: str) -> WorkingOut:
    """The working of one figure of a document; nothing is stored."""
    return working(document, figure)


@use_case
def other_lubricants(ctx: Ctx, document: Any, group: str) -> list[AlternativeOut]:
    """What each lubricant that is in store would do in a group of a document; nothing is stored."""
    wanted = list(ctx.session.scalars(select(Stock.lubricant).order_by(Stock.lubricant)))
    rows = ctx.session.scalars(
        select(OwnEntry).where(OwnEntry.kind == "lubricant", OwnEntry.active)
    )
    own = {e.key: OwnLubricant.model_validate_json(e.body) for e in rows}
    return alternatives(document, group, wanted, own)


@use_case
def compare_orders(ctx: Ctx, document: Any, group: str) -> list[OrderChoice]:
    """The orders that a group of a document offers, with their measures; nothing is stored."""
    return order_choices(document, group)


@use_case
def read_custom_sequence(
    ctx: Ctx, document: Any, group: str, text: str, repeats: bool
) -> SequenceOut:
    """What a typed sequence of bolts comes to in a group of a document; nothing is stored."""
    return sequence_out(document, group, text, repeats)


@use_case
def answer_sum(ctx: Ctx, name: str, texts: dict[str, Any]) -> Answer:
    """A quick sum; nothing is stored. Raises NotFound for no such sum, errors of the core for bad
    fields."""
    if name not in SUMS:
        raise NotFound("sum")
    return answer(name, texts)
