"""The tag of a joint: what must not be used, or only with limits, printed to hang on the
machine."""

from __future__ import annotations

import uuid
from functools import partial

from ...core.messages import Refusal
from ...exchange.condition_tag import Tag, TagLine, render_tag
from ...settings import public_url
from ...store.models import Joint
from ..context import Ctx
from ..errors import NotFound, Refused
from ..helper_task import HelperTask, named_file
from ..permissions import use_case
from .lanes import rows_of

#: conditions that a tag is hung for
TAGGED = ("do_not_use", "limited", "provisional", "unknown", "apart")


@use_case
def condition_tag(
    ctx: Ctx, joint_id: uuid.UUID, paper: str = "A4"
) -> HelperTask[bytes, tuple[str, bytes]]:
    """The tag as a PDF: (file name, data). Raises NotFound, Refused where nothing is to be
    tagged."""
    joint = ctx.session.get(Joint, joint_id)
    if joint is None:
        raise NotFound("joint")
    rows = [row for row in rows_of(ctx, joint) if row.word in TAGGED]
    if not rows:
        raise Refused(Refusal.NOTHING_TO_TAG)
    worst = [
        row for row in rows if row.word == rows[0].word or row.word in ("do_not_use", "limited")
    ]
    lines = [
        TagLine(
            "" if row.name == joint.name else row.name,
            row.title,
            row.word == "do_not_use",
            row.why,
            row.clears,
        )
        for row in worst
    ]
    tag = Tag(
        f"{joint.equipment.name}, {joint.equipment.tag}",
        joint.name,
        lines,
        f"{public_url()}/joints/{joint.id}",
        ctx.person.name,
        ctx.now,
    )
    return named_file(f"tag-{joint.tag}.pdf", partial(render_tag, tag, paper))
