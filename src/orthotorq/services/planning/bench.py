"""The Bench: a document computed, explained, changed by an act, brought from a file; nothing is stored."""
from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any

from sqlalchemy import select

from ...core.documents.plan import VERSION, OwnLubricant
from ...core.documents.read import parse_json
from ...core.documents.typed import PlanAsTyped
from ...core.documents.upgrade import upgraded
from ...core.errors import BadDocument
from ...core.forms.errors import DocumentErrors, FieldError
from ...core.forms.result import Result
from ...core.messages import Message
from ...core.planning.compute import compute
from ...core.planning.compute.alternatives import AlternativeOut, alternatives
from ...core.planning.compute.order_choice import OrderChoice, order_choices
from ...core.planning.compute.working import WorkingOut, working
from ...core.planning.editing import edit
from ...core.planning.examples import left_of
from ...core.planning.from_manual import Proposed, propose
from ...core.planning.outline import Mended, Section, mended_in, outline, wrong_in
from ...core.sums import SUMS, Answer, answer
from ...store.models import OwnEntry, Stock
from ..context import Ctx
from ..errors import NotFound
from ..permissions import use_case
from .commands import caution_id

#: acts after which an own friction condition that is named is embedded, so that the file stands alone
_NAMES_A_LUBRICANT = ("take_lubricant",)


@dataclass(frozen=True, slots=True)
class BenchView:
    """A document as the Bench shows it: its result where it can be computed, else what is wrong; its sections; for every finding
    where it is mended; the places of values that are still the example's; cautions to be taken on at release."""

    result: Result | None
    errors: list[FieldError]
    sections: list[Section]
    stops: int
    cautions: int
    opens: list[Mended]
    wrong: list[Mended]
    examples: list[str]
    to_take_on: list[TakeOn]


@dataclass(frozen=True, slots=True)
class TakeOn:
    """A caution as it is taken on at release: what it is named by, and its sentence."""

    id: str
    text: str


@dataclass(frozen=True, slots=True)
class Edited:
    """A document after an act, and the section that should be open."""

    document: PlanAsTyped
    opens: str


@use_case
def compute_plan(ctx: Ctx, document: Any) -> Result:
    """The result of a document; nothing is stored. Raises DocumentErrors."""
    return compute(document)


@use_case
def look_at_plan(ctx: Ctx, document: Any) -> BenchView:
    """A document as the Bench shows it, whatever is wrong with it."""
    result, errors = None, list[FieldError]()
    try:
        result = compute(document)
    except DocumentErrors as error:
        errors = error.errors
    open_ = [f.severity for f in result.findings if f.waived is None] if result else []
    sections = outline(document, result, errors)
    examples = ["/".join(map(str, place)) for place, _ in left_of(document).values()] if isinstance(document, dict) else []
    cautions = [f for f in result.findings if f.severity == "caution" and f.waived is None] if result else []
    return BenchView(result, errors, sections, open_.count("stop"), len(cautions),
                     [mended_in(f, document, sections) for f in result.findings] if result else [],
                     wrong_in(errors, document, sections) if isinstance(document, dict) else [], examples,
                     [TakeOn(caution_id(f), f.text) for f in cautions])


@use_case
def edit_plan(ctx: Ctx, document: Any, act: str, params: dict[str, Any]) -> Edited:
    """A document changed by an act of its planner. Raises errors of the core for an act that does not fit."""
    changed, opens = edit(document, act, params)
    if act in _NAMES_A_LUBRICANT:
        _embed(ctx, changed, str(params.get("lubricant")))
    return Edited(changed, opens)


def _embed(ctx: Ctx, document: Any, lubricant: str) -> None:
    """Embed a copy of an own friction condition that a plan names."""
    own = ctx.session.scalar(select(OwnEntry).where(OwnEntry.kind == "lubricant", OwnEntry.key == lubricant, OwnEntry.active))
    if own is not None:
        document.setdefault("definitions", {}).setdefault("lubricants", {}).setdefault(lubricant, json.loads(own.body))


@use_case
def read_plan_file(ctx: Ctx, text: str, joint: str | None) -> Edited:
    """The document of a plan file, for a joint; what is wrong inside is named on the Bench. Raises BadDocument."""
    found = parse_json(text)
    if not isinstance(found, dict) or found.get("format") != "orthotorq.plan":
        raise BadDocument(Message.NOT_A_PLAN)
    if not all(isinstance(found.get(field), list) and found[field] for field in ("groups", "stages")):
        raise BadDocument(Message.BAD_VALUE, reason="This plan file has no groups of bolts and no stages that could be shown")
    whole = {"targets": {}, "tools": {}, "chains": {}, **upgraded(found, VERSION)}
    return Edited({**whole, "joint": joint} if joint else whole, "")


@use_case
def read_manual(ctx: Ctx, document: Any, group: str, text: str) -> Proposed:
    """What a line of a manual says to a group of a document; nothing is stored."""
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
    rows = ctx.session.scalars(select(OwnEntry).where(OwnEntry.kind == "lubricant", OwnEntry.active))
    own = {e.key: OwnLubricant.model_validate_json(e.body) for e in rows}
    return alternatives(document, group, wanted, own)


@use_case
def compare_orders(ctx: Ctx, document: Any, group: str) -> list[OrderChoice]:
    """The orders that a group of a document offers, with their measures; nothing is stored."""
    return order_choices(document, group)


@use_case
def answer_sum(ctx: Ctx, name: str, texts: dict[str, Any]) -> Answer:
    """A quick sum; nothing is stored. Raises NotFound for no such sum, errors of the core for bad fields."""
    if name not in SUMS:
        raise NotFound("sum")
    return answer(name, texts)
