"""What lists say of a joint, written when a plan is released or put away: sizes and torques, the
joint face in small, loads."""

from __future__ import annotations

from dataclasses import dataclass

from pydantic import TypeAdapter
from sqlalchemy import select

from ...core.documents.plan import JOINT_KINDS
from ...core.forms.group import GroupOut, PlacePoint
from ...core.forms.result import Result
from ...core.forms.stored import stored_result
from ...core.running import first_variants, groups_of
from ...core.units import show
from ...store.models import Joint, Plan, Revision, RevisionLoad
from ..context import Ctx


@dataclass(frozen=True, slots=True)
class Glyph:
    """What the joint face needs in small: places of the released plan, mm."""

    places: list[PlacePoint]
    across_flats_mm: float
    diameter_mm: float


_GLYPH = TypeAdapter(Glyph)


def glyph_of(result: Result) -> Glyph:
    """The joint face in small, of the first of each choice."""
    shown = groups_of(result, first_variants(result))
    group = shown[0]
    return Glyph([p for g in shown for p in g.places], group.thread.head_mm, group.span_mm)


def kept_glyph(joint: Joint) -> Glyph | None:
    """The joint face in small, as it was kept."""
    return _GLYPH.validate_json(joint.glyph) if joint.glyph else None


def summary_of(result: Result) -> str:
    """What is bolted with what, in a line."""

    def figure(g: GroupOut) -> str:
        if g.target is None:
            return ""
        if g.target.force_N is not None:
            return f", {show(g.target.force_N / 1e3, 3)} kN by stretching"
        angle = f" + {show(g.target.angle_deg, 3)}°" if g.target.angle_deg else ""
        return f", {show(g.target.set_torque_Nm, 3)} N·m{angle}"

    parts = [
        f"{len(g.places)} × {g.thread.designation}{figure(g)}"
        for g in groups_of(result, first_variants(result))
    ]
    where = f", {len(result.positions)} positions" if result.positions else ""
    return "; ".join(parts) + where


def write_found(joint: Joint) -> None:
    """Write every word that a joint is found by: when it, its machine or what is released for it
    changes."""
    machine = joint.equipment
    joint.found = " ".join(
        (
            machine.site.name,
            machine.tag,
            machine.name,
            machine.area,
            joint.tag,
            joint.name,
            JOINT_KINDS[joint.kind],
            joint.summary,
            *(plan.title for plan in joint.plans),
        )
    ).lower()


def _write(joint: Joint, result: Result | None) -> None:
    joint.summary = summary_of(result) if result is not None else ""
    joint.glyph = _GLYPH.dump_json(glyph_of(result)).decode() if result is not None else ""
    write_found(joint)


def renew_summary(ctx: Ctx, joint: Joint) -> None:
    """Write anew what lists say of a joint, from what was released last and is not put away."""
    text = ctx.session.scalar(
        select(Revision.result)
        .join(Plan, Revision.plan_id == Plan.id)
        .where(Plan.joint_id == joint.id, Plan.put_away.is_(False), Revision.status == "released")
        .order_by(Revision.released_at.desc())
        .limit(1)
    )
    _write(joint, stored_result(text) if text is not None else None)


def keep_summary(ctx: Ctx, joint: Joint, revision: Revision, result: Result) -> None:
    """Write what lists say of a joint after a release, and the loads of the revision."""
    _write(joint, result)
    ctx.session.flush()
    for group in result.groups:
        load, window = group.preload, group.window
        ctx.session.add(
            RevisionLoad(
                revision_id=revision.id,
                group=group.id,
                name=group.name,
                low_N=load.low_N if load else None,
                typical_N=load.typical_N if load else None,
                high_N=load.high_N if load else None,
                lower_N=window.lower_N if window else None,
                upper_N=window.upper_N if window else None,
            )
        )
