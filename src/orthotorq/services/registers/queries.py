"""Equipment and joints as lists and pages show them."""
from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import ColumnElement, or_, select
from sqlalchemy.orm import selectinload

from ...core.documents.plan import JOINT_KINDS
from ...core.forms.group import GroupOut, PlacePoint
from ...core.forms.result import Result
from ...core.running import first_variants, groups_of
from ...core.running.actions import STATUS
from ...core.running.standing import STANDING
from ...core.units import show
from ...store.models import Equipment, Joint, Plan, Revision, Run
from ..context import Ctx
from ..errors import NotFound
from ..permissions import allowed, use_case


@dataclass(frozen=True, slots=True)
class Glyph:
    """What the joint face needs in small: places of the released plan, mm."""

    places: list[PlacePoint]
    across_flats_mm: float
    diameter_mm: float


@dataclass(frozen=True, slots=True)
class RunLine:
    """One run in a list."""

    id: uuid.UUID
    number: int
    status: str
    started_at: datetime
    plan_title: str
    revision: int
    status_text: str
    under_way: bool


@dataclass(frozen=True, slots=True)
class PlanLine:
    """One plan of a joint."""

    id: uuid.UUID
    title: str
    draft_at: datetime
    revision_id: uuid.UUID | None
    revision_number: int | None
    released_at: datetime | None
    put_away: bool


@dataclass(frozen=True, slots=True)
class NextStep:
    """What somebody would do with a joint next, in a word; `work` when it is their own work."""

    words: str
    work: bool


@dataclass(frozen=True, slots=True)
class Standing:
    """How a joint stands by its record; `due`: somebody has to go there at once."""

    word: str
    words: str
    due: bool


@dataclass(frozen=True, slots=True)
class JointView:
    """One joint with its plans and latest runs."""

    id: uuid.UUID
    tag: str
    name: str
    kind: str
    equipment_tag: str
    equipment_name: str
    summary: str
    glyph: Glyph | None
    plans: list[PlanLine]
    runs: list[RunLine]
    kind_text: str
    next_step: NextStep
    standing: Standing


@dataclass(frozen=True, slots=True)
class EquipmentView:
    """One machine with its joints."""

    id: uuid.UUID
    tag: str
    name: str
    area: str
    joints: list[JointView]


def _latest(plan: Plan) -> Revision | None:
    return plan.revisions[-1] if plan.revisions else None


def _glyph(result: Result) -> Glyph:
    shown = groups_of(result, first_variants(result))
    group = shown[0]
    return Glyph([p for g in shown for p in g.places], group.thread.head_mm, group.span_mm)


def summary_of(result: Result) -> str:
    """What is bolted with what, in a line."""
    def figure(g: GroupOut) -> str:
        if g.target is None:
            return ""
        angle = f" + {show(g.target.angle_deg, 3)}°" if g.target.angle_deg else ""
        return f", {show(g.target.set_torque_Nm, 3)} N·m{angle}"

    parts = [f"{len(g.places)} × {g.thread.designation}{figure(g)}" for g in groups_of(result, first_variants(result))]
    where = f", {len(result.positions)} positions" if result.positions else ""
    return "; ".join(parts) + where


def _joint_view(ctx: Ctx, joint: Joint) -> JointView:
    plans, glyph, summary = [], None, ""
    for plan in sorted(joint.plans, key=lambda one: one.put_away):
        revision = _latest(plan)
        plans.append(PlanLine(plan.id, plan.title, plan.draft_at, revision.id if revision else None,
                              revision.number if revision else None, revision.released_at if revision else None, plan.put_away))
        if revision is not None and glyph is None and not plan.put_away:
            result = Result.model_validate_json(revision.result)
            glyph, summary = _glyph(result), summary_of(result)
    rows = ctx.session.execute(
        select(Run, Plan.title, Revision.number).join(Revision, Run.revision_id == Revision.id)
        .join(Plan, Revision.plan_id == Plan.id).where(Plan.joint_id == joint.id)
        .order_by(Run.number.desc()).limit(5)).all()
    runs = [RunLine(run.id, run.number, run.status, run.started_at, title, number, STATUS[run.status],
                    run.status == "running") for run, title, number in rows]
    return JointView(joint.id, joint.tag, joint.name, joint.kind, joint.equipment.tag, joint.equipment.name, summary, glyph,
                     plans, runs, JOINT_KINDS[joint.kind], _next_step(ctx, plans),
                     Standing(joint.standing, standing_words(joint), STANDING[joint.standing].due))


def standing_words(joint: Joint) -> str:
    """How a joint stands, why, and by which run."""
    why = f" ({joint.standing_why})" if joint.standing_why else ""
    by_run = joint.standing_run is not None and joint.standing in ("known", "moved", "provisional")
    run = f", run {joint.standing_run}" if by_run else ""
    return f"{STANDING[joint.standing].words}{why}{run}"


def _next_step(ctx: Ctx, plans: list[PlanLine]) -> NextStep:
    may = allowed(ctx.person.roles)
    if plans and not plans[0].put_away and plans[0].revision_id is not None and "running.start_run" in may:
        return NextStep("Tighten", True)
    return NextStep("Begin a plan", False) if not plans and "planning.create_plan" in may else NextStep("Open", False)


def _has(word: str) -> ColumnElement[bool]:
    """Whether a machine, or one of its joints, has a word in tag, name, area, kind, or in what its plans have released."""
    own, theirs, plans = (or_(*(column.icontains(word, autoescape=True) for column in columns)) for columns in (
        (Equipment.tag, Equipment.name, Equipment.area), (Joint.tag, Joint.name, Joint.summary), (Plan.title,)))
    kinds = [kind for kind, words in JOINT_KINDS.items() if word.lower() in words.lower()]
    return or_(own, Equipment.joints.any(or_(theirs, Joint.kind.in_(kinds), Joint.plans.any(plans))))


@use_case
def list_equipment(ctx: Ctx, find: str = "", after: str = "", limit: int = 50) -> list[EquipmentView]:
    """A page of machines with their joints, by tag, from behind the tag `after`; `find` looks in tags, names and areas."""
    load = selectinload(Equipment.joints).selectinload(Joint.plans).selectinload(Plan.revisions)
    wanted = select(Equipment).options(load).where(Equipment.tag > after).order_by(Equipment.tag).limit(limit)
    # every word has to be found, in whatever order they are typed
    for word in find.split()[:8]:
        wanted = wanted.where(_has(word))
    found = ctx.session.scalars(wanted)
    return [EquipmentView(e.id, e.tag, e.name, e.area, [_joint_view(ctx, j) for j in e.joints]) for e in found]


@use_case
def joint_detail(ctx: Ctx, joint_id: uuid.UUID) -> JointView:
    """One joint. Raises NotFound."""
    joint = ctx.session.get(Joint, joint_id)
    if joint is None:
        raise NotFound("joint")
    return _joint_view(ctx, joint)
