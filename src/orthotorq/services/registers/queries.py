"""Equipment and joints as lists and pages show them."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import ColumnElement, and_, func, or_, select
from sqlalchemy.orm import Session, joinedload

from ...core.documents.plan import JOINT_KINDS
from ...core.joint_condition import CONDITIONS, condition_says
from ...core.kinds.stage_kind import OCCASIONS
from ...core.running.walk.actions import STATUS
from ...store.models import DueDate, Equipment, Joint, Plan, Revision, Run, Site
from ..context import Ctx
from ..errors import NotFound
from ..permissions import allowed, use_case
from ..rechecking.due_dates import DueView, due_view, dues_wanted
from .summaries import Glyph, kept_glyph

#: runs of a joint in a list; a page of machines ends before it has more joints
SHOWN, MOST_JOINTS = 5, 40
#: words that so many joints have are common
COMMON = 1000


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
    occasion_text: str


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
class JointCondition:
    """The condition of a joint: its word, with a title, and why; `due`: somebody has to go there at
    once."""

    word: str
    title: str
    words: str
    due: bool


@dataclass(frozen=True, slots=True)
class JointView:
    """One joint with its plans and latest runs."""

    id: uuid.UUID
    tag: str
    name: str
    kind: str
    equipment_id: uuid.UUID
    equipment_tag: str
    equipment_name: str
    summary: str
    glyph: Glyph | None
    plans: list[PlanLine]
    runs: list[RunLine]
    kind_text: str
    next_step: NextStep
    condition: JointCondition
    dues: list[DueView]
    #: what its rechecks say where it keeps moving
    movement: str


@dataclass(frozen=True, slots=True)
class EquipmentView:
    """One machine with its joints."""

    id: uuid.UUID
    tag: str
    name: str
    area: str
    site: str
    joints: list[JointView]


@dataclass(frozen=True, slots=True)
class SiteView:
    """One site, and how many machines stand there."""

    id: uuid.UUID
    name: str
    machines: int


def _plans_of(ctx: Ctx, joints: list[uuid.UUID]) -> dict[uuid.UUID, list[PlanLine]]:
    """Plans by joint, those in use first, with their last revisions; the documents themselves stay
    where they are."""
    last = (
        select(Revision.plan_id, Revision.id, Revision.number, Revision.released_at)
        .where(Revision.status == "released")
        .subquery()
    )
    rows = ctx.session.execute(
        select(
            Plan.joint_id,
            Plan.id,
            Plan.title,
            Plan.draft_at,
            last.c.id,
            last.c.number,
            last.c.released_at,
            Plan.put_away,
        )
        .outerjoin(last, last.c.plan_id == Plan.id)
        .where(Plan.joint_id.in_(joints))
        .order_by(Plan.put_away, Plan.created_at)
    )
    out: dict[uuid.UUID, list[PlanLine]] = {}
    for joint_id, *rest in rows:
        out.setdefault(joint_id, []).append(PlanLine(*rest))
    return out


def _runs_of(ctx: Ctx, joints: list[uuid.UUID]) -> dict[uuid.UUID, list[RunLine]]:
    """The last runs by joint, newest first."""
    place = (
        func.row_number()
        .over(partition_by=Plan.joint_id, order_by=Run.number.desc())
        .label("place")
    )
    of_joint = (
        select(
            Run.id,
            Run.number,
            Run.status,
            Run.started_at,
            Run.occasion,
            Plan.title,
            Revision.number.label("revision"),
            Plan.joint_id,
            place,
        )
        .join(Revision, Run.revision_id == Revision.id)
        .join(Plan, Revision.plan_id == Plan.id)
        .where(Plan.joint_id.in_(joints))
        .subquery()
    )
    out: dict[uuid.UUID, list[RunLine]] = {}
    for row in ctx.session.execute(
        select(of_joint).where(of_joint.c.place <= SHOWN).order_by(of_joint.c.number.desc())
    ):
        out.setdefault(row.joint_id, []).append(
            RunLine(
                row.id,
                row.number,
                row.status,
                row.started_at,
                row.title,
                row.revision,
                STATUS[row.status],
                row.status == "running",
                OCCASIONS.get(row.occasion, row.occasion),
            )
        )
    return out


def _dues_of(ctx: Ctx, joints: list[uuid.UUID]) -> dict[uuid.UUID, list[DueView]]:
    """Due dates by joint, the first one first."""
    out: dict[uuid.UUID, list[DueView]] = {}
    for row in ctx.session.execute(
        dues_wanted().where(DueDate.joint_id.in_(joints)).order_by(DueDate.day.asc().nulls_last())
    ):
        out.setdefault(row.DueDate.joint_id, []).append(due_view(row, ctx.today))
    return out


def _views(ctx: Ctx, joints: list[Joint]) -> dict[uuid.UUID, JointView]:
    """Joints as lists show them, by id: a few questions for all of them together."""
    ids = [joint.id for joint in joints]
    plans, runs, dues = _plans_of(ctx, ids), _runs_of(ctx, ids), _dues_of(ctx, ids)
    out = {}
    for joint in joints:
        own = plans.get(joint.id, [])
        out[joint.id] = JointView(
            joint.id,
            joint.tag,
            joint.name,
            joint.kind,
            joint.equipment_id,
            joint.equipment.tag,
            joint.equipment.name,
            joint.summary,
            kept_glyph(joint),
            own,
            runs.get(joint.id, []),
            JOINT_KINDS[joint.kind],
            _next_step(ctx, own),
            _condition(joint),
            dues.get(joint.id, []),
            joint.movement,
        )
    return out


def _condition(joint: Joint) -> JointCondition:
    known = CONDITIONS[joint.condition]
    return JointCondition(
        joint.condition,
        known.title,
        condition_says(joint.condition, joint.condition_why),
        bool(known.due),
    )


def _next_step(ctx: Ctx, plans: list[PlanLine]) -> NextStep:
    may = allowed(ctx.person.roles)
    if (
        plans
        and not plans[0].put_away
        and plans[0].revision_id is not None
        and "running.start_run" in may
    ):
        return NextStep("Start run", True)
    return (
        NextStep("Create plan", False)
        if not plans and "planning.create_plan" in may
        else NextStep("Open joint", False)
    )


def _with_words(ctx: Ctx, words: list[str]) -> ColumnElement[bool]:
    """Whether a machine, or one of its joints, has all the words: in tags, names, area, kind,
    titles of plans, or in what was released for the joint."""
    own = [
        or_(
            *(
                column.icontains(word, autoescape=True)
                for column in (Equipment.tag, Equipment.name, Equipment.area)
            )
        )
        for word in words
    ]
    theirs = [Joint.found.contains(word.lower(), autoescape=True) for word in words]
    some = select(Joint.id).where(*theirs).limit(COMMON).subquery()
    if (ctx.session.scalar(select(func.count()).select_from(some)) or 0) == COMMON:
        # nearly every machine has them: going through the machines in their order until the page is
        # full looks at few
        return or_(
            and_(*own), select(Joint.id).where(Joint.equipment_id == Equipment.id, *theirs).exists()
        )
    return Equipment.id.in_(
        select(Equipment.id).where(*own).union(select(Joint.equipment_id).where(*theirs))
    )


@use_case
def list_sites(ctx: Ctx) -> list[SiteView]:
    """Every site by name."""
    rows = ctx.session.execute(
        select(Site.id, Site.name, func.count(Equipment.id))
        .outerjoin(Equipment)
        .group_by(Site.id)
        .order_by(Site.name)
    )
    return [SiteView(*row) for row in rows]


@use_case
def list_equipment(
    ctx: Ctx, find: str = "", after: str = "", limit: int = 50, site: uuid.UUID | None = None
) -> list[EquipmentView]:
    """A page of machines with their joints, by tag, from behind the tag `after`, of one site or of
    all; `find` looks in tags, names, areas and sites."""
    count = select(func.count()).where(Joint.equipment_id == Equipment.id).scalar_subquery()
    wanted = (
        select(Equipment, count)
        .options(joinedload(Equipment.site))
        .where(Equipment.tag > after)
        .order_by(Equipment.tag)
        .limit(limit)
    )
    # every word has to be found, in whatever order they are typed
    if site is not None:
        wanted = wanted.where(Equipment.site_id == site)
    if words := find.split()[:8]:
        wanted = wanted.where(_with_words(ctx, words))
    machines, joints = list[Equipment](), 0
    for machine, many in ctx.session.execute(wanted):
        joints += many
        if machines and joints > MOST_JOINTS:
            break
        machines.append(machine)
    found = list(
        ctx.session.scalars(
            select(Joint)
            .where(Joint.equipment_id.in_([m.id for m in machines]))
            .order_by(Joint.tag)
            .options(joinedload(Joint.equipment))
        )
    )
    views = _views(ctx, found)
    return [
        EquipmentView(
            m.id,
            m.tag,
            m.name,
            m.area,
            m.site.name,
            [views[j.id] for j in found if j.equipment_id == m.id],
        )
        for m in machines
    ]


def joint_by_tags(session: Session, machine: str, tag: str) -> uuid.UUID | None:
    """The joint of a tag at the machine of a tag, for the command line."""
    return session.scalar(
        select(Joint.id)
        .join(Equipment, Equipment.id == Joint.equipment_id)
        .where(Equipment.tag == machine, Joint.tag == tag)
    )


@use_case
def joint_detail(ctx: Ctx, joint_id: uuid.UUID) -> JointView:
    """One joint. Raises NotFound."""
    joint = ctx.session.get(Joint, joint_id)
    if joint is None:
        raise NotFound("joint")
    return _views(ctx, [joint])[joint.id]
