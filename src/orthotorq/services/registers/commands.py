"""People, machines and joints: registered, and put right while nothing hangs on them."""

from __future__ import annotations

import json
import re
import uuid
from typing import get_args

from sqlalchemy import func, select
from sqlalchemy.exc import IntegrityError

from ...core.documents.plan import JointKind
from ...core.forms.base import one_line
from ...core.forms.errors import DocumentErrors, FieldError
from ...core.messages import Refusal, render
from ...store.models import Equipment, Joint, Person, Plan, Revision, Site
from ..accounts.commands import actor_of
from ..context import Actor, Ctx
from ..errors import NeedsConfirmation, NotFound, Refused
from ..permissions import use_case
from .near_names import NearTags, nearest_name
from .summaries import write_found

#: a plan names its joint as machine/joint, so a tag has no stroke and no blank
_TAG = re.compile(r"[^\W_][\w.\-]*")
MOST_TAG, MOST_NAME = 40, 120
#: what the site is called at which the first machine stands, until somebody calls it otherwise
FIRST_SITE = "Works"
_SAID = {"name": "A name", "area": "Place", "site": "The name of a site"}


def add_person(
    ctx: Ctx, login: str, name: str, password_hash: str, roles: list[str], pin_hash: str = ""
) -> Actor:
    """Register a person."""
    person = Person(
        id=ctx.new_id(),
        login=login,
        name=name,
        password_hash=password_hash,
        pin_hash=pin_hash,
        roles=roles,
        active=True,
    )
    ctx.session.add(person)
    ctx.session.flush()
    return actor_of(person)


def _wrong(field: str, code: Refusal, **params: object) -> FieldError:
    return FieldError((field,), code.value, render(code, **params))


def _checked(tag: str, **names: str) -> list[str]:
    """Tag and names without blanks around them. Raises DocumentErrors with every field that is
    wrong."""
    errors = []
    tag = tag.strip()
    if not 1 <= len(tag) <= MOST_TAG or not _TAG.fullmatch(tag):
        errors.append(_wrong("tag", Refusal.TAG_FORM, most=MOST_TAG))
    for field, text in names.items():
        if not 1 <= len(text.strip()) <= MOST_NAME or not one_line(text.strip()):
            errors.append(_wrong(field, Refusal.NAME_FORM, what=_SAID[field], most=MOST_NAME))
    if errors:
        raise DocumentErrors(errors)
    return [tag, *(text.strip() for text in names.values())]


def _kept(ctx: Ctx, tag: str, whose: str) -> None:
    """Write what has changed. Raises DocumentErrors when the tag is taken, also by somebody in the
    same moment."""
    try:
        ctx.session.flush()
    except IntegrityError:
        raise DocumentErrors([_wrong("tag", Refusal.TAG_TAKEN, tag=tag, whose=whose)]) from None


def _equipment(ctx: Ctx, equipment_id: uuid.UUID) -> Equipment:
    machine = ctx.session.get(Equipment, equipment_id)
    if machine is None:
        raise NotFound("machine")
    return machine


def _kind(kind: str) -> str:
    if kind not in get_args(JointKind):
        raise DocumentErrors(
            [_wrong("kind", Refusal.KIND_OF_JOINT, kinds=", ".join(get_args(JointKind)))]
        )
    return kind


def _released(ctx: Ctx, joints: list[Joint]) -> bool:
    """Whether anything was released for these joints: sheets and records then carry their tags."""
    wanted = (
        select(Revision.id)
        .join(Plan, Revision.plan_id == Plan.id)
        .where(Plan.joint_id.in_([joint.id for joint in joints]))
    )
    return ctx.session.scalar(wanted.limit(1)) is not None


def _follow(ctx: Ctx, joint: Joint) -> None:
    """Drafts say what their joint is called now; somebody who has one open is told that it was
    changed meanwhile."""
    for plan in ctx.session.scalars(
        select(Plan).where(Plan.joint_id == joint.id).with_for_update()
    ):
        document = json.loads(plan.draft)
        document.update(joint=f"{joint.equipment.tag}/{joint.tag}", joint_kind=joint.kind)
        plan.draft, plan.version = json.dumps(document, ensure_ascii=False), plan.version + 1
        plan.draft_by, plan.draft_at = ctx.person.id, ctx.now


def _site(ctx: Ctx, name: str) -> Site:
    """The site of a name, which is registered by its first machine; without a name the only one
    there is. Raises DocumentErrors."""
    sites = list(ctx.session.scalars(select(Site).order_by(Site.name)))
    if not name.strip():
        if len(sites) > 1:
            raise DocumentErrors(
                [_wrong("site", Refusal.WHICH_SITE, sites=", ".join(site.name for site in sites))]
            )
        name = sites[0].name if sites else FIRST_SITE
    name = _named_site(name)
    found = next((site for site in sites if site.name.lower() == name.lower()), None)
    if found is None:
        if sites and not ctx.confirmed:
            raise NeedsConfirmation.worded(
                Refusal.SITE_NEW, new_site_question(name, [site.name for site in sites]), "site"
            )
        found = Site(id=ctx.new_id(), name=name)
        ctx.session.add(found)
        ctx.session.flush()
    return found


def _named_site(name: str) -> str:
    name = name.strip()
    if not 1 <= len(name) <= MOST_NAME or not one_line(name):
        raise DocumentErrors(
            [_wrong("site", Refusal.NAME_FORM, what=_SAID["site"], most=MOST_NAME)]
        )
    return name


def _leave(ctx: Ctx, site: Site) -> None:
    """A site is there as long as it has a machine: one that was only mistyped goes again."""
    if (
        ctx.session.scalar(select(Equipment.id).where(Equipment.site_id == site.id).limit(1))
        is None
    ):
        ctx.session.delete(site)


def new_site_question(name: str, known: list[str]) -> str:
    """What is asked before a site is registered by its first machine."""
    near = nearest_name(name, known)
    return render(
        Refusal.SITE_NEW,
        site=name,
        sites=", ".join(known),
        nearest=f", close to “{near}”" if near else "",
    )


def _machines(ctx: Ctx) -> dict[str, str]:
    return {row.tag: row.name for row in ctx.session.execute(select(Equipment.tag, Equipment.name))}


@use_case
def rename_site(ctx: Ctx, site_id: uuid.UUID, name: str) -> None:
    """Call a site otherwise. Raises NotFound, DocumentErrors."""
    site = ctx.session.get(Site, site_id)
    if site is None:
        raise NotFound("site")
    name = _named_site(name)
    taken = select(Site.id).where(func.lower(Site.name) == name.lower(), Site.id != site.id)
    if ctx.session.scalar(taken) is not None:
        raise DocumentErrors([_wrong("site", Refusal.SITE_TAKEN, name=name)])
    site.name = name
    for joint in ctx.session.scalars(
        select(Joint).join(Equipment).where(Equipment.site_id == site.id)
    ):
        write_found(joint)


@use_case
def register_equipment(ctx: Ctx, tag: str, name: str, area: str, site: str = "") -> uuid.UUID:
    """Register a machine at a site (the only one, where none is named); returns its id. Raises
    DocumentErrors."""
    wrong: list[FieldError] = []
    try:
        tag, name, area = _checked(tag, name=name, area=area)
    except DocumentErrors as errors:
        wrong += errors.errors
    try:
        place = _site(ctx, site)
    except DocumentErrors as errors:
        wrong += errors.errors
    if wrong:
        raise DocumentErrors(wrong)
    NearTags(_machines(ctx)).ask(ctx, tag, "machine")
    machine = Equipment(id=ctx.new_id(), tag=tag, name=name, area=area, site=place)
    ctx.session.add(machine)
    _kept(ctx, tag, "another machine")
    return machine.id


@use_case
def change_equipment(
    ctx: Ctx, equipment_id: uuid.UUID, tag: str, name: str, area: str, site: str = ""
) -> None:
    """Put a machine right; it stays at its site where none is named. Its tag stays once a released
    plan names it; drafts follow. Raises NotFound, DocumentErrors, Refused."""
    machine = _equipment(ctx, equipment_id)
    tag, name, area = _checked(tag, name=name, area=area)
    moved = tag != machine.tag
    if moved and _released(ctx, machine.joints):
        raise Refused(Refusal.TAG_STAYS, "tag", tag=machine.tag)
    if moved:
        NearTags({k: v for k, v in _machines(ctx).items() if k != machine.tag}).ask(
            ctx, tag, "machine"
        )
    machine.tag, machine.name, machine.area = tag, name, area
    _kept(ctx, tag, "another machine")
    left = machine.site
    machine.site = _site(ctx, site or left.name)
    ctx.session.flush()
    if machine.site is not left:
        _leave(ctx, left)
    for joint in machine.joints:
        write_found(joint)
    for joint in machine.joints if moved else []:
        _follow(ctx, joint)


@use_case
def register_joint(ctx: Ctx, equipment_id: uuid.UUID, tag: str, name: str, kind: str) -> uuid.UUID:
    """Register a joint of a machine; returns its id. Raises NotFound, DocumentErrors."""
    machine = _equipment(ctx, equipment_id)
    tag, name = _checked(tag, name=name)
    NearTags({one.tag: one.name for one in machine.joints}).ask(ctx, tag, "joint")
    joint = Joint(
        id=ctx.new_id(),
        equipment_id=machine.id,
        equipment=machine,
        tag=tag,
        name=name,
        kind=_kind(kind),
        summary="",
    )
    ctx.session.add(joint)
    _kept(ctx, tag, f"another joint of {machine.name}")
    write_found(joint)
    return joint.id


@use_case
def change_joint(ctx: Ctx, joint_id: uuid.UUID, tag: str, name: str, kind: str) -> None:
    """Put a joint right. Tag and kind stay once something was released; drafts follow. Raises
    NotFound, DocumentErrors, Refused."""
    joint = ctx.session.get(Joint, joint_id)
    if joint is None:
        raise NotFound("joint")
    tag, name = _checked(tag, name=name)
    moved = (tag, _kind(kind)) != (joint.tag, joint.kind)
    if moved and _released(ctx, [joint]):
        raise Refused(Refusal.KIND_STAYS, "tag")
    # asked before anything is changed: a question to the database would write the change outside of
    # _kept
    whose = f"another joint of {joint.equipment.name}"
    if tag != joint.tag:
        others = {one.tag: one.name for one in joint.equipment.joints if one is not joint}
        NearTags(others).ask(ctx, tag, "joint")
    joint.tag, joint.name, joint.kind = tag, name, kind
    _kept(ctx, tag, whose)
    write_found(joint)
    if moved:
        _follow(ctx, joint)
